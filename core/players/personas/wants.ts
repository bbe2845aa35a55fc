import {
  BECOMES,
  countingSlot,
  exists,
  GOAL,
  holds,
  isOn,
  itemsOf,
  itemThatStops,
  NEVER,
  PHASE,
  phaseFor,
  stepOf,
  TEST,
  wouldAct,
  type Session,
} from '../../session/index.ts';
import type { Offer } from './deeds.ts';
import { knows, offersAt, type Thinker } from './thinker.ts';

/** Something at a thing that a persona could set off. */
export interface Chance {
  readonly placement: number;
  readonly offer: Offer;
  /** Steps until it can be set off; 0: now. */
  readonly wait: number;
}

/** What a level is won by: offers that bring it about, or a place. */
export interface Wanted {
  /** Offers at known things that would bring it nearer now. */
  readonly chances: readonly Chance[];
  /** How many of them are needed, from the first on as they come; Infinity: all. */
  readonly needed: number;
  /** A place to be at in the end. */
  readonly place: { readonly x: number; readonly y: number; readonly within: number } | null;
  /** Nothing is known yet that brings it about. */
  readonly unknown: boolean;
}

/** For how long an offer at a thing is still held back, in steps; Infinity when nothing tells that it ever comes. */
export function waitFor(session: Session, player: number, placement: number, offer: Offer): number {
  const phase = phaseFor(session, placement, player);
  if (wouldAct(session, player, placement, offer.rule, phase)) return 0;
  if (phase === PHASE.spent || phase === PHASE.ready || !wouldAct(session, player, placement, offer.rule, PHASE.ready)) return Infinity;
  const { state } = session;
  const slot = countingSlot(session, placement, player);
  const cycled = state.phase[slot] === PHASE.ready && state.cycledOff[placement] === 1;
  const due = (cycled ? state.cycleDue : state.phaseDue)[cycled ? placement : slot] as number;
  return due === NEVER ? Infinity : Math.max(1, due - stepOf(session));
}

/** Whether a thing is there, known, and not put off. */
function isThoughtOf(thinker: Thinker, placement: number): boolean {
  const { session, mind } = thinker;
  return knows(thinker, placement) && exists(session, placement) && (mind.barred[placement] as number) <= stepOf(session);
}

/** Every known thing with an offer that passes, and how long it is still held back. */
export function chancesOf(thinker: Thinker, wanted: Passes): Chance[] {
  const { world, session, player } = thinker;
  const found: Chance[] = [];
  for (const placement of world.offering[player] ?? []) {
    if (!isThoughtOf(thinker, placement)) continue;
    for (const offer of offersAt(thinker, placement)) {
      if (!wanted(offer, placement)) continue;
      const wait = waitFor(session, player, placement, offer);
      if (wait < Infinity) found.push({ placement, offer, wait });
      break;
    }
  }
  return found;
}

type Passes = (offer: Offer, placement: number) => boolean;

/** Offers of an item or a notice; of what raises a meter. */
const giving =
  (sort: Offer['what'], of: number): Passes =>
  ({ what, subject }) =>
    what === sort && subject === of;
const raising =
  (meter: number): Passes =>
  ({ what, subject }) =>
    (what === 'meter' || what === 'heal') && subject === meter;

/** How deep conditions of conditions are followed. */
const DEEPEST = 4;

/** What has to be got before the rule of an offer at a thing can act: its conditions that fail now and the items it takes, as wants of their own. */
function before(thinker: Thinker, placement: number, offer: Offer, depth: number): Wanted | null {
  const { session, player, world } = thinker;
  const { rules, conditions } = world.compiled;
  const start = rules.conditionStart[offer.rule] as number;
  const end = rules.conditionStart[offer.rule + 1] as number;
  for (let condition = start; condition < end; condition += 1) {
    if (holds(session, condition, offer.rule, player, placement, false)) continue;
    const subject = conditions.subject[condition] as number;
    const value = conditions.value[condition] as number;
    switch (conditions.test[condition]) {
      case TEST.item:
        return gather(thinker, giving('item', subject), value - itemsOf(session, player, subject), depth);
      case TEST.meter:
        return gather(thinker, raising(subject), 1, depth);
      case TEST.notice:
        return value === 1 ? gather(thinker, giving('notice', subject), 1, depth) : null;
      case TEST.movement:
        return gather(thinker, ({ what }) => what === 'boost', 1, depth);
      default:
        return null;
    }
  }
  // What it takes has to be carried.
  const taken = itemThatStops(session, player, offer.rule);
  const value = taken < 0 ? 0 : (world.compiled.effects.value[taken] as number);
  if (value >= 0) return null;
  const item = world.compiled.effects.subject[taken] as number;
  return gather(thinker, giving('item', item), -value - itemsOf(session, player, item), depth);
}

