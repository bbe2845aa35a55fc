import type { Level, Target } from '../../level/index.ts';
import { measureOf } from '../measures.ts';
import type { CrowdSettings } from '../settings.ts';
import type { Estimate, Sureness } from '../intervals.ts';
import { turnedProblem } from './asks.ts';
import { dialIn } from './dials.ts';
import { figureOf } from './figures.ts';
import type { Answer, Ask, Turned, TuneSettings } from './settings.ts';
import { crowdOfTarget, verdictOf, type Verdict } from './targets.ts';

/** Settings of the dials that meet the targets, or come near. */
export interface Candidate {
  /** Why it is among them: the smallest change, the surest, another way; or the nearest where none meets all. */
  readonly name: 'smallest change' | 'surest' | 'another way' | 'nearest' | 'nearest in one';
  /** A value for each dial. */
  readonly values: readonly number[];
  /** How its targets stand, by sessions that were never used in the search; before it is over, by those that were. */
  readonly verdicts: readonly Verdict[];
  /** Whether they are judged by fresh sessions. */
  readonly fresh: boolean;
}

/** A setting that gives way to no other in both of two targets. */
interface Balance {
  readonly values: readonly number[];
  /** The figure of each of the two targets. */
  readonly figures: readonly [Estimate, Estimate];
}

/** What gives way to what: of two targets, the settings that come nearest to both, from one end to the other. */
export interface TradeOff {
  readonly targets: readonly [string, string];
  readonly balances: readonly Balance[];
}

export interface TuneResult {
  readonly candidates: readonly Candidate[];
  /** Of the first two that cannot be met together; null where all can. */
  readonly tradeOff: TradeOff | null;
  /** Ids of targets that could each be met alone by what was tried, but never together; empty: none are known to contradict each other. */
  readonly contradict: readonly string[];
  /** Ids of targets that nothing met that was tried; empty while it is still searched. */
  readonly unmet: readonly string[];
  /** Sessions of the search. */
  readonly sessions: number;
  /** Settings that were tried. */
  readonly tried: number;
}

/** A setting is offered, and taken for meeting its targets, that has been tried with so many sessions. */
export const SURE_SESSIONS = 60;
/** What is no valid level is further off than anything that was played; not without end, so that two of them can be compared. */
const NO_LEVEL = 1e6;
/** How much a change by a whole range counts, beside a target that is missed by its scale. */
const CHANGE_COUNTS = 0.01;
/** Settings that differ by no more than this part of the ranges are one. */
const APART = 0.12;
/** What is offered lies so far inside of where it has to, beside what lies furthest. */
const INSIDE = 0.5;
/** Candidates that are offered at most. */
const MOST_OFFERED = 4;

/** A target that is tuned for. */
interface Held {
  readonly id: string;
  readonly target: Target;
  readonly crowd: CrowdSettings;
  /** A distance from where it has to lie that counts as one. */
  readonly scale: number;
}

/** A setting that was tried, with what came of it for each target. */
export interface Tried {
  readonly place: readonly number[];
  readonly values: readonly number[];
  /** Of each target, the outcome of each session. */
  readonly outcomes: readonly number[][];
  readonly isLevel: boolean;
  /** Of each target, by how much it is missed, and how far inside it lies; worked out once for so many sessions. */
  figures: {
    readonly sessions: number;
    readonly misses: readonly number[];
    readonly rooms: readonly number[];
    readonly values: readonly number[];
    /** Whether the figure lies below where it has to (−1), above (1), or within. */
    readonly sides: readonly number[];
  };
}

/** The values of a dial that may be tried: counted in steps from one of them; null: any. Whole ones only, where it has no others. */
interface Grid {
  readonly from: number;
  readonly to: number;
  readonly origin: number;
  readonly step: number | null;
  readonly whole: boolean;
}

/** The value nearest to a part of a range. */
function valueAt({ from, to, origin, step, whole }: Grid, part: number): number {
  const value = from + (to - from) * part;
  if (step === null) return whole ? Math.round(value) : Number(value.toPrecision(6));
  const [first, last] = [Math.ceil((from - origin) / step - 1e-9), Math.floor((to - origin) / step + 1e-9)];
  const nth = Math.max(first, Math.min(last, Math.round((value - origin) / step)));
  const stepped = Number((origin + nth * step).toFixed(9));
  return whole ? Math.round(stepped) : stepped;
}

