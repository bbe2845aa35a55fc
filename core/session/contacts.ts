import { sweepBoxBox, sweepCircle, sweepDiscBox, type Span, type Track } from '../geometry/index.ts';
import { BOX, CIRCLE } from './codes.ts';
import type { Crossings, Session } from './running.ts';
import { CLOCK } from './state.ts';

/** Shares of a step closer than this are one moment: rounding must not end a contact and begin it anew. */
const SAME_MOMENT = 1e-9;

const LEAVE = 0;
export const ARRIVE = 1;

export function createCrossings(): Crossings {
  const capacity = 4096;
  return {
    count: 0,
    at: new Float64Array(capacity),
    toucher: new Int32Array(capacity),
    placement: new Int32Array(capacity),
    type: new Uint8Array(capacity),
    inside: new Float64Array(capacity),
  };
}

function comesBefore(list: Crossings, a: number, at: number, toucher: number, placement: number, type: number): boolean {
  if (list.at[a] !== at) return (list.at[a] as number) < at;
  if (list.toucher[a] !== toucher) return (list.toucher[a] as number) < toucher;
  if (list.placement[a] !== placement) return (list.placement[a] as number) < placement;
  return (list.type[a] as number) <= type;
}

/**
 * Times are sorted on this grain, so that two movers meeting touch each other at one moment, whatever the rounding of
 * either reckoning, and the order of placements decides.
 */
const GRAINS = 1073741824;
const onGrain = (share: number): number => Math.round(share * GRAINS) / GRAINS;

/** Inserts in order. More crossings in one step than there is room for are refused with an error, never dropped. */
function addCrossing(list: Crossings, share: number, toucher: number, placement: number, type: number, inside: number): void {
  if (list.count === list.at.length) throw new TooManyContacts();
  const at = onGrain(share);
  let index = list.count;
  while (index > 0 && !comesBefore(list, index - 1, at, toucher, placement, type)) {
    list.at[index] = list.at[index - 1] as number;
    list.toucher[index] = list.toucher[index - 1] as number;
    list.placement[index] = list.placement[index - 1] as number;
    list.type[index] = list.type[index - 1] as number;
    list.inside[index] = list.inside[index - 1] as number;
    index -= 1;
  }
  list.at[index] = at;
  list.toucher[index] = toucher;
  list.placement[index] = placement;
  list.type[index] = type;
  list.inside[index] = inside;
  list.count += 1;
}

/** Refusal of a level in which more things touch at one moment than a session can hold. */
export class TooManyContacts extends Error {
  constructor() {
    super('more things touch at one moment than a session can hold; spread the placements out');
    this.name = 'TooManyContacts';
  }
}

// Separate stretches of one step during which a pair touches, sorted.
const MOST_STRETCHES = 64;
const stretchFrom = new Float64Array(MOST_STRETCHES);
const stretchTo = new Float64Array(MOST_STRETCHES);
let stretches = 0;

function addStretch(from: number, to: number): void {
  let index = 0;
  while (index < stretches && (stretchTo[index] as number) < from - SAME_MOMENT) index += 1;
  if (index === stretches || (stretchFrom[index] as number) > to + SAME_MOMENT) {
    if (stretches === MOST_STRETCHES) throw new TooManyContacts();
    stretchFrom.copyWithin(index + 1, index, stretches);
    stretchTo.copyWithin(index + 1, index, stretches);
    stretchFrom[index] = from;
    stretchTo[index] = to;
    stretches += 1;
    return;
  }
  stretchFrom[index] = Math.min(stretchFrom[index] as number, from);
  let end = Math.max(stretchTo[index] as number, to);
  let next = index + 1;
  while (next < stretches && (stretchFrom[next] as number) <= end + SAME_MOMENT) {
    end = Math.max(end, stretchTo[next] as number);
    next += 1;
  }
  stretchTo[index] = end;
  stretchFrom.copyWithin(index + 1, next, stretches);
  stretchTo.copyWithin(index + 1, next, stretches);
  stretches -= next - index - 1;
}

const span: Span = { enter: 0, leave: 0 };

