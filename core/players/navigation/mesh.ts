import { boxesOf, clipWay, isClear, Region, Span, type Box, type Boxes, type Place } from '../../geometry/index.ts';

/** A side that two cells of a mesh share: an upright or level stretch. */
export interface Portal {
  /** Its number among all portals, and those of the places where it begins and ends. */
  readonly id: number;
  readonly placeFrom: number;
  readonly placeTo: number;
  /** The cell on the other side. */
  readonly to: number;
  readonly fromX: number;
  readonly fromY: number;
  readonly toX: number;
  readonly toY: number;
  /** Of what a corner lies where it begins, and where it ends: zones by number, −1 for something solid. Only there a way may turn. */
  readonly cornersFrom: readonly number[];
  readonly cornersTo: readonly number[];
}

/** Where the middle of a body may be, seen from above: boxes that do not overlap, and the sides by which they meet. */
export interface Mesh {
  readonly cells: readonly Cell[];
  readonly portals: readonly (readonly Portal[])[];
  /** The cells as boxes, and what is solid, each with a grid; and the zones. */
  readonly free: Boxes;
  readonly solid: Boxes;
  readonly zones: readonly Box[];
  /** Of each cell, a number that all cells share between which there is a way. */
  readonly island: Int32Array;
}

interface Cell extends Box {
  /** Numbers of the zones that cover it, in order. */
  readonly zones: readonly number[];
}

/** Lengths below this are none. Units. */
const HAIR = 1e-9;

interface Draft {
  left: number;
  bottom: number;
  right: number;
  top: number;
  zones: readonly number[];
  index: number;
  /** The cell to its right in the slab last cut. */
  beside: Beside | null;
}

/** A box that lies in the area, and what it is: a zone, or −1 for something solid. */
interface Obstacle extends Box {
  readonly zone: number;
}

/** One edge of a box across a slab: what begins or ends there. */
interface Edge {
  readonly x: number;
  readonly begins: boolean;
  readonly box: Obstacle;
}

const sameNumbers = (a: readonly number[], b: readonly number[]): boolean => a.length === b.length && a.every((one, at) => one === b[at]);

/** Puts an edge into a list that is sorted by place. */
function putEdge(edges: Edge[], edge: Edge): void {
  let at = edges.length;
  while (at > 0 && (edges[at - 1] as Edge).x > edge.x) at -= 1;
  edges.splice(at, 0, edge);
}

/** Notes that one more, or one less, of a sort is inside: the list is sorted, each as often as it is. */
function countInside(inside: number[], zone: number, begins: boolean): void {
  let at = inside.length;
  while (at > 0 && (inside[at - 1] as number) > zone) at -= 1;
  if (begins) inside.splice(at, 0, zone);
  else inside.splice(at - 1, 1);
}

/** A stretch of a slab that is free. */
type Free = Pick<Draft, 'left' | 'right' | 'zones'>;

/** What of a slab is free between two places, from left to right, cut where zones begin and end. */
function cutSlab(edges: readonly Edge[], begin: number, end: number): Free[] {
  const inside: number[] = [];
  const free: { left: number; right: number; zones: readonly number[] }[] = [];
  let from = begin;
  const goTo = (x: number): void => {
    if (x - from <= HAIR) return;
    if (inside[0] !== -1) {
      const zones = inside.filter((zone, at) => zone !== inside[at - 1]);
      const last = free.at(-1);
      if (last !== undefined && from - last.right <= HAIR && sameNumbers(last.zones, zones)) last.right = x;
      else free.push({ left: from, right: x, zones });
    }
    from = x;
  };
  for (const { x, begins, box } of edges) {
    goTo(Math.min(x, end));
    if (x >= end) break;
    countInside(inside, box.zone, begins);
  }
  goTo(end);
  return free;
}

const NO_CORNERS: readonly number[] = [];

/** A portal that is being made: it may grow upwards, and its corners are found at the end. */
type Stretch = { -readonly [Key in keyof Portal]: Portal[Key] };

/** The portals of two cells, one beside the other, by which they meet so far. */
interface Beside {
  readonly cell: Draft;
  readonly stretches: readonly Stretch[];
}

/** Sides that lie so near each other are one: sums of the same lengths differ in their last bits. Units. */
const SAME = 1e-7;

/** For each of some numbers, the least of those that lie next to each other with no gap. */
function merged(values: readonly number[]): Map<number, number> {
  const least = new Map<number, number>();
  let [last, first] = [-Infinity, -Infinity];
  for (const value of [...values].sort((a, b) => a - b)) {
    if (value - last > SAME) first = value;
    least.set(value, first);
    last = value;
  }
  return least;
}

