import { plainNumber } from '@dial/core/formats';
import { boostedSpeed, chaseOf, type Chase, type Kind, type Level } from '@dial/core/level';
import { useMemo } from 'react';
import { Chart } from '../charts/Chart.tsx';
import type { LinesSpec } from '../charts/spec.ts';

/** CSS pixels. */
const HEIGHT = 128;

function ending({ ends, seconds }: Chase): string {
  if (ends === 'taken') return `reaches them after ${plainNumber(seconds, 1)} s`;
  return ends === 'gives up' ? `gives up after ${plainNumber(seconds, 1)} s` : 'neither reaches them nor gives up';
}

/** Under a magnet's curve: its distance to a player who flees straight away, at walk speed and boosted. */
export function ChaseChart({ level, kind }: { readonly level: Level; readonly kind: Kind }) {
  const chases = useMemo(() => {
    const walk = level.body.speed;
    return [...new Set([walk, boostedSpeed(level)])].flatMap((speed) => {
      const chase = chaseOf(level, kind, speed);
      return chase === null ? [] : [{ speed, chase, name: speed === walk ? 'walking' : 'boosted' }];
    });
  }, [level, kind]);
  const reach = kind.magnet?.reach ?? 0;
  const spec = useMemo((): LinesSpec => {
    const farthest = Math.max(reach, ...chases.flatMap(({ chase }) => chase.points.map(([, distance]) => distance)));
    return {
      kind: 'lines',
      label: `Distance of ${kind.name} to a fleeing player over time`,
      x: {
        name: 'time',
        low: 0,
        high: Math.max(0.5, ...chases.map(({ chase }) => chase.seconds)),
        words: (x) => `${plainNumber(x, 2)} s`,
      },
      panels: [
        {
          name: 'u away',
          low: 0,
          high: Math.ceil(farthest * 1.1),
          lines: chases.map(({ name, chase }) => ({ name, points: chase.points })),
        },
      ],
    };
  }, [kind.name, reach, chases]);
  if (kind.magnet === null || chases.length === 0) return null;
  return (
    <div className="mt-1.5 text-xs">
      <div className="rounded-sm border border-line bg-card px-1">
        <Chart spec={spec} height={HEIGHT} />
      </div>
      <p>
        From who flees it {chases.map(({ name, speed, chase }) => `${name} (${plainNumber(speed, 1)} u/s) it ${ending(chase)}`).join('; ')}.
      </p>
    </div>
  );
}
