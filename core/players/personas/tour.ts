/** Stops to be ordered: how far it is to each from here, from each to each, and from each to where all ends. Units. */
export interface Stops {
  readonly from: readonly number[];
  readonly between: (a: number, b: number) => number;
  /** 0 for all: it ends anywhere. */
  readonly toEnd: readonly number[];
  /** The longest detour each is worth; Infinity: it has to be made. */
  readonly worth: readonly number[];
}

/** The way from one stop to another; −1 before the first is here, after the last the end. */
function leg({ from, between, toEnd }: Stops, a: number | undefined, b: number | undefined): number {
  if (b === undefined) return a === undefined ? 0 : (toEnd[a] ?? 0);
  return a === undefined ? (from[b] ?? 0) : between(a, b);
}

function lengthOf(stops: Stops, order: readonly number[]): number {
  let length = 0;
  for (let at = 0; at <= order.length; at += 1) length += leg(stops, order[at - 1], order[at]);
  return length;
}

/** Where a stop lengthens a tour least, and by how much. */
function cheapest(stops: Stops, order: readonly number[], stop: number): { at: number; detour: number } {
  let best = { at: 0, detour: Infinity };
  for (let at = 0; at <= order.length; at += 1) {
    const [before, after] = [order[at - 1], order[at]];
    const detour = leg(stops, before, stop) + leg(stops, stop, after) - leg(stops, before, after);
    if (detour < best.detour) best = { at, detour };
  }
  return best;
}

/** Shortens what is taken for as long as rounding. Units. */
const LESS = 1e-9;

/** Puts a stretch of a tour elsewhere, either way round, when that is shorter. Answers whether one was. */
function move(stops: Stops, order: number[]): boolean {
  const count = order.length;
  for (let size = 1; size <= Math.min(3, count - 1); size += 1) {
    for (let from = 0; from + size <= count; from += 1) {
      const [first, last] = [order[from], order[from + size - 1]];
      const [before, after] = [order[from - 1], order[from + size]];
      const freed = leg(stops, before, first) + leg(stops, last, after) - leg(stops, before, after);
      if (freed <= LESS) continue;
      for (let to = 0; to <= count; to += 1) {
        if (to >= from && to <= from + size) continue;
        const [left, right] = [order[to - 1], order[to]];
        const bare = leg(stops, left, right);
        const straight = leg(stops, left, first) + leg(stops, last, right) - bare;
        const turnedRound = size === 1 ? Infinity : leg(stops, left, last) + leg(stops, first, right) - bare;
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
function turnRound(stops: Stops, order: number[]): boolean {
  for (let from = 0; from < order.length - 1; from += 1) {
    for (let to = from + 1; to < order.length; to += 1) {
      const [before, first, last, after] = [order[from - 1], order[from], order[to], order[to + 1]];
      const now = leg(stops, before, first) + leg(stops, last, after);
      if (leg(stops, before, last) + leg(stops, first, after) >= now - LESS) continue;
      const stretch = order.splice(from, to - from + 1).reverse();
      order.splice(from, 0, ...stretch);
      return true;
    }
  }
  return false;
}

/** Changes to a tour are tried no more often than this. */
const MOST_CHANGES = 100;

function improved(stops: Stops, order: readonly number[]): number[] {
  const best = [...order];
  for (let round = 0; round < MOST_CHANGES && (turnRound(stops, best) || move(stops, best)); round += 1);
  return best;
}

/** Stops in the order of nearest next. */
function nearestNext(stops: Stops, chosen: readonly number[]): number[] {
  const left = new Set(chosen);
  const order: number[] = [];
  while (left.size > 0) {
    let next = -1;
    let least = Infinity;
    for (const stop of left) {
      const length = leg(stops, order.at(-1), stop);
      if (length >= least) continue;
      next = stop;
      least = length;
    }
    if (next < 0) break;
    order.push(next);
    left.delete(next);
  }
  return order;
}

/**
 * An order in which to make stops: all that have to be made, and of the others those that are worth their detour. Begun by cheapest
 * insertion and by nearest next, and made shorter by turning and moving stretches (2-opt and Or-opt) until nothing helps.
 */
export function orderStops(stops: Stops): number[] {
  const count = stops.from.length;
  let order: number[] = [];
  const all = Array.from({ length: count }, (_, stop) => stop);
  for (const stop of all.filter((one) => stops.worth[one] === Infinity)) order.splice(cheapest(stops, order, stop).at, 0, stop);
  const open = new Set(all.filter((one) => stops.worth[one] !== Infinity));
  for (;;) {
    let best = { stop: -1, at: 0, gain: 0 };
    for (const stop of open) {
      const { at, detour } = cheapest(stops, order, stop);
      const gain = (stops.worth[stop] ?? 0) - detour;
      if (gain > best.gain) best = { stop, at, gain };
    }
    if (best.stop < 0) break;
    order.splice(best.at, 0, best.stop);
    open.delete(best.stop);
  }
  order = improved(stops, order);
  const other = improved(stops, nearestNext(stops, order));
  return lengthOf(stops, other) < lengthOf(stops, order) - 1e-9 ? other : order;
}
