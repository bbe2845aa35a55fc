import { plainNumber } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { heatGrid, type Heat, type HeatLayer } from '@dial/core/studies';

const COLOURS: Readonly<Record<HeatLayer, string>> = {
  deaths: 'var(--lethal)',
  hurt: 'var(--harm)',
  healed: 'var(--mend)',
  waited: 'var(--carry)',
  walked: 'var(--ink)',
};

/** What a cell's whole number stands for, in words. */
function amount(layer: HeatLayer, count: number): string {
  if (layer === 'deaths') return `${plainNumber(count)} deaths`;
  if (layer === 'hurt' || layer === 'healed') return `${plainNumber(count / 1000, 0)} health`;
  return `${plainNumber(count / 10, 0)} s`;
}

interface HeatCellsProps {
  readonly level: Level;
  readonly heat: Heat;
  readonly layer: HeatLayer;
  /** From units of the level to those of the drawing. */
  readonly scale: { readonly x: (x: number) => number; readonly y: (y: number) => number };
}

/** Where a crowd was, was hurt or died, cell by cell: within an SVG that lies over the Plan. */
export function HeatCells({ level, heat, layer, scale }: HeatCellsProps) {
  const { cell: side, columns } = heatGrid(level);
  const cells = heat[layer];
  const most = cells.reduce((one, other, at) => (at % 2 === 1 ? Math.max(one, other) : one), 1);
  return cells.map((cell, at) => {
    if (at % 2 === 1) return null;
    const count = cells[at + 1] ?? 0;
    const [column, row] = [cell % columns, Math.floor(cell / columns)];
    const [left, top] = [scale.x(column * side), scale.y((row + 1) * side)];
    return (
      <rect
        key={cell}
        x={left}
        y={top}
        width={scale.x((column + 1) * side) - left}
        height={scale.y(row * side) - top}
        fill={COLOURS[layer]}
        // As the square root: where few were is still seen beside where all were.
        opacity={0.08 + 0.72 * Math.sqrt(count / most)}
      >
        <title>{amount(layer, count)}</title>
      </rect>
    );
  });
}
