import type { Kind } from '../../level/index.ts';
import { entry } from '../../level/index.ts';
import type { Form, LevelView } from '../view.ts';

export type Phase = keyof Kind['phases'];

/** In words. */
export const PHASE_NAMES: Readonly<Record<Phase, string>> = {
  ready: 'ready',
  windingUp: 'winding up',
  active: 'active',
  resting: 'resting',
  spent: 'spent',
  off: 'off',
};

/** The phases that things of a form ever come to. */
export function phasesOf({ level }: LevelView, { kind, placements }: Form): ReadonlySet<Phase> {
  const found = new Set<Phase>(['ready']);
  for (const { becomes, windUp, active, uses } of Object.values(kind.rules)) {
    if (windUp !== null) found.add('windingUp');
    if (active.type !== 'instant') found.add('active');
    if (becomes.type === 'rests') found.add('resting');
    if (becomes.type === 'spent' || uses !== null) found.add('spent');
    if (becomes.type === 'off') found.add('off');
  }
  if (kind.cycle !== null) found.add('off');
  for (const id of placements) {
    const starts = entry(level.placements, id)?.starts.type;
    if (starts === 'resting') found.add('resting');
    if (starts === 'off') found.add('off');
  }
  return found;
}
