import { plainNumber } from '@dial/core/formats';
import type { PlanBox } from '../state/document/authoring.ts';
import type { PlanSpot } from '../state/document/spots.ts';
import type { Measured } from './tools/tool.ts';
import type { PlanScale } from '../drawing/plan/planScale.ts';

/** A distance in words, and how long it takes at walk speed. */
export function measuredWords({ from, to }: Measured, pace: number): string {
  const [right, up] = [to.x - from.x, to.y - from.y];
  const length = Math.hypot(right, up);
  const parts = [
    `${plainNumber(length)} u`,
    `${plainNumber(Math.abs(right))} ${right < 0 ? 'left' : 'right'}, ${plainNumber(Math.abs(up))} ${up < 0 ? 'down' : 'up'}`,
    `${plainNumber((Math.atan2(up, right) * 180) / Math.PI, 0)}°`,
    ...(pace > 0 ? [`${plainNumber(length / pace)} s at walk speed`] : []),
  ];
  return parts.join(' · ');
}

interface OverlayProps {
  readonly scale: PlanScale;
  readonly way: readonly PlanSpot[];
  readonly band: PlanBox | null;
  readonly measured: Measured | null;
  readonly pace: number;
}

/** What is being drawn or measured on the Plan, over everything. */
export function PlanOverlay({ scale, way, band, measured, pace }: OverlayProps) {
  return (
    <>
      {way.length > 0 && (
        <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
          <polyline
            points={way.map(({ x, y }) => `${String(scale.x(x))},${String(scale.y(y))}`).join(' ')}
            fill="none"
            stroke="var(--needle)"
            strokeWidth="1.5"
            strokeDasharray="5 3"
          />
          {way.map(({ x, y }, index) => (
            <rect
              key={index}
              x={scale.x(x) - 4}
              y={scale.y(y) - 4}
              width="8"
              height="8"
              fill="var(--card)"
              stroke="var(--needle)"
              strokeWidth="1.5"
            />
          ))}
        </svg>
      )}
      {band !== null && (
        <div
          className="pointer-events-none absolute border-[1.3px] border-dashed border-needle"
          style={{
            left: scale.x(band.x),
            top: scale.y(band.y + band.height),
            width: band.width * scale.pixelsPerUnit,
            height: band.height * scale.pixelsPerUnit,
          }}
        />
      )}
      {measured !== null && (
        <>
          <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
            <line
              x1={scale.x(measured.from.x)}
              y1={scale.y(measured.from.y)}
              x2={scale.x(measured.to.x)}
              y2={scale.y(measured.to.y)}
              stroke="var(--needle)"
              strokeWidth="1.6"
            />
            {[measured.from, measured.to].map(({ x, y }, end) => (
              <circle key={end} cx={scale.x(x)} cy={scale.y(y)} r="3" fill="var(--needle)" />
            ))}
          </svg>
          <output
            aria-label="Measured"
            className="pointer-events-none absolute rounded-sm border border-needle bg-card px-1.5 py-0.5 font-mono text-[11px] whitespace-nowrap"
            style={{ left: scale.x(measured.to.x) + 8, top: scale.y(measured.to.y) + 8 }}
          >
            {measuredWords(measured, pace)}
          </output>
        </>
      )}
    </>
  );
}
