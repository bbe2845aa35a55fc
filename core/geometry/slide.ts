import { boxMeets, Region, type Grid } from './grid.ts';
import { DiscMotion, sweepDiscBox, Span } from './sweep.ts';
import { beginTrack, extendTrack, type Track } from './track.ts';
import { Vector } from './vector.ts';

/** Faces of a box, as bits. */
export const TOP = 1;
export const BOTTOM = 2;
export const LEFT = 4;
export const RIGHT = 8;
export const ALL_FACES = 15;

/** The boxes that stay, as last looked up, and the region they were looked up for. */
export class NearSolids {
  readonly region = new Region();
  count = 0;
  readonly items: Int32Array;
  constructor(most: number) {
    this.items = new Int32Array(most);
    // Nothing has been looked up: no region lies in this one.
    this.region.right = -1;
    this.region.top = -1;
  }
}

/** Boxes that stop a body: centre, half sides and solid faces of each, and a grid over those that stay where they are. */
export interface Solids {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly halfWidth: Float64Array;
  readonly halfHeight: Float64Array;
  readonly faces: Uint8Array;
  /** Whether the box is solid at present. */
  readonly on: Uint8Array;
  /** Over the boxes up to `inGrid`; those after it are few and far, or move. */
  readonly grid: Grid;
  readonly inGrid: number;
  readonly near: NearSolids;
  /** From here on the boxes move. */
  readonly firstMoving: number;
  /** Of those that move, left, bottom, right, top of all that each may cover at present; and what brings one to where it is. */
  readonly mayCover: Float64Array;
  bring: (item: number) => void;
}

/** A body: a box of these half sides, rounded by `radius`. A disc has no sides; an upright box no radius. */
export interface Hull {
  readonly halfWidth: number;
  readonly halfHeight: number;
  readonly radius: number;
}

/** A body in motion; `slide` updates it. */
export class Mobile {
  x = 0;
  y = 0;
  velocityX = 0;
  velocityY = 0;
  /** The way it is to go in this step. */
  wayX = 0;
  wayY = 0;
  /** The solid whose top was met, or −1. */
  floor = -1;
}

/** Distance kept from a face, so that the next step starts outside it. Units. */
export const SKIN = 1e-7;
const MOST_SLIDES = 4;

const span = new Span();
const normal = new Vector();
const away = { distance: 0 };

/** The place of a body, for `outward`. */
const spot = new Vector();

/** The direction out of a box along the shortest way to `spot`, left in `normal`; and the distance, left in `away`. */
function outward(solids: Solids, hull: Hull, item: number): void {
  const relativeX = spot.x - (solids.x[item] as number);
  const relativeY = spot.y - (solids.y[item] as number);
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
    away.distance = distance;
    return;
  }
  const depthX = halfWidth - Math.abs(relativeX);
  const depthY = halfHeight - Math.abs(relativeY);
  normal.x = depthX <= depthY ? (relativeX < 0 ? -1 : 1) : 0;
  normal.y = depthX <= depthY ? 0 : relativeY < 0 ? -1 : 1;
  away.distance = -Math.min(depthX, depthY);
}

