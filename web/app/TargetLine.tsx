import { shortTarget, verdictText } from '@dial/core/formats';
import { entry, inOrder, type Level } from '@dial/core/level';
import type { Verdict } from '@dial/core/studies';
import { Button } from '../controls/controls.tsx';
import { Hint } from '../controls/Hint.tsx';
import type { OpenLevel } from '../state/slices/document.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { checkInFull } from '../state/sync/checking.ts';
import { useVerdicts } from '../state/view/useVerdicts.ts';

const LOOKS: Readonly<Record<Verdict['state'], string>> = {
  met: 'font-semibold',
  missed: 'text-harm font-bold',
  undecided: 'text-ink',
  'not judged': 'text-soft',
};

/** How the targets of the level stand, in one line: by the crowd beside the run as dials turn, or by the last full check. */
export function TargetLine({ open, level }: { readonly open: OpenLevel; readonly level: Level }) {
  const store = useAppStore();
  const size = useAppSelector((state) => state.crowd.size);
  const { verdicts, source, running } = useVerdicts(open.id, level);
  const targets = inOrder(level.targets);
  if (targets.length === 0) return null;
  const of = new Map(verdicts.map((verdict) => [verdict.target, verdict]));
  const met = verdicts.filter(({ state }) => state === 'met').length;
  return (
    <div className="flex min-h-6 items-center gap-x-3 overflow-hidden pb-1 text-xs" role="status" aria-label="How the targets stand">
      <b className="whitespace-nowrap">
        {verdicts.length === 0
          ? `${String(targets.length)} ${targets.length === 1 ? 'target' : 'targets'}`
          : `targets ${String(met)} of ${String(targets.length)} met`}
      </b>
      <span className="flex min-w-0 flex-1 items-center gap-x-3 overflow-hidden">
        {verdicts.length === 0 && (
          <span className="text-soft">
            {size === 0
              ? 'choose a crowd beside the run to judge them as dials turn, or check them in full'
              : 'judged as the crowd comes in'}
          </span>
        )}
        {verdicts.length > 0 &&
          targets.map(([id, target]) => {
            const verdict = of.get(id);
            return (
              <Hint key={id} says={verdict === undefined ? undefined : verdictText(verdict)}>
                <button type="button" className="cursor-default truncate text-left">
                  <span className={verdict === undefined ? 'text-soft' : LOOKS[verdict.state]}>{verdict?.state ?? 'not judged'}</span>{' '}
                  {shortTarget(level, entry(level.targets, id) ?? target)}
                </button>
              </Hint>
            );
          })}
      </span>
      <span className="shrink-0 whitespace-nowrap text-soft">{running ? 'checking …' : source}</span>
      <Button
        kind="quiet"
        className="px-1.5! py-0!"
        disabled={running}
        hint="all targets, with as many sessions as each states"
        keys="Q"
        onClick={() => void checkInFull(store)}
      >
        Check
      </Button>
    </div>
  );
}
