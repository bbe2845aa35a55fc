import { reasonOf } from '@dial/core/level';
import { fileName, parseRunText, runText } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { runProblems, type Run } from '@dial/core/players';
import { useEffect, useState } from 'react';
import { newId } from '../browser/ids.ts';
import { api, type RunEntry } from '../state/server/api.ts';
import { listChanged } from '../state/sync/listing.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import { simulateOnce } from '../state/simulation/simulation.ts';
import { useAppStore } from '../state/store.ts';
import { download } from '../controls/download.ts';
import { useOnceEach } from '../controls/hooks/useOnce.ts';

/** What was done last and can be undone, or what went wrong. */
interface Told {
  readonly text: string;
  readonly undo?: () => void;
}

export interface Runs {
  readonly told: Told | null;
  readonly change: (run: RunEntry, change: { readonly name?: string; readonly starred?: boolean }) => void;
  readonly remove: (run: RunEntry) => void;
  readonly exportRun: (run: RunEntry) => void;
  readonly importRun: (file: File, level: Level) => void;
}

/** What can be done with the runs that are kept of a level; the list in the store follows. */
export function useRuns(level: string): Runs {
  const store = useAppStore();
  const [told, setTold] = useState<Told | null>(null);
  const once = useOnceEach();
  const doing = (what: string, task: () => Promise<Told | null>, to = ''): void =>
    once(what + to, () =>
      task()
        .then((done) => {
          listChanged(store, 'runs');
          setTold(done);
        })
        .catch((error: unknown) => setTold({ text: `${what} was not done. ${reasonOf(error)}` })),
    );
  const remove = (run: RunEntry): void =>
    doing(`Deleting “${run.name}”`, async () => {
      await api.changeRun(level, run.id, { deleted: true });
      const undo = (): void =>
        doing(`Bringing “${run.name}” back`, async () => {
          await api.changeRun(level, run.id, { deleted: false });
          return null;
        });
      return { text: `“${run.name}” is deleted.`, undo };
    });
  return {
    told,
    change: (run, change) =>
      doing(
        `The change of “${run.name}”`,
        async () => {
          await api.changeRun(level, run.id, change);
          return null;
        },
        JSON.stringify(change),
      ),
    remove,
    exportRun: (run) =>
      doing(`The export of “${run.name}”`, async () => {
        const found = await api.getRun(level, run.id);
        download(fileName(run.name, 'run.json'), runText(found.run), 'application/json');
        return null;
      }),
    importRun: (file, on) =>
      doing(`The import of “${file.name}”`, async () => {
        const parsed = parseRunText(await file.text());
        if (!parsed.ok)
          throw new Error(`At ${parsed.problems[0]?.path ?? ''}: ${parsed.problems[0]?.message ?? 'not a run'}. Nothing was taken.`);
        await api.putRun(level, newId(), parsed.value);
        const [first, ...others] = runProblems(on, parsed.value);
        const more = others.length === 0 ? '' : ` and ${String(others.length)} more`;
        const left = first === undefined ? '' : ` What this level has not is left out when it is simulated: ${first.message}${more}.`;
        return { text: `“${parsed.value.name}” is imported.${left}` };
      }),
  };
}

/** A run that is compared with others, with what it came to on a level. */
export interface ComparedRun {
  readonly id: string;
  readonly name: string;
  readonly run: Run;
  readonly shown: ShownRun;
}

/** The chosen runs, fetched and simulated in the order they were chosen, all on one level: after an edit those of before stay until all are there anew. */
export function useCompared(
  levelId: string,
  level: Level,
  chosen: readonly RunEntry[],
): { readonly runs: readonly ComparedRun[]; readonly trouble: string | null } {
  const [found, setFound] = useState<readonly ComparedRun[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const wantedIds = chosen.map(({ id }) => id).join(' ');
  useEffect(() => {
    let wanted = true;
    const simulateAll = async (): Promise<void> => {
      const made: ComparedRun[] = [];
      let why: string | null = null;
      try {
        for (const id of wantedIds.split(' ').filter((one) => one !== '')) {
          const { run, name } = await api.getRun(levelId, id);
          const simulated = await simulateOnce(level, run);
          if (!wanted) return;
          made.push({ id, name, run, shown: { ...simulated, level } });
        }
      } catch (error) {
        why = `A run could not be compared. ${reasonOf(error)}`;
      }
      if (!wanted) return;
      setFound(made);
      setTrouble(why);
    };
    void simulateAll();
    return () => {
      wanted = false;
    };
  }, [levelId, level, wantedIds]);
  const runs = chosen.flatMap(({ id, name }) => {
    const one = found.find((other) => other.id === id);
    return one === undefined ? [] : [{ ...one, name }];
  });
  return { runs, trouble };
}