/** A disc against shape `shape`; (x, y) is the disc seen from the thing's place. */
function sweepDisc(session: Session, x: number, y: number, dx: number, dy: number, radius: number, shape: number): boolean {
  const { shapes } = session.compiled;
  const relativeX = x - (shapes.x[shape] as number);
  const relativeY = y - (shapes.y[shape] as number);
  const a = shapes.a[shape] as number;
  if (shapes.type[shape] === CIRCLE) return sweepCircle(relativeX, relativeY, dx, dy, radius + a, span);
  const cos = shapes.cos[shape] as number;
  const sin = shapes.sin[shape] as number;
  return sweepDiscBox(
    relativeX * cos + relativeY * sin,
    relativeY * cos - relativeX * sin,
    dx * cos + dy * sin,
    dy * cos - dx * sin,
    radius,
    a,
    shapes.b[shape] as number,
    span,
  );
}

/** A mover's shape against another thing's; (x, y) is the mover's place seen from the thing's. */
function sweepShapes(session: Session, x: number, y: number, dx: number, dy: number, moving: number, shape: number): boolean {
  const { shapes } = session.compiled;
  const fromX = x + (shapes.x[moving] as number);
  const fromY = y + (shapes.y[moving] as number);
  if (shapes.type[moving] === CIRCLE) return sweepDisc(session, fromX, fromY, dx, dy, shapes.a[moving] as number, shape);
  const centreX = fromX - (shapes.x[shape] as number);
  const centreY = fromY - (shapes.y[shape] as number);
  const cos = shapes.cos[moving] as number;
  const sin = shapes.sin[moving] as number;
  const a = shapes.a[moving] as number;
  const b = shapes.b[moving] as number;
  if (shapes.type[shape] === BOX) {
    const [halfWidth, halfHeight] = [shapes.a[shape] as number, shapes.b[shape] as number];
    const [cosB, sinB] = [shapes.cos[shape] as number, shapes.sin[shape] as number];
    return sweepBoxBox(centreX, centreY, dx, dy, a, b, cos, sin, halfWidth, halfHeight, cosB, sinB, span);
  }
  // Seen from the moving box, the disc comes the other way.
  return sweepDiscBox(
    -(centreX * cos + centreY * sin),
    -(centreY * cos - centreX * sin),
    -(dx * cos + dy * sin),
    -(dy * cos - dx * sin),
    shapes.a[shape] as number,
    a,
    b,
    span,
  );
}

