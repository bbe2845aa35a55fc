import { levelHash, reasonOf, type Level } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import { useMemo, useState } from 'react';
import type { ComparedRun } from './useRuns.ts';

interface ReadOff<Value> {
  /** What was read off the runs that are compared now; null: nothing yet. */
  readonly found: Value | null;
  readonly trouble: string | null;
  readonly ask: () => void;
}

/**
 * Reads something off the runs that are compared, when asked; other runs, or another level, have to be asked about anew. `failed` says
 * what could not be; `depends` is the part of the level that it depends on.
 */
export function useReadOff<Value>(
  level: Level,
  runs: readonly ComparedRun[],
  read: (level: Level, runs: readonly Run[]) => Promise<Value>,
  failed: string,
  depends: (level: Level) => Level = wholly,
): ReadOff<Value> {
  const [found, setFound] = useState<{ readonly value: Value; readonly of: string } | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const hash = useMemo(() => levelHash(depends(level)), [depends, level]);
  const of = `${hash} ${namesOf(runs)}`;
  const ask = (): void => {
    read(
      level,
      runs.map(({ run }) => run),
    ).then(
      (value) => {
        setFound({ value, of });
        setTrouble(null);
      },
      (error: unknown) => setTrouble(`${failed}: ${reasonOf(error)}`),
    );
  };
  return { found: found?.of === of ? found.value : null, trouble, ask };
}

const wholly = (level: Level): Level => level;

/** Which runs these are: the same for the same. */
export const namesOf = (runs: readonly ComparedRun[]): string => runs.map(({ id }) => id).join(' ');
