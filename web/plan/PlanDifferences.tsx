import { planDifferences, type Level } from '@dial/core/level';
import { useMemo } from 'react';
import { useAppSelector } from '../state/store.ts';
import type { PlanScale } from '../drawing/plan/planScale.ts';

interface PlanDifferencesProps {
  readonly now: Level;
  readonly scale: PlanScale;
}

const RING = 13;
const CROSS = 7;

/** Where the level differs from the compared version, when that is asked for. */
export function PlanDifferences({ now, scale }: PlanDifferencesProps) {
  const shown = useAppSelector((state) => state.view.differencesShown);
  const compared = useAppSelector((state) => state.document.compared);
  return shown && compared !== null ? <Differences was={compared.level} now={now} scale={scale} /> : null;
}

/** Differences: moved from, new, gone, otherwise; dashed, as all that is of another version. */
function Differences({ was, now, scale }: PlanDifferencesProps & { readonly was: Level }) {
  const { came, gone, moved, otherwise, solidsCame, solidsGone } = useMemo(() => planDifferences(was, now), [was, now]);
  const at = ({ x, y }: { readonly x: number; readonly y: number }): readonly [number, number] => [scale.x(x), scale.y(y)];
  const counts = [
    [moved.length, 'moved'],
    [came.length + solidsCame.length, 'new or redrawn'],
    [gone.length + solidsGone.length, 'gone or redrawn'],
    [otherwise.length, 'with other values'],
  ] as const;
  const words = counts.flatMap(([count, word]) => (count === 0 ? [] : [`${String(count)} ${word}`])).join(' · ');
  const size = scale.pixelsPerUnit;
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden fill="none" stroke="var(--ink)" strokeWidth="1.6">
        {moved.map(({ from, to }, index) => {
          const [[fromX, fromY], [toX, toY]] = [at(from), at(to)];
          return (
            <g key={index} strokeDasharray="4 3">
              <circle cx={fromX} cy={fromY} r={RING} />
              <line x1={fromX} y1={fromY} x2={toX} y2={toY} />
            </g>
          );
        })}
        {came.map((one, index) => {
          const [x, y] = at(one);
          return <circle key={index} cx={x} cy={y} r={RING} strokeWidth="2.6" />;
        })}
        {gone.map((one, index) => {
          const [x, y] = at(one);
          return (
            <g key={index}>
              <circle cx={x} cy={y} r={RING} strokeDasharray="4 3" />
              <path
                d={`M${String(x - CROSS)} ${String(y - CROSS)}l${String(CROSS * 2)} ${String(CROSS * 2)}m0 ${String(-CROSS * 2)}l${String(-CROSS * 2)} ${String(CROSS * 2)}`}
              />
            </g>
          );
        })}
        {otherwise.map((one, index) => {
          const [x, y] = at(one);
          return <circle key={index} cx={x} cy={y} r={RING} strokeDasharray="1.5 3" strokeWidth="2.4" strokeLinecap="round" />;
        })}
        {solidsGone.map(({ x, y, width, height }, index) => (
          <rect key={index} x={scale.x(x)} y={scale.y(y + height)} width={width * size} height={height * size} strokeDasharray="4 3" />
        ))}
        {solidsCame.map(({ x, y, width, height }, index) => (
          <rect
            key={index}
            x={scale.x(x) - 2}
            y={scale.y(y + height) - 2}
            width={width * size + 4}
            height={height * size + 4}
            strokeWidth="2.6"
          />
        ))}
      </svg>
      <output
        aria-label="Differences"
        className="pointer-events-none absolute right-2 bottom-2 rounded-sm border border-ink bg-card px-1.5 py-0.5 text-[11px]"
      >
        {words === '' ? 'Nothing on the Plan differs.' : words}
      </output>
    </>
  );
}