/** Collects the stretches of this step during which toucher and placement touch. */
function sweepPair(session: Session, toucher: number, placement: number): void {
  const { compiled, scratch } = session;
  stretches = 0;
  const isPlayer = toucher < compiled.playerCount;
  const way = scratch.toucherTracks[toucher] as Track;
  const mover = compiled.placements.mover[placement] as number;
  const other = mover < 0 ? null : (scratch.toucherTracks[compiled.playerCount + mover] as Track);
  const kind = compiled.placements.kind[placement] as number;
  const shapeEnd = compiled.kinds.shapeStart[kind + 1] as number;
  const ownKind = isPlayer ? -1 : (compiled.placements.kind[compiled.movers.placement[toucher - compiled.playerCount] as number] as number);
  const radius = compiled.level.body.radius;
  const stillX = compiled.placements.x[placement] as number;
  const stillY = compiled.placements.y[placement] as number;

  let i = 0;
  let j = 0;
  let from = 0;
  while (i < way.count - 1 && (other === null || j < other.count - 1)) {
    const wayFrom = way.at[i] as number;
    const wayTo = way.at[i + 1] as number;
    const otherFrom = other === null ? 0 : (other.at[j] as number);
    const otherTo = other === null ? 1 : (other.at[j + 1] as number);
    const to = Math.min(wayTo, otherTo);
    if (to > from) {
      // Both ends of this piece, for toucher and thing.
      const wayStart = (from - wayFrom) / (wayTo - wayFrom);
      const wayEnd = (to - wayFrom) / (wayTo - wayFrom);
      const wayX = way.x[i] as number;
      const wayY = way.y[i] as number;
      const spanX = (way.x[i + 1] as number) - wayX;
      const spanY = (way.y[i + 1] as number) - wayY;
      let startX = wayX + spanX * wayStart - stillX;
      let startY = wayY + spanY * wayStart - stillY;
      let endX = wayX + spanX * wayEnd - stillX;
      let endY = wayY + spanY * wayEnd - stillY;
      if (other !== null) {
        const otherStart = (from - otherFrom) / (otherTo - otherFrom);
        const otherEnd = (to - otherFrom) / (otherTo - otherFrom);
        const otherX = (other.x[j] as number) - stillX;
        const otherY = (other.y[j] as number) - stillY;
        const otherSpanX = (other.x[j + 1] as number) - (other.x[j] as number);
        const otherSpanY = (other.y[j + 1] as number) - (other.y[j] as number);
        startX -= otherX + otherSpanX * otherStart;
        startY -= otherY + otherSpanY * otherStart;
        endX -= otherX + otherSpanX * otherEnd;
        endY -= otherY + otherSpanY * otherEnd;
      }
      const dx = endX - startX;
      const dy = endY - startY;
      for (let shape = compiled.kinds.shapeStart[kind] as number; shape < shapeEnd; shape += 1) {
        if (isPlayer) {
          if (sweepDisc(session, startX, startY, dx, dy, radius, shape)) {
            addStretch(from + (to - from) * span.enter, from + (to - from) * span.leave);
          }
          continue;
        }
        const ownEnd = compiled.kinds.shapeStart[ownKind + 1] as number;
        for (let own = compiled.kinds.shapeStart[ownKind] as number; own < ownEnd; own += 1) {
          if (sweepShapes(session, startX, startY, dx, dy, own, shape)) {
            addStretch(from + (to - from) * span.enter, from + (to - from) * span.leave);
          }
        }
      }
      from = to;
    }
    if (wayTo <= to) i += 1;
    if (other !== null && otherTo <= to) j += 1;
  }
}

/** Where a pair is in the sorted list of contacts, or −1 − (where it would be). */
export function findPair(session: Session, toucher: number, placement: number): number {
  const { state } = session;
  let low = 0;
  let high = (state.clock[CLOCK.pairs] as number) - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const order = (state.pairToucher[middle] as number) - toucher || (state.pairPlacement[middle] as number) - placement;
    if (order === 0) return middle;
    if (order < 0) low = middle + 1;
    else high = middle - 1;
  }
  return -1 - low;
}

/** Turns the stretches of a pair into crossings, given whether it touched when the step began. */
function crossPair(session: Session, toucher: number, placement: number, pair: number): void {
  const { state, scratch } = session;
  const { crossings } = scratch;
  const touched = pair >= 0;
  if (stretches === 0) {
    if (touched) addCrossing(crossings, 0, toucher, placement, LEAVE, 0);
    return;
  }
  let inside = 0;
  for (let k = 0; k < stretches; k += 1) inside += (stretchTo[k] as number) - (stretchFrom[k] as number);
  inside *= session.compiled.stepSeconds;
  if (touched) state.pairInside[pair] = inside;

  const goesOn = touched && (stretchFrom[0] as number) <= SAME_MOMENT;
  if (touched && !goesOn) addCrossing(crossings, 0, toucher, placement, LEAVE, inside);
  if (goesOn && state.backStep[placement] === state.clock[CLOCK.step]) {
    addCrossing(crossings, 0, toucher, placement, ARRIVE, inside);
  }
  for (let k = 0; k < stretches; k += 1) {
    if (k > 0 || !goesOn) addCrossing(crossings, stretchFrom[k] as number, toucher, placement, ARRIVE, inside);
    if ((stretchTo[k] as number) < 1 - SAME_MOMENT) {
      addCrossing(crossings, stretchTo[k] as number, toucher, placement, LEAVE, inside);
    }
  }
}

function senseOne(session: Session, toucher: number, placement: number): void {
  session.scratch.sensed[placement] = session.scratch.senseStamp;
  const pair = findPair(session, toucher, placement);
  sweepPair(session, toucher, placement);
  if (stretches > 0 || pair >= 0) crossPair(session, toucher, placement, pair);
}