/** A search under way. */
export interface Tuning {
  readonly level: Level;
  readonly settings: TuneSettings;
  readonly held: readonly Held[];
  /** Numbers of the targets that are judged by the same sessions. */
  readonly groups: readonly (readonly number[])[];
  /** Where the dials stand now, as parts of their ranges. */
  readonly start: readonly number[];
  /** The values that each may have. */
  readonly grids: readonly Grid[];
  readonly all: Map<string, Tried>;
  spent: number;
}

const span = (from: number | null, to: number | null): number => (from === null || to === null ? 0 : to - from);

/** By how much a miss is measured: shares by twenty of a hundred, others by their limits, else by the edge itself. */
function scaleOf(level: Level, { outcome, statistic, least, most }: Target): number {
  if (statistic.type === 'share') return 20;
  const limits = measureOf(level, outcome);
  const size = span(limits.least, limits.most) || 2 * span(least, most) || Math.abs(least ?? most ?? 1);
  return Math.max(1e-6, 0.2 * size);
}

export function beginTuning(level: Level, settings: TuneSettings, targets: readonly (readonly [string, Target])[]): Tuning {
  const held = targets.map(([id, target]): Held => {
    return { id, target, crowd: crowdOfTarget(level, target), scale: scaleOf(level, target) };
  });
  const groups = new Map<string, number[]>();
  held.forEach(({ crowd: { personas, seconds, seed, start } }, at) => {
    const key = JSON.stringify([personas.map(({ persona }) => persona), seconds, seed, start]);
    groups.set(key, [...(groups.get(key) ?? []), at]);
  });
  const found = settings.dials.map((dial) => dialIn(level, dial));
  const start = settings.dials.map(({ from, to }, at) => Math.max(0, Math.min(1, ((found[at]?.value ?? from) - from) / (to - from))));
  const grids = settings.dials.map(({ from, to, step }, at): Grid => {
    const { value = from, quantity } = found[at] ?? {};
    return { from, to, step, origin: value >= from && value <= to ? value : from, whole: quantity?.integer === true };
  });
  return { level, settings, held, groups: [...groups.values()], start, grids, all: new Map(), spent: 0 };
}

/** The dials turned to some values. */
export const turnedTo = ({ dials }: TuneSettings, values: readonly number[]): Turned[] =>
  dials.map(({ paths }, at) => ({ paths, value: values[at] ?? 0 }));

/** The setting at a place; the same one again where it has been tried. */
export function tried({ level, settings, held, grids, all }: Tuning, place: readonly number[]): Tried {
  const values = grids.map((grid, at) => valueAt(grid, place[at] ?? 0));
  const key = values.join(' ');
  const made = all.get(key) ?? {
    // Where it lies in truth: values are rounded.
    place: settings.dials.map(({ from, to }, at) => ((values[at] ?? from) - from) / (to - from)),
    values,
    outcomes: held.map(() => []),
    isLevel: turnedProblem(level, turnedTo(settings, values)) === null,
    figures: { sessions: 0, misses: [], rooms: [], sides: [], values: [] },
  };
  all.set(key, made);
  return made;
}

const playedOf = ({ outcomes: [first] }: Tried): number => first?.length ?? 0;

/** Settings that something is known of. */
export const known = ({ all }: Tuning): Tried[] => [...all.values()].filter((one) => playedOf(one) > 0);

/** What is to be played of some settings, up to so many sessions each. */
export function asksAbout(tuning: Tuning, some: readonly Tried[], upTo: number): { readonly asks: Ask[]; readonly open: Tried[] } {
  const open = [...new Set(some)].filter((one) => one.isLevel && playedOf(one) < upTo);
  const asks = open.flatMap((one) =>
    tuning.groups.map((members): Ask => {
      const crowd = tuning.held[members[0] ?? 0]?.crowd as CrowdSettings;
      // With as many sessions as are wanted, at least: the first of them are the same.
      const each = Math.ceil(upTo / crowd.personas.length);
      const enough = crowd.personas.map(({ persona, sessions }) => ({ persona, sessions: Math.max(sessions, each) }));
      const outcomes = members.flatMap((at) => tuning.held[at]?.target.outcome ?? []);
      return {
        version: null,
        turned: turnedTo(tuning.settings, one.values),
        crowd: { ...crowd, personas: enough },
        from: playedOf(one),
        to: upTo,
        outcomes,
      };
    }),
  );
  return { asks, open };
}

