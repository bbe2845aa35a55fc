/** Two numbers that belong together. A class of its own, so that changing them puts nothing on the heap: see `DiscMotion`. */
export class Vector {
  x = 0;
  y = 0;
}
