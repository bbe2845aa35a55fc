import { DiscMotion, sweepBoxBox, sweepCircle, sweepDiscBox, Span, TurnedBox } from './sweep.ts';
import { Vector } from './vector.ts';
import { turn } from './angles.ts';

export const CIRCLE = 0;
export const BOX = 1;
export const POLYGON = 2;

/**
 * Sensing shapes of all kinds, laid end to end: circles, boxes that may be turned, convex polygons. Places are seen
 * from the place of the thing. Boxes and polygons have their corners listed too, anticlockwise, seen from their centre.
 */
export interface ShapeTable {
  readonly type: Uint8Array;
  readonly x: Float64Array;
  readonly y: Float64Array;
  /** Radius, or half the width. */
  readonly a: Float64Array;
  /** Half the height of a box. */
  readonly b: Float64Array;
  readonly cos: Float64Array;
  readonly sin: Float64Array;
  readonly cornerStart: Int32Array;
  readonly cornerX: Float64Array;
  readonly cornerY: Float64Array;
  /** Distance from the shape's centre beyond which it does not reach. */
  readonly reach: Float64Array;
}

/** A shape as the table takes it in. Rotation in degrees. */
export type ShapeSource =
  | { readonly type: 'circle'; readonly radius: number; readonly x: number; readonly y: number }
  | {
      readonly type: 'box';
      readonly width: number;
      readonly height: number;
      readonly rotation: number;
      readonly x: number;
      readonly y: number;
    }
  | {
      readonly type: 'polygon';
      readonly points: readonly (readonly [number, number])[];
      readonly rotation: number;
      readonly x: number;
      readonly y: number;
    };

function cornersOf(shape: ShapeSource): (readonly [number, number])[] {
  if (shape.type === 'circle') return [[0, 0]];
  const { cos, sin } = turn(shape.rotation);
  const [w, h] = shape.type === 'box' ? [shape.width / 2, shape.height / 2] : [0, 0];
  const corners: readonly (readonly [number, number])[] =
    shape.type === 'polygon'
      ? shape.points
      : [
          [w, h],
          [-w, h],
          [-w, -h],
          [w, -h],
        ];
  return corners.map(([x, y]) => [x * cos - y * sin, x * sin + y * cos] as const);
}

export function createShapeTable(list: readonly ShapeSource[]): ShapeTable {
  const corners = list.map(cornersOf);
  const turns = list.map((shape) => turn(shape.type === 'box' ? shape.rotation : 0));
  const cornerStart = new Int32Array(list.length + 1);
  corners.forEach((one, index) => (cornerStart[index + 1] = (cornerStart[index] as number) + one.length));
  return {
    type: Uint8Array.from(list, ({ type }) => ['circle', 'box', 'polygon'].indexOf(type)),
    x: Float64Array.from(list, ({ x }) => x),
    y: Float64Array.from(list, ({ y }) => y),
    a: Float64Array.from(list, (shape) => (shape.type === 'circle' ? shape.radius : shape.type === 'box' ? shape.width / 2 : 0)),
    b: Float64Array.from(list, (shape) => (shape.type === 'box' ? shape.height / 2 : 0)),
    cos: Float64Array.from(turns, ({ cos }) => cos),
    sin: Float64Array.from(turns, ({ sin }) => sin),
    cornerStart,
    cornerX: Float64Array.from(corners.flat(), ([x]) => x),
    cornerY: Float64Array.from(corners.flat(), ([, y]) => y),
    reach: Float64Array.from(list, (shape, index) =>
      shape.type === 'circle' ? shape.radius : Math.max(...(corners[index] ?? []).map(([x, y]) => Math.sqrt(x * x + y * y))),
    ),
  };
}

/** Clips the span to the time during which start + t·move ≤ limit. */
function clipAbove(start: number, move: number, limit: number, out: Span): boolean {
  if (move === 0) return start <= limit;
  const at = (limit - start) / move;
  if (move > 0) {
    if (at < out.leave) out.leave = at;
  } else if (at > out.enter) out.enter = at;
  return out.enter <= out.leave;
}

const part = new Span();