/** The box around the way of a toucher within this step, its own reach included. */
function boundTrack(session: Session, toucher: number): void {
  const { compiled, scratch } = session;
  const isPlayer = toucher < compiled.playerCount;
  const self = isPlayer ? -1 : (compiled.movers.placement[toucher - compiled.playerCount] as number);
  const reach = isPlayer ? compiled.level.body.radius : (compiled.placements.extent[self] as number);
  const way = scratch.toucherTracks[toucher] as Track;
  let left = way.x[0] as number;
  let right = left;
  let bottom = way.y[0] as number;
  let top = bottom;
  for (let k = 1; k < way.count; k += 1) {
    left = Math.min(left, way.x[k] as number);
    right = Math.max(right, way.x[k] as number);
    bottom = Math.min(bottom, way.y[k] as number);
    top = Math.max(top, way.y[k] as number);
  }
  scratch.bounds[toucher * 4] = left - reach;
  scratch.bounds[toucher * 4 + 1] = bottom - reach;
  scratch.bounds[toucher * 4 + 2] = right + reach;
  scratch.bounds[toucher * 4 + 3] = top + reach;
}

/** Going through a list of things along the path is quicker than asking the grid, as long as the list is no longer. */
const SHORT_LIST = 32;

/** Fills the list of this step's crossings for all players and movers. */
export function sense(session: Session): void {
  const { compiled, state, scratch } = session;
  const { bounds } = scratch;
  scratch.crossings.count = 0;
  state.pairInside.fill(0, 0, state.clock[CLOCK.pairs]);
  const { toucherCount, playerCount, movers, alongPath, placements } = compiled;
  const pairs = state.clock[CLOCK.pairs] as number;
  for (let toucher = 0; toucher < toucherCount; toucher += 1) boundTrack(session, toucher);
  let pair = 0;
  for (let toucher = 0; toucher < toucherCount; toucher += 1) {
    // Contacts are sorted by toucher: these are its own.
    const ownPairs = pair;
    while (pair < pairs && state.pairToucher[pair] === toucher) pair += 1;
    if (toucher < playerCount && state.dead[toucher] === 1) continue;
    scratch.senseStamp += 1;
    const left = bounds[toucher * 4] as number;
    const bottom = bounds[toucher * 4 + 1] as number;
    const right = bounds[toucher * 4 + 2] as number;
    const top = bounds[toucher * 4 + 3] as number;
    const near = toucher < playerCount ? 0 : (alongPath.start[toucher - playerCount] as number);
    const nearEnd = toucher < playerCount ? Infinity : (alongPath.start[toucher - playerCount + 1] as number);
    if (nearEnd - near > SHORT_LIST) {
      const found = compiled.stillGrid.query(left, bottom, right, top);
      for (let k = 0; k < found; k += 1) {
        senseOne(session, toucher, compiled.stillPlacement[compiled.stillGrid.found[k] as number] as number);
      }
    } else {
      for (let k = near; k < nearEnd; k += 1) {
        const placement = alongPath.placement[k] as number;
        const reach = placements.extent[placement] as number;
        const x = placements.x[placement] as number;
        const y = placements.y[placement] as number;
        if (x - reach > right || x + reach < left || y - reach > top || y + reach < bottom) continue;
        senseOne(session, toucher, placement);
      }
    }
    for (let mover = 0; mover < movers.count; mover += 1) {
      const other = playerCount + mover;
      if ((bounds[other * 4] as number) > right || (bounds[other * 4 + 2] as number) < left) continue;
      if ((bounds[other * 4 + 1] as number) > top || (bounds[other * 4 + 3] as number) < bottom || other === toucher) continue;
      senseOne(session, toucher, movers.placement[mover] as number);
    }
    // Contacts with things no longer anywhere near.
    for (let own = ownPairs; own < pair; own += 1) {
      const placement = state.pairPlacement[own] as number;
      if (scratch.sensed[placement] === scratch.senseStamp) continue;
      stretches = 0;
      crossPair(session, toucher, placement, own);
    }
  }
}
