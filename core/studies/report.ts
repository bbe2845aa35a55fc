import type { Level } from '../level/index.ts';
import { lyingOf, meanOf, quantileOf, shareOf, survivalOf, type Estimate, type SurvivalStep } from './intervals.ts';
import { finishes, measuresOf, type Measure } from './measures.ts';
import type { SessionRow } from './row.ts';
import { sessionCount, type CrowdSettings } from './settings.ts';
import { numberedThings, type NumberedThing } from './things.ts';
import { touchesBy, untouchedIn, type Touches } from './touches.ts';

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
  /** The thing at which more than half of all deaths were; null: there is none. */
  readonly diesAt: number | null;
  /** How sessions ended, and how many so. */
  readonly ended: Readonly<Record<string, number>>;
  /** The share that has not lost a life yet, over time. */
  readonly alive: readonly SurvivalStep[];
  readonly spreads: readonly Spread[];
}

/** What all sessions did at one thing, or at the spawned things of a kind. */
export interface ThingReport extends NumberedThing, Touches {}

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
    diesAt: deadliestIn(rows),
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

function deadliestIn(rows: readonly SessionRow[]): number | null {
  const times = new Map<number, number>();
  for (const { deaths } of rows) for (const { thing } of deaths) if (thing !== null) times.set(thing, (times.get(thing) ?? 0) + 1);
  const most = rows.reduce((sum, { deathCount }) => sum + deathCount, 0) / 2;
  return [...times].find(([, count]) => count > most)?.[0] ?? null;
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

/** Every placement of a level, and the spawned things of every kind that anything happened at. */
function thingsOf(level: Level, rows: readonly SessionRow[]): ThingReport[] {
  const touches = touchesBy(rows, (thing) => thing);
  const reports = numberedThings(level).flatMap((one): ThingReport[] => {
    const found = touches.get(one.thing);
    if (found === undefined && one.placement === null) return [];
    return [{ ...one, ...(found ?? untouchedIn(rows.length)) }];
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
