import type { Kind } from '@dial/core/level';
import { useId } from 'react';
import { MARK_SHAPES } from './marks.ts';
import { ROLE_PATTERNS, roleColour } from './roles.ts';

/** A pattern of a role for SVG; give it the id it is filled by. */
function RolePatternDef({ id, role }: { readonly id: string; readonly role: Kind['role'] }) {
  const { wash, turned, paths } = ROLE_PATTERNS[role];
  const colour = roleColour(role);
  return (
    <pattern id={id} width="8" height="8" patternUnits="userSpaceOnUse" patternTransform={`rotate(${String(turned)})`}>
      <rect width="8" height="8" fill={colour} fillOpacity={wash} />
      {paths.map(({ d, fill, width }) => (
        <path
          key={d}
          d={d}
          opacity=".8"
          fill={fill === true ? colour : 'none'}
          stroke={fill === true ? 'none' : colour}
          strokeWidth={width}
        />
      ))}
    </pattern>
  );
}

const isRound = (kind: Kind): boolean => Object.values(kind.shapes).every(({ type }) => type === 'circle');

/** A kind's mark on the pattern of its role. */
export function Mark({ kind, size = 24 }: { readonly kind: Kind; readonly size?: number }) {
  const id = useId();
  const mark = MARK_SHAPES[kind.mark];
  const colour = roleColour(kind.role);
  return (
    <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden="true" className="shrink-0">
      <defs>
        <RolePatternDef id={id} role={kind.role} />
      </defs>
      <rect
        x="1"
        y="1"
        width="22"
        height="22"
        rx={isRound(kind) ? 11 : 3}
        fill={`url(#${id})`}
        stroke={colour}
        strokeWidth="1.5"
        strokeDasharray={kind.role === 'lethal' ? '3 2' : undefined}
      />
      <circle cx="12" cy="12" r="7" fill="var(--card)" />
      <g transform="translate(12 12) scale(.42) translate(-12 -12)">
        <path
          d={mark.path}
          fill={mark.filled ? 'var(--ink)' : 'none'}
          stroke="var(--ink)"
          strokeWidth={mark.filled ? 1 : 3.6}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      </g>
    </svg>
  );
}
