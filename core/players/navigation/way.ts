import { apart, type Box, type Place } from '../../geometry/index.ts';
import { cellAt, isStraight, type Mesh, type Portal } from './mesh.ts';

/** A way: the places at which it turns, the last of which is its end; and its length. Units. */
export interface Way {
  readonly places: readonly Place[];
  readonly length: number;
}

/** A place at which a way turns, the length of the way to it, and the one before. Units. */
interface Trail {
  readonly place: Place;
  /** The number of the place in the mesh; below nought where no side ends there. */
  readonly number: number;
  readonly gone: number;
  readonly before: Trail | null;
}

/**
 * A stretch of a side that is seen from a place: all ways that come straight from there through the stretch. Left and right are as
 * seen from the place. A way may turn where the stretch ends with its side.
 */
interface View {
  /** The places at which the way here turns, back to where it began; the last is where the stretch is seen from. */
  readonly trail: Trail;
  readonly left: Place;
  readonly right: Place;
  readonly turnsLeft: boolean;
  readonly turnsRight: boolean;
  /** The numbers of the places left and right, where the stretch ends with its side. */
  readonly placeLeft: number;
  readonly placeRight: number;
  /** The cell that is entered, and the one come from. */
  readonly cell: number;
  readonly from: number;
  /** No way through it is shorter. Units. */
  readonly least: number;
}

const HAIR = 1e-9;

/** Twice the area of a triangle: above nought where `b` lies to the left of the way from `o` to `a`. */
const turn = (o: Place, a: Place, b: Place): number => (a.x - o.x) * (b.y - o.y) - (a.y - o.y) * (b.x - o.x);

const same = (a: Place, b: Place): boolean => Math.abs(a.x - b.x) <= HAIR && Math.abs(a.y - b.y) <= HAIR;

/** A goal seen in the line of a stretch, where it lies on the same side of it as the root. */
function mirrored(goal: Place, root: Place, left: Place, right: Place): Place {
  const upright = Math.abs(left.x - right.x) <= HAIR;
  const sameSide = upright ? (goal.x - left.x) * (root.x - left.x) > 0 : (goal.y - left.y) * (root.y - left.y) > 0;
  if (!sameSide) return goal;
  return upright ? { x: 2 * left.x - goal.x, y: goal.y } : { x: goal.x, y: 2 * left.y - goal.y };
}

/** The length of the shortest way from a root through a stretch to a goal, as if nothing were in it; and where it turns. */
function through(root: Place, left: Place, right: Place, goal: Place): { length: number; at: Place | null } {
  if (same(root, left) || same(root, right)) return { length: apart(root, goal), at: null };
  const seen = mirrored(goal, root, left, right);
  if (turn(root, left, seen) > HAIR) return { length: apart(root, left) + apart(left, goal), at: left };
  if (turn(root, right, seen) < -HAIR) return { length: apart(root, right) + apart(right, goal), at: right };
  return { length: apart(root, seen), at: null };
}

/** Views not yet followed, the one with the shortest way first: a binary heap. */
class Open {
  private readonly views: View[] = [];

  get size(): number {
    return this.views.length;
  }

  put(view: View): void {
    const { views } = this;
    let at = views.length;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if ((views[parent] as View).least <= view.least) break;
      views[at] = views[parent] as View;
      at = parent;
    }
    views[at] = view;
  }

  take(): View {
    const { views } = this;
    const first = views[0] as View;
    const last = views.pop() as View;
    if (views.length === 0) return first;
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= views.length) break;
      if (child + 1 < views.length && (views[child + 1] as View).least < (views[child] as View).least) child += 1;
      if ((views[child] as View).least >= last.least) break;
      views[at] = views[child] as View;
      at = child;
    }
    views[at] = last;
    return first;
  }
}

const along = ({ fromX, fromY, toX, toY }: Portal, share: number): Place => ({
  x: fromX + (toX - fromX) * share,
  y: fromY + (toY - fromY) * share,
});

const turnedAt = (trail: Trail, place: Place, number: number): Trail => ({
  place,
  number,
  gone: trail.gone + apart(trail.place, place),
  before: trail,
});

/** What a search has come to: how long the way to each place is, and what has been seen from it by ways as short. */
interface Known {
  readonly shortest: Map<number, number>;
  /** By place and side: from which share to which, by a way so long. */
  readonly seen: Map<number, number[]>;
}

const createKnown = (): Known => ({ shortest: new Map(), seen: new Map() });

/** More sides than any mesh has. */
const MOST_SIDES = 0x1000000;

