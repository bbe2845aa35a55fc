import { planSvgText, plainNumber, thingName } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { HEAT_LAYERS, numberedThings, type Heat, type HeatLayer, type SessionRow } from '@dial/core/studies';
import { useMemo, useState } from 'react';
import { HeatCells } from '../../drawing/plan/HeatCells.tsx';
import { Radios } from '../../controls/Radios.tsx';

/** A level that is taller than wide leaves room for what stands below. Pixels. */
const TALLEST = 460;

/** More deaths than this are no marks to be pressed any more, but a mass: the layer shows them. */
const MOST_DEATHS = 300;

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
  const scale = { x: (x: number) => x, y: (y: number) => height - y };
  const things = useMemo(() => numberedThings(level), [level]);
  const all = rows.flatMap((row) => row.deaths.map((death) => ({ row, death })));
  const deaths = all.slice(0, MOST_DEATHS);
  const causeOf = (number: number | null): string => {
    const thing = number === null ? undefined : things[number];
    return thing === undefined ? '' : ` of ${thingName(level, thing)}`;
  };
  return (
    <section aria-label="Where">
      <div className="flex items-center gap-2 pb-1 text-xs">
        <Radios label="where" value={layer} options={HEAT_LAYERS.map((one) => [one, one] as const)} onChoose={setLayer} />
        <span className="ml-auto text-soft">
          a × is a death{all.length > deaths.length ? ` (${String(deaths.length)} of ${String(all.length)})` : ''}: press it to see it on
          the Bench
        </span>
      </div>
      <div className="relative mx-auto border border-ink bg-card" style={{ maxWidth: (TALLEST * width) / height }}>
        <img src={picture} alt={`Plan of ${level.name}`} className="block w-full opacity-60" />
        <svg
          viewBox={`0 0 ${String(width)} ${String(height)}`}
          className="absolute inset-0 h-full w-full"
          role="group"
          aria-label={`Where they ${layer}`}
        >
          <HeatCells level={level} heat={heat} layer={layer} scale={scale} />
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
              aria-label={`A death at ${plainNumber(seconds, 1)} s${causeOf(thing)}`}
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
