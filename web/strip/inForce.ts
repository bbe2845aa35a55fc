import { plainNumber } from '@dial/core/formats';
import { kindOf, spawnedOf } from '@dial/core/level';
import type { LedgerLine } from '@dial/core/session';
import { ledgerOf } from '../state/simulation/lines.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import type { LaneBar } from '../drawing/lanes/laneDrawing.ts';

type MovementLine = Extract<LedgerLine, { type: 'movement' }>;

/** Changes of a movement in force for a player, as lines name them, from when each begins to when it ends; one that is refreshed or extended goes on. */
export function changesInForce(run: ShownRun, of: string, toucher: string): LaneBar[] {
  const { level } = run;
  const lines = ledgerOf(run);
  /** "Again" is meant of a kind: another thing of it refreshes the change that is there. */
  const giverOf = ({ placement, ofItem }: MovementLine): string =>
    placement === null ? `item ${ofItem ?? ''}` : (level.placements[placement]?.kind ?? spawnedOf(placement)?.kind ?? placement);
  const stacks = (line: MovementLine): boolean =>
    Object.values(kindOf(level, giverOf(line))?.rules[line.rule ?? '']?.effects ?? {}).some(
      (effect) => effect.type === 'movement' && effect.of === of && effect.again === 'stack',
    );
  const open: { readonly from: number; readonly text: string; readonly by: string }[] = [];
  const bars: LaneBar[] = [];
  for (const line of lines) {
    if (line.type !== 'movement' || line.of !== of || line.toucher !== toucher) continue;
    const by = `${giverOf(line)} ${line.rule ?? ''}`;
    const index = open.findIndex((one) => one.by === by);
    if (line.begun) {
      if (index >= 0 && !stacks(line)) continue;
      open.push({ from: line.seconds, by, text: `${plainNumber(line.before)} → ${plainNumber(line.after)}` });
      continue;
    }
    const [ended] = index < 0 ? [] : open.splice(index, 1);
    if (ended !== undefined) bars.push({ from: ended.from, to: line.seconds, text: ended.text });
  }
  const end = run.steps / run.rate;
  return [...bars, ...open.map(({ from, text }) => ({ from, to: end, text }))].sort((a, b) => a.from - b.from);
}
