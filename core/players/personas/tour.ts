/** Stops to be ordered: how far it is to each from here, from each to each, either way alike, and from each to where all ends. Units. */
export interface Stops {
  readonly from: readonly number[];
  readonly between: (a: number, b: number) => number;
  /** 0 for all: it ends anywhere. */
  readonly toEnd: readonly number[];
  /** The longest detour each is worth; Infinity: it has to be made. */
  readonly worth: readonly number[];
}

/** Room for the lengths of the ways of one tour after another. */
let room = new Float64Array(0);

/** The lengths of all ways among so many stops, here and the end, as far as anybody has asked: of one tour at a time. */
class Legs {
  readonly count: number;
  readonly worth: readonly number[];
  private readonly stops: Stops;
  private readonly lengths: Float64Array;

  constructor(stops: Stops) {
    this.count = stops.from.length;
    this.worth = stops.worth;
    this.stops = stops;
    const size = (this.count + 1) * (this.count + 1);
    if (room.length < size) room = new Float64Array(size);
    this.lengths = room.fill(-1, 0, size);
  }

  /** The way from one stop to another. The number after the last stop is here where one leaves, the end where one arrives. */
  of(a: number, b: number): number {
    const at = a * (this.count + 1) + b;
    const known = this.lengths[at] as number;
    if (known >= 0) return known;
    const length = this.asked(a, b);
    this.lengths[at] = length;
    if (a !== this.count && b !== this.count) this.lengths[b * (this.count + 1) + a] = length;
    return length;
  }

  private asked(a: number, b: number): number {
    const { count, stops } = this;
    if (b === count) return a === count ? 0 : (stops.toEnd[a] as number);
    return a === count ? (stops.from[b] as number) : stops.between(a, b);
  }
}

/** An order of stops, from here to the end: both have the number after the last stop. */
type Order = number[];

function lengthOf(legs: Legs, order: Order): number {
  let length = 0;
  for (let at = 1; at < order.length; at += 1) length += legs.of(order[at - 1] as number, order[at] as number);
  return length;
}

/** By how much a stop lengthens an order before a place of it. */
function detourAt(legs: Legs, order: Order, stop: number, at: number): number {
  const before = order[at - 1] as number;
  const after = order[at] as number;
  return legs.of(before, stop) + legs.of(stop, after) - legs.of(before, after);
}

/** Finds before which place of an order a stop lengthens it least, and by how much. */
function findCheapest(legs: Legs, order: Order, stop: number, into: { at: number; detour: number }): void {
  into.at = 1;
  into.detour = Infinity;
  for (let at = 1; at < order.length; at += 1) {
    const detour = detourAt(legs, order, stop, at);
    if (!(detour < into.detour)) continue;
    into.at = at;
    into.detour = detour;
  }
}

/** Shortens what is taken for as long as rounding. Units. */
const LESS = 1e-9;

/** Puts a stretch of a tour elsewhere, either way round, when that is shorter. Answers whether one was. */
function move(legs: Legs, order: Order): boolean {
  const end = order.length - 1;
  for (let size = 1; size <= Math.min(3, end - 2); size += 1) {
    for (let from = 1; from + size <= end; from += 1) {
      const first = order[from] as number;
      const last = order[from + size - 1] as number;
      const before = order[from - 1] as number;
      const after = order[from + size] as number;
      const freed = legs.of(before, first) + legs.of(last, after) - legs.of(before, after);
      if (freed <= LESS) continue;
      for (let to = 1; to <= end; to += 1) {
        if (to >= from && to <= from + size) continue;
        const left = order[to - 1] as number;
        const right = order[to] as number;
        const bare = legs.of(left, right);
        const straight = legs.of(left, first) + legs.of(last, right) - bare;
        const turnedRound = size === 1 ? Infinity : legs.of(left, last) + legs.of(first, right) - bare;
        if (Math.min(straight, turnedRound) >= freed - LESS) continue;
        const stretch = order.splice(from, size);
        if (turnedRound < straight) stretch.reverse();
        order.splice(to > from ? to - size : to, 0, ...stretch);
        return true;
      }
    }
  }
  return false;
}

