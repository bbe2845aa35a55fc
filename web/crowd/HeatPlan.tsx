import { placementName, planSvgText, plainNumber } from '@dial/core/formats';
import { inOrder, type Level } from '@dial/core/level';
import { HEAT_LAYERS, heatGrid, type Heat, type HeatLayer, type SessionRow } from '@dial/core/studies';
import { useMemo, useState } from 'react';
import { Radios } from '../controls/Radios.tsx';

const NAMES: Readonly<Record<HeatLayer, string>> = { deaths: 'deaths', hurt: 'hurt', healed: 'healed', waited: 'waited', walked: 'walked' };
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

interface HeatPlanProps {
  readonly level: Level;
  readonly heat: Heat;
  readonly rows: readonly SessionRow[];
  readonly onDeath: (row: SessionRow, seconds: number) => void;
}

/** The Plan with where players were hurt, healed, stood, walked and died over it; deaths are pressed to be seen. */
export function HeatPlan({ level, heat, rows, onDeath }: HeatPlanProps) {
  const [layer, setLayer] = useState<HeatLayer>('walked');
  const picture = useMemo(() => `data:image/svg+xml,${encodeURIComponent(planSvgText(level))}`, [level]);
  const { width, height } = level.size;
  const grid = heatGrid(level);
  const cells = heat[layer];
  const counts = cells.filter((_, at) => at % 2 === 1);
  const most = counts.reduce((one, other) => Math.max(one, other), 1);
  const deaths = rows.flatMap((row) => row.deaths.map((death) => ({ row, death })));
  return (
    <section aria-label="Where">
      <div className="flex items-center gap-2 pb-1 text-xs">
        <Radios label="where" value={layer} options={HEAT_LAYERS.map((one) => [one, NAMES[one]] as const)} onChoose={setLayer} />
        <span className="ml-auto text-soft">a × is a death: press it to see it on the Bench</span>
      </div>
      <div className="relative border border-ink bg-card">
        <img src={picture} alt={`Plan of ${level.name}`} className="block w-full opacity-60" />
        <svg
          viewBox={`0 0 ${String(width)} ${String(height)}`}
          className="absolute inset-0 h-full w-full"
          role="group"
          aria-label={`Where they ${NAMES[layer]}`}
        >
          {cells.map((cell, at) => {
            if (at % 2 === 1) return null;
            const count = cells[at + 1] ?? 0;
            const [column, row] = [cell % grid.columns, Math.floor(cell / grid.columns)];
            return (
              <rect
                key={cell}
                x={column * grid.cell}
                y={height - (row + 1) * grid.cell}
                width={grid.cell}
                height={grid.cell}
                fill={COLOURS[layer]}
                // As the square root: where few were is still seen beside where all were.
                opacity={0.08 + 0.72 * Math.sqrt(count / most)}
              >
                <title>{amount(layer, count)}</title>
              </rect>
            );
          })}
          {deaths.map(({ row, death: { x, y, seconds, thing } }, at) => (
            <text
              key={at}
              x={x}
              y={height - y}
              fontSize="0.9"
              textAnchor="middle"
              dominantBaseline="central"
              fill="var(--lethal)"
              stroke="var(--card)"
              strokeWidth="0.16"
              paintOrder="stroke"
              className="cursor-pointer"
              role="button"
              tabIndex={0}
              aria-label={`A death at ${plainNumber(seconds, 1)} s${thing === null ? '' : ` of ${thingOf(level, thing)}`}`}
              onClick={() => onDeath(row, seconds)}
              onKeyDown={(event) => event.key === 'Enter' && onDeath(row, seconds)}
            >
              ×
            </text>
          ))}
        </svg>
      </div>
    </section>
  );
}

/** The name of a thing by its number in the rows of a crowd. */
function thingOf(level: Level, thing: number): string {
  const id = inOrder(level.placements)[thing]?.[0];
  return id === undefined ? 'something spawned' : placementName(level, id);
}
