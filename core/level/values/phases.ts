import type { Kind } from '../document/things.ts';

export type PhaseOfKind = keyof Kind['phases'];

/** The phases that a kind comes to by its rules and its cycle; a thing may start in others. */
export function phasesOfKind({ rules, cycle }: Kind): ReadonlySet<PhaseOfKind> {
  const found = new Set<PhaseOfKind>(['ready']);
  for (const { becomes, windUp, active, uses } of Object.values(rules)) {
    if (windUp !== null) found.add('windingUp');
    if (active.type !== 'instant') found.add('active');
    if (becomes.type === 'rests') found.add('resting');
    if (becomes.type === 'spent' || uses !== null) found.add('spent');
    if (becomes.type === 'off') found.add('off');
  }
  if (cycle !== null) found.add('off');
  return found;
}
