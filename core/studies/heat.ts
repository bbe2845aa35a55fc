import { z } from 'zod';
import type { Level } from '../level/index.ts';

export const HEAT_LAYERS = ['deaths', 'hurt', 'healed', 'waited', 'walked'] as const;
export type HeatLayer = (typeof HEAT_LAYERS)[number];

/** So many cells a level is parted into at most, and so small one is at least. Units. */
const MOST_CELLS = 6000;
const LEAST_CELL = 0.5;

/** The cells of a level. */
export interface HeatGrid {
  readonly cell: number;
  readonly columns: number;
  readonly rows: number;
}

export function heatGrid({ size: { width, height } }: Pick<Level, 'size'>): HeatGrid {
  const cell = Math.max(LEAST_CELL, Math.sqrt((width * height) / MOST_CELLS));
  return { cell, columns: Math.max(1, Math.ceil(width / cell)), rows: Math.max(1, Math.ceil(height / cell)) };
}

export function heatCell({ cell, columns, rows }: HeatGrid, x: number, y: number): number {
  const column = Math.max(0, Math.min(columns - 1, Math.floor(x / cell)));
  const row = Math.max(0, Math.min(rows - 1, Math.floor(y / cell)));
  return row * columns + column;
}

/** Whole numbers by cell, only where there are any: cell, number, cell, number … Health in thousandths, time in tenths of a second. */
const Cells = z.array(z.int().min(0));
export const Heat = z.strictObject({ deaths: Cells, hurt: Cells, healed: Cells, waited: Cells, walked: Cells });
export type Heat = z.infer<typeof Heat>;

export type HeatCounts = Readonly<Record<HeatLayer, Float64Array>>;

export const emptyCounts = ({ columns, rows }: HeatGrid): HeatCounts => {
  const made = (): Float64Array => new Float64Array(columns * rows);
  return { deaths: made(), hurt: made(), healed: made(), waited: made(), walked: made() };
};

function sparse(counts: Float64Array): number[] {
  const cells: number[] = [];
  counts.forEach((count, cell) => {
    if (count > 0) cells.push(cell, count);
  });
  return cells;
}

export const heatOf = ({ deaths, hurt, healed, waited, walked }: HeatCounts): Heat => ({
  deaths: sparse(deaths),
  hurt: sparse(hurt),
  healed: sparse(healed),
  waited: sparse(waited),
  walked: sparse(walked),
});

/** Adds what is known of some sessions to the counts of others. */
export function addHeat(counts: HeatCounts, heat: Heat): void {
  for (const layer of HEAT_LAYERS) {
    const cells = heat[layer];
    for (let at = 0; at < cells.length; at += 2) {
      const cell = cells[at] as number;
      if (cell < counts[layer].length) counts[layer][cell] = (counts[layer][cell] as number) + (cells[at + 1] as number);
    }
  }
}
