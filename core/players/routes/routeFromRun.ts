import type { Route } from '../../level/index.ts';
import type { Lanes } from '../simulate.ts';

/** A way may lie this far beside where the player was. Units. */
const SLACK = 0.35;
/** Slower than this is standing still. Units a second. */
const STILL = 0.05;
/** Shorter halts are not pauses. Seconds. */
const LEAST_PAUSE = 0.4;
const MOST_WAY_POINTS = 2000;

/** How far a place lies beside the straight way between two others. */
function beside(x: number, y: number, ax: number, ay: number, bx: number, by: number): number {
  const [wayX, wayY] = [bx - ax, by - ay];
  const length = wayX * wayX + wayY * wayY;
  const along = length === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * wayX + (y - ay) * wayY) / length));
  const [dx, dy] = [x - ax - wayX * along, y - ay - wayY * along];
  return Math.sqrt(dx * dx + dy * dy);
}

/** Steps to keep of a way so that it lies nowhere further beside than the slack (Ramer 1972, Douglas and Peucker 1973). */
function cornersOf(x: Float32Array, y: Float32Array, from: number, to: number): number[] {
  const kept: number[] = [];
  const parts: [number, number][] = [[from, to]];
  for (let part = parts.pop(); part !== undefined; part = parts.pop()) {
    const [first, last] = part;
    let [furthest, most] = [-1, SLACK];
    for (let step = first + 1; step < last; step += 1) {
      const off = beside(
        x[step] as number,
        y[step] as number,
        x[first] as number,
        y[first] as number,
        x[last] as number,
        y[last] as number,
      );
      if (off > most) [furthest, most] = [step, off];
    }
    if (furthest < 0) kept.push(last);
    else parts.push([first, furthest], [furthest, last]);
  }
  return kept.sort((a, b) => a - b);
}

/** The way-points of a route that goes where a run went: corners of its way, and pauses where it stood still. Places to two decimals. */
export function routeFromRun({ x, y, speed }: Pick<Lanes, 'x' | 'y' | 'speed'>, rate: number): Route['wayPoints'] {
  const halts: { readonly step: number; readonly pause: number }[] = [];
  let since = -1;
  for (let step = 1; step <= speed.length; step += 1) {
    const still = step < speed.length && (speed[step] as number) < STILL;
    if (still && since < 0) since = step;
    if (still || since < 0) continue;
    const pause = (step - since) / rate;
    if (pause >= LEAST_PAUSE && since > 1) halts.push({ step: since, pause: Number(pause.toFixed(2)) });
    since = -1;
  }
  const ends = [0, ...halts.map(({ step }) => step), x.length - 1];
  const steps = ends.slice(1).flatMap((end, index) => cornersOf(x, y, ends[index] ?? 0, end));
  return [...new Set(steps)].slice(0, MOST_WAY_POINTS).map((step) => ({
    x: Number((x[step] as number).toFixed(2)),
    y: Number((y[step] as number).toFixed(2)),
    pause: halts.find((halt) => halt.step === step)?.pause ?? 0,
    until: null,
  }));
}
