import type { Level } from '../level/index.ts';
import { REASONS, type Reason } from '../session/index.ts';
import { plainQuantile, shareOf, type Estimate } from './intervals.ts';
import type { SessionRow } from './row.ts';
import { numberedThings, type NumberedThing } from './things.ts';

/** What sessions did at a thing, or at all things of a sort: unless said otherwise in a session, in the mean. */
export interface Touches {
  /** The share of sessions in which it was used or refused anybody. */
  readonly touched: Estimate;
  readonly uses: number;
  /** The same by persona, in the order of the settings. */
  readonly usesBy: readonly number[];
  readonly refused: readonly { readonly reason: Reason; readonly times: number }[];
  /** Given; taken where it is negative. */
  readonly health: number;
  readonly wasted: number;
  readonly scored: number;
  readonly waitingSeconds: number;
  /** The first use, in the median of the sessions that have one; null: none has. */
  readonly firstUseSeconds: number | null;
  /** In all sessions. */
  readonly deaths: number;
}

/** What nobody touched in so many sessions. */
export const untouchedIn = (sessions: number): Touches => ({
  touched: shareOf(0, sessions),
  uses: 0,
  usesBy: [],
  refused: [],
  health: 0,
  wasted: 0,
  scored: 0,
  waitingSeconds: 0,
  firstUseSeconds: null,
  deaths: 0,
});

interface Counted {
  touched: number;
  uses: number;
  healed: number;
  hurt: number;
  wasted: number;
  scored: number;
  waiting: number;
  deaths: number;
  readonly usesBy: number[];
  readonly firsts: number[];
  readonly refused: Map<number, number>;
  /** The session that touched it last, and its first use there. */
  last: number;
  first: number;
}

function begun(): Counted {
  const none = { touched: 0, uses: 0, healed: 0, hurt: 0, wasted: 0, scored: 0, waiting: 0, deaths: 0 };
  return { ...none, usesBy: [], firsts: [], refused: new Map(), last: -1, first: Infinity };
}

/** Notes the first use in the session that was counted last. */
function closeSession(one: Counted): void {
  if (one.first < Infinity) one.firsts.push(one.first);
  one.first = Infinity;
}

/** What sessions did at things, by what those are sorted by: a session that touches two of a sort touches that once. */
export function touchesBy<Key>(rows: readonly SessionRow[], sortOf: (thing: number) => Key): ReadonlyMap<Key, Touches> {
  const counts = new Map<Key, Counted>();
  const at = (thing: number): Counted => {
    const key = sortOf(thing);
    const found = counts.get(key) ?? begun();
    counts.set(key, found);
    return found;
  };
  const players: (number | undefined)[] = [];
  for (const [nth, { touched, deaths, persona }] of rows.entries()) {
    players[persona] = (players[persona] ?? 0) + 1;
    for (const { thing, uses, firstUseSeconds, healed, wasted, hurt, scored, waitingSeconds, refused } of touched) {
      const one = at(thing);
      if (one.last !== nth) {
        closeSession(one);
        one.touched += 1;
        one.last = nth;
      }
      one.uses += uses;
      one.usesBy[persona] = (one.usesBy[persona] ?? 0) + uses;
      one.healed += healed;
      one.hurt += hurt;
      one.wasted += wasted;
      one.scored += scored;
      one.waiting += waitingSeconds;
      one.first = Math.min(one.first, firstUseSeconds ?? Infinity);
      for (const [reason, times] of refused) one.refused.set(reason, (one.refused.get(reason) ?? 0) + times);
    }
    for (const { thing } of deaths) if (thing !== null) at(thing).deaths += 1;
  }
  return new Map([...counts].map(([key, one]) => [key, summed(one, rows.length, players)]));
}

function summed(one: Counted, sessions: number, players: readonly (number | undefined)[]): Touches {
  closeSession(one);
  return {
    touched: shareOf(one.touched, sessions),
    uses: one.uses / sessions,
    usesBy: Array.from(players, (count, persona) => (one.usesBy[persona] ?? 0) / Math.max(1, count ?? 0)),
    refused: [...one.refused]
      .sort(([a, x], [b, y]) => y - x || a - b)
      .map(([reason, times]) => ({ reason: REASONS[reason] as Reason, times: times / sessions })),
    health: (one.healed - one.hurt) / sessions,
    wasted: one.wasted / sessions,
    scored: one.scored / sessions,
    waitingSeconds: one.waiting / sessions,
    firstUseSeconds: one.firsts.length === 0 ? null : plainQuantile(one.firsts, 0.5),
    deaths: one.deaths,
  };
}

/** What a crowd did at the things of each kind and at each placement, by id; nothing where nobody touched them. */
export interface CrowdTouches {
  readonly kinds: Readonly<Record<string, Touches>>;
  readonly placements: Readonly<Record<string, Touches>>;
}

export function crowdTouches(level: Level, rows: readonly SessionRow[]): CrowdTouches {
  const things = numberedThings(level);
  const by = (idOf: (thing: NumberedThing) => string | null): Record<string, Touches> => {
    const found = touchesBy(rows, (thing) => idOf(things[thing] as NumberedThing));
    return Object.fromEntries([...found].flatMap(([id, touches]) => (id === null ? [] : [[id, touches]])));
  };
  return { kinds: by(({ kind }) => kind), placements: by(({ placement }) => placement) };
}
