import type { Grid } from './grid.ts';
import { sweepDiscBox, type Span } from './sweep.ts';
import { beginTrack, extendTrack, type Track } from './track.ts';

/** Faces of a box, as bits. */
export const TOP = 1;
export const BOTTOM = 2;
export const LEFT = 4;
export const RIGHT = 8;
export const ALL_FACES = 15;

/** Boxes that stop a body: centre, half sides and solid faces of each, and a grid over those that stay where they are. */
export interface Solids {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly halfWidth: Float64Array;
  readonly halfHeight: Float64Array;
  readonly faces: Uint8Array;
  /** Whether the box is solid at present. */
  readonly on: Uint8Array;
  /** Over the boxes up to `inGrid`; those after it are few and far, or move: they are gone through one by one. */
  readonly grid: Grid;
  readonly inGrid: number;
  /** From here on the boxes move. */
  readonly firstMoving: number;
}

/** A body: a box of these half sides, rounded by `radius`. A disc has no sides; an upright box no radius. */
export interface Hull {
  readonly halfWidth: number;
  readonly halfHeight: number;
  readonly radius: number;
}

/** A body in motion; `slide` updates it. */
export interface Mobile {
  x: number;
  y: number;
  velocityX: number;
  velocityY: number;
  /** The solid whose top was met, or −1. */
  floor: number;
}

/** Distance kept from a face, so that the next step starts outside it. Units. */
export const SKIN = 1e-7;
const MOST_SLIDES = 4;

const span: Span = { enter: 0, leave: 0 };
const normal = { x: 0, y: 0 };

/** Outward direction from a box to a point: along the shortest way out. */
function outward(solids: Solids, hull: Hull, item: number, x: number, y: number): number {
  const relativeX = x - (solids.x[item] as number);
  const relativeY = y - (solids.y[item] as number);
  const halfWidth = (solids.halfWidth[item] as number) + hull.halfWidth;
  const halfHeight = (solids.halfHeight[item] as number) + hull.halfHeight;
  const nearX = Math.max(-halfWidth, Math.min(halfWidth, relativeX));
  const nearY = Math.max(-halfHeight, Math.min(halfHeight, relativeY));
  const awayX = relativeX - nearX;
  const awayY = relativeY - nearY;
  const distance = Math.sqrt(awayX * awayX + awayY * awayY);
  if (distance > 0) {
    normal.x = awayX / distance;
    normal.y = awayY / distance;
    return distance;
  }
  const depthX = halfWidth - Math.abs(relativeX);
  const depthY = halfHeight - Math.abs(relativeY);
  normal.x = depthX <= depthY ? (relativeX < 0 ? -1 : 1) : 0;
  normal.y = depthX <= depthY ? 0 : relativeY < 0 ? -1 : 1;
  return -Math.min(depthX, depthY);
}

/** Whether the face the normal belongs to is solid, and the body began its motion in front of it. */
function faceStops(solids: Solids, hull: Hull, item: number, x: number, y: number): boolean {
  const faces = solids.faces[item] as number;
  if (faces === ALL_FACES) return true;
  const across = Math.abs(normal.x) > Math.abs(normal.y);
  const face = across ? (normal.x > 0 ? RIGHT : LEFT) : normal.y > 0 ? TOP : BOTTOM;
  if ((faces & face) === 0) return false;
  const reach = across
    ? (solids.halfWidth[item] as number) + hull.halfWidth + hull.radius
    : (solids.halfHeight[item] as number) + hull.halfHeight + hull.radius;
  const from = across ? (x - (solids.x[item] as number)) * normal.x : (y - (solids.y[item] as number)) * normal.y;
  return from >= (reach - 1e-6) * Math.abs(across ? normal.x : normal.y);
}

/** The boxes found by `gatherSolids`, valid up to the count it returned. */
export let gathered = new Int32Array(256);

/** Lists the boxes that a body of this size may meet on its way. */
export function gatherSolids(solids: Solids, aroundX: number, aroundY: number, x: number, y: number, moveX: number, moveY: number): number {
  const left = (moveX < 0 ? x + moveX : x) - aroundX;
  const right = (moveX < 0 ? x : x + moveX) + aroundX;
  const bottom = (moveY < 0 ? y + moveY : y) - aroundY;
  const top = (moveY < 0 ? y : y + moveY) + aroundY;
  let count = solids.grid.query(left, bottom, right, top);
  if (count + solids.x.length - solids.inGrid > gathered.length) gathered = new Int32Array(2 * solids.x.length);
  for (let k = 0; k < count; k += 1) gathered[k] = solids.grid.found[k] as number;
  for (let item = solids.inGrid; item < solids.x.length; item += 1) {
    const awayX = solids.halfWidth[item] as number;
    const awayY = solids.halfHeight[item] as number;
    const itemX = solids.x[item] as number;
    const itemY = solids.y[item] as number;
    if (itemX - awayX > right || itemX + awayX < left || itemY - awayY > top || itemY + awayY < bottom) continue;
    gathered[count] = item;
    count += 1;
  }
  return count;
}