/** Known things whose offers bring something about; where what they ask for is lacking, what gives that. */
function gather(thinker: Thinker, wanted: Passes, needed: number, depth = 0): Wanted {
  const chances = chancesOf(thinker, wanted);
  const sum = chances.reduce((total, { offer }) => total + (offer.what === 'item' ? offer.amount : 1), 0);
  const result: Wanted = { chances, needed, place: null, unknown: sum < needed };
  if (chances.length > 0 || depth >= DEEPEST) return result;
  const { world, session, player } = thinker;
  for (const placement of world.offering[player] ?? []) {
    if (!isThoughtOf(thinker, placement) || phaseFor(session, placement, player) === PHASE.spent) continue;
    for (const offer of offersAt(thinker, placement)) {
      const first = wanted(offer, placement) ? before(thinker, placement, offer, depth + 1) : null;
      if (first !== null) return first;
    }
  }
  return result;
}

/** What brings the goals of the level nearer; null when it has none that anybody could go for. */
export function goalsOf(thinker: Thinker): Wanted | null {
  const { world, session, player } = thinker;
  const { goals } = world.compiled;
  let unknown: Wanted | null = null;
  const listed = goals.map((goal): Wanted => {
    switch (goal.type) {
      case GOAL.reach:
        return { chances: [], needed: 0, place: { x: goal.x, y: goal.y, within: goal.value }, unknown: false };
      case GOAL.item:
        return gather(thinker, giving('item', goal.subject), goal.value - itemsOf(session, player, goal.subject));
      case GOAL.meter:
        return gather(thinker, raising(goal.subject), Infinity);
      default:
        return gather(thinker, giving('notice', goal.subject), 1);
    }
  });
  if (world.wins[player] === true) listed.push(gather(thinker, ({ what }) => what === 'win', 1));
  for (const wanted of listed) {
    if (wanted.place !== null || wanted.chances.length > 0) return wanted;
    unknown ??= wanted;
  }
  return unknown;
}

const OPENING: ReadonlySet<Offer['what']> = new Set<Offer['what']>(['notice', 'opens', 'sends']);
const HELPING: ReadonlySet<Offer['what']> = new Set<Offer['what']>(['lift', 'item']);

/** What may help is tried so often. */
const MOST_TRIED = 3;

/** What may help where no way leads: what posts a notice, bars a way until it is touched, or sends one elsewhere; where anything is wanted that cannot be come to, also what lets one jump or go further, and any item; or what those ask for. */
export function openersOf(thinker: Thinker, wants: boolean): Wanted {
  const { session, world } = thinker;
  return gather(
    thinker,
    ({ what }, placement) => {
      const helps = OPENING.has(what) || (wants && (what === 'boost' ? world.terrain !== null : HELPING.has(what)));
      // What is open already is not opened.
      const isOpen = what === 'opens' && !isOn(session, world.compiled.placements.solid[placement] as number);
      return helps && !isOpen && (session.state.uses[placement] as number) < MOST_TRIED;
    },
    Infinity,
  );
}

/** What shields one from what kills. */
export function shieldsOf(thinker: Thinker): Wanted {
  const { session } = thinker;
  return gather(thinker, ({ what }, placement) => what === 'shield' && (session.state.uses[placement] as number) < MOST_TRIED, 1);
}

/**
 * For how many seconds one lets be what gives again to whoever comes anew, after it has given so many times; 0: it does not. What
 * gives so many times and no more is come back to at once.
 */
export function restAfter({ world: { compiled } }: Thinker, { rule }: Offer, times: number): number {
  if (compiled.rules.becomes[rule] !== BECOMES.stays) return 0;
  return compiled.rules.uses[rule] === 0 ? 3 * times : 1;
}
