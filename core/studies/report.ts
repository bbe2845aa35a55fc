import type { Level } from '../level/index.ts';
import { REASONS, type Reason } from '../session/index.ts';
import { lyingOf, meanOf, plainQuantile, quantileOf, shareOf, survivalOf, type Estimate, type SurvivalStep } from './intervals.ts';
import { finishes, measuresOf, type Measure } from './measures.ts';
import type { SessionRow } from './row.ts';
import { sessionCount, type CrowdSettings } from './settings.ts';
import { numberedThings, type NumberedThing } from './things.ts';

/** How one measure is spread over sessions. */
export interface Spread {
  readonly measure: string;
  readonly unit: string;
  readonly mean: Estimate;
  readonly median: Estimate;
  /** Eight of ten sessions lie between these. */
  readonly tenth: number;
  readonly ninetieth: number;
}

/** What came of all sessions of a persona, or of all there are. */
export interface GroupReport {
  /** Id of the persona; null: all. */
  readonly persona: string | null;
  readonly sessions: number;
  readonly finishes: Estimate;
  readonly losesALife: Estimate;
  /** How sessions ended, and how many so. */
  readonly ended: Readonly<Record<string, number>>;
  /** The share that has not lost a life yet, over time. */
  readonly alive: readonly SurvivalStep[];
  readonly spreads: readonly Spread[];
}

/** What all sessions did at one thing, or at the spawned things of a kind. */
export interface ThingReport extends NumberedThing {
  /** The share of sessions in which it was used or refused anybody. */
  readonly touched: Estimate;
  /** A session, in the mean. */
  readonly uses: number;
  readonly refused: readonly { readonly reason: Reason; readonly times: number }[];
  readonly health: number;
  readonly wasted: number;
  readonly scored: number;
  readonly waitingSeconds: number;
  /** The first use, in the median of the sessions that have one; null: none has. */
  readonly firstUseSeconds: number | null;
  readonly deaths: number;
}

/** What a crowd came to. */
export interface CrowdReport {
  /** Sessions asked for, and how many of those are in it. */
  readonly asked: number;
  readonly sessions: number;
  readonly deaths: number;
  readonly all: GroupReport;
  readonly personas: readonly GroupReport[];
  /** Those that nobody touched come first, the others by how many did. */
  readonly things: readonly ThingReport[];
}

function spreadOf({ name, unit, of }: Measure, rows: readonly SessionRow[], seed: number): Spread {
  const values = rows.map(of);
  const { tenth, ninetieth } = lyingOf(values);
  return {
    measure: name,
    unit,
    mean: meanOf(values),
    median: quantileOf(values, 0.5, seed),
    tenth,
    ninetieth,
  };
}

function groupOf(level: Level, persona: string | null, rows: readonly SessionRow[], seed: number): GroupReport {
  const finished = finishes(level);
  const ended: Record<string, number> = {};
  for (const row of rows) ended[row.ended] = (ended[row.ended] ?? 0) + 1;
  return {
    persona,
    sessions: rows.length,
    finishes: shareOf(rows.filter(finished).length, rows.length),
    losesALife: shareOf(rows.filter(({ deathCount }) => deathCount > 0).length, rows.length),
    ended: Object.fromEntries(Object.entries(ended).sort(([a, x], [b, y]) => y - x || (a < b ? -1 : 1))),
    alive: aliveIn(rows, finished),
    spreads:
      rows.length === 0
        ? []
        : measuresOf(level)
            .filter(({ asked }) => asked === 'number')
            .map((one) => spreadOf(one, rows, seed)),
  };
}

/** Who finished is never going to die; any other session that ends without a death is lost from sight then. */
function aliveIn(rows: readonly SessionRow[], finished: (row: SessionRow) => boolean): SurvivalStep[] {
  return survivalOf(
    rows.map((row) => {
      const [death] = row.deaths;
      if (death !== undefined) return { seconds: death.seconds, happened: true };
      return { seconds: finished(row) ? Infinity : row.seconds, happened: false };
    }),
  );
}

interface Counted {
  touched: number;
  uses: number;
  healed: number;
  hurt: number;
  wasted: number;
  scored: number;
  waiting: number;
  deaths: number;
  readonly firsts: number[];
  readonly refused: Map<number, number>;
}

function countThings(rows: readonly SessionRow[]): ReadonlyMap<number, Counted> {
  const things = new Map<number, Counted>();
  const at = (thing: number): Counted => {
    const found = things.get(thing) ?? {
      touched: 0,
      uses: 0,
      healed: 0,
      hurt: 0,
      wasted: 0,
      scored: 0,
      waiting: 0,
      deaths: 0,
      firsts: [],
      refused: new Map<number, number>(),
    };
    things.set(thing, found);
    return found;
  };
  for (const { touched, deaths } of rows) {
    for (const { thing, uses, firstUseSeconds, healed, wasted, hurt, scored, waitingSeconds, refused } of touched) {
      const one = at(thing);
      one.touched += 1;
      one.uses += uses;
      one.healed += healed;
      one.hurt += hurt;
      one.wasted += wasted;
      one.scored += scored;
      one.waiting += waitingSeconds;
      if (firstUseSeconds !== null) one.firsts.push(firstUseSeconds);
      for (const [reason, times] of refused) one.refused.set(reason, (one.refused.get(reason) ?? 0) + times);
    }
    for (const { thing } of deaths) if (thing !== null) at(thing).deaths += 1;
  }
  return things;
}

/** Every placement of a level, and the spawned things of every kind that anything happened at. */
function thingsOf(level: Level, rows: readonly SessionRow[]): ThingReport[] {
  const counted = countThings(rows);
  const sessions = Math.max(1, rows.length);
  const reports = numberedThings(level).flatMap(({ thing, placement, kind }): ThingReport[] => {
    const one = counted.get(thing);
    if (one === undefined && placement === null) return [];
    return [
      {
        thing,
        placement,
        kind,
        touched: shareOf(one?.touched ?? 0, rows.length),
        uses: (one?.uses ?? 0) / sessions,
        refused: [...(one?.refused ?? [])]
          .sort(([a, x], [b, y]) => y - x || a - b)
          .map(([reason, times]) => ({ reason: REASONS[reason] as Reason, times: times / sessions })),
        health: ((one?.healed ?? 0) - (one?.hurt ?? 0)) / sessions,
        wasted: (one?.wasted ?? 0) / sessions,
        scored: (one?.scored ?? 0) / sessions,
        waitingSeconds: (one?.waiting ?? 0) / sessions,
        firstUseSeconds: one === undefined || one.firsts.length === 0 ? null : plainQuantile(one.firsts, 0.5),
        deaths: one?.deaths ?? 0,
      },
    ];
  });
  const untouched = reports.filter(({ touched }) => touched.value === 0);
  return [...untouched, ...reports.filter(({ touched }) => touched.value > 0).sort((a, b) => b.touched.value - a.touched.value)];
}

/** What some sessions of a crowd came to; they may be all of them, or those that have been played so far. Rows are in the order of their numbers. */
export function crowdReport(level: Level, settings: CrowdSettings, rows: readonly SessionRow[]): CrowdReport {
  return {
    asked: sessionCount(settings),
    sessions: rows.length,
    deaths: rows.reduce((sum, { deathCount }) => sum + deathCount, 0),
    all: groupOf(level, null, rows, settings.seed),
    personas: settings.personas.map(({ persona }, at) =>
      groupOf(
        level,
        persona,
        rows.filter((row) => row.persona === at),
        settings.seed,
      ),
    ),
    things: thingsOf(level, rows),
  };
}
