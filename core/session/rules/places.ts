import { depthIn, gathered, gatherSolids, region, regionAround, type Hull } from '../../geometry/index.ts';
import { CONCERN, DESTINATION, LIFE, PHASE } from '../compile/codes.ts';
import { chooseWeighted, draw } from '../state/random.ts';
import type { Place, Session } from '../state/running.ts';
import { exists, placeX, placeY } from '../state/things.ts';

const MOST_TRIES = 64;

const around: { halfWidth: number; halfHeight: number; radius: number } = { halfWidth: 0, halfHeight: 0, radius: 0 };

/** Rounding. Units. */
const HAIR = 1e-6;

/**
 * By how much a place falls short of being clear, negated: 0 and above is clear. Of what stays only what is so near that it is not clear
 * of it is looked at, and nothing more once it is not above `best`.
 */
function clearance(
  session: Session,
  x: number,
  y: number,
  reach: number,
  distance: number,
  margin: number,
  self: number,
  best: number,
): number {
  const { compiled, state } = session;
  const { travellers, stillGrid, stillPlacement } = compiled;
  let least = Infinity;
  for (let player = 0; player < compiled.playerCount; player += 1) {
    if (state.life[player] !== LIFE.alive || player === -2 - self) continue;
    const dx = (state.playerX[player] as number) - x;
    const dy = (state.playerY[player] as number) - y;
    least = Math.min(least, Math.sqrt(dx * dx + dy * dy) - distance);
  }
  const keepOff = (other: number): void => {
    if (other === self || !exists(session, other) || state.phase[other * compiled.phaseSlots] === PHASE.spent) return;
    const dx = placeX(session, other) - x;
    const dy = placeY(session, other) - y;
    const apart = Math.sqrt(dx * dx + dy * dy) - reach - (compiled.forms.reach[state.form[other] as number] as number);
    least = Math.min(least, apart - margin);
  };
  regionAround(x, y, reach + margin + HAIR, reach + margin + HAIR);
  const near = stillGrid.query(region);
  for (let k = 0; k < near; k += 1) keepOff(stillPlacement[stillGrid.found[k] as number] as number);
  const { solids } = session.scratch;
  around.radius = reach + margin;
  const hull: Hull = around;
  regionAround(x, y, around.radius, around.radius);
  const count = gatherSolids(solids);
  for (let k = 0; k < count; k += 1) {
    const item = gathered[k] as number;
    if (solids.on[item] === 1) least = Math.min(least, -depthIn(solids, hull, item, x, y));
  }
  for (let traveller = 0; traveller < travellers.count && least > best; traveller += 1) {
    keepOff(travellers.placement[traveller] as number);
  }
  return least;
}

/**
 * A random place clear of players, things, solids and edges: the first of at most 64 that is, else the clearest of them.
 * `self` is the thing to be placed, or −2 − player. Answers with one object for all places of a session.
 */
export function findClearPlace(
  session: Session,
  reach: number,
  distance: number,
  margin: number,
  self: number,
  placement: number,
  rule: number,
  player: number,
): Place {
  const { place } = session.scratch;
  const { width, height } = session.compiled.level.size;
  const inset = reach + margin;
  const spanX = Math.max(0, width - 2 * inset);
  const spanY = Math.max(0, height - 2 * inset);
  let best = -Infinity;
  let bestX = 0;
  let bestY = 0;
  for (let attempt = 0; attempt < MOST_TRIES; attempt += 1) {
    const x = (width - spanX) / 2 + draw(session, CONCERN.place, placement, rule, player) * spanX;
    const y = (height - spanY) / 2 + draw(session, CONCERN.place, placement, rule, player) * spanY;
    const clear = clearance(session, x, y, reach, distance, margin, self, best);
    if (clear <= best) continue;
    best = clear;
    bestX = x;
    bestY = y;
    if (best >= 0) break;
  }
  place.x = bestX;
  place.y = bestY;
  place.crowded = best < 0;
  return place;
}

/** Where a destination leads a player. Answers with one object for all places of a session. */
export function findDestination(session: Session, destination: number, player: number, placement: number, rule: number): Place {
  const { compiled, state, scratch } = session;
  const { destinations, points } = compiled;
  const { place } = scratch;
  place.crowded = false;
  const type = destinations.type[destination] as number;
  if (type === DESTINATION.clear) {
    const distance = destinations.distance[destination] as number;
    const margin = destinations.margin[destination] as number;
    return findClearPlace(session, compiled.bodyReach, distance, margin, -2 - player, placement, rule, player);
  }
  const start = compiled.starts[player] ?? compiled.level.start;
  place.x = start.x;
  place.y = start.y;
  if (type === DESTINATION.checkpoint && !Number.isNaN(state.checkpointX[player])) {
    place.x = state.checkpointX[player] as number;
    place.y = state.checkpointY[player] as number;
  }
  const from = destinations.start[destination] as number;
  const to = destinations.start[destination + 1] as number;
  if (from === to) return place;
  let chosen = from;
  if (type === DESTINATION.nearest) {
    let nearest = Infinity;
    for (let at = from; at < to; at += 1) {
      const dx = (points.x[destinations.point[at] as number] as number) - (state.playerX[player] as number);
      const dy = (points.y[destinations.point[at] as number] as number) - (state.playerY[player] as number);
      const square = dx * dx + dy * dy;
      if (square >= nearest) continue;
      nearest = square;
      chosen = at;
    }
  } else if (type === DESTINATION.weighted) {
    chosen = chooseWeighted(destinations.weight, from, to, draw(session, CONCERN.choice, placement, rule, player));
  }
  place.x = points.x[destinations.point[chosen] as number] as number;
  place.y = points.y[destinations.point[chosen] as number] as number;
  return place;
}
