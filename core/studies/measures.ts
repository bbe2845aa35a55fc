import { inOrder, type Level } from '../level/index.ts';
import type { SessionRow } from './row.ts';

/** Something that is asked of a session: a number, or of a yes and no one or nought. */
export interface Measure {
  readonly name: string;
  readonly unit: string;
  /** Asked as yes or no: of many sessions it is a share. */
  readonly asked: 'number' | 'yes or no';
  /** Limits of what it can be, where there are any. */
  readonly least: number | null;
  readonly most: number | null;
  readonly of: (row: SessionRow) => number;
}

/** Whether a session was finished: won, or where nothing wins, played until nothing was left to do. */
export function finishes(level: Level): (row: SessionRow) => boolean {
  const hasGoals = Object.keys(level.ends.goals).length > 0;
  return ({ ended }) => ended === 'won' || (!hasGoals && ended === 'nothing left to do');
}

const everyNth = (values: readonly number[], from: number, step: number): number[] =>
  values.filter((_, at) => at >= from && (at - from) % step === 0);
const meanIn = (values: readonly number[]): number => values.reduce((sum, one) => sum + one, 0) / Math.max(1, values.length);

/** A meter at the end of a session, by its number; with several players their mean. */
export const finalOf =
  (level: Level, meter: number): Measure['of'] =>
  ({ final }) =>
    meanIn(everyNth(final, meter, Object.keys(level.meters).length));

/** All that can be asked of the sessions of a level. With several players a meter is their mean, its lowest the lowest of any. */
export function measuresOf(level: Level): Measure[] {
  const meters = inOrder(level.meters);
  // Rows count meters as the compiled level does: in the order of the level.
  const number = (name: string, unit: string, of: Measure['of'], least: number | null = 0, most: number | null = null): Measure => {
    return { name, unit, asked: 'number', least, most, of };
  };
  const yes = (name: string, of: (row: SessionRow) => boolean): Measure => {
    return { name, unit: '', asked: 'yes or no', least: 0, most: 1, of: (row) => (of(row) ? 1 : 0) };
  };
  const ofMeters = meters.flatMap(([, { name, lower, upper }], at): Measure[] => [
    number(`final ${name}`, '', finalOf(level, at), lower, upper),
    number(`lowest ${name}`, '', ({ lowest }) => Math.min(...everyNth(lowest, at, meters.length)), lower, upper),
  ]);
  return [
    yes('finishes', finishes(level)),
    yes('loses a life', ({ deathCount }) => deathCount > 0),
    ...ofMeters,
    ...inOrder(level.items).map(([, { name }], at) =>
      number(`final ${name}`, '', ({ items }) => meanIn(everyNth(items, at, Object.keys(level.items).length))),
    ),
    number('time', 's', ({ seconds }) => seconds),
    number('deaths', '', ({ deathCount }) => deathCount),
    number('distance', 'u', ({ distance }) => distance),
    number('standing still', 's', ({ still }) => still),
    number('changed movement', 's', ({ changed }) => changed),
  ];
}
