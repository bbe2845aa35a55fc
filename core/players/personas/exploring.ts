import { apart, type Place } from '../../geometry/index.ts';
import { cellAt, cellsFrom } from '../navigation/index.ts';
import { closedZones, knownHarms, SURE_DEATH } from './risk.ts';
import { isSeen, markSeen } from './seeing.ts';
import { harmAt, hereOf, type Thinker } from './thinker.ts';
import { islandOf, lengthToArea, wayTo, type Choice } from './ways.ts';
import type { World, Zone } from './world.ts';

/** The nearest square it has not seen, no further than so far; null when there is none. Units. */
export function chooseUnseen(thinker: Thinker, most: number): Choice | null {
  const { world, mind } = thinker;
  const { areas } = world;
  const here = hereOf(thinker);
  const deadly = knownHarms(thinker)
    .map((zone) => world.zones[zone] as Zone)
    .filter(({ placement }) => (harmAt(thinker, placement)?.kills ?? 0) > 0);
  // Nobody goes to see what lies where one dies.
  let unseen = unseenPlaces(world, mind.areas, here).filter(
    ({ x, y }) => !deadly.some(({ box: { left, right, bottom, top } }) => x > left && x < right && y > bottom && y < top),
  );
  let isBarred = false;
  for (;;) {
    const place = nearestOf(thinker, unseen, most);
    const way = place === null ? null : wayTo(thinker, place, -1, LOOKED_AT);
    if (place === null || (way === null && isBarred)) return null;
    const { x, y } = place;
    if (way === null) {
      // It lies behind what is closed now: so may others.
      unseen = openPlaces(thinker, unseen);
      isBarred = true;
      continue;
    }
    if (way.risk < SURE_DEATH) {
      return { errand: { purpose: 'explore', placement: -1, rule: -1, x, y, within: areas.side, stays: false, worth: most }, way };
    }
    markSeen(mind.areas, place.area);
    unseen.splice(unseen.indexOf(place), 1);
  }
}

/** Of some squares those that can be come to with what is closed now; seen from the side their lengths tell that. */
function openPlaces(thinker: Thinker, places: readonly Unseen[]): Unseen[] {
  const { mesh, terrain } = thinker.world;
  if (terrain !== null) return [];
  const come = cellsFrom(mesh, hereOf(thinker), closedZones(thinker));
  return places.filter(({ x, y }) => come[cellAt(mesh, x, y)] === 1);
}

/** Of some squares the one that is nearest to come to, no further than so far; null when none is. Units. */
function nearestOf(thinker: Thinker, places: readonly Unseen[], most: number): Unseen | null {
  const left = [...places];
  let best: { place: Unseen; length: number } | null = null;
  for (let [looked, tried] = [0, 0]; looked < MOST_LOOKED_AT && tried < MOST_TRIED && left.length > 0; tried += 1) {
    let nearest = 0;
    for (let at = 1; at < left.length; at += 1) if ((left[at] as Unseen).least < (left[nearest] as Unseen).least) nearest = at;
    const [place] = left.splice(nearest, 1) as [Unseen];
    if (place.least > Math.min(most, best?.length ?? Infinity)) break;
    const length = lengthToArea(thinker, place.area, LOOKED_AT);
    if (length === Infinity) continue;
    looked += 1;
    if (length <= most && (best === null || length < best.length)) best = { place, length };
  }
  return best?.place ?? null;
}

/** From so near a square is seen in any case. Units. */
const LOOKED_AT = 1;

/** How many squares are looked at to find the nearest; and how many at most where some cannot be come to. */
const MOST_LOOKED_AT = 12;
const MOST_TRIED = 120;

/** A square not yet seen: where one can be in it, and how far that is at least. Units. */
interface Unseen extends Place {
  readonly area: number;
  readonly least: number;
}

/** All squares not yet seen that can be come to. */
function unseenPlaces(world: World, seen: Uint32Array, here: Place): Unseen[] {
  const { areas } = world;
  const island = islandOf(world, here);
  const places: Unseen[] = [];
  for (let area = 0; area < areas.x.length; area += 1) {
    if (isSeen(seen, area)) continue;
    const [x, y] = [areas.x[area] as number, areas.y[area] as number];
    if (!Number.isNaN(x) && areas.island[area] === island) places.push({ area, x, y, least: apart(here, { x, y }) });
  }
  return places;
}
