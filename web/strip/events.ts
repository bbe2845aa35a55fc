import type { LedgerLine } from '@dial/core/session';
import type { Level } from '@dial/core/level';
import type { Selection } from '../state/slices/view.ts';

/** Whether a line is an event one would step to: of what is chosen, else anything that happened to a player. */
export function isEvent(line: LedgerLine, level: Level, { kind, placements }: Selection): boolean {
  if (line.type === 'flourish') return false;
  const placement = 'placement' in line ? line.placement : null;
  if (placements.length > 0) return placement !== null && placements.includes(placement);
  if (kind !== null) return placement !== null && level.placements[placement]?.kind === kind;
  const toucher = 'toucher' in line ? line.toucher : null;
  return line.type === 'ended' || (toucher !== null && toucher.startsWith('player '));
}

/** The step of the next event after a step, or of the last before it; null where there is none. */
export function eventStep(lines: readonly LedgerLine[], from: number, way: 1 | -1, counts: (line: LedgerLine) => boolean): number | null {
  if (way > 0) return lines.find((line) => line.step > from && counts(line))?.step ?? null;
  return lines.findLast((line) => line.step < from && counts(line))?.step ?? null;
}
