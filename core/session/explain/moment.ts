import { EFFECT, LIFE, LIVES_STATES, MOVEMENT, PHASE, PHASES, SET_OFF_BY, type PhaseName } from '../compile/codes.ts';
import { firstPair } from '../contact/contacts.ts';
import { NONE } from '../state/lines.ts';
import { cellOf } from '../rules/meters.ts';
import { idOf } from '../state/naming.ts';
import { movementOf } from '../rules/modifiers.ts';
import type { Session } from '../state/running.ts';
import { slotOf } from '../rules/spans.ts';
import { CLOCK, NEVER } from '../state/state.ts';
import { countingSlot, exists, phaseFor, placeX, placeY, readTurn, turnDegrees } from '../state/things.ts';
import { inReach } from '../rules/uses.ts';

export interface PlacementMoment {
  readonly kind: string;
  readonly x: number;
  readonly y: number;
  /** As the first player meets it. */
  readonly phase: PhaseName;
  /** Seconds until its phase ends, where that is known. */
  readonly secondsLeft: number | null;
  /** How far it has turned about its pivot. */
  readonly turnedDegrees: number;
  /** The pivot, from its place. Units. */
  readonly pivotX: number;
  readonly pivotY: number;
}

/** What goes on being changed while a player is inside of a thing. */
export interface ChangeUnderWay {
  readonly placement: string;
  readonly meter: string;
  /** What it has come to so far. */
  readonly applied: number;
  readonly seconds: number;
}

export interface PlayerMoment {
  readonly x: number;
  readonly y: number;
  readonly velocityX: number;
  readonly velocityY: number;
  readonly life: (typeof LIVES_STATES)[number];
  readonly dead: boolean;
  readonly meters: Readonly<Record<string, number>>;
  readonly items: Readonly<Record<string, number>>;
  readonly held: string | null;
  readonly movement: Readonly<Record<keyof typeof MOVEMENT, number>>;
  readonly shieldSeconds: number;
  readonly graceSeconds: number;
  /** The thing the use key would use now. */
  readonly inReach: string | null;
  readonly changing: readonly ChangeUnderWay[];
}

/** Who and what is where at one moment of a session, for drawing. */
export interface Moment {
  readonly step: number;
  readonly seconds: number;
  readonly players: readonly PlayerMoment[];
  readonly placements: Readonly<Record<string, PlacementMoment>>;
}

const UNTURNED = { turnedDegrees: 0, pivotX: 0, pivotY: 0 };

function turnOf(session: Session, placement: number): Pick<PlacementMoment, 'turnedDegrees' | 'pivotX' | 'pivotY'> {
  const turnedDegrees = turnDegrees(session, placement, 1);
  if (turnedDegrees === 0) return UNTURNED;
  const turning = readTurn(session, placement, 1);
  return { turnedDegrees, pivotX: turning.x, pivotY: turning.y };
}

function placementMoment(session: Session, placement: number): PlacementMoment {
  const { compiled, state } = session;
  const now = state.clock[CLOCK.step] as number;
  const slot = countingSlot(session, placement, 0);
  const phase = phaseFor(session, placement, 0);
  const cycled = state.phase[slot] === PHASE.ready && compiled.has.cycles;
  const due = (cycled ? state.cycleDue[placement] : state.phaseDue[slot]) as number;
  return {
    kind: compiled.ids.kinds[compiled.forms.kind[state.form[placement] as number] as number] ?? '',
    x: placeX(session, placement),
    y: placeY(session, placement),
    phase: PHASES[phase] ?? 'ready',
    secondsLeft: due === NEVER ? null : (due - now) / compiled.rate,
    ...turnOf(session, placement),
  };
}

function changesUnderWay(session: Session, player: number): ChangeUnderWay[] {
  const { compiled, state } = session;
  const { rules, effects, forms, ids, rate } = compiled;
  const now = state.clock[CLOCK.step] as number;
  const found: ChangeUnderWay[] = [];
  const end = state.clock[CLOCK.pairs] as number;
  for (let pair = firstPair(session, player); pair < end && state.pairToucher[pair] === player; pair += 1) {
    const placement = state.pairPlacement[pair] as number;
    const form = state.form[placement] as number;
    if (form < 0 || forms.inside[form] === 0) continue;
    for (let rule = forms.ruleStart[form] as number; rule < (forms.ruleStart[form + 1] as number); rule += 1) {
      if (rules.setOffBy[rule] !== SET_OFF_BY.inside || (rules.pulseEvery[rule] as number) > 0) continue;
      const start = rules.effectStart[rule] as number;
      for (let effect = start; effect < (rules.effectStart[rule + 1] as number); effect += 1) {
        const slot = slotOf(session, pair, rule) + effect - start;
        const id = idOf(session, placement);
        if (effects.op[effect] !== EFFECT.meter || state.slotFrom[slot] === NONE || id === null) continue;
        const meter = ids.meters[effects.subject[effect] as number] ?? '';
        found.push({
          placement: id,
          meter,
          applied: state.slotApplied[slot] as number,
          seconds: (now - (state.slotFrom[slot] as number)) / rate,
        });
      }
    }
  }
  return found;
}

function playerMoment(session: Session, player: number): PlayerMoment {
  const { compiled, state } = session;
  const { ids } = compiled;
  const now = state.clock[CLOCK.step] as number;
  const left = (until: number): number => Math.max(0, until - now) / compiled.rate;
  const reached = state.life[player] === LIFE.alive ? inReach(session, player) : -1;
  return {
    x: state.playerX[player] as number,
    y: state.playerY[player] as number,
    velocityX: state.velocityX[player] as number,
    velocityY: state.velocityY[player] as number,
    life: LIVES_STATES[state.life[player] as number] ?? 'absent',
    dead: state.life[player] !== LIFE.alive,
    meters: Object.fromEntries(ids.meters.map((id, meter) => [id, state.meter[cellOf(session, player, meter)] as number])),
    items: Object.fromEntries(ids.items.map((id, item) => [id, state.items[player * ids.items.length + item] as number])),
    held: ids.items[state.held[player] as number] ?? null,
    movement: {
      speed: movementOf(session, player, MOVEMENT.speed),
      jump: movementOf(session, player, MOVEMENT.jump),
      gravity: movementOf(session, player, MOVEMENT.gravity),
      acceleration: movementOf(session, player, MOVEMENT.acceleration),
      control: movementOf(session, player, MOVEMENT.control),
    },
    shieldSeconds: left(state.shieldUntil[player] as number),
    graceSeconds: left(state.graceUntil[player] as number),
    inReach: idOf(session, reached),
    changing: changesUnderWay(session, player),
  };
}

export function momentOf(session: Session): Moment {
  const { compiled, state } = session;
  const placements: Record<string, PlacementMoment> = {};
  compiled.ids.placements.forEach((_, index) => {
    const id = idOf(session, index);
    if (id !== null && exists(session, index)) placements[id] = placementMoment(session, index);
  });
  const step = state.clock[CLOCK.step] as number;
  return {
    step,
    seconds: step / compiled.rate,
    placements,
    players: Array.from({ length: compiled.playerCount }, (_, player) => playerMoment(session, player)),
  };
}