/** Whether a part of a side, as shares of it, has not been seen by a way as short; notes that it has been now. */
function isNew({ shortest, seen }: Known, { number, gone }: Trail, side: number, begin: number, end: number): boolean {
  if (number < -1) return true;
  const best = shortest.get(number) ?? Infinity;
  if (gone > best + HAIR) return false;
  if (gone < best) shortest.set(number, gone);
  const key = number * MOST_SIDES + side;
  const spans = seen.get(key);
  if (spans === undefined) {
    seen.set(key, [begin, end, gone]);
    return true;
  }
  for (let at = 0; at < spans.length; at += 3) {
    const covered = (spans[at] as number) <= begin + HAIR && (spans[at + 1] as number) >= end - HAIR;
    if (covered && (spans[at + 2] as number) <= gone + HAIR) return false;
  }
  spans.push(begin, end, gone);
  return true;
}

/** What is searched for: the place to come to, and the zones to keep out of, those it begins in excepted; and what is known so far. */
interface Search {
  readonly goal: Place;
  readonly closed: ReadonlySet<number>;
  readonly known: Known;
}

/** A search that begins in a cell: out of the zones of that nobody can keep. */
function searchFor({ cells }: Mesh, first: number, goal: Place, avoided: ReadonlySet<number>): Search {
  const begun = cells[first]?.zones ?? [];
  const leaves = begun.some((zone) => avoided.has(zone));
  const closed = leaves ? new Set([...avoided].filter((zone) => !begun.includes(zone))) : avoided;
  return { goal, closed, known: createKnown() };
}

/** Whether a cell lies in a zone to keep out of. */
function isClosed({ cells }: Mesh, { closed }: Search, cell: number): boolean {
  if (closed.size === 0) return false;
  for (const zone of cells[cell]?.zones ?? []) if (closed.has(zone)) return true;
  return false;
}

/** Whether a way may turn at corners of some things: one of them has to be kept out of. */
function isCorner({ closed }: Search, corners: readonly number[]): boolean {
  for (const zone of corners) if (zone < 0 || closed.has(zone)) return true;
  return false;
}

/** The view of a part of a side, as shares of it, null when there is nothing of it to see that has not been seen by a way as short. One that is seen edge-on is come to by its nearer end. */
function viewOf(search: Search, portal: Portal, from: number, to: number, trail: Trail, cell: number): View | null {
  if (to - from <= HAIR) return null;
  const { place } = trail;
  const a = along(portal, from);
  const b = along(portal, to);
  const side = turn(place, a, b);
  if (Math.abs(side) <= HAIR && !same(place, a) && !same(place, b)) {
    const between = (a.x - place.x) * (b.x - place.x) + (a.y - place.y) * (b.y - place.y) < 0;
    const nearA = apart(place, a) < apart(place, b);
    const number = nearA ? (from <= HAIR ? portal.placeFrom : -2) : to >= 1 - HAIR ? portal.placeTo : -2;
    if (!between) return viewOf(search, portal, from, to, turnedAt(trail, nearA ? a : b, number), cell);
  }
  if (!isNew(search.known, trail, portal.id, from, to)) return null;
  const left = side > 0 ? b : a;
  const right = side > 0 ? a : b;
  const turnsAtA = from <= HAIR && isCorner(search, portal.cornersFrom);
  const turnsAtB = to >= 1 - HAIR && isCorner(search, portal.cornersTo);
  return {
    trail,
    left,
    right,
    turnsLeft: side > 0 ? turnsAtB : turnsAtA,
    turnsRight: side > 0 ? turnsAtA : turnsAtB,
    placeLeft: side > 0 ? portal.placeTo : portal.placeFrom,
    placeRight: side > 0 ? portal.placeFrom : portal.placeTo,
    cell: portal.to,
    from: cell,
    least: trail.gone + through(place, left, right, search.goal).length,
  };
}

/** Where on a side a value that is even along it begins to be at least nought, given it at both ends. A share of the side. */
function beginsAbove(atStart: number, atEnd: number): number {
  if ((atStart >= -HAIR && atEnd >= -HAIR) || atStart >= 0 || atEnd < 0) return 0;
  return atStart / (atStart - atEnd);
}

/** Where it ceases to be; where it begins, when it never is. */
function endsAbove(atStart: number, atEnd: number): number {
  if (atStart >= -HAIR && atEnd >= -HAIR) return 1;
  if (atStart < 0) return atEnd < 0 ? 0 : 1;
  return atStart / (atStart - atEnd);
}