/** A disc moving against polygon `j` of the table: its inside, a strip along each edge, and a disc at each corner. */
function sweepDiscPolygon(table: ShapeTable, motion: DiscMotion, j: number, out: Span): boolean {
  const { x, y, dx, dy, radius } = motion;
  const first = table.cornerStart[j] as number;
  const end = table.cornerStart[j + 1] as number;
  let enter = 2;
  let leave = -1;
  const widen = (): void => {
    if (part.enter < enter) enter = part.enter;
    if (part.leave > leave) leave = part.leave;
  };
  part.enter = 0;
  part.leave = 1;
  let within = true;
  for (let corner = first; corner < end && within; corner += 1) {
    const ax = table.cornerX[corner] as number;
    const ay = table.cornerY[corner] as number;
    const next = corner + 1 === end ? first : corner + 1;
    const normalX = (table.cornerY[next] as number) - ay;
    const normalY = ax - (table.cornerX[next] as number);
    within = clipAbove((x - ax) * normalX + (y - ay) * normalY, dx * normalX + dy * normalY, 0, part);
  }
  if (within) widen();
  for (let corner = first; corner < end; corner += 1) {
    const ax = table.cornerX[corner] as number;
    const ay = table.cornerY[corner] as number;
    motion.x = x - ax;
    motion.y = y - ay;
    if (sweepCircle(motion, part)) widen();
    const next = corner + 1 === end ? first : corner + 1;
    const alongX = (table.cornerX[next] as number) - ax;
    const alongY = (table.cornerY[next] as number) - ay;
    const length = Math.sqrt(alongX * alongX + alongY * alongY);
    const dirX = alongX / length;
    const dirY = alongY / length;
    const along = (x - ax) * dirX + (y - ay) * dirY;
    const across = (x - ax) * dirY - (y - ay) * dirX;
    const moveAlong = dx * dirX + dy * dirY;
    const moveOut = dx * dirY - dy * dirX;
    part.enter = 0;
    part.leave = 1;
    if (
      clipAbove(along, moveAlong, length, part) &&
      clipAbove(-along, -moveAlong, 0, part) &&
      clipAbove(across, moveOut, radius, part) &&
      clipAbove(-across, -moveOut, 0, part)
    ) {
      widen();
    }
  }
  out.enter = enter;
  out.leave = leave;
  return enter <= leave;
}

class Axis {
  x = 0;
  y = 0;
  low = 0;
  high = 0;
}
const axis = new Axis();

/** The shadow of shape `j` on the axis (x, y), seen from its centre. */
function shadow(table: ShapeTable, j: number, x: number, y: number): void {
  axis.low = Infinity;
  axis.high = -Infinity;
  const end = table.cornerStart[j + 1] as number;
  for (let corner = table.cornerStart[j] as number; corner < end; corner += 1) {
    const at = (table.cornerX[corner] as number) * x + (table.cornerY[corner] as number) * y;
    if (at < axis.low) axis.low = at;
    if (at > axis.high) axis.high = at;
  }
}

/** Sets `axis` to the outward unit normal of the edge that begins at a corner of shape `j`. */
function edgeNormal(table: ShapeTable, j: number, corner: number): void {
  const next = corner + 1 === (table.cornerStart[j + 1] as number) ? (table.cornerStart[j] as number) : corner + 1;
  const x = (table.cornerY[next] as number) - (table.cornerY[corner] as number);
  const y = (table.cornerX[corner] as number) - (table.cornerX[next] as number);
  const length = Math.sqrt(x * x + y * y);
  axis.x = x / length;
  axis.y = y / length;
}

/** Convex outlines overlap exactly while their shadows do on every edge normal of both. */
function sweepPolygons(table: ShapeTable, i: number, j: number, x: number, y: number, { dx, dy, grow }: Motion, out: Span): boolean {
  out.enter = 0;
  out.leave = 1;
  for (let side = 0; side < 2; side += 1) {
    const from = side === 0 ? i : j;
    const end = table.cornerStart[from + 1] as number;
    for (let corner = table.cornerStart[from] as number; corner < end; corner += 1) {
      edgeNormal(table, from, corner);
      const nx = axis.x;
      const ny = axis.y;
      shadow(table, i, nx, ny);
      const lowI = axis.low;
      const highI = axis.high;
      shadow(table, j, nx, ny);
      const at = x * nx + y * ny;
      const move = dx * nx + dy * ny;
      if (!clipAbove(at, move, axis.high - lowI + grow, out)) return false;
      if (!clipAbove(-at, -move, highI - axis.low + grow, out)) return false;
    }
  }
  return true;
}