/** Boxes whose sides that lie in one line lie there to the last bit, also with the sides of an area. */
function snapped(boxes: readonly Obstacle[], area: Box): Obstacle[] {
  const x = merged([area.left, area.right, ...boxes.flatMap(({ left, right }) => [left, right])]);
  const y = merged([area.bottom, area.top, ...boxes.flatMap(({ bottom, top }) => [bottom, top])]);
  const at = (axis: ReadonlyMap<number, number>, value: number): number => axis.get(value) ?? value;
  return boxes.map(({ left, bottom, right, top, zone }) => ({
    left: at(x, left),
    bottom: at(y, bottom),
    right: at(x, right),
    top: at(y, top),
    zone,
  }));
}

/** Adds a portal between two cells to both. */
function join(portals: Stretch[][], a: number, b: number, fromX: number, fromY: number, toX: number, toY: number): Stretch[] {
  const ends = { id: -1, placeFrom: -1, placeTo: -1, fromX, fromY, toX, toY, cornersFrom: NO_CORNERS, cornersTo: NO_CORNERS };
  const stretches: Stretch[] = [
    { to: b, ...ends },
    { to: a, ...ends },
  ];
  portals[a]?.push(stretches[0] as Stretch);
  portals[b]?.push(stretches[1] as Stretch);
  return stretches;
}

/** Cells as they are cut, from below upwards: those that go on, and the edges of all boxes across them. */
interface Cutting {
  readonly area: Box;
  readonly cells: Draft[];
  readonly portals: Stretch[][];
  edges: Edge[];
  row: Draft[];
}

/** Ends the portal to the cell beside at a height. */
function endBeside(cell: Draft, y: number): void {
  for (const stretch of cell.beside?.stretches ?? []) stretch.toY = y;
  cell.beside = null;
}

/** Cuts the row anew at a height, where boxes begin or end between two places: what is as it was goes on. */
function cutRow(cutting: Cutting, y: number, low: number, high: number): void {
  const { area, cells, portals, edges, row } = cutting;
  let first = row.findIndex(({ right }) => right >= low - HAIR);
  if (first < 0) first = row.length;
  let end = first;
  while (end < row.length && (row[end] as Draft).left <= high + HAIR) end += 1;
  const old = row.slice(first, end);
  const made = cutSlab(edges, row[first - 1]?.right ?? area.left, row[end]?.left ?? area.right).map(({ left, right, zones }): Draft => {
    const same = old.find((cell) => cell.left === left && cell.right === right && sameNumbers(cell.zones, zones));
    if (same !== undefined) return same;
    portals.push([]);
    const draft = { left, bottom: y, right, top: area.top, zones, index: cells.length, beside: null };
    cells.push(draft);
    return draft;
  });
  row.splice(first, old.length, ...made);
  for (const cell of old) {
    if (made.includes(cell)) continue;
    cell.top = y;
    endBeside(cell, y);
    for (const over of made) {
      const [fromX, toX] = [Math.max(cell.left, over.left), Math.min(cell.right, over.right)];
      if (toX - fromX > HAIR && !old.includes(over)) join(portals, cell.index, over.index, fromX, y, toX, y);
    }
  }
  for (let at = Math.max(0, first - 1); at < first + made.length && at < row.length; at += 1) {
    const cell = row[at] as Draft;
    const next = row[at + 1];
    const meets = next !== undefined && next.left - cell.right <= HAIR;
    if (cell.beside !== null && meets && cell.beside.cell === next) continue;
    endBeside(cell, y);
    if (meets) cell.beside = { cell: next, stretches: join(portals, cell.index, next.index, cell.right, y, cell.right, area.top) };
  }
}

/**
 * Cuts an area into boxes that are free of all solid ones, along the level edges of solid boxes and of zones: within one box all
 * is in the same zones. Boxes are as they count for the middle of a body: grown by its size already.
 */
