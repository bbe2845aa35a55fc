/**
 * Swept contact: during which part of a straight, even motion is a moving body inside a shape?
 * The answer is a span of the motion from 0 (start) to 1 (end). Touching counts as inside.
 * All functions write into a caller's `Span` and allocate nothing.
 */
export class Span {
  enter = 0;
  leave = 0;
}

/** Intersects the span already in `out` with |start + t·move| ≤ half. */
export function clipSlab(start: number, move: number, half: number, out: Span): boolean {
  if (move === 0) return start <= half && start >= -half;
  let from = (-half - start) / move;
  let to = (half - start) / move;
  if (from > to) {
    const swap = from;
    from = to;
    to = swap;
  }
  if (from > out.enter) out.enter = from;
  if (to < out.leave) out.leave = to;
  return out.enter <= out.leave;
}

/**
 * A disc in even motion, seen from what it may meet. Made once and filled in again and again: numbers handed over one by
 * one would each be put on the heap, and so would those of a plain object, whose shape others share.
 */
export class DiscMotion {
  x = 0;
  y = 0;
  dx = 0;
  dy = 0;
  /** Of the disc; or, against another disc, of both together. */
  radius = 0;
  /** Half the sides of the upright box it may meet. */
  halfWidth = 0;
  halfHeight = 0;
}

/** A disc against a point at the origin: roots of |p + t·d|² = r². */
export function sweepCircle(motion: DiscMotion, out: Span): boolean {
  const { x, y, dx, dy, radius } = motion;
  const a = dx * dx + dy * dy;
  const c = x * x + y * y - radius * radius;
  out.enter = 0;
  out.leave = 1;
  if (a === 0) return c <= 0;
  const b = x * dx + y * dy;
  const discriminant = b * b - a * c;
  if (discriminant < 0) return false;
  const root = Math.sqrt(discriminant);
  const from = (-b - root) / a;
  const to = (-b + root) / a;
  if (from > 1 || to < 0) return false;
  if (from > 0) out.enter = from;
  if (to < 1) out.leave = to;
  return true;
}

/** The disc's middle against the box, grown by so much to the sides and up and down. */
function sweepBox(motion: DiscMotion, growX: number, growY: number, out: Span): boolean {
  out.enter = 0;
  out.leave = 1;
  return clipSlab(motion.x, motion.dx, motion.halfWidth + growX, out) && clipSlab(motion.y, motion.dy, motion.halfHeight + growY, out);
}

const part = new Span();
const hull = new Span();
const corner = new DiscMotion();

/** Widens `hull` to take in `part`. */
function widen(): void {
  if (part.enter < hull.enter) hull.enter = part.enter;
  if (part.leave > hull.leave) hull.leave = part.leave;
}

/** Widens `hull` by the span in which the disc touches one corner of the box. */
function widenAtCorner(motion: DiscMotion, sideX: 1 | -1, sideY: 1 | -1): void {
  corner.x = motion.x - sideX * motion.halfWidth;
  corner.y = motion.y - sideY * motion.halfHeight;
  corner.dx = motion.dx;
  corner.dy = motion.dy;
  corner.radius = motion.radius;
  if (sweepCircle(corner, part)) widen();
}

/** Whether, at a share of the motion, the middle of the disc is over a face of the box, not off a corner. */
function overFace({ x, y, dx, dy, halfWidth, halfHeight }: DiscMotion, share: number): boolean {
  return Math.abs(x + dx * share) <= halfWidth || Math.abs(y + dy * share) <= halfHeight;
}

/**
 * A disc moving against an upright box centred at the origin. Box ⊕ disc is convex and the union of two boxes and four
 * corner discs, so the span runs from the first entry into any part to the last exit from any.
 */
export function sweepDiscBox(motion: DiscMotion, out: Span): boolean {
  const { radius } = motion;
  if (!sweepBox(motion, radius, radius, part)) return false;
  out.enter = part.enter;
  out.leave = part.leave;
  if (overFace(motion, part.enter) && overFace(motion, part.leave)) return true;
  hull.enter = 2;
  hull.leave = -1;
  if (sweepBox(motion, radius, 0, part)) widen();
  if (sweepBox(motion, 0, radius, part)) widen();
  widenAtCorner(motion, 1, 1);
  widenAtCorner(motion, -1, 1);
  widenAtCorner(motion, 1, -1);
  widenAtCorner(motion, -1, -1);
  out.enter = hull.enter;
  out.leave = hull.leave;
  return hull.enter <= hull.leave;
}

/** Half the sides of a box, and the cosine and sine of its turn. Units. */
export class TurnedBox {
  halfWidth = 0;
  halfHeight = 0;
  cos = 1;
  sin = 0;
}

/**
 * A box moving against a box, either turned: two convex shapes overlap exactly while their shadows overlap on every
 * face normal of both (separating axes), so the span is the intersection of the four shadow spans.
 * (x, y) is the moving box's centre seen from the other's.
 */
export function sweepBoxBox(
  x: number,
  y: number,
  dx: number,
  dy: number,
  { halfWidth: halfWidthA, halfHeight: halfHeightA, cos: cosA, sin: sinA }: TurnedBox,
  { halfWidth: halfWidthB, halfHeight: halfHeightB, cos: cosB, sin: sinB }: TurnedBox,
  out: Span,
): boolean {
  out.enter = 0;
  out.leave = 1;
  const cos = Math.abs(cosA * cosB + sinA * sinB);
  const sin = Math.abs(sinA * cosB - cosA * sinB);
  return (
    clipSlab(x * cosA + y * sinA, dx * cosA + dy * sinA, halfWidthA + halfWidthB * cos + halfHeightB * sin, out) &&
    clipSlab(y * cosA - x * sinA, dy * cosA - dx * sinA, halfHeightA + halfWidthB * sin + halfHeightB * cos, out) &&
    clipSlab(x * cosB + y * sinB, dx * cosB + dy * sinB, halfWidthB + halfWidthA * cos + halfHeightA * sin, out) &&
    clipSlab(y * cosB - x * sinB, dy * cosB - dx * sinB, halfHeightB + halfWidthA * sin + halfHeightA * cos, out)
  );
}