/** One thing's even motion seen from another: its place at the start, its way, and by how much contact is widened. */
export class Motion {
  x = 0;
  y = 0;
  dx = 0;
  dy = 0;
  /** Units; negative narrows the contact. */
  grow = 0;
}

const discMotion = new DiscMotion();
const moving = new TurnedBox();
const resting = new TurnedBox();

/** Reads a box of the table, grown to each side. */
function readBox(table: ShapeTable, shape: number, grow: number, into: TurnedBox): void {
  into.halfWidth = (table.a[shape] as number) + grow;
  into.halfHeight = (table.b[shape] as number) + grow;
  into.cos = table.cos[shape] as number;
  into.sin = table.sin[shape] as number;
}

/** During which part of a motion does shape `i`, of the thing that moves, touch shape `j`? */
export function sweepShapes(table: ShapeTable, i: number, j: number, motion: Motion, out: Span): boolean {
  const { x, y, dx, dy, grow } = motion;
  const typeI = table.type[i] as number;
  const typeJ = table.type[j] as number;
  const fromX = x + (table.x[i] as number) - (table.x[j] as number);
  const fromY = y + (table.y[i] as number) - (table.y[j] as number);
  const aI = table.a[i] as number;
  const aJ = table.a[j] as number;
  if (typeI === CIRCLE && typeJ === CIRCLE) {
    discMotion.x = fromX;
    discMotion.y = fromY;
    discMotion.dx = dx;
    discMotion.dy = dy;
    discMotion.radius = aI + aJ + grow;
    return sweepCircle(discMotion, out);
  }
  if (typeI === BOX && typeJ === BOX) {
    readBox(table, i, grow / 2, moving);
    readBox(table, j, grow / 2, resting);
    return sweepBoxBox(fromX, fromY, dx, dy, moving, resting, out);
  }
  if (typeI !== CIRCLE && typeJ !== CIRCLE) return sweepPolygons(table, i, j, fromX, fromY, motion, out);
  // A disc and something with corners: seen from the latter.
  const sign = typeI === CIRCLE ? 1 : -1;
  const disc = typeI === CIRCLE ? i : j;
  const other = typeI === CIRCLE ? j : i;
  discMotion.x = fromX * sign;
  discMotion.y = fromY * sign;
  discMotion.dx = dx * sign;
  discMotion.dy = dy * sign;
  discMotion.radius = (table.a[disc] as number) + grow;
  if (table.type[other] === POLYGON) return sweepDiscPolygon(table, discMotion, other, out);
  const cos = table.cos[other] as number;
  const sin = table.sin[other] as number;
  const { x: px, y: py, dx: mx, dy: my } = discMotion;
  discMotion.x = px * cos + py * sin;
  discMotion.y = py * cos - px * sin;
  discMotion.dx = mx * cos + my * sin;
  discMotion.dy = my * cos - mx * sin;
  discMotion.halfWidth = table.a[other] as number;
  discMotion.halfHeight = table.b[other] as number;
  return sweepDiscBox(discMotion, out);
}

/** Outward unit direction of the contact, from j towards i; left in `contact`. */
export const contact = new Vector();

/** Nearest point to (x, y) on the outline of shape `other`, and the direction from it to there. */
function directionFromOutline(table: ShapeTable, x: number, y: number, other: number): void {
  const first = table.cornerStart[other] as number;
  const end = table.cornerStart[other + 1] as number;
  let best = Infinity;
  let inside = true;
  for (let corner = first; corner < end; corner += 1) {
    const ax = table.cornerX[corner] as number;
    const ay = table.cornerY[corner] as number;
    const next = corner + 1 === end ? first : corner + 1;
    const ex = (table.cornerX[next] as number) - ax;
    const ey = (table.cornerY[next] as number) - ay;
    const share = Math.max(0, Math.min(1, ((x - ax) * ex + (y - ay) * ey) / (ex * ex + ey * ey)));
    const awayX = x - ax - ex * share;
    const awayY = y - ay - ey * share;
    const square = awayX * awayX + awayY * awayY;
    if ((x - ax) * ey - (y - ay) * ex > 0) inside = false;
    if (square >= best) continue;
    best = square;
    const length = Math.sqrt(square);
    const edge = Math.sqrt(ex * ex + ey * ey);
    const usable = length > 1e-9;
    contact.x = usable ? awayX / length : ey / edge;
    contact.y = usable ? awayY / length : -ex / edge;
  }
  if (inside && best > 1e-18) {
    contact.x = -contact.x;
    contact.y = -contact.y;
  }
}