/** Goes a stretch of a tour the other way round, when that is shorter. Answers whether one was. */
function turnRound(legs: Legs, order: Order): boolean {
  const end = order.length - 1;
  for (let from = 1; from < end - 1; from += 1) {
    const before = order[from - 1] as number;
    const first = order[from] as number;
    for (let to = from + 1; to < end; to += 1) {
      const last = order[to] as number;
      const after = order[to + 1] as number;
      const now = legs.of(before, first) + legs.of(last, after);
      if (legs.of(before, last) + legs.of(first, after) >= now - LESS) continue;
      const stretch = order.splice(from, to - from + 1).reverse();
      order.splice(from, 0, ...stretch);
      return true;
    }
  }
  return false;
}

/** Changes to a tour are tried no more often than this. */
const MOST_CHANGES = 100;

function improved(legs: Legs, order: Order): Order {
  const best = [...order];
  for (let round = 0; round < MOST_CHANGES && (turnRound(legs, best) || move(legs, best)); round += 1);
  return best;
}

/** The stops of an order by nearest next, as far as they can be come to. */
function nearestNext(legs: Legs, chosen: Order): Order {
  const left = new Set(chosen.slice(1, -1));
  const order = [legs.count];
  while (left.size > 0) {
    let next = -1;
    let least = Infinity;
    for (const stop of left) {
      const length = legs.of(order[order.length - 1] as number, stop);
      if (length >= least) continue;
      next = stop;
      least = length;
    }
    if (next < 0) break;
    order.push(next);
    left.delete(next);
  }
  order.push(legs.count);
  return order;
}

/** A stop that is not in an order yet: before which place of it the stop lengthens it least, and by how much. */
interface Cheapest {
  readonly stop: number;
  at: number;
  detour: number;
}

/** Brings that up to date once another stop was put into the order at a place. */
function seeInserted(legs: Legs, order: Order, one: Cheapest, inserted: number): void {
  if (one.at === inserted) {
    findCheapest(legs, order, one.stop, one);
    return;
  }
  if (one.at > inserted) one.at += 1;
  for (let at = inserted; at <= inserted + 1; at += 1) {
    const detour = detourAt(legs, order, one.stop, at);
    // Of ways as short the first, as if all were looked at anew.
    if (!(detour < one.detour || (detour === one.detour && at < one.at))) continue;
    one.at = at;
    one.detour = detour;
  }
}

/** Adds to an order, one after another, the stop that gains most over its detour, until none does. */
function addWorthwhile(legs: Legs, order: Order): void {
  const open: Cheapest[] = [];
  for (let stop = 0; stop < legs.count; stop += 1) {
    if (legs.worth[stop] === Infinity) continue;
    const one = { stop, at: 1, detour: Infinity };
    findCheapest(legs, order, stop, one);
    open.push(one);
  }
  for (;;) {
    let best: Cheapest | null = null;
    let most = 0;
    for (const one of open) {
      const gain = (legs.worth[one.stop] as number) - one.detour;
      if (gain <= most) continue;
      best = one;
      most = gain;
    }
    if (best === null) return;
    order.splice(best.at, 0, best.stop);
    open.splice(open.indexOf(best), 1);
    for (const one of open) seeInserted(legs, order, one, best.at);
  }
}

/**
 * An order in which to make stops: all that have to be made, and of the others those that are worth their detour. Begun by cheapest
 * insertion and by nearest next, and made shorter by turning and moving stretches (2-opt and Or-opt) until nothing helps.
 */
export function orderStops(stops: Stops): number[] {
  const legs = new Legs(stops);
  const begun: Order = [legs.count, legs.count];
  const where = { at: 1, detour: Infinity };
  for (let stop = 0; stop < legs.count; stop += 1) {
    if (stops.worth[stop] !== Infinity) continue;
    findCheapest(legs, begun, stop, where);
    begun.splice(where.at, 0, stop);
  }
  addWorthwhile(legs, begun);
  const order = improved(legs, begun);
  const other = improved(legs, nearestNext(legs, order));
  return (lengthOf(legs, other) < lengthOf(legs, order) - LESS ? other : order).slice(1, -1);
}
