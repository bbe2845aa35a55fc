import { plainNumber, signed } from '@dial/core/formats';
import { entry, kindOf, type Level, type Role } from '@dial/core/level';
import type { LedgerLine, Moment } from '@dial/core/session';
import type { ShownFlourish } from '../drawing/plan/PlanFlourishes.tsx';

/** A tone to be heard: Hz, seconds, loudness from 0 to 1. */
export interface Tone {
  readonly pitch: number;
  readonly seconds: number;
  readonly volume: number;
}

/** Tones of effects that have no flourish of their own, by role. Hz. */
const PITCHES: Readonly<Record<Role, number>> = {
  mend: 660,
  harm: 175,
  lethal: 98,
  score: 990,
  carry: 740,
  movement: 440,
  return: 330,
};
const SHORT = 0.12;
const QUIET = 0.25;
const NUMBER_SECONDS = 0.9;

/** Numbers nearer than this share of the level would print over each other. */
const CROWDED = 0.06;

/** How many numbers that rise still are so near that another one has to stand above them: the first row that is free. */
function freeRow(level: Level, shown: readonly ShownFlourish[], x: number, y: number, seconds: number): number {
  const crowd = Math.max(level.size.width, level.size.height) * CROWDED;
  const near = shown.filter(
    (one) => one.text !== '' && Math.abs(one.x - x) < crowd && Math.abs(one.y - y) < crowd && one.begunSeconds + one.seconds > seconds,
  );
  const taken = new Set(near.map(({ row }) => row));
  let row = 0;
  while (taken.has(row)) row += 1;
  return row;
}

/** What was changed at a thing, as a number with its sign; nothing where nothing was. */
function changeAt(lines: readonly LedgerLine[], placement: string): string {
  const change = lines.find((one) => one.type === 'changed' && one.placement === placement);
  return change?.type === 'changed' ? signed(change.applied, 1) : '';
}

/**
 * What of new ledger lines is seen and heard. A thing that states no flourish shows a rising number and a short tone of its
 * role, where the thing was `before`, when it was touched: it may be elsewhere by now. `before` has what is still shown, too.
 */
export function flourishesOf(
  level: Level,
  moment: Moment,
  lines: readonly LedgerLine[],
  before: { readonly moment: Moment | null; readonly shown: readonly ShownFlourish[] } = { moment: null, shown: [] },
): { readonly shown: readonly ShownFlourish[]; readonly tones: readonly Tone[] } {
  const shown: ShownFlourish[] = [];
  const show = (one: Omit<ShownFlourish, 'row'>): void => {
    const row = one.text === '' ? 0 : freeRow(level, [...before.shown, ...shown], one.x, one.y, one.begunSeconds);
    shown.push({ ...one, row });
  };
  const tones: Tone[] = [];
  const stated = new Set(lines.flatMap((line) => (line.type === 'flourish' && line.placement !== null ? [line.placement] : [])));
  for (const line of lines) {
    const placement = 'placement' in line ? line.placement : null;
    if (placement === null) continue;
    const at = before.moment?.placements[placement] ?? moment.placements[placement] ?? entry(level.placements, placement);
    const role = kindOf(level, at?.kind ?? '')?.role;
    if (at === undefined || role === undefined) continue;
    const common = { key: String(line.index), x: at.x, y: at.y, role, begunSeconds: line.seconds };
    if (line.type === 'flourish') {
      const flourish = entry(level.flourishes, line.flourish);
      if (flourish === undefined) continue;
      const { shape, tone, seconds, volume } = flourish;
      if (shape !== 'none') show({ ...common, shape, text: changeAt(lines, placement), seconds: Math.max(seconds, SHORT) });
      if (tone !== null) tones.push({ pitch: tone, seconds, volume });
    } else if ((line.type === 'changed' || line.type === 'item') && !stated.has(placement)) {
      show({ ...common, shape: 'rising number', text: signed(line.applied, 1), seconds: NUMBER_SECONDS });
      tones.push({ pitch: PITCHES[role], seconds: SHORT, volume: QUIET });
    } else if (line.type === 'launched' || (line.type === 'movement' && line.begun)) {
      if (stated.has(placement)) continue;
      show({ ...common, shape: 'ring', text: plainNumber(line.after), seconds: 0.4 });
      tones.push({ pitch: PITCHES[role], seconds: SHORT, volume: QUIET });
    } else if (line.type === 'died') {
      show({ ...common, shape: 'burst', text: '', seconds: 0.6 });
      tones.push({ pitch: PITCHES.lethal, seconds: 0.4, volume: QUIET });
    }
  }
  return { shown, tones };
}
