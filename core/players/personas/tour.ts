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

/** A tour that takes a stretch out and puts it elsewhere, either way round, when that is shorter; null when none is. */
function moved(stops: Stops, order: readonly number[], length: number): number[] | null {
  for (let size = 1; size <= Math.min(3, order.length - 1); size += 1) {
    for (let from = 0; from + size <= order.length; from += 1) {
      const stretch = order.slice(from, from + size);
      const rest = [...order.slice(0, from), ...order.slice(from + size)];
      for (let to = 0; to <= rest.length; to += 1) {
        for (const piece of size === 1 ? [stretch] : [stretch, [...stretch].reverse()]) {
          const tried = [...rest.slice(0, to), ...piece, ...rest.slice(to)];
          if (lengthOf(stops, tried) < length - 1e-9) return tried;
        }
      }
    }
  }
  return null;
}

/** A tour in which a stretch is gone the other way round, when that is shorter; null when none is. */
function turned(stops: Stops, order: readonly number[], length: number): number[] | null {
  for (let from = 0; from < order.length - 1; from += 1) {
    for (let to = from + 2; to <= order.length; to += 1) {
      const tried = [...order.slice(0, from), ...order.slice(from, to).reverse(), ...order.slice(to)];
      if (lengthOf(stops, tried) < length - 1e-9) return tried;
    }
  }
  return null;
}

function improved(stops: Stops, order: readonly number[]): number[] {
  let best = [...order];
  for (let round = 0; round < 60; round += 1) {
    const length = lengthOf(stops, best);
    const better = turned(stops, best, length) ?? moved(stops, best, length);
    if (better === null) break;
    best = better;
  }
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
