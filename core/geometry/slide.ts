import type { Grid } from './grid.ts';
import { sweepDiscBox, type Span } from './sweep.ts';
import { beginTrack, extendTrack, type Track } from './track.ts';

/** Boxes that stop a body: centre and half sides of each, and a grid over them. */
export interface Solids {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly halfWidth: Float64Array;
  readonly halfHeight: Float64Array;
  readonly grid: Grid;
}

/** A body in motion; `slide` updates it. */
export interface Mobile {
  x: number;
  y: number;
  velocityX: number;
  velocityY: number;
}

/** Distance kept from a face, so that the next step starts outside it. Units. */
const SKIN = 1e-7;
const MOST_SLIDES = 4;

const span: Span = { enter: 0, leave: 0 };
const normal = { x: 0, y: 0 };

/** Outward direction from box `item` to a point: along the shortest way out. */
function outward(solids: Solids, item: number, x: number, y: number): number {
  const relativeX = x - (solids.x[item] as number);
  const relativeY = y - (solids.y[item] as number);
  const halfWidth = solids.halfWidth[item] as number;
  const halfHeight = solids.halfHeight[item] as number;
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

/** Moves a disc that starts inside solids out of them, the shortest way, box by box. */
export function pushOut(solids: Solids, body: Mobile, radius: number): void {
  for (let round = 0; round < MOST_SLIDES; round += 1) {
    const count = solids.grid.query(body.x - radius, body.y - radius, body.x + radius, body.y + radius);
    let deepest = radius - SKIN / 2;
    let item = -1;
    for (let k = 0; k < count; k += 1) {
      const candidate = solids.grid.found[k] as number;
      const distance = outward(solids, candidate, body.x, body.y);
      if (distance < deepest || (distance === deepest && candidate < item)) {
        deepest = distance;
        item = candidate;
      }
    }
    if (item < 0) return;
    outward(solids, item, body.x, body.y);
    body.x += normal.x * (radius + SKIN - deepest);
    body.y += normal.y * (radius + SKIN - deepest);
  }
}

/**
 * Moves a disc by (dx, dy), sliding along the solids it meets. The way taken is written to `track`; velocity loses its
 * part into each face met. A face the disc moves away from never stops it.
 */
export function slide(solids: Solids, body: Mobile, radius: number, dx: number, dy: number, track: Track): void {
  beginTrack(track, body.x, body.y);
  let moveX = dx;
  let moveY = dy;
  let from = 0;
  let lastX = 0;
  let lastY = 0;
  for (let round = 0; round < MOST_SLIDES && (moveX !== 0 || moveY !== 0); round += 1) {
    const count = solids.grid.query(
      Math.min(body.x, body.x + moveX) - radius,
      Math.min(body.y, body.y + moveY) - radius,
      Math.max(body.x, body.x + moveX) + radius,
      Math.max(body.y, body.y + moveY) + radius,
    );
    let first = 2;
    let hit = -1;
    let hitX = 0;
    let hitY = 0;
    for (let k = 0; k < count; k += 1) {
      const item = solids.grid.found[k] as number;
      const x = body.x - (solids.x[item] as number);
      const y = body.y - (solids.y[item] as number);
      const meets = sweepDiscBox(x, y, moveX, moveY, radius, solids.halfWidth[item] as number, solids.halfHeight[item] as number, span);
      if (!meets || span.enter > first || (span.enter === first && item > hit)) continue;
      outward(solids, item, body.x + moveX * span.enter, body.y + moveY * span.enter);
      if (moveX * normal.x + moveY * normal.y >= 0) continue;
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
