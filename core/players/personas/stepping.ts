import { apart, clipWay, Span, type Place } from '../../geometry/index.ts';
import { cellHolding, findWay } from '../navigation/index.ts';
import { findPair } from '../../session/index.ts';
import type { Errand } from './mind.ts';
import { hereOf, type Thinker } from './thinker.ts';
import type { Zone } from './world.ts';

/** So far beside a thing one has left it. Units. */
const BESIDE = 0.3;

const span = new Span();

/** A way out may be so much longer than straight. */
const ABOUT_STRAIGHT = 1.2;

/**
 * Seen from above, where whoever stands in what acts on who comes steps out of it first, to come anew: the nearest spot beside it that
 * one can go to past no harm; null where that is not asked for, or nowhere.
 */
export function outOf(thinker: Thinker, { placement, stays, within }: Errand): Place | null {
  const { world, session, player } = thinker;
  const { compiled, terrain } = world;
  if (placement < 0 || stays || within > 0 || terrain !== null || (compiled.placements.traveller[placement] as number) >= 0) return null;
  const extent = world.extents[session.state.form[placement] as number] ?? null;
  if (extent === null || findPair(session, player, placement) < 0) return null;
  const here = hereOf(thinker);
  const [x, y] = [compiled.placements.x[placement] as number, compiled.placements.y[placement] as number];
  const beside = compiled.bodyReach + BESIDE;
  const spots = [
    { x: x + extent.left - beside, y: here.y },
    { x: x + extent.right + beside, y: here.y },
    { x: here.x, y: y + extent.bottom - beside },
    { x: here.x, y: y + extent.top + beside },
  ].sort((a, b) => apart(here, a) - apart(here, b));
  const isHarmless = (spot: Place): boolean =>
    world.harmZones.every((zone) => !clipWay((world.zones[zone] as Zone).box, here.x, here.y, spot.x, spot.y, span));
  const isOpen = (spot: Place): boolean => {
    if (cellHolding(world.bare, spot.x, spot.y) < 0 || !isHarmless(spot)) return false;
    const way = findWay(world.bare, here, spot);
    return way !== null && way.length <= ABOUT_STRAIGHT * apart(here, spot);
  };
  return spots.find(isOpen) ?? null;
}
