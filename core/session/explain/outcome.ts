import { valueIn } from '../../geometry/index.ts';
import { spawnedOf } from '../../level/index.ts';
import { ENDING, ENDINGS, type EndingName } from '../compile/codes.ts';
import { cellOf } from '../rules/meters.ts';
import { thingId } from '../state/names.ts';
import { idOf } from '../state/naming.ts';
import { statsOf } from '../rules/phases.ts';
import type { Session } from '../state/running.ts';
import { hasEnded } from '../session.ts';
import { CLOCK, DEATH_WIDTH, MOST_DEATHS, STAT_COUNT } from '../state/state.ts';
import { exists } from '../state/things.ts';

export interface PlacementOutcome {
  readonly uses: number;
  /** Uses of which nothing came: every effect was stopped, or met nobody. */
  readonly nothings: number;
  readonly refusals: number;
  readonly firstUseSeconds: number | null;
  readonly healed: number;
  readonly wasted: number;
  readonly hurt: number;
  readonly scored: number;
  /** Seconds players spent inside while it rested. */
  readonly waitingSeconds: number;
}

export interface PlayerOutcome {
  readonly meters: Readonly<Record<string, number>>;
  readonly items: Readonly<Record<string, number>>;
  readonly lowestHealth: number;
  readonly died: boolean;
  readonly deaths: number;
  /** Units walked. */
  readonly distance: number;
  /** Seconds with a change of movement in force. */
  readonly changedSeconds: number;
  /** Health lost to each kind that took any. */
  readonly damageByKind: Readonly<Record<string, number>>;
}

export interface Death {
  readonly seconds: number;
  /** From 1. */
  readonly player: number;
  readonly placement: string | null;
  readonly kind: string | null;
  readonly x: number;
  readonly y: number;
}

/** What a session came to. */
export interface Outcome {
  readonly ended: { readonly how: Exclude<EndingName, 'running'> | 'inputs ended'; readonly seconds: number };
  readonly players: readonly PlayerOutcome[];
  readonly perPlacement: Readonly<Record<string, PlacementOutcome>>;
  readonly perKind: Readonly<Record<string, PlacementOutcome>>;
  /** The first deaths, with their causes and places. */
  readonly deaths: readonly Death[];
}

/** What was left behind at two things, together. */
export function sumOf(a: PlacementOutcome | undefined, b: PlacementOutcome): PlacementOutcome {
  if (a === undefined) return b;
  const firsts = [a.firstUseSeconds, b.firstUseSeconds].filter((seconds) => seconds !== null);
  return {
    uses: a.uses + b.uses,
    nothings: a.nothings + b.nothings,
    refusals: a.refusals + b.refusals,
    firstUseSeconds: firsts.length === 0 ? null : Math.min(...firsts),
    healed: a.healed + b.healed,
    wasted: a.wasted + b.wasted,
    hurt: a.hurt + b.hurt,
    scored: a.scored + b.scored,
    waitingSeconds: a.waitingSeconds + b.waitingSeconds,
  };
}

function fromStats(stats: readonly number[], rate: number): PlacementOutcome {
  const [uses = 0, refusals = 0, first = 0, healed = 0, wasted = 0, hurt = 0, scored = 0, waitingSeconds = 0, nothings = 0] = stats;
  return { uses, nothings, refusals, firstUseSeconds: uses === 0 ? null : first / rate, healed, wasted, hurt, scored, waitingSeconds };
}

/** What has come of a placement so far. */
export const placementOutcome = (session: Session, placement: number): PlacementOutcome =>
  fromStats(statsOf(session, placement), session.compiled.rate);

/** What came of the spawned things of a kind that are gone. */
export const goneOutcome = ({ compiled, state }: Session, kind: number): PlacementOutcome =>
  fromStats([...state.goneStats.subarray(kind * STAT_COUNT, (kind + 1) * STAT_COUNT)], compiled.rate);

/** The first deaths of a session as it stands. */
export function deathsOf({ compiled, state }: Session): Death[] {
  const count = Math.min(MOST_DEATHS, valueIn(state.clock, CLOCK.deaths));
  return Array.from({ length: count }, (_, index): Death => {
    const [step = 0, player = 0, placement = -1, x = 0, y = 0] = state.deathLog.subarray(index * DEATH_WIDTH, (index + 1) * DEATH_WIDTH);
    const id = thingId(compiled, placement);
    const kind = id === null ? null : (spawnedOf(id)?.kind ?? compiled.level.placements[id]?.kind ?? null);
    return { seconds: step / compiled.rate, player: player + 1, placement: id, kind, x, y };
  });
}

/** How and when a session ended; as it stands, where it has not. */
export function endOf(session: Session): Outcome['ended'] {
  const { clock } = session.state;
  const ending = valueIn(clock, CLOCK.ending);
  const name = ENDINGS[ending];
  const how = ending === ENDING.running || name === undefined || name === 'running' ? 'inputs ended' : name;
  return { how, seconds: valueIn(clock, hasEnded(session) ? CLOCK.endStep : CLOCK.step) / session.compiled.rate };
}

/** Sums up a session as it stands. */
export function outcomeOf(session: Session): Outcome {
  const { compiled, state } = session;
  const { ids } = compiled;
  const perPlacement: Record<string, PlacementOutcome> = {};
  const perKind: Record<string, PlacementOutcome> = {};
  ids.placements.forEach((_, index) => {
    const id = idOf(session, index);
    if (id === null || !exists(session, index)) return;
    const one = placementOutcome(session, index);
    perPlacement[id] = one;
    const kind = ids.kinds[valueIn(compiled.forms.kind, valueIn(state.form, index))] as string;
    perKind[kind] = sumOf(perKind[kind], one);
  });
  ids.kinds.forEach((id, kind) => {
    const gone = goneOutcome(session, kind);
    if (gone.uses + gone.refusals > 0) perKind[id] = sumOf(perKind[id], gone);
  });
  const players = Array.from({ length: compiled.playerCount }, (_, player): PlayerOutcome => {
    const damage = ids.kinds.map((id, kind): [string, number] => [id, valueIn(state.damageByKind, player * ids.kinds.length + kind)]);
    return {
      meters: Object.fromEntries(ids.meters.map((id, meter) => [id, valueIn(state.meter, cellOf(session, player, meter))])),
      items: Object.fromEntries(ids.items.map((id, item) => [id, valueIn(state.items, player * ids.items.length + item)])),
      lowestHealth: valueIn(state.lowestHealth, player),
      died: valueIn(state.deaths, player) > 0,
      deaths: valueIn(state.deaths, player),
      distance: valueIn(state.distance, player),
      changedSeconds: valueIn(state.changedSeconds, player),
      damageByKind: Object.fromEntries(damage.filter(([, lost]) => lost > 0)),
    };
  });
  return { ended: endOf(session), players, perPlacement, perKind, deaths: deathsOf(session) };
}
