import { dialText } from '@dial/core/formats';
import isEqual from 'fast-deep-equal';
import { memo, useId } from 'react';
import { decimals, type DialRange } from './quantity.ts';

export const TAPE_WIDTH = 300;
const HEIGHT = 40;
const MIDDLE = TAPE_WIDTH / 2;
/** Figures nearer than this to an end would be cut off. */
const EDGE = 9;
/** Picture units per step of the value. */
export const STEP_WIDTH = 5;

/** Outcomes along the dial, for the thin line on the ruler. */
export interface OutcomeCurve {
  readonly values: readonly number[];
  readonly outcomes: readonly (number | null)[];
  /** Where eight of ten sessions of a crowd lie, or how sure a swept figure is, for each value; null: it is of the one run. */
  readonly band: readonly (readonly [tenth: number, ninetieth: number] | null)[] | null;
  /** Stretches of the ruler where a target is met. */
  readonly met?: readonly (readonly [from: number, to: number])[];
  /** What it shows and what stands behind it. */
  readonly says?: string;
}

interface TapeProps {
  readonly value: number;
  readonly was: number | null;
  readonly range: DialRange;
  readonly curve: OutcomeCurve | null;
}

/** So many ticks are counted from one place: as the ruler slides only the whole moves, and figures on it stay small. */
const TICKS_A_STRETCH = 100;

function Ticks({ value, range, x }: { readonly value: number; readonly range: DialRange; readonly x: (at: number) => number }) {
  const { step } = range;
  const first = Math.max(Math.ceil((value - MIDDLE / (STEP_WIDTH / step)) / step), Math.ceil(range.min / step - 1e-9));
  const last = Math.min(Math.floor((value + MIDDLE / (STEP_WIDTH / step)) / step), Math.floor(range.max / step + 1e-9));
  const places = decimals(step);
  const origin = Math.round(value / step / TICKS_A_STRETCH) * TICKS_A_STRETCH;
  return (
    <g transform={`translate(${String(x(origin * step))} 0)`}>
      {Array.from({ length: Math.max(0, last - first + 1) }, (_, offset) => {
        const index = first + offset;
        const at = Number((index * step).toFixed(places));
        const along = (index - origin) * STEP_WIDTH;
        const long = index % 10 === 0;
        return (
          <g key={index} stroke="var(--ink)">
            <line
              x1={along}
              x2={along}
              y1={HEIGHT - 12 - (long ? 9 : index % 5 === 0 ? 6.5 : 3.5)}
              y2={HEIGHT - 12}
              strokeWidth={long ? 1.1 : 0.7}
              // Not the opacity of the element: that would be a layer for each tick.
              strokeOpacity={long ? 0.9 : 0.55}
            />
            {long && Math.abs(x(at) - MIDDLE) < MIDDLE - EDGE && (
              <text
                x={along}
                y={HEIGHT - 2.5}
                textAnchor="middle"
                stroke="none"
                fill="var(--soft)"
                fontSize="9"
                fontFamily="var(--font-mono)"
              >
                {dialText(at)}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

function CurveLine({ curve, x }: { readonly curve: OutcomeCurve; readonly x: (at: number) => number }) {
  const edges = curve.band?.flatMap((one) => one ?? []) ?? [];
  const known = [...curve.outcomes.filter((outcome) => outcome !== null), ...edges];
  const low = Math.min(...known);
  const high = Math.max(...known);
  const y = (outcome: number): number => (high - low < 1e-6 ? 10 : 15.5 - ((outcome - low) / (high - low)) * 12);
  const points = curve.values.flatMap((value, index) => {
    const outcome = curve.outcomes[index];
    return outcome == null ? [] : [`${x(value).toFixed(1)},${y(outcome).toFixed(1)}`];
  });
  const edge = (which: 0 | 1): string[] =>
    curve.values.flatMap((value, index) => {
      const at = curve.band?.[index];
      return at == null ? [] : [`${x(value).toFixed(1)},${y(at[which]).toFixed(1)}`];
    });
  return (
    <>
      {curve.band !== null && <polygon points={[...edge(0), ...edge(1).reverse()].join(' ')} fill="var(--mend)" fillOpacity="0.18" />}
      <polyline points={points.join(' ')} fill="none" stroke="var(--mend)" strokeWidth="1.4" />
    </>
  );
}

/** The ruler that slides under the needle; it stays as it is while another is turned. */
export const Tape = memo(function Tape({ value, was, range, curve }: TapeProps) {
  const clip = useId();
  const x = (at: number): number => MIDDLE + ((at - value) / range.step) * STEP_WIDTH;
  const wasX = was === null ? null : x(was);
  const outside = wasX === null ? 0 : wasX < 4 ? -1 : wasX > TAPE_WIDTH - 4 ? 1 : 0;
  const left = Math.max(0, x(range.min));
  const right = Math.min(TAPE_WIDTH, x(range.max));
  return (
    <svg viewBox={`0 0 ${String(TAPE_WIDTH)} ${String(HEIGHT)}`} className="block w-full" aria-hidden="true">
      <clipPath id={clip}>
        <rect width={TAPE_WIDTH} height={HEIGHT} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        <rect x="0" y="1" width={TAPE_WIDTH} height={HEIGHT - 13} fill="var(--panel)" />
        <rect x={left} y="1" width={Math.max(0, right - left)} height={HEIGHT - 13} fill="var(--card)" />
        {curve?.met?.map(([from, to]) => (
          <rect
            key={from}
            x={x(from)}
            y="1"
            width={Math.max(0, x(to) - x(from))}
            height={HEIGHT - 13}
            fill="var(--mend)"
            fillOpacity="0.16"
          />
        ))}
        {curve !== null && curve.outcomes.some((outcome) => outcome !== null) && <CurveLine curve={curve} x={x} />}
        <Ticks value={value} range={range} x={x} />
        <rect x=".5" y="1" width={TAPE_WIDTH - 1} height={HEIGHT - 13} fill="none" stroke="var(--line)" />
        {wasX !== null && outside === 0 && Math.abs(wasX - MIDDLE) > 0.5 && (
          <path d={`M${String(wasX - 4.5)} 1 h9 l-4.5 8 Z`} fill="var(--card)" stroke="var(--ink)" strokeWidth="1.1" />
        )}
        {outside !== 0 && (
          <path
            d={outside < 0 ? 'M2 8 l7 -4.5 v9 Z' : `M${String(TAPE_WIDTH - 2)} 8 l-7 -4.5 v9 Z`}
            fill="var(--card)"
            stroke="var(--ink)"
            strokeWidth="1.1"
          />
        )}
      </g>
      <path d={`M${String(MIDDLE - 5.5)} 0 h11 l-5.5 8 Z`} fill="var(--needle)" />
      <line x1={MIDDLE} x2={MIDDLE} y1="0" y2={HEIGHT - 12} stroke="var(--needle)" strokeWidth="1.8" />
    </svg>
  );
}, isEqual);
