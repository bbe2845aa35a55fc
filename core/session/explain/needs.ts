import { entry, inOrder, kindOf, type Level } from '../../level/index.ts';
import type { LedgerLine } from '../state/ledger.ts';

/** A thing that mends came back, and a player next lost what it mends. */
export interface NeedGap {
  readonly placement: string;
  readonly meter: string;
  readonly readySeconds: number;
  readonly needSeconds: number;
  /** Seconds from being back to the need; below 0: it was needed before it was back. */
  readonly gap: number;
}

/** Meters that a kind adds to, or fills. */
function mended(level: Level, kind: string): ReadonlySet<string> {
  const effects = inOrder(kindOf(level, kind)?.rules ?? {}).flatMap(([, rule]) => Object.values(rule.effects));
  return new Set(effects.flatMap((one) => (one.type === 'meter' && (one.change === 'add' || one.change === 'fill') ? [one.meter] : [])));
}

/** For every rest of a thing of a kind that mends: how long it was back when a player next lost what it mends. */
export function needGaps(level: Level, kind: string, lines: readonly LedgerLine[]): readonly NeedGap[] {
  const meters = mended(level, kind);
  const losses = lines.flatMap((line) => {
    if ((line.type !== 'changed' && line.type !== 'rate') || line.applied >= 0 || !meters.has(line.meter)) return [];
    return [{ meter: line.meter, from: line.type === 'rate' ? line.fromSeconds : line.seconds, to: line.seconds }];
  });
  return lines.flatMap((line): NeedGap[] => {
    if (line.type !== 'phase' || line.phase !== 'resting' || line.untilSeconds === null) return [];
    if (entry(level.placements, line.placement)?.kind !== kind) return [];
    // A loss that was under way when it was used is a need at once.
    const next = losses
      .filter(({ to }) => to > line.seconds)
      .reduce<(typeof losses)[number] | null>((first, one) => (first === null || one.from < first.from ? one : first), null);
    if (next === null) return [];
    const needSeconds = Math.max(next.from, line.seconds);
    return [
      { placement: line.placement, meter: next.meter, readySeconds: line.untilSeconds, needSeconds, gap: needSeconds - line.untilSeconds },
    ];
  });
}
