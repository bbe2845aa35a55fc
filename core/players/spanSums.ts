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

/** What a line changed from one time to another: of a rate, the share that lies within. */
function appliedWithin(line: Extract<LedgerLine, { type: 'changed' | 'rate' }>, from: number, to: number): number {
  if (line.type === 'changed' || line.seconds <= line.fromSeconds) return line.applied;
  const within = Math.min(to, line.seconds) - Math.max(from, line.fromSeconds);
  return (line.applied * within) / (line.seconds - line.fromSeconds);
}

/** The use a line is part of, or nothing: the lines that one rule writes in one step are one. */
const useOf = (line: LedgerLine): string =>
  'rule' in line && line.rule !== null && line.type !== 'refused' && line.type !== 'ended'
    ? `${String(line.step)} ${line.placement ?? ''} ${line.rule}`
    : '';

/** The way gone over some steps. Units. */
function wayBetween({ x, y }: Pick<Lanes, 'x' | 'y'>, first: number, last: number): number {
  let way = 0;
  for (let step = first; step <= last; step += 1) {
    const [dx, dy] = [(x[step] as number) - (x[step - 1] as number), (y[step] as number) - (y[step - 1] as number)];
    way += Math.sqrt(dx * dx + dy * dy);
  }
  return way;
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
    if (line.seconds < from || (line.type === 'rate' ? line.fromSeconds : line.seconds) > to) continue;
    const isPlayer = 'toucher' in line && line.toucher !== null && line.toucher.startsWith('player ');
    if (line.type === 'changed' || line.type === 'rate') {
      const applied = appliedWithin(line, from, to);
      add(meters, line.meter, applied);
      if (line.meter === 'health' && applied < 0) {
        const kind = entry(level.placements, line.placement ?? '')?.kind ?? '';
        add(damage, kindOf(level, kind) === undefined ? '' : kind, -applied);
      } else if (line.meter === 'health') healed += applied;
    } else if (line.type === 'item') add(items, line.item, line.applied);
    else if (line.type === 'refused' && isPlayer) refusals += 1;
    else if (line.type === 'died') deaths += 1;
    const use = useOf(line);
    if (isPlayer && use !== '' && use !== lastUse) {
      lastUse = use;
      uses += 1;
    }
  }
  const distance = wayBetween(lanes, Math.floor(from * rate) + 1, Math.min(lanes.x.length - 1, Math.floor(to * rate)));
  return { seconds: to - from, damage, healed, meters, items, uses, refusals, deaths, distance };
}