/** The direction in which shape `i` lies of shape `j` where they begin to touch within a motion. */
export function contactDirection(table: ShapeTable, i: number, j: number, motion: Motion, { enter: share }: Span): void {
  const fromX = motion.x + motion.dx * share + (table.x[i] as number) - (table.x[j] as number);
  const fromY = motion.y + motion.dy * share + (table.y[i] as number) - (table.y[j] as number);
  if (table.type[i] === CIRCLE && table.type[j] === CIRCLE) {
    const length = Math.sqrt(fromX * fromX + fromY * fromY);
    contact.x = length > 0 ? fromX / length : 0;
    contact.y = length > 0 ? fromY / length : 1;
    return;
  }
  if (table.type[i] === CIRCLE) {
    directionFromOutline(table, fromX, fromY, j);
    return;
  }
  if (table.type[j] === CIRCLE) {
    directionFromOutline(table, -fromX, -fromY, i);
    contact.x = -contact.x;
    contact.y = -contact.y;
    return;
  }
  let most = -Infinity;
  for (let side = 0; side < 2; side += 1) {
    const from = side === 0 ? j : i;
    const end = table.cornerStart[from + 1] as number;
    for (let corner = table.cornerStart[from] as number; corner < end; corner += 1) {
      edgeNormal(table, from, corner);
      const nx = side === 0 ? axis.x : -axis.x;
      const ny = side === 0 ? axis.y : -axis.y;
      shadow(table, i, nx, ny);
      const lowI = axis.low;
      shadow(table, j, nx, ny);
      const gap = fromX * nx + fromY * ny + lowI - axis.high;
      if (gap <= most + 1e-9) continue;
      most = gap;
      contact.x = nx;
      contact.y = ny;
    }
  }
}

/**
 * Lowers `nearest.distance` to a lower bound of how far the boundary of contact is from a motionless pair of shapes,
 * whether they touch or not. Exact for discs against discs and boxes; nought where it would be dear to know. Of the
 * motion, its start and by how much it widens contact count.
 */
export const nearest = { distance: 0 };
export function lowerToBoundary(table: ShapeTable, i: number, j: number, motion: Motion): void {
  const distance = boundaryDistance(table, i, j, motion) - Math.abs(motion.grow);
  if (distance < nearest.distance) nearest.distance = distance;
}

/** The same for a disc against a box, from the box's middle to the disc's. */
function discToBox(table: ShapeTable, disc: number, box: number, fromX: number, fromY: number): number {
  const cos = table.cos[box] as number;
  const sin = table.sin[box] as number;
  const px = Math.abs(fromX * cos + fromY * sin) - (table.a[box] as number);
  const py = Math.abs(fromY * cos - fromX * sin) - (table.b[box] as number);
  const radius = table.a[disc] as number;
  if (px <= 0 && py <= 0) return radius - Math.max(px, py);
  const outX = px > 0 ? px : 0;
  const outY = py > 0 ? py : 0;
  return Math.abs(Math.sqrt(outX * outX + outY * outY) - radius);
}

function boundaryDistance(table: ShapeTable, i: number, j: number, { x, y }: Motion): number {
  const fromX = x + (table.x[i] as number) - (table.x[j] as number);
  const fromY = y + (table.y[i] as number) - (table.y[j] as number);
  const type = table.type[i];
  const other = table.type[j];
  if (type === CIRCLE && other === CIRCLE) {
    return Math.abs(Math.sqrt(fromX * fromX + fromY * fromY) - (table.a[i] as number) - (table.a[j] as number));
  }
  if (type === CIRCLE && other === BOX) return discToBox(table, i, j, fromX, fromY);
  if (type === BOX && other === CIRCLE) return discToBox(table, j, i, -fromX, -fromY);
  const apart = Math.sqrt(fromX * fromX + fromY * fromY) - (table.reach[i] as number) - (table.reach[j] as number);
  return apart > 0 ? apart : 0;
}
