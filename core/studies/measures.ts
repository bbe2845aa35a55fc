import { allKinds, entry, inOrder, kindOf, placementNames, type Level, type AskedOutcome } from '../level/index.ts';
import { numberedThings } from './things.ts';
import type { SessionRow, TouchRow } from './row.ts';

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
const sumIn = (values: readonly number[]): number => values.reduce((sum, one) => sum + one, 0);
const meanIn = (values: readonly number[]): number => sumIn(values) / Math.max(1, values.length);
const placeIn = (map: Readonly<Record<string, { readonly order: number }>>, id: string): number =>
  inOrder(map).findIndex(([one]) => one === id);

/** A meter at the end of a session, by its number; with several players their mean. */
export const finalOf =
  (level: Level, meter: number): Measure['of'] =>
  ({ final }) =>
    meanIn(everyNth(final, meter, Object.keys(level.meters).length));

type Of = Extract<AskedOutcome, { type: 'uses' }>['of'];

/** The numbers by which rows call what is asked about; none where it is gone. */
function thingsAsked(level: Level, of: Of): ReadonlySet<number> {
  const asked = numberedThings(level).filter(({ placement, kind }) => (of.type === 'kind' ? kind === of.kind : placement === of.placement));
  return new Set(asked.map(({ thing }) => thing));
}

const thingWords = (level: Level, of: Of): string =>
  of.type === 'kind' ? (kindOf(level, of.kind)?.name ?? of.kind) : (placementNames(level).get(of.placement) ?? of.placement);

/** Something at all the things asked about, in a session. */
function atThings(level: Level, of: Of, counted: (touch: TouchRow) => number): Measure['of'] {
  // Found once it is asked: of most outcomes only the names are.
  let asked: ReadonlySet<number> | null = null;
  return ({ touched }) => {
    const things = (asked ??= thingsAsked(level, of));
    return sumIn(touched.filter(({ thing }) => things.has(thing)).map(counted));
  };
}

const number = (name: string, unit: string, of: Measure['of'], least: number | null = 0, most: number | null = null): Measure => {
  return { name, unit, asked: 'number', least, most, of };
};
const yes = (name: string, of: (row: SessionRow) => boolean): Measure => {
  return { name, unit: '', asked: 'yes or no', least: 0, most: 1, of: (row) => (of(row) ? 1 : 0) };
};

/** How an outcome is read off a session. With several players a meter is their mean, its lowest the lowest of any. */
export function measureOf(level: Level, outcome: AskedOutcome): Measure {
  switch (outcome.type) {
    case 'finishes': {
      const [{ within }, finished] = [outcome, finishes(level)];
      if (within === null) return yes('finishes', finished);
      return yes(`finishes within ${String(within)} s`, (row) => finished(row) && row.seconds <= within);
    }
    case 'loses a life':
      return yes('loses a life', ({ deathCount }) => deathCount > 0);
    case 'final':
    case 'lowest': {
      const [at, count] = [placeIn(level.meters, outcome.meter), Object.keys(level.meters).length];
      const { name, lower, upper } = entry(level.meters, outcome.meter) ?? { name: outcome.meter, lower: null, upper: null };
      if (outcome.type === 'final') return number(`final ${name}`, '', finalOf(level, at), lower, upper);
      return number(`lowest ${name}`, '', ({ lowest }) => Math.min(...everyNth(lowest, at, count)), lower, upper);
    }
    case 'carried': {
      const [at, count] = [placeIn(level.items, outcome.item), Object.keys(level.items).length];
      const name = entry(level.items, outcome.item)?.name ?? outcome.item;
      return number(`final ${name}`, '', ({ items }) => meanIn(everyNth(items, at, count)));
    }
    case 'time':
      return number('time', 's', ({ seconds }) => seconds);
    case 'deaths':
      return number('deaths', '', ({ deathCount }) => deathCount);
    case 'distance':
      return number('distance', 'u', ({ distance }) => distance);
    case 'standing still':
      return number('standing still', 's', ({ still }) => still);
    case 'changed movement': {
      const players = level.players.count;
      return number('changed movement', '%', ({ changed, seconds }) => (seconds > 0 ? (100 * changed) / seconds / players : 0), 0, 100);
    }
    case 'waiting':
      return number('waiting', 's', ({ touched }) => sumIn(touched.map(({ waitingSeconds }) => waitingSeconds)));
    case 'uses':
      return number(
        `uses of ${thingWords(level, outcome.of)}`,
        '',
        atThings(level, outcome.of, ({ uses }) => uses),
      );
    case 'refusals':
      return number(
        `refusals of ${thingWords(level, outcome.of)}`,
        '',
        atThings(level, outcome.of, ({ refused }) => sumIn(refused.map(([, times]) => times))),
      );
  }
}

/** Why no session has an outcome: what it asks about is gone. Null: it can be asked. */
export function lackingIn(level: Level, outcome: AskedOutcome): string | null {
  if (!('of' in outcome) || thingsAsked(level, outcome.of).size > 0) return null;
  return `there is no ${outcome.of.type} “${outcome.of.type === 'kind' ? outcome.of.kind : outcome.of.placement}” any more`;
}

/** What can be asked of the sessions of any level like this one. */
export function outcomesOf(level: Level): AskedOutcome[] {
  // Rows count meters as the compiled level does: in the order of the level.
  const meters = inOrder(level.meters).map(([meter]) => meter);
  return [
    { type: 'finishes', within: null },
    { type: 'loses a life' },
    ...meters.flatMap((meter): AskedOutcome[] => [
      { type: 'final', meter },
      { type: 'lowest', meter },
    ]),
    ...inOrder(level.items).map(([item]): AskedOutcome => ({ type: 'carried', item })),
    { type: 'time' },
    { type: 'deaths' },
    { type: 'distance' },
    { type: 'standing still' },
    { type: 'changed movement' },
    { type: 'waiting' },
  ];
}

/** Those, and uses and refusals of each kind and each placement. */
export function allOutcomes(level: Level): AskedOutcome[] {
  const things: Of[] = [
    ...allKinds(level).map(([kind]): Of => ({ type: 'kind', kind })),
    ...inOrder(level.placements).map(([placement]): Of => ({ type: 'placement', placement })),
  ];
  return [
    ...outcomesOf(level),
    ...things.flatMap((of): AskedOutcome[] => [
      { type: 'uses', of },
      { type: 'refusals', of },
    ]),
  ];
}

/** The outcome that is called so: by its name as it is shown, `finishes within 60` too. Null: there is none. */
export function outcomeNamed(level: Level, name: string): AskedOutcome | null {
  const within = /^finishes within (\d+(?:\.\d+)?)(?: s)?$/.exec(name.trim());
  if (within !== null) return { type: 'finishes', within: Number(within[1]) };
  return allOutcomes(level).find((outcome) => measureOf(level, outcome).name === name.trim()) ?? null;
}

/** All that is asked of the sessions of a level by itself. */
export const measuresOf = (level: Level): Measure[] => outcomesOf(level).map((outcome) => measureOf(level, outcome));
