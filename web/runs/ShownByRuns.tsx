import type { Level } from '@dial/core/level';
import { Button, Refused } from '../controls/controls.tsx';
import { FoundList } from '../controls/FoundList.tsx';
import { useNotAside } from '../state/document/meant.ts';
import { findingsIn } from '../state/simulation/simulation.ts';
import { useReadOff } from './useReadOff.ts';
import type { ComparedRun } from './useRuns.ts';

/** Fewer runs than this show nothing. */
const LEAST = 3;

/** What the runs that are compared show to be wrong with the level, or worth a look. */
export function ShownByRuns({ level, runs }: { readonly level: Level; readonly runs: readonly ComparedRun[] }) {
  const { found, trouble, ask } = useReadOff(level, runs, findingsIn, 'What these runs show could not be looked for');
  const { findings, onMeant } = useNotAside(found ?? []);
  return (
    <section aria-label="What these runs show" className="mt-3">
      <h2 className="mb-1 flex items-center gap-2 text-xs font-bold">
        What these runs show
        <Button kind="quiet" className="px-1.5! py-0!" disabled={runs.length < LEAST} onClick={ask}>
          Look for what nobody touches, waits and deaths
        </Button>
        {runs.length < LEAST && <span className="font-normal text-soft">at least {LEAST} runs are needed</span>}
      </h2>
      <Refused why={trouble} />
      {found !== null && findings.length === 0 && <p className="text-xs text-soft">Nothing that would be worth a look.</p>}
      {findings.length > 0 && <FoundList label="Shown by these runs" findings={findings} onMeant={onMeant} />}
    </section>
  );
}
