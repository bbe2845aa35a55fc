import { reasonOf } from '@dial/core/level';
import type { Level } from '@dial/core/level';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { tryEdit } from '../state/document/edits.ts';
import { documentActions, type OpenLevel } from '../state/slices/document.ts';
import { useAppStore } from '../state/store.ts';
import { api, type VersionEntry } from '../state/server/api.ts';
import { branchOff } from '../state/server/branching.ts';
import { useVersionsQuery } from '../state/server/lists.ts';
import { listChanged } from '../state/sync/listing.ts';
import { whenAllSent } from '../state/sync/saving.ts';

/** The named states of a level, and what can be done with them. */
export function useVersions({ id: levelId, level }: OpenLevel) {
  const store = useAppStore();
  const navigate = useNavigate();
  const { data: versions = null, error } = useVersionsQuery(levelId, { refetchOnMountOrArgChange: true });
  const [deleted, setDeleted] = useState<VersionEntry | null>(null);
  const [failed, setFailed] = useState<string | null>(null);

  /** Fetches a version's level and does something with it; says what was not done when that fails. */
  const withLevel = async (version: VersionEntry, refused: string, act: (level: Level) => void | Promise<void>): Promise<void> => {
    try {
      await act((await api.getVersion(levelId, version.id)).document);
      setFailed(null);
    } catch (why) {
      setFailed(`${refused} ${reasonOf(why)}`);
    }
  };
  const compare = (version: VersionEntry): Promise<void> =>
    withLevel(version, 'The session is compared as before.', (was) => {
      store.dispatch(documentActions.comparedChanged({ id: version.id, name: version.name, level: was }));
    });
  return {
    versions,
    trouble: failed ?? (error === undefined ? null : reasonOf(error)),
    fail: setFailed,
    deleted,
    compare,
    /** Answers whether it is kept. */
    keep: async (name: string, key: string): Promise<boolean> => {
      try {
        // What is kept is what the server has: all edits first.
        await whenAllSent(store);
        const kept = await api.keepVersion(levelId, name, key);
        listChanged(store, 'versions');
        await compare(kept);
        return true;
      } catch (why) {
        setFailed(`This state was not kept. ${reasonOf(why)}`);
        return false;
      }
    },
    /** Takes a version out of the list, or puts it back. */
    setGone: async (version: VersionEntry, gone: boolean): Promise<void> => {
      try {
        await (gone ? api.deleteVersion(levelId, version.id) : api.restoreVersion(levelId, version.id));
        listChanged(store, 'versions');
        setDeleted(gone ? version : null);
        setFailed(null);
      } catch (why) {
        setFailed(`“${version.name}” is as it was. ${reasonOf(why)}`);
      }
    },
    restore: (version: VersionEntry): Promise<void> =>
      withLevel(version, 'The level is as it was.', (was) => {
        tryEdit(store, `restore “${version.name}”`, (draft) => {
          Object.assign(draft, structuredClone(was));
        });
      }),
    branch: (version: VersionEntry): Promise<void> =>
      withLevel(version, 'No level was branched off.', async (was) => {
        const id = await branchOff({ ...was, name: level.name }, version.name);
        await navigate(`/levels/${id}`);
      }),
  };
}