/** Whether the face the normal belongs to is solid, and the body began its motion in front of it. */
function faceStops(solids: Solids, hull: Hull, item: number, { x, y }: { readonly x: number; readonly y: number }): boolean {
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

/** The region around a place, so far to each side and so far up and down; left in `region`. */
export const region = new Region();
export function regionAround(x: number, y: number, aroundX: number, aroundY: number): void {
  region.left = x - aroundX;
  region.right = x + aroundX;
  region.bottom = y - aroundY;
  region.top = y + aroundY;
}

/** Whether a box may be met in a region. */
function inRegion(solids: Solids, item: number, { left, bottom, right, top }: Region): boolean {
  const awayX = solids.halfWidth[item] as number;
  const awayY = solids.halfHeight[item] as number;
  const x = solids.x[item] as number;
  const y = solids.y[item] as number;
  return x - awayX <= right && x + awayX >= left && y - awayY <= top && y + awayY >= bottom;
}

/** Whether a box that moves may be in a region: then it has to be brought to where it is. */
export function mayBeIn({ mayCover, firstMoving }: Solids, item: number, within: Region): boolean {
  return boxMeets(mayCover, item - firstMoving, within);
}

/** How much further around than asked is looked, since the next question will be about nearly the same place. Units. */
const FURTHER = 3;

/** Looks up the boxes that stay in `region` and a good way around it. */
function lookAround(solids: Solids): void {
  const { near, grid } = solids;
  near.region.left = region.left - FURTHER;
  near.region.bottom = region.bottom - FURTHER;
  near.region.right = region.right + FURTHER;
  near.region.top = region.top + FURTHER;
  near.count = grid.query(near.region);
  for (let k = 0; k < near.count; k += 1) near.items[k] = grid.found[k] as number;
  for (let item = solids.inGrid; item < solids.firstMoving; item += 1) {
    if (!inRegion(solids, item, near.region)) continue;
    near.items[near.count] = item;
    near.count += 1;
  }
}

/** Lists the boxes that something in `region` may meet. */
export function gatherSolids(solids: Solids): number {
  const { near } = solids;
  const { left, bottom, right, top } = near.region;
  if (region.left < left || region.right > right || region.bottom < bottom || region.top > top) lookAround(solids);
  if (solids.x.length > gathered.length) gathered = new Int32Array(2 * solids.x.length);
  let count = 0;
  for (let k = 0; k < near.count; k += 1) {
    const item = near.items[k] as number;
    if (inRegion(solids, item, region)) {
      gathered[count] = item;
      count += 1;
    }
  }
  for (let item = solids.firstMoving; item < solids.x.length; item += 1) {
    if (!mayBeIn(solids, item, region)) continue;
    solids.bring(item);
    if (inRegion(solids, item, region)) {
      gathered[count] = item;
      count += 1;
    }
  }
  return count;
}

/** How deep a body lies in a box; negative or nought when it does not. */
export function depthIn(solids: Solids, hull: Hull, item: number, x: number, y: number): number {
  spot.x = x;
  spot.y = y;
  outward(solids, hull, item);
  return hull.radius - away.distance;
}

/** The solid, other than `besides`, in which a body lies deepest; −1 when it is free. */
export function deepestSolid(solids: Solids, hull: Hull, x: number, y: number, besides = -1): number {
  regionAround(x, y, hull.halfWidth + hull.radius, hull.halfHeight + hull.radius);
  const count = gatherSolids(solids);
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
  probe.wayY = -10 * SKIN;
  slide(solids, hull, probe, track);
  return probe.floor;
}

const probe = new Mobile();

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

/** The first solid met by a body on its way: which, after what share of the way, and the direction out of it. */
const hit = { item: -1, share: 1, x: 0, y: 0 };

/** The motion of a body seen from a solid. */
const toward = new DiscMotion();

/** Sets `toward` to a motion seen from a solid. Answers during which part of it they overlap, in `span`. */
function meetsSolid(solids: Solids, hull: Hull, item: number): boolean {
  toward.radius = hull.radius;
  toward.halfWidth = (solids.halfWidth[item] as number) + hull.halfWidth;
  toward.halfHeight = (solids.halfHeight[item] as number) + hull.halfHeight;
  return sweepDiscBox(toward, span);
}

/** Finds, among the first `count` of `gathered`, the solid a body going its way meets first; left in `hit`. */
function meetFirst(solids: Solids, hull: Hull, body: Mobile, count: number): boolean {
  const { wayX: moveX, wayY: moveY } = body;
  toward.dx = moveX;
  toward.dy = moveY;
  hit.item = -1;
  hit.share = 2;
  for (let k = 0; k < count; k += 1) {
    const item = gathered[k] as number;
    if (solids.on[item] === 0) continue;
    toward.x = body.x - (solids.x[item] as number);
    toward.y = body.y - (solids.y[item] as number);
    if (!meetsSolid(solids, hull, item) || span.enter > hit.share || (span.enter === hit.share && item > hit.item)) continue;
    spot.x = body.x + moveX * span.enter;
    spot.y = body.y + moveY * span.enter;
    outward(solids, hull, item);
    if (moveX * normal.x + moveY * normal.y >= 0 || !faceStops(solids, hull, item, body)) continue;
    hit.share = span.enter;
    hit.item = item;
    hit.x = normal.x;
    hit.y = normal.y;
  }
  return hit.item >= 0;
}

/** The share of a disc's way that is free of solids, with a margin around it: the face it moves away from, or along, excepted. */
export function freeShare(solids: Solids, hull: Hull, body: Mobile, margin: number): number {
  const { x, y, wayX, wayY } = body;
  const around = hull.radius + margin;
  region.left = Math.min(x, x + wayX) - around;
  region.right = Math.max(x, x + wayX) + around;
  region.bottom = Math.min(y, y + wayY) - around;
  region.top = Math.max(y, y + wayY) + around;
  const count = gatherSolids(solids);
  let share = 1;
  toward.dx = wayX;
  toward.dy = wayY;
  toward.radius = around;
  for (let k = 0; k < count && share > 0; k += 1) {
    const item = gathered[k] as number;
    if (solids.on[item] === 0) continue;
    toward.x = x - (solids.x[item] as number);
    toward.y = y - (solids.y[item] as number);
    toward.halfWidth = solids.halfWidth[item] as number;
    toward.halfHeight = solids.halfHeight[item] as number;
    if (!sweepDiscBox(toward, span)) continue;
    if (span.enter === 0) {
      spot.x = x;
      spot.y = y;
      outward(solids, hull, item);
      if (away.distance > 0 && wayX * normal.x + wayY * normal.y >= 0) continue;
    }
    share = Math.min(share, span.enter);
  }
  return share;
}

/** What the last slide met: how many times a solid; the last of them, after what share of the way, and the direction out of it. */
export const met = { count: 0, item: -1, share: 0, x: 0, y: 0 };

/**
 * Moves a body on its way, sliding along the solids it meets, or along solid `only` when nothing else can be near. The
 * way taken is written to `track`; velocity loses its part into each face met. A face the body moves away from never
 * stops it.
 */
export function slide(solids: Solids, hull: Hull, body: Mobile, track: Track, only = -1): void {
  beginTrack(track, body.x, body.y);
  body.floor = -1;
  met.count = 0;
  let from = 0;
  // However the way is bent, it leads no further than its length.
  const around = Math.abs(body.wayX) + Math.abs(body.wayY) + MOST_SLIDES * SKIN + hull.radius;
  let count = 1;
  if (only >= 0) gathered[0] = only;
  else {
    regionAround(body.x, body.y, hull.halfWidth + around, hull.halfHeight + around);
    count = gatherSolids(solids);
  }
  for (let round = 0; round < MOST_SLIDES && (body.wayX !== 0 || body.wayY !== 0); round += 1) {
    if (!meetFirst(solids, hull, body, count)) {
      body.x += body.wayX;
      body.y += body.wayY;
      break;
    }
    const { item, share, x: hitX, y: hitY } = hit;
    const { wayX, wayY } = body;
    if (hitY > 0.5) body.floor = item;
    from += (1 - from) * share;
    body.x += wayX * share + hitX * SKIN;
    body.y += wayY * share + hitY * SKIN;
    extendTrack(track, from, body.x, body.y);
    const into = wayX * hitX + wayY * hitY;
    body.wayX = (wayX - into * hitX) * (1 - share);
    body.wayY = (wayY - into * hitY) * (1 - share);
    const speedInto = body.velocityX * hitX + body.velocityY * hitY;
    if (speedInto < 0) {
      body.velocityX -= speedInto * hitX;
      body.velocityY -= speedInto * hitY;
    }
    // Wedged in a corner: the new way would lead back into the face just left.
    const wedged = met.count > 0 && body.wayX * met.x + body.wayY * met.y < 0;
    met.count += 1;
    met.item = item;
    met.share = share;
    met.x = hitX;
    met.y = hitY;
    if (wedged) break;
  }
  extendTrack(track, 1, body.x, body.y);
}

/** Pieces a slid track can have. */
export const SLIDE_PIECES = MOST_SLIDES + 2;

/**
 * How far a box that travels by (dx, dy) up to where it is now shoves a body that stood outside it: the way is left in
 * `shoved`. Answers whether it met the body.
 */
export const shoved = new Vector();
const start = new Vector();

export function shove(solids: Solids, hull: Hull, item: number, dx: number, dy: number, body: Mobile): boolean {
  toward.x = body.x - (solids.x[item] as number) + dx;
  toward.y = body.y - (solids.y[item] as number) + dy;
  toward.dx = -dx;
  toward.dy = -dy;
  if (!meetsSolid(solids, hull, item)) return false;
  start.x = body.x + dx;
  start.y = body.y + dy;
  spot.x = start.x - dx * span.enter;
  spot.y = start.y - dy * span.enter;
  outward(solids, hull, item);
  const into = dx * normal.x + dy * normal.y;
  if (into <= 0 || !faceStops(solids, hull, item, start)) return false;
  shoved.x = normal.x * (into * (1 - span.enter) + SKIN);
  shoved.y = normal.y * (into * (1 - span.enter) + SKIN);
  return true;
}

/** Moves a disc by its velocity for `seconds`, rebounding from solids; the way is written to `track`. */
export function rebound(solids: Solids, hull: Hull, body: Mobile, seconds: number, track: Track): void {
  beginTrack(track, body.x, body.y);
  let left = seconds;
  for (let round = 0; round < MOST_SLIDES && left > 0; round += 1) {
    body.wayX = body.velocityX * left;
    body.wayY = body.velocityY * left;
    regionAround(body.x, body.y, hull.radius + Math.abs(body.wayX), hull.radius + Math.abs(body.wayY));
    const meets = meetFirst(solids, hull, body, gatherSolids(solids));
    const share = meets ? hit.share : 1;
    body.x += body.wayX * share;
    body.y += body.wayY * share;
    left = meets ? left * (1 - share) : 0;
    extendTrack(track, 1 - left / seconds, body.x, body.y);
    if (!meets) return;
    body.x += hit.x * SKIN;
    body.y += hit.y * SKIN;
    const into = body.velocityX * hit.x + body.velocityY * hit.y;
    body.velocityX -= 2 * into * hit.x;
    body.velocityY -= 2 * into * hit.y;
  }
  if (left > 0) extendTrack(track, 1, body.x, body.y);
}
