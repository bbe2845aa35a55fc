/** A corner, or a centre. */
export type Corner = readonly [x: number, y: number];

/** Distance of a point from a stretch. */
function fromStretch([x, y]: Corner, [ax, ay]: Corner, [bx, by]: Corner): number {
  const [wayX, wayY] = [bx - ax, by - ay];
  const length = wayX * wayX + wayY * wayY;
  const along = length === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * wayX + (y - ay) * wayY) / length));
  const [dx, dy] = [x - ax - wayX * along, y - ay - wayY * along];
  return Math.sqrt(dx * dx + dy * dy);
}

const sides = (corners: readonly Corner[]): (readonly [Corner, Corner])[] =>
  corners.map((corner, index) => [corner, corners[(index + 1) % corners.length] ?? corner] as const);

/** Whether a line along some side of `a` has all of `a` on one side and all of `b` on the other. */
function parted(a: readonly Corner[], b: readonly Corner[]): boolean {
  return sides(a).some(([[ax, ay], [bx, by]]) => {
    const off = ([x, y]: Corner): number => (bx - ax) * (y - ay) - (by - ay) * (x - ax);
    const own = a.map(off);
    const other = b.map(off);
    if (own.every((value) => value === 0)) return false;
    return Math.max(...own) <= 0 ? Math.min(...other) > 0 : Math.min(...own) >= 0 && Math.max(...other) < 0;
  });
}

/**
 * Distance between two convex outlines, 0 where they touch; an outline may be a single point or a stretch. Of two convex
 * outlines apart from each other the nearest points lie on a corner of one and a side of the other.
 */
export function outlineDistance(a: readonly Corner[], b: readonly Corner[]): number {
  const cornerToSide = (corners: readonly Corner[], of: readonly Corner[]): number =>
    Math.min(...corners.flatMap((corner) => sides(of).map(([from, to]) => fromStretch(corner, from, to))));
  const apart = Math.min(cornerToSide(a, b), cornerToSide(b, a));
  const overlap = a.length < 3 && b.length < 3 ? false : !parted(a, b) && !parted(b, a);
  return overlap ? 0 : apart;
}
