import { clockTime, placementName, plainNumber, touchFigures } from '@dial/core/formats';
import { entry, type Level } from '@dial/core/level';
import { needGaps, type NeedGap, type PlacementOutcome } from '@dial/core/session';
import { untouchedIn } from '@dial/core/studies';
import { Fragment, useMemo } from 'react';
import { ledgerOf } from '../state/simulation/lines.ts';
import { useAppSelector, type RootState } from '../state/store.ts';

function usedWords(outcome: PlacementOutcome): string {
  const times = (count: number): string =>
    count === 0 ? 'never' : count === 1 ? 'once' : count === 2 ? 'twice' : `${String(count)} times`;
  const nothings = outcome.nothings === 0 ? '' : `, ${times(outcome.nothings)} to no effect`;
  const parts = [`used ${times(outcome.uses)}${nothings}, refused ${times(outcome.refusals)}.`];
  if (outcome.healed > 0 || outcome.wasted > 0)
    parts.push(`Healed ${plainNumber(outcome.healed, 1)}, wasted ${plainNumber(outcome.wasted, 1)}.`);
  if (outcome.hurt > 0) parts.push(`Took ${plainNumber(outcome.hurt, 1)} health.`);
  if (outcome.scored > 0) parts.push(`Scored ${plainNumber(outcome.scored)}.`);
  if (outcome.waitingSeconds > 0) parts.push(`Stood in for ${plainNumber(outcome.waitingSeconds, 1)} s while it rested.`);
  return parts.join(' ');
}

/** The narrowest of the times a thing was back when it was next needed; null when it never was. */
function gapWords(gaps: readonly NeedGap[]): string | null {
  const [narrowest] = [...gaps].sort((one, other) => one.gap - other.gap);
  if (narrowest === undefined) return null;
  const { gap, needSeconds } = narrowest;
  const seconds = plainNumber(Math.abs(gap), 1);
  return gap >= 0
    ? `Back ${seconds} s before it was next needed, at ${clockTime(needSeconds)}, at the closest.`
    : `Needed at ${clockTime(needSeconds)}, ${seconds} s before it was back.`;
}

/** How long what rests was back when it was next needed, in the run on the Strip. */
function Gap({ kindId, only }: { readonly kindId: string; readonly only: string | null }) {
  const now = useAppSelector((state) => state.simulated.shown.now);
  const words = useMemo(() => {
    if (now === null) return null;
    return gapWords(needGaps(now.level, kindId, ledgerOf(now)).filter(({ placement }) => only === null || placement === only));
  }, [now, kindId, only]);
  return words === null ? null : ` ${words}`;
}

/** What came of a kind, or of one thing, in the run on the Strip. Apart from the dials: they stay as they are when a simulation comes in. */
export function InThisRun({ level, kindId, only }: { readonly level: Level; readonly kindId: string; readonly only: string | null }) {
  const outcome = useAppSelector((state) => state.simulated.shown.now?.outcome);
  const inRun = only === null ? outcome?.perKind[kindId] : outcome?.perPlacement[only];
  if (inRun === undefined) return null;
  return (
    <p className="rounded-sm border border-line bg-card px-2.5 py-1.5 text-[12.5px]" aria-live="polite">
      <b>In this run</b> {only === null ? '' : `${placementName(level, only)} was `}
      {usedWords(inRun)}
      <Gap kindId={kindId} only={only} />
    </p>
  );
}

interface Which {
  readonly level: Level;
  readonly kindId: string;
  /** One placement; null: all of the kind. */
  readonly only: string | null;
}

type Crowd = RootState['crowd']['shown']['now'];

/** What a crowd did at a kind, or at one thing. */
function touchesIn(crowd: NonNullable<Crowd>, { kindId, only }: Which) {
  const { touches, bands } = crowd;
  return (only === null ? entry(touches.kinds, kindId) : entry(touches.placements, only)) ?? untouchedIn(bands.sessions);
}

/** What the crowd beside the run did at a kind, or at one thing, against the compared version. */
export function InTheCrowd(which: Which) {
  const { now, compared } = useAppSelector((state) => state.crowd.shown);
  if (now === null) return null;
  const { level, only } = which;
  const touches = touchesIn(now, which);
  // Compared with the whole of the other crowd only: a part of it has other players.
  const figures = touchFigures(touches, compared?.took == null ? null : touchesIn(compared, which));
  const by = now.personas
    .map((id, at) => ({ name: entry(level.personas, id)?.name ?? id, uses: touches.usesBy[at] ?? 0 }))
    .sort((a, b) => b.uses - a.uses);
  return (
    <section aria-label="in the crowd" className="mt-1.5 rounded-sm border border-line bg-card px-2.5 py-1.5 text-[12.5px]">
      <b>In the crowd</b> {only === null ? '' : placementName(level, only)}
      {/* A line each: figures that come in move nothing that is being turned. */}
      <dl className="grid grid-cols-[1fr_auto_auto] gap-x-2">
        {figures.map(({ name, figure, was }) => (
          <Fragment key={name}>
            <dt className="truncate">{name}</dt>
            <dd className="text-right font-mono font-semibold">{figure}</dd>
            <dd className="min-w-16 text-right font-mono text-soft">{was === null ? '' : `was ${was}`}</dd>
          </Fragment>
        ))}
      </dl>
      {touches.uses > 0 && by.length > 1 && (
        <p className="mt-0.5 border-t border-line pt-0.5 text-soft">
          used by{' '}
          {by.map(({ name, uses }, at) => (
            <Fragment key={name}>
              <span className="whitespace-nowrap">
                {name} {uses < 10 ? uses.toFixed(1) : plainNumber(uses, 0)}
                {at < by.length - 1 && ' ·'}
              </span>{' '}
            </Fragment>
          ))}
        </p>
      )}
    </section>
  );
}
