import { valueIn } from '../../geometry/index.ts';
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
  const now = valueIn(state.clock, CLOCK.step);
  const slot = countingSlot(session, placement, 0);
  const phase = phaseFor(session, placement, 0);
  const cycled = state.phase[slot] === PHASE.ready && compiled.has.cycles;
  const due = (cycled ? state.cycleDue[placement] : state.phaseDue[slot]) as number;
  return {
    kind: compiled.ids.kinds[valueIn(compiled.forms.kind, valueIn(state.form, placement))] ?? '',
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
  const now = valueIn(state.clock, CLOCK.step);
  const found: ChangeUnderWay[] = [];
  const end = valueIn(state.clock, CLOCK.pairs);
  for (let pair = firstPair(session, player); pair < end && state.pairToucher[pair] === player; pair += 1) {
    const placement = valueIn(state.pairPlacement, pair);
    const form = valueIn(state.form, placement);
    if (form < 0 || forms.inside[form] === 0) continue;
    for (let rule = valueIn(forms.ruleStart, form); rule < valueIn(forms.ruleStart, form + 1); rule += 1) {
      if (rules.setOffBy[rule] !== SET_OFF_BY.inside || valueIn(rules.pulseEvery, rule) > 0) continue;
      const start = valueIn(rules.effectStart, rule);
      for (let effect = start; effect < valueIn(rules.effectStart, rule + 1); effect += 1) {
        const slot = slotOf(session, pair, rule) + effect - start;
        const id = idOf(session, placement);
        if (effects.op[effect] !== EFFECT.meter || state.slotFrom[slot] === NONE || id === null) continue;
        const meter = ids.meters[valueIn(effects.subject, effect)] ?? '';
        found.push({
          placement: id,
          meter,
          applied: valueIn(state.slotApplied, slot),
          seconds: (now - valueIn(state.slotFrom, slot)) / rate,
        });
      }
    }
  }
  return found;
}

function playerMoment(session: Session, player: number): PlayerMoment {
  const { compiled, state } = session;
  const { ids } = compiled;
  const now = valueIn(state.clock, CLOCK.step);
  const left = (until: number): number => Math.max(0, until - now) / compiled.rate;
  const reached = state.life[player] === LIFE.alive ? inReach(session, player) : -1;
  return {
    x: valueIn(state.playerX, player),
    y: valueIn(state.playerY, player),
    velocityX: valueIn(state.velocityX, player),
    velocityY: valueIn(state.velocityY, player),
    life: LIVES_STATES[valueIn(state.life, player)] ?? 'absent',
    dead: state.life[player] !== LIFE.alive,
    meters: Object.fromEntries(ids.meters.map((id, meter) => [id, valueIn(state.meter, cellOf(session, player, meter))])),
    items: Object.fromEntries(ids.items.map((id, item) => [id, valueIn(state.items, player * ids.items.length + item)])),
    held: ids.items[valueIn(state.held, player)] ?? null,
    movement: {
      speed: movementOf(session, player, MOVEMENT.speed),
      jump: movementOf(session, player, MOVEMENT.jump),
      gravity: movementOf(session, player, MOVEMENT.gravity),
      acceleration: movementOf(session, player, MOVEMENT.acceleration),
      control: movementOf(session, player, MOVEMENT.control),
    },
    shieldSeconds: left(valueIn(state.shieldUntil, player)),
    graceSeconds: left(valueIn(state.graceUntil, player)),
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
  const step = valueIn(state.clock, CLOCK.step);
  return {
    step,
    seconds: step / compiled.rate,
    placements,
    players: Array.from({ length: compiled.playerCount }, (_, player) => playerMoment(session, player)),
  };
}