/** What is seen, from the root of a view or from where it turns, of the sides of the cell it enters. */
function follow(mesh: Mesh, search: Search, view: View, put: (view: View | null) => void): void {
  const { trail, left, right, cell } = view;
  const root = trail.place;
  const byLeft = view.turnsLeft ? turnedAt(trail, left, view.placeLeft) : null;
  const byRight = view.turnsRight ? turnedAt(trail, right, view.placeRight) : null;
  // Whoever stands on the stretch sees all of the cell.
  const on = same(root, left) || same(root, right) || Math.abs(turn(root, left, right)) <= HAIR;
  for (const portal of mesh.portals[cell] as readonly Portal[]) {
    if (portal.to === view.from || isClosed(mesh, search, portal.to)) continue;
    if (on) {
      put(viewOf(search, portal, 0, 1, trail, cell));
      continue;
    }
    const a = along(portal, 0);
    const b = along(portal, 1);
    const leftA = -turn(root, left, a);
    const leftB = -turn(root, left, b);
    const rightA = turn(root, right, a);
    const rightB = turn(root, right, b);
    const leftFrom = beginsAbove(leftA, leftB);
    const leftTo = endsAbove(leftA, leftB);
    const rightFrom = beginsAbove(rightA, rightB);
    const rightTo = endsAbove(rightA, rightB);
    put(viewOf(search, portal, Math.max(leftFrom, rightFrom), Math.min(leftTo, rightTo), trail, cell));
    if (byLeft !== null) {
      put(viewOf(search, portal, 0, leftFrom, byLeft, cell));
      put(viewOf(search, portal, leftTo, 1, byLeft, cell));
    }
    if (byRight !== null) {
      put(viewOf(search, portal, 0, rightFrom, byRight, cell));
      put(viewOf(search, portal, rightTo, 1, byRight, cell));
    }
  }
}

/** The places at which a way turns, from the first after its begin. */
function placesOf({ place, before }: Trail): Place[] {
  return before === null ? [] : [...placesOf(before), place];
}

/** How many views are followed before a search is given up. */
const MOST_VIEWS = 50000;

/**
 * The shortest way from one place to another at any angle, keeping out of some zones, the ones it begins in excepted; null when
 * there is none. Searched by stretches of the sides of cells that are seen from one place, after Cui, Harabor and Grastien,
 * “Compromise-free Pathfinding on a Navigation Mesh” (2017): the first that comes to the end is the shortest.
 */
export function findWay(mesh: Mesh, from: Place, to: Place, avoided: ReadonlySet<number> = new Set()): Way | null {
  const first = cellAt(mesh, from.x, from.y);
  const last = cellAt(mesh, to.x, to.y);
  if (first < 0) return null;
  const search = searchFor(mesh, first, to, avoided);
  if (isClosed(mesh, search, last) || mesh.island[first] !== mesh.island[last]) return null;
  if (first === last || isStraight(mesh, from, to, avoided)) return { places: [to], length: apart(from, to) };
  const back = backInto(mesh.cells[first] as Box, from);
  if (back === null) return wayFrom(mesh, search, from, first, last);
  const on = wayFrom(mesh, search, back, first, last);
  return on === null ? null : { places: [back, ...on.places], length: apart(from, back) + on.length };
}

/** So far inside of its cell one sees all its sides. Units. */
const INSIDE = 0.01;

/** Where one steps back to who is pushed into the edge of what stands, and so does not see past it; null for who is inside of the cell. */
function backInto({ left, right, bottom, top }: Box, { x, y }: Place): Place | null {
  if (x > left && x < right && y > bottom && y < top) return null;
  const [aside, above] = [Math.min(INSIDE, (right - left) / 2), Math.min(INSIDE, (top - bottom) / 2)];
  return {
    x: Math.max(left + aside, Math.min(right - aside, x)),
    y: Math.max(bottom + above, Math.min(top - above, y)),
  };
}

/** The shortest way out of one cell to the end of a search, in another. */
function wayFrom(mesh: Mesh, search: Search, from: Place, first: number, last: number): Way | null {
  const to = search.goal;
  const open = new Open();
  const put = (view: View | null): void => {
    if (view !== null) open.put(view);
  };
  const begin: Trail = { place: from, number: -1, gone: 0, before: null };
  for (const portal of mesh.portals[first] as readonly Portal[]) {
    if (isClosed(mesh, search, portal.to)) continue;
    put(viewOf(search, portal, 0, 1, begin, first));
  }
  for (let followed = 0; open.size > 0 && followed < MOST_VIEWS; followed += 1) {
    const view = open.take();
    const { place, number, gone } = view.trail;
    if (gone > (search.known.shortest.get(number) ?? Infinity) + HAIR) continue;
    if (view.cell === last) {
      const { at } = through(place, view.left, view.right, to);
      return { places: [...placesOf(view.trail), ...(at === null ? [] : [at]), to], length: view.least };
    }
    follow(mesh, search, view, put);
  }
  return null;
}

/** Which cells there is a way to from a place, keeping out of some zones, the ones it begins in excepted: 1 for each that there is. */
export function cellsFrom(mesh: Mesh, from: Place, avoided: ReadonlySet<number>): Uint8Array {
  const come = new Uint8Array(mesh.cells.length);
  const first = cellAt(mesh, from.x, from.y);
  if (first < 0) return come;
  const search = searchFor(mesh, first, from, avoided);
  const open = [first];
  come[first] = 1;
  for (let cell = open.pop(); cell !== undefined; cell = open.pop()) {
    for (const { to } of mesh.portals[cell] ?? []) {
      if (come[to] === 1 || isClosed(mesh, search, to)) continue;
      come[to] = 1;
      open.push(to);
    }
  }
  return come;
}