/** How deep a body lies in a box; negative or nought when it does not. */
export function depthIn(solids: Solids, hull: Hull, item: number, x: number, y: number): number {
  return hull.radius - outward(solids, hull, item, x, y);
}

/** The solid, other than `besides`, in which a body lies deepest; −1 when it is free. */
export function deepestSolid(solids: Solids, hull: Hull, x: number, y: number, besides = -1): number {
  const count = gatherSolids(solids, hull.halfWidth + hull.radius, hull.halfHeight + hull.radius, x, y, 0, 0);
  let deepest = SKIN / 2;
  let item = -1;
  for (let k = 0; k < count; k += 1) {
    const candidate = gathered[k] as number;
    if (solids.on[candidate] === 0 || solids.faces[candidate] !== ALL_FACES || candidate === besides) continue;
    const depth = depthIn(solids, hull, candidate, x, y);
    if (depth > deepest || (depth === deepest && candidate < item)) {
      deepest = depth;
      item = candidate;
    }
  }
  return item;
}

/** Moves a body that starts inside solids out of them, the shortest way, box by box. */
export function pushOut(solids: Solids, hull: Hull, body: Mobile): void {
  for (let round = 0; round < MOST_SLIDES; round += 1) {
    const item = deepestSolid(solids, hull, body.x, body.y);
    if (item < 0) return;
    const depth = depthIn(solids, hull, item, body.x, body.y);
    body.x += normal.x * (depth + SKIN);
    body.y += normal.y * (depth + SKIN);
  }
}

/** The solid a body stands on: one whose top it would meet a hair further down; −1 for none. */
export function floorUnder(solids: Solids, hull: Hull, x: number, y: number, track: Track): number {
  probe.x = x;
  probe.y = y;
  probe.velocityX = 0;
  probe.velocityY = 0;
  slide(solids, hull, probe, 0, -10 * SKIN, track);
  return probe.floor;
}

const probe: Mobile = { x: 0, y: 0, velocityX: 0, velocityY: 0, floor: -1 };

/** Moves a body out of one box to the nearest side on which it is free, no further than `most`. Answers whether it could. */
export function leaveBox(solids: Solids, hull: Hull, body: Mobile, item: number, most: number): boolean {
  const x = body.x - (solids.x[item] as number);
  const y = body.y - (solids.y[item] as number);
  const width = (solids.halfWidth[item] as number) + hull.halfWidth + hull.radius + SKIN;
  const height = (solids.halfHeight[item] as number) + hull.halfHeight + hull.radius + SKIN;
  let best = most;
  let toX = 0;
  let toY = 0;
  let found = false;
  for (let way = 0; way < 4; way += 1) {
    const moveX = way === 0 ? width - x : way === 1 ? -width - x : 0;
    const moveY = way === 2 ? height - y : way === 3 ? -height - y : 0;
    const length = Math.abs(moveX + moveY);
    if (length > best || (found && length === best)) continue;
    if (deepestSolid(solids, hull, body.x + moveX, body.y + moveY, item) >= 0) continue;
    best = length;
    toX = moveX;
    toY = moveY;
    found = true;
  }
  body.x += toX;
  body.y += toY;
  return found;
}

/**
 * Moves a body by (dx, dy), sliding along the solids it meets. The way taken is written to `track`; velocity loses its
 * part into each face met. A face the body moves away from never stops it.
 */
