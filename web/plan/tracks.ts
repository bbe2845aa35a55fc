import { ledgerOf } from '../state/simulation/lines.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import type { PlanTrack } from '../drawing/plan/PlanPlayers.tsx';

const PUT_ELSEWHERE: ReadonlySet<string> = new Set(['moved', 'returned', 'displaced', 'present']);

/** The ways of all players of a run, and at which steps each was put elsewhere instead of going there. */
export function tracksOf(run: ShownRun): readonly PlanTrack[] {
  const breaks = [run, ...run.others].map(() => new Set<number>());
  for (const line of ledgerOf(run)) {
    if (!PUT_ELSEWHERE.has(line.type) || !('toucher' in line)) continue;
    breaks[Number(/^player (\d)$/.exec(line.toucher ?? '')?.[1] ?? 0) - 1]?.add(line.step);
  }
  return [run, ...run.others].map(({ x, y }, player) => ({ x, y, breaks: breaks[player] ?? new Set() }));
}