export function createMesh(area: Box, solid: readonly Box[], zones: readonly Box[]): Mesh {
  const within = (box: Box): boolean => box.right > area.left && box.left < area.right && box.top > area.bottom && box.bottom < area.top;
  const boxes = [...solid.map((box): Obstacle => ({ ...box, zone: -1 })), ...zones.map((box, zone): Obstacle => ({ ...box, zone }))];
  const all = snapped(boxes.filter(within), area);
  const begins = [...all].sort((a, b) => a.bottom - b.bottom);
  const ends = [...all].sort((a, b) => a.top - b.top);
  const cutting: Cutting = { area, cells: [], portals: [], edges: [], row: [] };
  let begun = 0;
  let ended = 0;
  let [low, high] = [area.left, area.right];
  for (let y = area.bottom; y < area.top - HAIR;) {
    const change = (box: Obstacle): void => {
      low = Math.min(low, Math.max(box.left, area.left));
      high = Math.max(high, Math.min(box.right, area.right));
    };
    const over = new Set<Obstacle>();
    for (; ended < ends.length && (ends[ended] as Obstacle).top <= y + HAIR; ended += 1) {
      over.add(ends[ended] as Obstacle);
      change(ends[ended] as Obstacle);
    }
    if (over.size > 0) cutting.edges = cutting.edges.filter(({ box }) => !over.has(box));
    for (; begun < begins.length && (begins[begun] as Obstacle).bottom <= y + HAIR; begun += 1) {
      const box = begins[begun] as Obstacle;
      if (box.top <= y + HAIR) continue;
      putEdge(cutting.edges, { x: box.left, begins: true, box });
      putEdge(cutting.edges, { x: box.right, begins: false, box });
      change(box);
    }
    cutRow(cutting, y, low, high);
    [low, high] = [Infinity, -Infinity];
    y = Math.min(area.top, begins[begun]?.bottom ?? area.top, ends[ended]?.top ?? area.top);
  }
  const corners = cornersOf(all);
  const at = (x: number, y: number): readonly number[] => corners.get(x)?.get(y) ?? NO_CORNERS;
  const placeAt = numberPlaces();
  let id = 0;
  for (const own of cutting.portals) {
    for (const portal of own) {
      portal.id = id++;
      portal.placeFrom = placeAt(portal.fromX, portal.fromY);
      portal.placeTo = placeAt(portal.toX, portal.toY);
      portal.cornersFrom = at(portal.fromX, portal.fromY);
      portal.cornersTo = at(portal.toX, portal.toY);
    }
  }
  const { cells, portals } = cutting;
  return { cells, portals, free: boxesOf(cells), solid: boxesOf(solid), zones, island: islandsOf(portals) };
}

/** Numbers the cells by what can be come to from each other. */
function islandsOf(portals: readonly (readonly Portal[])[]): Int32Array {
  const island = new Int32Array(portals.length).fill(-1);
  for (let first = 0, number = 0; first < portals.length; first += 1) {
    if (island[first] !== -1) continue;
    const open = [first];
    island[first] = number;
    for (let cell = open.pop(); cell !== undefined; cell = open.pop()) {
      for (const { to } of portals[cell] ?? []) {
        if (island[to] !== -1) continue;
        island[to] = number;
        open.push(to);
      }
    }
    number += 1;
  }
  return island;
}

/** Numbers places as they are asked for: the same place, the same number. */
function numberPlaces(): (x: number, y: number) => number {
  const numbers = new Map<number, Map<number, number>>();
  let count = 0;
  return (x, y) => {
    const column = numbers.get(x) ?? new Map<number, number>();
    numbers.set(x, column);
    const number = column.get(y) ?? count++;
    column.set(y, number);
    return number;
  };
}

/** Of which boxes corners lie where: by their x, then their y. */
function cornersOf(boxes: readonly Obstacle[]): Map<number, Map<number, number[]>> {
  const corners = new Map<number, Map<number, number[]>>();
  for (const { left, bottom, right, top, zone } of boxes) {
    for (const x of [left, right]) {
      const column = corners.get(x) ?? new Map<number, number[]>();
      corners.set(x, column);
      for (const y of [bottom, top]) column.set(y, [...(column.get(y) ?? []), zone]);
    }
  }
  return corners;
}

/** How far a place lies outside of a box. Units. */
function outside({ left, bottom, right, top }: Box, x: number, y: number): number {
  const awayX = Math.max(left - x, 0, x - right);
  const awayY = Math.max(bottom - y, 0, y - top);
  return Math.sqrt(awayX * awayX + awayY * awayY);
}

const here = new Region();
const span = new Span();

/** Whether the straight way between two places of a mesh is free: of what is solid, and of some zones. */
export function isStraight({ solid, zones }: Mesh, from: Place, to: Place, avoided: Iterable<number>): boolean {
  if (!isClear(solid, from.x, from.y, to.x, to.y)) return false;
  for (const zone of avoided) if (clipWay(zones[zone] as Box, from.x, from.y, to.x, to.y, span)) return false;
  return true;
}

/** The cell a place is in, the first of several that meet there; −1 when it is in none. */
export function cellHolding({ cells, free: { grid } }: Mesh, x: number, y: number): number {
  here.left = x;
  here.right = x;
  here.bottom = y;
  here.top = y;
  const count = grid.query(here);
  let first = -1;
  for (let k = 0; k < count; k += 1) {
    const index = grid.found[k] as number;
    if ((first < 0 || index < first) && outside(cells[index] as Cell, x, y) <= 0) first = index;
  }
  return first;
}

/** The cell a place is in, or the nearest to it; −1 in a mesh without cells. */
export function cellAt(mesh: Mesh, x: number, y: number): number {
  const { cells } = mesh;
  let nearest = cellHolding(mesh, x, y);
  let least = nearest >= 0 ? 0 : Infinity;
  for (let index = 0; index < cells.length && least > 0; index += 1) {
    const distance = outside(cells[index] as Cell, x, y);
    if (distance >= least) continue;
    nearest = index;
    least = distance;
  }
  return nearest;
}