export function slide(solids: Solids, hull: Hull, body: Mobile, dx: number, dy: number, track: Track): void {
  beginTrack(track, body.x, body.y);
  body.floor = -1;
  let moveX = dx;
  let moveY = dy;
  let from = 0;
  let lastX = 0;
  let lastY = 0;
  const aroundX = hull.halfWidth + hull.radius;
  const aroundY = hull.halfHeight + hull.radius;
  for (let round = 0; round < MOST_SLIDES && (moveX !== 0 || moveY !== 0); round += 1) {
    const count = gatherSolids(solids, aroundX, aroundY, body.x, body.y, moveX, moveY);
    let first = 2;
    let hit = -1;
    let hitX = 0;
    let hitY = 0;
    for (let k = 0; k < count; k += 1) {
      const item = gathered[k] as number;
      if (solids.on[item] === 0) continue;
      const x = body.x - (solids.x[item] as number);
      const y = body.y - (solids.y[item] as number);
      const halfWidth = (solids.halfWidth[item] as number) + hull.halfWidth;
      const halfHeight = (solids.halfHeight[item] as number) + hull.halfHeight;
      const meets = sweepDiscBox(x, y, moveX, moveY, hull.radius, halfWidth, halfHeight, span);
      if (!meets || span.enter > first || (span.enter === first && item > hit)) continue;
      outward(solids, hull, item, body.x + moveX * span.enter, body.y + moveY * span.enter);
      if (moveX * normal.x + moveY * normal.y >= 0 || !faceStops(solids, hull, item, body.x, body.y)) continue;
      first = span.enter;
      hit = item;
      hitX = normal.x;
      hitY = normal.y;
    }
    if (hit < 0) {
      body.x += moveX;
      body.y += moveY;
      break;
    }
    if (hitY > 0.5) body.floor = hit;
    from += (1 - from) * first;
    body.x += moveX * first + hitX * SKIN;
    body.y += moveY * first + hitY * SKIN;
    extendTrack(track, from, body.x, body.y);
    const into = moveX * hitX + moveY * hitY;
    moveX = (moveX - into * hitX) * (1 - first);
    moveY = (moveY - into * hitY) * (1 - first);
    const speedInto = body.velocityX * hitX + body.velocityY * hitY;
    if (speedInto < 0) {
      body.velocityX -= speedInto * hitX;
      body.velocityY -= speedInto * hitY;
    }
    // Wedged in a corner: the new way would lead back into the face just left.
    if (round > 0 && moveX * lastX + moveY * lastY < 0) break;
    lastX = hitX;
    lastY = hitY;
  }
  extendTrack(track, 1, body.x, body.y);
}

/** Pieces a slid track can have. */
export const SLIDE_PIECES = MOST_SLIDES + 2;

/**
 * How far a box that travels by (dx, dy) up to where it is now shoves a body that stood outside it: the way is left in
 * `shoved`. Answers whether it met the body.
 */
export const shoved = { x: 0, y: 0 };
export function shove(solids: Solids, hull: Hull, item: number, dx: number, dy: number, body: Mobile): boolean {
  const x = body.x - (solids.x[item] as number) + dx;
  const y = body.y - (solids.y[item] as number) + dy;
  const halfWidth = (solids.halfWidth[item] as number) + hull.halfWidth;
  const halfHeight = (solids.halfHeight[item] as number) + hull.halfHeight;
  if (!sweepDiscBox(x, y, -dx, -dy, hull.radius, halfWidth, halfHeight, span)) return false;
  const startX = body.x + dx;
  const startY = body.y + dy;
  outward(solids, hull, item, startX - dx * span.enter, startY - dy * span.enter);
  const into = dx * normal.x + dy * normal.y;
  if (into <= 0 || !faceStops(solids, hull, item, startX, startY)) return false;
  shoved.x = normal.x * (into * (1 - span.enter) + SKIN);
  shoved.y = normal.y * (into * (1 - span.enter) + SKIN);
  return true;
}

const bounced = { x: 0, y: 0 };

/** Moves a disc by its velocity for `seconds`, rebounding from solids; the way is written to `track`. */
export function rebound(solids: Solids, hull: Hull, body: Mobile, seconds: number, track: Track): void {
  beginTrack(track, body.x, body.y);
  let left = seconds;
  for (let round = 0; round < MOST_SLIDES && left > 0; round += 1) {
    const moveX = body.velocityX * left;
    const moveY = body.velocityY * left;
    const count = gatherSolids(solids, hull.radius, hull.radius, body.x, body.y, moveX, moveY);
    let first = 2;
    for (let k = 0; k < count; k += 1) {
      const item = gathered[k] as number;
      if (solids.on[item] === 0) continue;
      const x = body.x - (solids.x[item] as number);
      const y = body.y - (solids.y[item] as number);
      if (!sweepDiscBox(x, y, moveX, moveY, hull.radius, solids.halfWidth[item] as number, solids.halfHeight[item] as number, span))
        continue;
      if (span.enter >= first) continue;
      outward(solids, hull, item, body.x + moveX * span.enter, body.y + moveY * span.enter);
      if (moveX * normal.x + moveY * normal.y >= 0 || !faceStops(solids, hull, item, body.x, body.y)) continue;
      first = span.enter;
      bounced.x = normal.x;
      bounced.y = normal.y;
    }
    const share = first > 1 ? 1 : first;
    body.x += moveX * share;
    body.y += moveY * share;
    left = first > 1 ? 0 : left * (1 - first);
    extendTrack(track, 1 - left / seconds, body.x, body.y);
    if (first > 1) return;
    body.x += bounced.x * SKIN;
    body.y += bounced.y * SKIN;
    const into = body.velocityX * bounced.x + body.velocityY * bounced.y;
    body.velocityX -= 2 * into * bounced.x;
    body.velocityY -= 2 * into * bounced.y;
  }
  if (left > 0) extendTrack(track, 1, body.x, body.y);
}
