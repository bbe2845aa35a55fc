import type { MarkName } from '@dial/core/level';

/** A glyph in a box of 24 × 24, drawn filled or as a line. */
export interface MarkShape {
  readonly path: string;
  readonly filled: boolean;
}

export const MARK_SHAPES: Readonly<Record<MarkName, MarkShape>> = {
  triangle: { path: 'M12 4 L21 19 H3 Z', filled: true },
  diamond: { path: 'M12 3 L20 12 L12 21 L4 12 Z', filled: true },
  star: { path: 'M12 3 L14.6 9.2 L21 9.8 L16.2 14.1 L17.7 20.6 L12 17.1 L6.3 20.6 L7.8 14.1 L3 9.8 L9.4 9.2 Z', filled: true },
  plus: { path: 'M12 4 V20 M4 12 H20', filled: false },
  wave: { path: 'M3 9 C6 5 9 5 12 9 S18 13 21 9 M3 16 C6 12 9 12 12 16 S18 20 21 16', filled: false },
  arrows: { path: 'M3 9 H20 M16 5 L20 9 L16 13 M21 16 H4 M8 12.5 L4 16 L8 20', filled: false },
  cross: { path: 'M5 5 L19 19 M19 5 L5 19', filled: false },
  chevron: { path: 'M5 5 L12 12 L5 19 M12 5 L19 12 L12 19', filled: false },
  ring: { path: 'M12 5 A7 7 0 1 1 11.9 5 Z', filled: false },
  square: { path: 'M5 5 H19 V19 H5 Z', filled: true },
  arc: { path: 'M4 18 A8 9 0 0 1 20 18 M9 18 A3 4 0 0 1 15 18', filled: false },
  bar: { path: 'M4 12 H20', filled: false },
};
