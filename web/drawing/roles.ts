import type { Role } from '@dial/core/level';

/** How a role's pattern is drawn: paths on an 8 × 8 tile, in the role's hue. */
export interface RolePattern {
  readonly wash: number;
  readonly turned: number;
  readonly paths: readonly { readonly d: string; readonly fill?: boolean; readonly width?: number }[];
}

const dot = (x: number, y: number, r: number): string =>
  `M${String(x - r)} ${String(y)} a${String(r)} ${String(r)} 0 1 0 ${String(2 * r)} 0 a${String(r)} ${String(r)} 0 1 0 ${String(-2 * r)} 0`;

export const ROLE_PATTERNS: Readonly<Record<Role, RolePattern>> = {
  mend: { wash: 0.13, turned: 0, paths: [{ d: dot(2, 2, 1) + dot(6, 6, 1), fill: true }] },
  harm: { wash: 0.1, turned: 45, paths: [{ d: 'M0 0 H2 V8 H0 Z', fill: true }] },
  lethal: { wash: 0.18, turned: 45, paths: [{ d: 'M0 0 H8 M0 0 V8', width: 1.6 }] },
  score: { wash: 0.16, turned: 0, paths: [{ d: dot(4, 4, 2.2), width: 1 }] },
  carry: { wash: 0.13, turned: 0, paths: [{ d: 'M0 4 H8 M4 0 V8', width: 0.9 }] },
  movement: { wash: 0.1, turned: 0, paths: [{ d: 'M1 1 L5 4 L1 7', width: 1.3 }] },
  return: { wash: 0.12, turned: 0, paths: [{ d: 'M0 8 A4 4 0 0 1 8 8', width: 1 }] },
};

export const roleColour = (role: Role): string => `var(--${role})`;
