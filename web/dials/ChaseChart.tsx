import { plainNumber } from '@dial/core/formats';
import { boostedSpeed, chaseOf, type Chase, type Kind, type Level } from '@dial/core/level';

const WIDTH = 286;
const HEIGHT = 84;
const [LEFT, BOTTOM, AIR] = [26, 14, 6];

function ending({ ends, seconds }: Chase): string {
  if (ends === 'taken') return `reaches them after ${plainNumber(seconds, 1)} s`;
  return ends === 'gives up' ? `gives up after ${plainNumber(seconds, 1)} s` : 'neither reaches them nor gives up';
}

/** Under a magnet's curve: its distance to a player who flees straight away, at walk speed and boosted. */
export function ChaseChart({ level, kind }: { readonly level: Level; readonly kind: Kind }) {
  const walk = level.body.speed;
  const boosted = boostedSpeed(level);
  const chases = [...new Set([walk, boosted])].flatMap((speed) => {
    const chase = chaseOf(level, kind, speed);
    return chase === null ? [] : [{ speed, chase, name: speed === walk ? 'walking' : 'boosted' }];
  });
  if (kind.magnet === null || chases.length === 0) return null;
  const longest = Math.max(0.5, ...chases.map(({ chase }) => chase.seconds));
  const farthest = Math.max(kind.magnet.reach, ...chases.flatMap(({ chase }) => chase.points.map(([, distance]) => distance))) * 1.1;
  const x = (seconds: number): number => LEFT + (seconds / longest) * (WIDTH - LEFT - AIR);
  const y = (distance: number): number => HEIGHT - BOTTOM - (distance / farthest) * (HEIGHT - BOTTOM - AIR);
  return (
    <figure className="mt-1.5 text-xs">
      <svg
        viewBox={`0 0 ${String(WIDTH)} ${String(HEIGHT)}`}
        className="w-full rounded-sm border border-line bg-card"
        role="img"
        aria-label="Distance to a fleeing player over time"
      >
        <path d={`M${String(LEFT)} ${String(AIR)}V${String(HEIGHT - BOTTOM)}H${String(WIDTH - AIR)}`} fill="none" stroke="var(--line)" />
        <g fontSize="9" fill="var(--soft)" fontFamily="IBM Plex Mono">
          <text x={LEFT - 3} y={AIR + 8} textAnchor="end">
            {plainNumber(farthest, 1)}
          </text>
          <text x={LEFT - 3} y={HEIGHT - BOTTOM} textAnchor="end">
            0 u
          </text>
          <text x={WIDTH - AIR} y={HEIGHT - 3} textAnchor="end">
            {plainNumber(longest, 1)} s
          </text>
        </g>
        {chases.map(({ name, chase }) => (
          <polyline
            key={name}
            points={chase.points.map(([seconds, distance]) => `${String(x(seconds))},${String(y(distance))}`).join(' ')}
            fill="none"
            stroke={name === 'walking' ? 'var(--ink)' : 'var(--movement)'}
            strokeWidth="1.6"
            strokeDasharray={name === 'walking' ? undefined : '5 3'}
          />
        ))}
      </svg>
      <figcaption>
        From who flees it {chases.map(({ name, speed, chase }) => `${name} (${plainNumber(speed, 1)} u/s) it ${ending(chase)}`).join('; ')}.
      </figcaption>
    </figure>
  );
}
