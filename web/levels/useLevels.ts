import { reasonOf } from '@dial/core/level';
import { fileName, levelText } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { newId } from '../browser/ids.ts';
import { download } from '../controls/download.ts';
import { useOnce, useOnceEach } from '../controls/hooks/useOnce.ts';
import { whenAllSent } from '../state/sync/saving.ts';
import { useAppStore } from '../state/store.ts';
import { api, ApiError, type LevelEntry } from '../state/server/api.ts';
import { lists, useLevelsQuery } from '../state/server/lists.ts';
import { listChanged } from '../state/sync/listing.ts';

/** What is wrong with a file, place by place. */
function problemsOf(error: unknown): string {
  const problems = error instanceof ApiError ? error.problems.slice(0, 5).map(({ path, message }) => `${path || 'file'}: ${message}`) : [];
  return problems.length > 0 ? `${problems.join('; ')}. Nothing was changed.` : reasonOf(error);
}

/** The levels of the server, and what can be done with them. */
export function useLevels() {
  const store = useAppStore();
  const navigate = useNavigate();
  const { data: levels = null, error, refetch } = useLevelsQuery(null, { refetchOnMountOrArgChange: true });
  const [failed, setFailed] = useState<string | null>(null);
  const [deleted, setDeleted] = useState<LevelEntry | null>(null);
  const [busy, once] = useOnce();
  const onceEach = useOnceEach();

  /** Does something on the server and shows how the levels are then, or why it was not done. */
  const act = (what: string, done: Promise<unknown>): Promise<void> =>
    done.catch((why: unknown) => setFailed(`${what} ${reasonOf(why)}`)).then(() => listChanged(store, 'levels'));
  /** Waits until all edits that were made of a level here are on the server. Answers its revision then; 0: it is not open here. */
  const whenSent = async (id: string): Promise<number> => {
    if (store.getState().document.open?.id !== id) return 0;
    await whenAllSent(store);
    return store.getState().saving.revision;
  };
  return {
    levels,
    /** What went wrong, by the last act or in fetching the list. */
    trouble: failed ?? (error === undefined ? null : reasonOf(error)),
    fail: setFailed,
    again: (): void => {
      setFailed(null);
      void refetch();
    },
    deleted,
    busy,
    /** Adds a level and opens it. A press that comes while one is being added adds none. */
    add: (text: () => Promise<string> | string, as: 'imported' | 'begun', what: string): void => {
      const key = newId();
      once(async () => {
        try {
          const { id } = await api.addLevel(await text(), as, key);
          await navigate(`/levels/${id}`);
        } catch (why) {
          setFailed(`${what} ${problemsOf(why)}`);
        }
      });
    },
    duplicate: (read: () => Promise<Level>): void => {
      const copy = async (): Promise<unknown> => {
        const level = await read();
        return api.addLevel(levelText({ ...level, name: `${level.name} copy`.slice(0, 80) }), 'copied', newId());
      };
      once(() => act('The level was not duplicated.', copy()));
    },
    exportFile: (read: () => Promise<Level>): void => {
      read().then(
        (level) => download(fileName(level.name, 'json'), levelText(level), 'application/json'),
        (why: unknown) => setFailed(`The level was not exported. ${reasonOf(why)}`),
      );
    },
    remove: (listed: LevelEntry): void => {
      // It is gone from the page at once; the list that is fetched then has it again if it could not be deleted.
      store.dispatch(lists.util.updateQueryData('levels', null, (now) => now.filter(({ id }) => id !== listed.id)));
      setDeleted(listed);
      const send = async (): Promise<unknown> => {
        await whenSent(listed.id);
        return api.deleteLevel(listed.id);
      };
      onceEach(`delete ${listed.id}`, () => act('The level was not deleted.', send()));
    },
    bringBack: ({ id }: LevelEntry): void => {
      onceEach(`restore ${id}`, () => act('The level was not brought back.', api.restoreLevel(id)));
      setDeleted(null);
    },
    rename: ({ id, revision, name: was }: LevelEntry, name: string): void => {
      const operations = [
        { op: 'test' as const, path: '/name', value: was },
        { op: 'replace' as const, path: '/name', value: name },
      ];
      const send = async (): Promise<unknown> => {
        const saved = await whenSent(id);
        return api.patchLevel(id, Math.max(revision, saved), newId(), operations);
      };
      onceEach(`rename ${id}`, () => act('The level was not renamed.', send()));
    },
  };
}
