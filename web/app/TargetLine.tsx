import { shortTarget, verdictText } from '@dial/core/formats';
import { entry, inOrder, levelHash, type Level } from '@dial/core/level';
import { judging, replayed, type Verdict } from '@dial/core/studies';
import isEqual from 'fast-deep-equal';
import { useMemo } from 'react';
import { Button } from '../controls/controls.tsx';
import { Hint } from '../controls/Hint.tsx';
import type { StudyReply } from '../state/server/api.ts';
import { useStudiesQuery } from '../state/server/lists.ts';
import type { OpenLevel } from '../state/slices/document.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { checkInFull } from '../state/sync/checking.ts';
import { ofValues, useStudy } from '../state/view/useStudy.ts';

/** How targets stand by a full check, and of which level. */
interface Checked {
  readonly level: Level;
  readonly verdicts: readonly Verdict[];
  readonly done: boolean;
}

function checkedOf({ document: level, versions, answers, settings }: StudyReply): Checked | null {
  if (!('kind' in settings) || settings.kind !== 'check') return null;
  const known = new Map(answers.map(({ part, answer }) => [part, answer]));
  const { result, soFar } = replayed(judging({ level, versions }, settings), known);
  const verdicts = result ?? soFar;
  return Array.isArray(verdicts) ? { level, verdicts: verdicts as readonly Verdict[], done: result !== null } : null;
}

const LOOKS: Readonly<Record<Verdict['state'], string>> = {
  met: 'font-semibold',
  missed: 'text-harm font-bold',
  undecided: 'text-ink',
  'not judged': 'text-soft',
};

/** Whether two levels come to the same, and are held to the same. */
const alike = (a: Level, b: Level): boolean =>
  a === b || (levelHash(a) === levelHash(b) && isEqual(a.targets, b.targets));

/** The newest full check of a level. */
function useCheck(open: OpenLevel) {
  const { data: studies = [] } = useStudiesQuery(open.id);
  const newest = studies.find(({ settings }) => 'kind' in settings && settings.kind === 'check');
  const heard = useAppSelector((state) => (newest === undefined ? undefined : state.crowd.studies[newest.id]?.state));
  const { result } = useStudy(open.id, newest?.id ?? null, checkedOf, ofValues);
  const state = heard ?? newest?.state;
  return { checked: result, running: state === 'waiting' || state === 'running' };
}

/** How the targets of the level stand, in one line: by the crowd beside the run as dials turn, or by the last full check. */
export function TargetLine({ open, level }: { readonly open: OpenLevel; readonly level: Level }) {
  const store = useAppStore();
  const crowd = useAppSelector((state) => state.crowd.shown.now);
  const size = useAppSelector((state) => state.crowd.size);
  const { checked, running } = useCheck(open);
  const holds = useMemo(() => checked !== null && alike(checked.level, level), [checked, level]);
  const targets = inOrder(level.targets);
  if (targets.length === 0) return null;
  const byCheck = holds && checked !== null;
  const verdicts = byCheck ? checked.verdicts : (crowd?.verdicts ?? []);
  const of = new Map(verdicts.map((verdict) => [verdict.target, verdict]));
  const met = verdicts.filter(({ state }) => state === 'met').length;
  const source = byCheck
    ? checked.done
      ? 'full check'
      : 'being checked'
    : crowd === null
      ? ''
      : `from ${String(crowd.bands.sessions)} sessions`;
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
