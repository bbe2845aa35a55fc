import type { Box, Place } from '../../geometry/index.ts';
import { cellAt, cellsFrom } from '../navigation/index.ts';
import { closedZones, knownHarms, SURE_DEATH } from './risk.ts';
import { isSeen, markSeen } from './seeing.ts';
import { harmAt, hereOf, type Thinker } from './thinker.ts';
import { islandOf, lengthToArea, wayTo, type Choice } from './ways.ts';
import type { World, Zone } from './world.ts';

/** Squares not yet seen: their numbers, how far each is at least, and the same while the nearest is looked for; Infinity: left out. Units. */
const unseen = { count: 0, area: new Int32Array(0), least: new Float64Array(0), left: new Float64Array(0) };

/** The nearest square it has not seen, no further than so far; null when there is none. Units. */
export function chooseUnseen(thinker: Thinker, most: number): Choice | null {
  const { world, mind } = thinker;
  const { areas } = world;
  gatherUnseen(world, mind.areas, hereOf(thinker));
  const deadly = knownHarms(thinker)
    .map((zone) => world.zones[zone] as Zone)
    .filter(({ placement }) => (harmAt(thinker, placement)?.kills ?? 0) > 0);
  let isBarred = false;
  for (;;) {
    const nth = nearestOf(thinker, most, deadly);
    if (nth < 0) return null;
    const area = unseen.area[nth] as number;
    const [x, y] = [areas.x[area] as number, areas.y[area] as number];
    const way = wayTo(thinker, { x, y }, -1, LOOKED_AT);
    if (way === null && isBarred) return null;
    if (way === null) {
      // It lies behind what is closed now: so may others.
      leaveOutClosed(thinker);
      isBarred = true;
      continue;
    }
    if (way.risk < SURE_DEATH) {
      return { errand: { purpose: 'explore', placement: -1, rule: -1, x, y, within: areas.side, stays: false, worth: most }, way };
    }
    markSeen(mind.areas, area);
    unseen.least[nth] = Infinity;
  }
}

/** Leaves out what cannot be come to with what is closed now; seen from the side their lengths tell that. */
function leaveOutClosed(thinker: Thinker): void {
  const { areas, mesh, terrain } = thinker.world;
  if (terrain !== null) return;
  const come = cellsFrom(mesh, hereOf(thinker), closedZones(thinker));
  for (let nth = 0; nth < unseen.count; nth += 1) {
    const area = unseen.area[nth] as number;
    if (come[cellAt(mesh, areas.x[area] as number, areas.y[area] as number)] !== 1) unseen.least[nth] = Infinity;
  }
}

const isWithin = ({ left, right, bottom, top }: Box, x: number, y: number): boolean => x > left && x < right && y > bottom && y < top;

/** Which of the squares is the nearest to come to, no further than so far; −1: none. Nobody goes to see what lies where one dies. Units. */
function nearestOf(thinker: Thinker, most: number, deadly: readonly Zone[]): number {
  const { areas } = thinker.world;
  const { count, area, least, left } = unseen;
  for (let nth = 0; nth < count; nth += 1) left[nth] = least[nth] as number;
  let best = -1;
  let bestLength = Infinity;
  for (let [looked, tried] = [0, 0]; looked < MOST_LOOKED_AT && tried < MOST_TRIED;) {
    let nearest = -1;
    let nearestLeast = Infinity;
    for (let nth = 0; nth < count; nth += 1) {
      const one = left[nth] as number;
      if (one >= nearestLeast) continue;
      nearest = nth;
      nearestLeast = one;
    }
    if (nearest < 0 || nearestLeast > Math.min(most, bestLength)) break;
    left[nearest] = Infinity;
    const square = area[nearest] as number;
    const [x, y] = [areas.x[square] as number, areas.y[square] as number];
    if (deadly.some(({ box }) => isWithin(box, x, y))) {
      least[nearest] = Infinity;
      continue;
    }
    tried += 1;
    const length = lengthToArea(thinker, square, LOOKED_AT);
    if (length === Infinity) continue;
    looked += 1;
    if (length > most || length >= bestLength) continue;
    best = nearest;
    bestLength = length;
  }
  return best;
}

/** From so near a square is seen in any case. Units. */
const LOOKED_AT = 1;

/** How many squares are looked at to find the nearest; and how many at most where some cannot be come to. */
const MOST_LOOKED_AT = 12;
const MOST_TRIED = 120;

/** Finds all squares not yet seen that can be come to. */
function gatherUnseen(world: World, seen: Uint32Array, here: Place): void {
  const { areas } = world;
  const island = islandOf(world, here);
  const room = areas.x.length;
  if (unseen.area.length < room) {
    unseen.area = new Int32Array(room);
    unseen.least = new Float64Array(room);
    unseen.left = new Float64Array(room);
  }
  let count = 0;
  for (let area = 0; area < room; area += 1) {
    if (isSeen(seen, area) || areas.island[area] !== island) continue;
    const x = areas.x[area] as number;
    if (Number.isNaN(x)) continue;
    const dx = x - here.x;
    const dy = (areas.y[area] as number) - here.y;
    unseen.area[count] = area;
    unseen.least[count] = Math.sqrt(dx * dx + dy * dy);
    count += 1;
  }
  unseen.count = count;
}
