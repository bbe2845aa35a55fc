/**
 * Swept contact: during which part of a straight, even motion is a moving body inside a shape?
 * The answer is a span of the motion from 0 (start) to 1 (end). Touching counts as inside.
 * All functions write into a caller's `Span` and allocate nothing.
 */
export interface Span {
  enter: number;
  leave: number;
}

/** Intersects the span already in `out` with |start + t·move| ≤ half. */
function clipSlab(start: number, move: number, half: number, out: Span): boolean {
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

/** A point moving from (x, y) by (dx, dy) against a disc of `radius` at the origin: roots of |p + t·d|² = r². */
export function sweepCircle(x: number, y: number, dx: number, dy: number, radius: number, out: Span): boolean {
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

function sweepBox(x: number, y: number, dx: number, dy: number, halfWidth: number, halfHeight: number, out: Span): boolean {
  out.enter = 0;
  out.leave = 1;
  return clipSlab(x, dx, halfWidth, out) && clipSlab(y, dy, halfHeight, out);
}

const part: Span = { enter: 0, leave: 0 };
const hull: Span = { enter: 0, leave: 0 };

/** Widens `hull` to take in `part`. */
function widen(): void {
  if (part.enter < hull.enter) hull.enter = part.enter;
  if (part.leave > hull.leave) hull.leave = part.leave;
}

/**
 * A disc of `radius` moving against an upright box centred at the origin. Box ⊕ disc is convex and the union of two
 * boxes and four corner discs, so the span runs from the first entry into any part to the last exit from any.
 */
export function sweepDiscBox(
  x: number,
  y: number,
  dx: number,
  dy: number,
  radius: number,
  halfWidth: number,
  halfHeight: number,
  out: Span,
): boolean {
  if (!sweepBox(x, y, dx, dy, halfWidth + radius, halfHeight + radius, part)) return false;
  hull.enter = 2;
  hull.leave = -1;
  if (sweepBox(x, y, dx, dy, halfWidth + radius, halfHeight, part)) widen();
  if (sweepBox(x, y, dx, dy, halfWidth, halfHeight + radius, part)) widen();
  if (sweepCircle(x - halfWidth, y - halfHeight, dx, dy, radius, part)) widen();
  if (sweepCircle(x + halfWidth, y - halfHeight, dx, dy, radius, part)) widen();
  if (sweepCircle(x - halfWidth, y + halfHeight, dx, dy, radius, part)) widen();
  if (sweepCircle(x + halfWidth, y + halfHeight, dx, dy, radius, part)) widen();
  out.enter = hull.enter;
  out.leave = hull.leave;
  return hull.enter <= hull.leave;
}

/**
 * A box moving against a box, either turned: two convex shapes overlap exactly while their shadows overlap on every
 * face normal of both (separating axes), so the span is the intersection of the four shadow spans.
 * (x, y) is the moving box's centre seen from the other's; cosines and sines are of their turns.
 */
export function sweepBoxBox(
  x: number,
  y: number,
  dx: number,
  dy: number,
  halfWidthA: number,
  halfHeightA: number,
  cosA: number,
  sinA: number,
  halfWidthB: number,
  halfHeightB: number,
  cosB: number,
  sinB: number,
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
