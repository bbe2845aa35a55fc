import { inOrder, kindOfPlacement, type Kind, type Level } from '@dial/core/level';
import { roleColour } from '../roles.ts';

function Thing({ kind, x, y }: { readonly kind: Kind; readonly x: number; readonly y: number }) {
  const common = { fill: roleColour(kind.role), fillOpacity: 0.35, stroke: roleColour(kind.role), strokeWidth: 0.16 };
  const turn = (shape: { readonly rotation: number; readonly x: number; readonly y: number }): string =>
    `rotate(${String(shape.rotation)} ${String(x + shape.x)} ${String(y + shape.y)})`;
  return Object.entries(kind.shapes).map(([id, shape]) =>
    shape.type === 'circle' ? (
      <circle key={id} cx={x + shape.x} cy={y + shape.y} r={shape.radius} {...common} />
    ) : shape.type === 'polygon' ? (
      <polygon
        key={id}
        points={shape.points.map(([px, py]) => `${String(x + shape.x + px)},${String(y + shape.y + py)}`).join(' ')}
        transform={turn(shape)}
        {...common}
      />
    ) : (
      <rect
        key={id}
        x={x + shape.x - shape.width / 2}
        y={y + shape.y - shape.height / 2}
        width={shape.width}
        height={shape.height}
        transform={turn(shape)}
        {...common}
      />
    ),
  );
}

/** A small still picture of a level's plan. */
export function PlanPicture({ level }: { readonly level: Level }) {
  const { width, height } = level.size;
  return (
    <svg
      viewBox={`0 0 ${String(width)} ${String(height)}`}
      className="block h-48 w-full bg-paper"
      role="img"
      aria-label={`Plan of ${level.name}`}
    >
      {/* Units, y up. */}
      <g transform={`translate(0 ${String(height)}) scale(1 -1)`}>
        {inOrder(level.placements).map(([key, placement]) => {
          const kind = kindOfPlacement(level, key);
          return kind === undefined ? null : <Thing key={key} kind={kind} x={placement.x} y={placement.y} />;
        })}
        {inOrder(level.solids).map(([key, { x, y, width: w, height: h }]) => (
          <rect key={key} x={x} y={y} width={w} height={h} fill="var(--ink)" />
        ))}
        <circle cx={level.start.x} cy={level.start.y} r={level.body.radius * 1.2} fill="none" stroke="var(--ink)" strokeWidth=".25" />
      </g>
    </svg>
  );
}
