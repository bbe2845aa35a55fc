/** Two numbers that belong together. A class of its own, so that changing them puts nothing on the heap: see `DiscMotion`. */
export class Vector {
  x = 0;
  y = 0;
}

/** A place, or a way, that is not changed. Units. */
export type Place = Readonly<Vector>;

/** How far two places are apart. Units. */
export function apart(a: Place, b: Place): number {
  const x = b.x - a.x;
  const y = b.y - a.y;
  return Math.sqrt(x * x + y * y);
}
