import type { Finding } from '@dial/core/findings';
import { reasonOf, type Level } from '@dial/core/level';
import { useState } from 'react';
import { Button, Refused } from '../controls/controls.tsx';
import { findingsIn } from '../state/simulation/simulation.ts';
import type { ComparedRun } from './useRuns.ts';

/** Fewer runs than this show nothing. */
const LEAST = 3;

/** What the runs that are compared show to be wrong with the level, or worth a look. */
export function ShownByRuns({ level, runs }: { readonly level: Level; readonly runs: readonly ComparedRun[] }) {
  const [found, setFound] = useState<{ readonly findings: readonly Finding[]; readonly of: string } | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const of = runs.map(({ id }) => id).join(' ');
  const findings = found?.of === of ? found.findings : null;
  const ask = (): void => {
    findingsIn(
      level,
      runs.map(({ run }) => run),
    ).then(
      (now) => {
        setFound({ findings: now, of });
        setTrouble(null);
      },
      (error: unknown) => setTrouble(`What these runs show could not be looked for: ${reasonOf(error)}`),
    );
  };
  return (
    <section aria-label="What these runs show" className="mt-3">
      <h2 className="flex items-center gap-2 text-xs font-bold">
        What these runs show
        <Button kind="quiet" className="px-1.5! py-0!" disabled={runs.length < LEAST} onClick={ask}>
          Look for what nobody touches, waits and deaths
        </Button>
        {runs.length < LEAST && <span className="font-normal text-soft">at least {LEAST} runs are needed</span>}
      </h2>
      <Refused why={trouble} />
      {findings?.length === 0 && <p className="mt-1 text-xs text-soft">Nothing that would be worth a look.</p>}
      {findings !== null && findings.length > 0 && (
        <ul aria-label="Shown by these runs" className="mt-1 text-xs">
          {findings.map(({ id, severity, what, why }) => (
            <li key={id} className="border-t border-line/60 py-0.5">
              <span className="text-soft">{severity}:</span> <b>{what}</b> {why}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
