import { entry, type Level } from '@dial/core/level';
import type { Thought } from '@dial/core/players';
import type { Moment } from '@dial/core/session';
import type { PlanScale } from '../drawing/plan/planScale.ts';

interface ThoughtProps {
  readonly level: Level;
  readonly scale: PlanScale;
  readonly thought: Thought;
  readonly moment: Moment | null;
  /** What it last decided, in words. */
  readonly decided: string | null;
}

/** What a persona knows and means at the moment of the needle: the way it has planned, what it has not seen, and why it goes there. */
export function PlanThought({ level, scale, thought, moment, decided }: ThoughtProps) {
  const player = moment?.players[0];
  const way = player === undefined || thought.way.length === 0 ? [] : [player, ...thought.way];
  const end = way.at(-1);
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
        <polyline
          points={way.map(({ x, y }) => `${String(scale.x(x))},${String(scale.y(y))}`).join(' ')}
          fill="none"
          stroke="var(--needle)"
          strokeWidth="2"
          strokeDasharray="1 5"
          strokeLinecap="round"
        />
        {end !== undefined && <circle cx={scale.x(end.x)} cy={scale.y(end.y)} r="5" fill="none" stroke="var(--needle)" strokeWidth="1.6" />}
        {thought.unknown.map((id) => {
          const at = moment?.placements[id] ?? entry(level.placements, id);
          return (
            at !== undefined && (
              <text
                key={id}
                x={scale.x(at.x)}
                y={scale.y(at.y) - 9}
                textAnchor="middle"
                fontSize="12"
                fontWeight="700"
                fill="var(--soft)"
                stroke="var(--paper)"
                strokeWidth="3"
                paintOrder="stroke"
              >
                ?
              </text>
            )
          );
        })}
      </svg>
      {decided !== null && (
        <output
          aria-label="What the persona means"
          className="pointer-events-none absolute top-1.5 left-1.5 max-w-[70%] truncate rounded-sm border border-line bg-card px-1.5 py-0.5 text-xs"
        >
          {decided}
        </output>
      )}
    </>
  );
}
