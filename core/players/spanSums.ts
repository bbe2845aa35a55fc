import { entry, kindOf, type Level } from '../level/index.ts';
import type { LedgerLine } from '../session/index.ts';
import type { Lanes } from './simulate.ts';

/** What a stretch of a run comes to. */
export interface SpanSums {
  readonly seconds: number;
  /** Health taken, by kind; what no kind took is under an empty id. */
  readonly damage: Readonly<Record<string, number>>;
  readonly healed: number;
  /** What was added to each meter and taken from it, all told. */
  readonly meters: Readonly<Record<string, number>>;
  readonly items: Readonly<Record<string, number>>;
  readonly uses: number;
  readonly refusals: number;
  readonly deaths: number;
  /** Units walked by the first player. */
  readonly distance: number;
}

/** Sums over the lines of a run from one time to another, in seconds; of a rate the share that lies within. Refusals are those of players. */
export function spanSums(
  level: Level,
  { lines, lanes, rate }: { readonly lines: readonly LedgerLine[]; readonly lanes: Pick<Lanes, 'x' | 'y'>; readonly rate: number },
  from: number,
  to: number,
): SpanSums {
  const damage: Record<string, number> = {};
  const meters: Record<string, number> = {};
  const items: Record<string, number> = {};
  let [healed, uses, refusals, deaths] = [0, 0, 0, 0];
  const add = (sums: Record<string, number>, id: string, by: number): void => void (sums[id] = (sums[id] ?? 0) + by);
  let lastUse = '';
  for (const line of lines) {
    if (line.type === 'rate' ? line.fromSeconds > to || line.seconds < from : line.seconds < from || line.seconds > to) continue;
    const isPlayer = 'toucher' in line && line.toucher !== null && line.toucher.startsWith('player ');
    if (line.type === 'changed' || line.type === 'rate') {
      const length = line.type === 'rate' ? line.seconds - line.fromSeconds : 0;
      const within = line.type === 'rate' ? Math.min(to, line.seconds) - Math.max(from, line.fromSeconds) : 0;
      const applied = length > 0 ? (line.applied * within) / length : line.applied;
      add(meters, line.meter, applied);
      if (line.meter === 'health' && applied < 0) {
        const kind = entry(level.placements, line.placement ?? '')?.kind ?? '';
        add(damage, kindOf(level, kind) === undefined ? '' : kind, -applied);
      } else if (line.meter === 'health') healed += applied;
    } else if (line.type === 'item') add(items, line.item, line.applied);
    else if (line.type === 'refused' && isPlayer) refusals += 1;
    else if (line.type === 'died') deaths += 1;
    // The lines that one rule writes in one step are one use.
    const use =
      'rule' in line && line.rule !== null && line.type !== 'refused' && line.type !== 'ended'
        ? `${String(line.step)} ${line.placement ?? ''} ${line.rule}`
        : '';
    if (isPlayer && use !== '' && use !== lastUse) {
      lastUse = use;
      uses += 1;
    }
  }
  let distance = 0;
  const [first, last] = [Math.floor(from * rate) + 1, Math.min(lanes.x.length - 1, Math.floor(to * rate))];
  for (let step = first; step <= last; step += 1) {
    const [dx, dy] = [(lanes.x[step] as number) - (lanes.x[step - 1] as number), (lanes.y[step] as number) - (lanes.y[step - 1] as number)];
    distance += Math.sqrt(dx * dx + dy * dy);
  }
  return { seconds: to - from, damage, healed, meters, items, uses, refusals, deaths, distance };
}