/** Takes what came of them. */
export function take(tuning: Tuning, open: readonly Tried[], answers: readonly Answer[]): void {
  const left = [...answers];
  for (const one of open) {
    for (const members of tuning.groups) {
      const answer = left.shift();
      tuning.spent += answer?.[0]?.length ?? 0;
      members.forEach((at, outcome) => one.outcomes[at]?.push(...(answer?.[outcome] ?? [])));
    }
  }
}

/** How a setting stands to each target. */
export function figuresOf({ held }: Tuning, one: Tried): Tried['figures'] {
  const sessions = playedOf(one);
  if (one.figures.sessions === sessions) return one.figures;
  const values = held.map(({ target }, at) => figureOf(target, one.outcomes[at] ?? [], target.seed).value);
  const rooms = held.map(({ target: { least, most }, scale }, at) => {
    const value = values[at] ?? 0;
    return Math.min(value - (least ?? -Infinity), (most ?? Infinity) - value) / scale;
  });
  const sides = held.map(({ target: { least, most } }, at) => {
    const value = values[at] ?? 0;
    return value < (least ?? -Infinity) ? -1 : value > (most ?? Infinity) ? 1 : 0;
  });
  one.figures = { sessions, misses: rooms.map((room) => Math.max(0, -room)), rooms, sides, values };
  return one.figures;
}

/** How far a setting is from meeting all targets: nought when it does. */
export function missed(tuning: Tuning, one: Tried): number {
  if (!one.isLevel || playedOf(one) === 0) return NO_LEVEL;
  return Math.sqrt(figuresOf(tuning, one).misses.reduce((sum, miss) => sum + miss * miss, 0));
}

/** Whether all targets are met for certain, by the sessions of the search; more than certain, where others are to say so too. */
export const isSure = ({ held }: Tuning, { outcomes }: Tried, sure?: Sureness): boolean =>
  held.every(({ id, target }, at) => verdictOf(id, target, outcomes[at] ?? [], null, sure).state === 'met');

/** The settings that meet all targets, by as many sessions as it takes to be offered. */
export const meeting = (tuning: Tuning): Tried[] =>
  known(tuning).filter((one) => playedOf(one) >= SURE_SESSIONS && missed(tuning, one) === 0);

/** How much a setting changes, as a part of the ranges. */
function changeOf({ settings: { dials }, start }: Tuning, { place }: Tried): number {
  const weights = dials.map(({ weight }) => weight);
  const most = weights.reduce((sum, one) => sum + one, 0);
  const sum = place.reduce((total, value, at) => total + (weights[at] ?? 1) * (value - (start[at] ?? 0)) * (value - (start[at] ?? 0)), 0);
  return most === 0 ? 0 : Math.sqrt(sum / most);
}

/** What the search makes least. */
export const costOf = (tuning: Tuning, one: Tried): number => missed(tuning, one) + CHANGE_COUNTS * changeOf(tuning, one);

function best(some: readonly Tried[], by: (one: Tried) => number): Tried | undefined {
  const ranked = some.map((one) => ({ one, by: by(one) }));
  return ranked.sort((a, b) => a.by - b.by)[0]?.one;
}

/** How far two settings lie apart, as a part of the ranges. */
export const apart = (one: Tried, other: Tried): number =>
  Math.sqrt(
    one.place.reduce((sum, value, at) => sum + (value - (other.place[at] ?? 0)) * (value - (other.place[at] ?? 0)), 0) / one.place.length,
  );

interface Offered {
  readonly name: Candidate['name'];
  readonly one: Tried;
}

/** A few of those that were tried, far enough apart: those that meet all targets, else the nearest, and the nearest in each. */
export function chosen(tuning: Tuning): Offered[] {
  const sure = known(tuning).filter((one) => playedOf(one) >= SURE_SESSIONS);
  const met = meeting(tuning);
  const certain = met.filter((one) => isSure(tuning, one));
  const most = Math.max(...certain.map(playedOf));
  // What few sessions are certain of more may not be.
  const meets = certain.length > 0 ? certain.filter((one) => playedOf(one) === most) : met;
  const offered: Offered[] = [];
  const offer = (name: Candidate['name'], one: Tried | undefined): void => {
    if (one !== undefined && offered.length < MOST_OFFERED && offered.every((before) => apart(before.one, one) > APART))
      offered.push({ name, one });
  };
  if (meets.length > 0) {
    const roomIn = (one: Tried): number => Math.min(...figuresOf(tuning, one).rooms);
    // At the edge itself fresh sessions would as often miss as meet.
    const room = Math.max(...meets.map(roomIn));
    const inside = meets.filter((one) => roomIn(one) >= INSIDE * room);
    offer(
      'smallest change',
      best(inside, (one) => changeOf(tuning, one)),
    );
    offer(
      'surest',
      best(meets, (one) => -roomIn(one)),
    );
    offer(
      'another way',
      best(inside, (one) => -Math.min(...offered.map((before) => apart(before.one, one)))),
    );
    return offered;
  }
  offer(
    'nearest',
    best(sure, (one) => missed(tuning, one)),
  );
  tuning.held.forEach((_, at) =>
    offer(
      'nearest in one',
      best(sure, (one) => (figuresOf(tuning, one).misses[at] ?? 0) * 1e6 + missed(tuning, one)),
    ),
  );
  return offered;
}

