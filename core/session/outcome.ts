import { ENDINGS } from './codes.ts';
import type { Session } from './running.ts';
import { hasEnded } from './session.ts';
import { CLOCK } from './state.ts';

export interface PlacementOutcome {
  readonly uses: number;
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
  readonly lowestHealth: number;
  readonly died: boolean;
  /** Units walked. */
  readonly distance: number;
  /** Health lost to each kind that took any. */
  readonly damageByKind: Readonly<Record<string, number>>;
}

/** What a session came to. */
export interface Outcome {
  readonly ended: { readonly how: 'lost' | 'inputs ended'; readonly seconds: number };
  readonly players: readonly PlayerOutcome[];
  readonly perPlacement: Readonly<Record<string, PlacementOutcome>>;
  readonly perKind: Readonly<Record<string, PlacementOutcome>>;
}

function sum(a: PlacementOutcome | undefined, b: PlacementOutcome): PlacementOutcome {
  if (a === undefined) return b;
  const firsts = [a.firstUseSeconds, b.firstUseSeconds].filter((seconds) => seconds !== null);
  return {
    uses: a.uses + b.uses,
    refusals: a.refusals + b.refusals,
    firstUseSeconds: firsts.length === 0 ? null : Math.min(...firsts),
    healed: a.healed + b.healed,
    wasted: a.wasted + b.wasted,
    hurt: a.hurt + b.hurt,
    scored: a.scored + b.scored,
    waitingSeconds: a.waitingSeconds + b.waitingSeconds,
  };
}

/** Sums up a session as it stands. */
export function outcomeOf(session: Session): Outcome {
  const { compiled, state } = session;
  const { ids } = compiled;
  const meterCount = ids.meters.length;
  const perPlacement: Record<string, PlacementOutcome> = {};
  const perKind: Record<string, PlacementOutcome> = {};
  ids.placements.forEach((id, index) => {
    const first = state.firstUse[index] as number;
    const one: PlacementOutcome = {
      uses: state.uses[index] as number,
      refusals: state.refusals[index] as number,
      firstUseSeconds: first < 0 ? null : first / compiled.rate,
      healed: state.healed[index] as number,
      wasted: state.wasted[index] as number,
      hurt: state.hurt[index] as number,
      scored: state.scored[index] as number,
      waitingSeconds: state.waiting[index] as number,
    };
    perPlacement[id] = one;
    const kind = ids.kinds[compiled.placements.kind[index] as number] as string;
    perKind[kind] = sum(perKind[kind], one);
  });
  const players = Array.from({ length: compiled.playerCount }, (_, player): PlayerOutcome => {
    const damage = ids.kinds.map((id, kind): [string, number] => [id, state.damageByKind[player * ids.kinds.length + kind] as number]);
    return {
      meters: Object.fromEntries(ids.meters.map((id, meter) => [id, state.meter[player * meterCount + meter] as number])),
      lowestHealth: state.lowestHealth[player] as number,
      died: state.dead[player] === 1,
      distance: state.distance[player] as number,
      damageByKind: Object.fromEntries(damage.filter(([, lost]) => lost > 0)),
    };
  });
  const how = ENDINGS[state.clock[CLOCK.ending] as number] === 'lost' ? 'lost' : 'inputs ended';
  const endStep = hasEnded(session) ? (state.clock[CLOCK.endStep] as number) : (state.clock[CLOCK.step] as number);
  return { ended: { how, seconds: endStep / compiled.rate }, players, perPlacement, perKind };
}
