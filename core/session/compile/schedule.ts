import { Motion, region, sweepShapes, type Grid, type ShapeTable, Span } from '../../geometry/index.ts';
import type { Movers } from './kinematics.ts';

/**
 * When, within its round, a mover comes in or out of the things that stay where they are. Between these windows nothing
 * changes between the two, so a step need not look. A window names a thing and the seconds of the round around a crossing.
 */
export interface Schedule {
  /** Windows of mover m: from `start[m]` to `start[m + 1]`, sorted by `from`. */
  readonly start: Int32Array;
  readonly from: Float64Array;
  readonly to: Float64Array;
  readonly placement: Int32Array;
  /** When the last window of each mover closes. */
  readonly lastTo: Float64Array;
  /** Everything that stays and lies along the path: from `nearStart[m]` to `nearStart[m + 1]`. */
  readonly nearStart: Int32Array;
  readonly near: Int32Array;
}

/** Windows are cut to this length, so that looking back this far finds all that are open. Seconds. */
export const LONGEST_WINDOW = 0.25;
/** Contact is looked for this much wider and narrower than it counts, so that rounding cannot hide a crossing. Units. */
const HAIR = 1e-6;

interface Window {
  from: number;
  to: number;
  placement: number;
}

const motion = new Motion();
const outer = new Span();
const inner = new Span();

/** What the schedule needs to know of a placement that stays. */
export interface Still {
  readonly placement: number;
  readonly x: number;
  readonly y: number;
  readonly shapes: readonly number[];
  readonly grow: number;
}

function addWindow(windows: Window[], from: number, to: number, placement: number): void {
  for (let at = from; ; at += LONGEST_WINDOW) {
    windows.push({ from: at, to: Math.min(to, at + LONGEST_WINDOW), placement });
    if (at + LONGEST_WINDOW >= to) return;
  }
}

/** `stills` are numbered as the items of `grid`; `reach` and `shapes` are of the movers. */
export function compileSchedule(
  movers: Movers,
  reach: readonly number[],
  shapes: readonly (readonly number[])[],
  table: ShapeTable,
  grid: Grid,
  stills: readonly Still[],
): Schedule {
  const { x, y, velocityX, velocityY, begin } = movers.legs;
  const start = new Int32Array(movers.count + 1);
  const nearStart = new Int32Array(movers.count + 1);
  const lastTo = new Float64Array(movers.count);
  const windows: Window[] = [];
  const near: number[] = [];
  for (let mover = 0; mover < movers.count; mover += 1) {
    const own: Window[] = [];
    const along = new Set<number>();
    const end = movers.legStart[mover + 1] as number;
    const round = movers.round[mover] as number;
    for (let leg = movers.legStart[mover] as number; leg < end; leg += 1) {
      const since = begin[leg] as number;
      const seconds = (leg + 1 < end ? (begin[leg + 1] as number) : round) - since;
      const fromX = x[leg] as number;
      const fromY = y[leg] as number;
      const dx = (velocityX[leg] as number) * seconds;
      const dy = (velocityY[leg] as number) * seconds;
      const around = (reach[mover] as number) + 2 * HAIR;
      region.left = Math.min(fromX, fromX + dx) - around;
      region.bottom = Math.min(fromY, fromY + dy) - around;
      region.right = Math.max(fromX, fromX + dx) + around;
      region.top = Math.max(fromY, fromY + dy) + around;
      const found = grid.query(region);
      for (let k = 0; k < found; k += 1) {
        const still = stills[grid.found[k] as number] as Still;
        along.add(still.placement);
        for (const shape of still.shapes) {
          for (const moving of shapes[mover] ?? []) {
            const [px, py] = [fromX - still.x, fromY - still.y];
            Object.assign(motion, { x: px, y: py, dx, dy, grow: still.grow + HAIR });
            if (!sweepShapes(table, moving, shape, motion, outer)) continue;
            motion.grow = still.grow - HAIR;
            const deep = sweepShapes(table, moving, shape, motion, inner);
            const enter = deep ? inner.enter : outer.leave;
            addWindow(own, since + seconds * outer.enter, since + seconds * enter, still.placement);
            if (deep) addWindow(own, since + seconds * inner.leave, since + seconds * outer.leave, still.placement);
          }
        }
      }
    }
    own.sort((a, b) => a.from - b.from || a.placement - b.placement);
    for (const window of own) {
      windows.push(window);
      lastTo[mover] = Math.max(lastTo[mover] as number, window.to);
    }
    start[mover + 1] = windows.length;
    near.push(...[...along].sort((a, b) => a - b));
    nearStart[mover + 1] = near.length;
  }
  return {
    start,
    lastTo,
    nearStart,
    near: Int32Array.from(near),
    from: Float64Array.from(windows, ({ from }) => from),
    to: Float64Array.from(windows, ({ to }) => to),
    placement: Int32Array.from(windows, ({ placement }) => placement),
  };
}

/** Which travellers each toucher may ever meet: from `start[toucher]` to `start[toucher + 1]`. */
export interface Meetings {
  readonly start: Int32Array;
  readonly other: Int32Array;
  /** Left, bottom, right, top of all that each traveller ever covers; without bounds for one that follows no path. */
  readonly range: Float64Array;
}

/** Left, bottom, right, top of all places a mover ever reaches. */
function pathBounds(movers: Movers, mover: number, reach: number): [number, number, number, number] {
  const from = movers.legStart[mover] as number;
  const to = movers.legStart[mover + 1] as number;
  const xs = movers.legs.x.subarray(from, to);
  const ys = movers.legs.y.subarray(from, to);
  const around = reach + HAIR;
  return [Math.min(...xs) - around, Math.min(...ys) - around, Math.max(...xs) + around, Math.max(...ys) + around];
}

/**
 * Players may meet all that travels; two movers along paths only where their paths come near. `path` and `reach` are of
 * each traveller; what follows no path may come anywhere.
 */
export function compileMeetings(movers: Movers, playerCount: number, path: readonly number[], reach: readonly number[]): Meetings {
  const bounds = path.map((mover, traveller) => (mover < 0 ? null : pathBounds(movers, mover, reach[traveller] ?? 0)));
  const start = new Int32Array(playerCount + path.length + 1);
  const other: number[] = [];
  for (let toucher = 0; toucher < playerCount + path.length; toucher += 1) {
    const own = bounds[toucher - playerCount] ?? null;
    path.forEach((_, index) => {
      if (index + playerCount === toucher) return;
      const its = bounds[index] ?? null;
      const apart = own !== null && its !== null && (own[0] > its[2] || its[0] > own[2] || own[1] > its[3] || its[1] > own[3]);
      if (!apart) other.push(index);
    });
    start[toucher + 1] = other.length;
  }
  const range = Float64Array.from(bounds.flatMap((own) => own ?? [-Infinity, -Infinity, Infinity, Infinity]));
  return { start, other: Int32Array.from(other), range };
}