/** Settings of which none is nearer to both of two targets than another. */
function tradeOffOf(tuning: Tuning, sure: readonly Tried[], [one, other]: readonly string[]): TradeOff | null {
  const [a, b] = [one, other].map((id) => tuning.held.findIndex((held) => held.id === id)) as [number, number];
  const [first, second] = [tuning.held[a], tuning.held[b]];
  if (first === undefined || second === undefined) return null;
  const missOf = (setting: Tried, at: number): number => figuresOf(tuning, setting).misses[at] ?? 0;
  const figure = (setting: Tried, { target }: Held, at: number): Estimate => figureOf(target, setting.outcomes[at] ?? [], target.seed);
  const ranked = [...sure].sort((x, y) => missOf(x, a) - missOf(y, a) || missOf(x, b) - missOf(y, b));
  let least = Infinity;
  const front = ranked.filter((setting) => {
    const nearer = missOf(setting, b) < least - 1e-9;
    if (nearer) least = missOf(setting, b);
    return nearer;
  });
  const balances = front.map(({ values }, at): Balance => {
    const setting = front[at] as Tried;
    return { values, figures: [figure(setting, first, a), figure(setting, second, b)] };
  });
  return { targets: [first.id, second.id], balances };
}

/** Why no setting meets all targets: those that nothing met, and those that are met alone, but not together. */
function inTheWay(tuning: Tuning, sure: readonly Tried[]): Pick<TuneResult, 'unmet' | 'contradict'> {
  const all = tuning.held.map((_, at) => at);
  const ids = (some: readonly number[]): string[] => some.map((at) => (tuning.held[at] as Held).id);
  // One that was met, or was passed by, can be met alone.
  const sidesOf = (at: number): Set<number> => new Set(known(tuning).map((one) => figuresOf(tuning, one).sides[at] ?? 0));
  const isAlone = (at: number): boolean => sidesOf(at).has(0) || sidesOf(at).size === 2;
  const isTogether = (some: readonly number[]): boolean =>
    sure.some((one) => one.isLevel && some.every((at) => figuresOf(tuning, one).misses[at] === 0));
  const alone = all.filter(isAlone);
  const pairs = alone.flatMap((one, at) => alone.slice(at + 1).map((other) => [one, other]));
  const [contradict = []] = [...pairs, ...(alone.length > 2 ? [alone] : [])].filter((some) => !isTogether(some));
  return { unmet: ids(all.filter((at) => !isAlone(at))), contradict: ids(contradict) };
}

/** What is known, with how candidates stand by fresh sessions; null: by those of the search. */
export function resultOf(tuning: Tuning, judged: ReadonlyMap<Tried, readonly Verdict[]> | null): TuneResult {
  const { held } = tuning;
  const candidates = chosen(tuning).map(({ name, one }): Candidate => {
    const verdicts = judged?.get(one) ?? held.map(({ id, target }, at) => verdictOf(id, target, one.outcomes[at] ?? []));
    return { name, values: one.values, verdicts, fresh: judged?.has(one) === true };
  });
  const sure = known(tuning).filter((one) => playedOf(one) >= SURE_SESSIONS);
  const { unmet, contradict } = judged === null ? { unmet: [], contradict: [] } : inTheWay(tuning, sure);
  const isTorn = !sure.some((one) => missed(tuning, one) === 0);
  const torn = isTorn ? [...new Set([...contradict, ...unmet, ...held.map(({ id }) => id)])].slice(0, 2) : [];
  const tradeOff = tradeOffOf(tuning, sure, torn);
  return { candidates, contradict, unmet, tradeOff, sessions: tuning.spent, tried: known(tuning).length };
}
