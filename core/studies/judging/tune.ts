import { entry, inOrder, type Level, type Problem, type Target } from '../../level/index.ts';
import { lackingIn } from '../measures.ts';
import { crowdProblems, sessionCount } from '../settings.ts';
import type { Round, Study } from './asks.ts';
import { dialProblems } from './dials.ts';
import { createSearch } from './matrixAdaptation.ts';
import type { Answer, Ask, TuneSettings } from './settings.ts';
import { learned, stepTowards, type Aim, type Straight } from './steps.ts';
import { BEFORE_THE_LAST, crowdOfTarget, verdictOf, type Verdict } from './targets.ts';
import {
  apart,
  asksAbout,
  beginTuning,
  chosen,
  costOf,
  figuresOf,
  isSure,
  meeting,
  SURE_SESSIONS,
  known,
  missed,
  resultOf,
  take,
  tried,
  turnedTo,
  type Tried,
  type TuneResult,
  type Tuning,
} from './tuning.ts';

/** Sessions with which every setting is tried; the better half of a generation is tried with more. */
const FEW = 20;
/** Seeds of the sessions that candidates are judged by in the end lie so far from those of the search. */
const FRESH = 500_000;
/** The search ends when it steps no further than this part of the ranges. */
const LEAST_REACH = 0.004;
/** Generations that all bring nothing better, once the targets are met; and those in which nothing new is tried. */
const PATIENCE = 2;
const MOST_STALE = 3;

/** The targets that are tuned for: those named, else all; without those held against a version. */
export function heldTo(level: Level, { targets }: Pick<TuneSettings, 'targets'>): (readonly [string, Target])[] {
  const named = targets.flatMap((id) => {
    const found = entry(level.targets, id);
    return found === undefined ? [] : [[id, found] as const];
  });
  return (targets.length === 0 ? inOrder(level.targets) : named).filter(([, { than }]) => than === null);
}

/** What in the settings does not fit a level. */
export function tuneProblems(level: Level, settings: TuneSettings): Problem[] {
  const unknown = settings.targets.flatMap((id, at): Problem[] =>
    entry(level.targets, id) === undefined ? [{ path: `/targets/${String(at)}`, message: `the level has no target “${id}”` }] : [],
  );
  const held = heldTo(level, settings);
  const none =
    held.length > 0 ? [] : [{ path: '/targets', message: 'there is no target to tune for: state one in the settings of the level' }];
  const wrong = held.flatMap(([id, target]): Problem[] => {
    const message = lackingIn(level, target.outcome) ?? crowdProblems(level, crowdOfTarget(level, target))[0]?.message;
    return message === undefined ? [] : [{ path: `/targets/${id}`, message }];
  });
  return [...dialProblems(level, settings.dials), ...unknown, ...none, ...wrong];
}

/** Sessions that a search may cost, with those that judge what it offers. */
export const tuneCost = (level: Level, settings: TuneSettings): number =>
  settings.sessions + 4 * heldTo(level, settings).reduce((sum, [, target]) => sum + sessionCount(crowdOfTarget(level, target)), 0);

interface Ranked {
  readonly one: Tried;
  readonly beyond: number;
}

/** So far each dial is turned to see what it does, and so far one step may go; as parts of the ranges. */
const [LOOK, STRIDE] = [0.15, 0.6];
/** Steps straight towards the targets before another way is looked for, and a step that is none. */
const [STEPS, NO_STEP] = [12, 0.004];
/** What lies so far inside of where it has to is aimed at, as a part of the range of a target; of an open one, of its scale. To be sure, further. */
const [AIMED_INSIDE, SURELY_INSIDE] = [0.25, 0.3];
/** So many settings that meet the targets by few sessions are tried with as many as decide; then so many between two of them. */
const [MOST_SURE, MOST_BETWEEN] = [3, 5];
/** The part of a way from one to another that is gone at least. */
const LEAST_SHARE = 0.15;
/** How much a change counts while steps are worked out. */
const HOMEWARD = 1e-4;

/** Where each target is aimed at: inside, where there is room. */
const aimsOf = ({ held }: Tuning, inside: number): Aim[] =>
  held.map(({ target: { least, most }, scale }) => {
    const by = inside * (least === null || most === null ? scale : most - least);
    return { least: least === null ? -Infinity : least + by, most: most === null ? Infinity : most - by, scale };
  });

/** How to go straight: with how many sessions each setting is tried, what is aimed at, how far from that one is, and when that will do. */
interface Course {
  readonly sessions: number;
  readonly aims: readonly Aim[];
  readonly off: (one: Tried) => number;
  readonly isDone: (one: Tried) => boolean;
}

/** Whether so many more settings, each with so many sessions, are within what the search may cost. */
const mayPlay = ({ spent, settings, groups }: Tuning, some: number, sessions: number): boolean =>
  spent + some * sessions * groups.length < settings.sessions;

/**
 * Goes straight for the targets: each dial is turned a little to see what it does, then all together, as if figures were straight over the
 * dials, and what a step shows is learned. Quick where they nearly are; elsewhere it comes to rest before the targets are met.
 */
function* goStraight(tuning: Tuning, from: Tried, course: Course): Generator<Round<TuneResult>, Tried, readonly Answer[]> {
  const { sessions, aims, off, isDone } = course;
  const { dials } = tuning.settings;
  const looks = from.place.map((value, at) => {
    const { from: low, to, step } = dials[at] as (typeof dials)[number];
    // Where its steps are longer, as far as the next value.
    const by = Math.max(LOOK, (step ?? 0) / (to - low));
    return tried(tuning, from.place.with(at, value > 0.5 ? value - by : value + by));
  });
  yield* play(tuning, [from, ...looks], sessions);
  const valuesOf = (one: Tried): readonly number[] => figuresOf(tuning, one).values;
  const slopes = tuning.held.map((_, figure) =>
    looks.map((look, dial) => {
      const way = (look.place[dial] ?? 0) - (from.place[dial] ?? 0);
      return look.isLevel && way !== 0 ? ((valuesOf(look)[figure] ?? 0) - (valuesOf(from)[figure] ?? 0)) / way : 0;
    }),
  );
  const weights = dials.map(({ weight }) => HOMEWARD * weight);
  let [here, known, reach] = [from, slopes, STRIDE];
  for (let step = 0; step < STEPS && mayPlay(tuning, 1, sessions - FEW); step += 1) {
    const straight: Straight = { place: here.place, figures: valuesOf(here), slopes: known };
    const next = tried(tuning, stepTowards(straight, aims, tuning.start, weights, reach));
    if (next === here || !next.isLevel) {
      reach /= 2;
      if (next === here || reach < NO_STEP) break;
      continue;
    }
    yield* play(tuning, [next], sessions);
    known = learned(straight, next.place, valuesOf(next));
    const better = off(next) < off(here);
    reach = better ? Math.min(STRIDE, reach * 1.5) : reach / 3;
    if (better) here = next;
    if (missed(tuning, here) > 0) continue;
    // Met by a few: by more it may not be, and then it goes on from what those say.
    yield* play(tuning, [here], SURE_SESSIONS);
    if (isDone(here)) break;
  }
  yield* play(tuning, [here], SURE_SESSIONS);
  return here;
}

/** Straight to where the targets are met, by few sessions at first. */
const straightOn = (tuning: Tuning): Course => ({
  sessions: FEW,
  aims: aimsOf(tuning, AIMED_INSIDE),
  off: (one) => missed(tuning, one),
  isDone: (one) => missed(tuning, one) === 0,
});

/** The middle of what is aimed at; of what is open on one side, its end. */
const middleOf = ({ least, most }: Aim): number => (least === -Infinity ? most : most === Infinity ? least : (least + most) / 2);

/** By how much a setting is off each aim, as a part of its scale. */
function shortOf(tuning: Tuning, aims: readonly Aim[], one: Tried): number[] {
  const { values } = figuresOf(tuning, one);
  return aims.map(({ least, most, scale }, at) => Math.max(0, least - (values[at] ?? 0), (values[at] ?? 0) - most) / scale);
}

/** A setting on the way from one to another that lies on the other side of what is aimed at, where it should be come to; null: there is none. */
function between(tuning: Tuning, { aims, off }: Course, here: Tried): Tried | null {
  const { values } = figuresOf(tuning, here);
  const short = shortOf(tuning, aims, here);
  const worst = short.indexOf(Math.max(...short));
  const wished = middleOf(aims[worst] as Aim);
  const value = values[worst] ?? 0;
  const others = known(tuning).filter(
    (one) => one.isLevel && ((figuresOf(tuning, one).values[worst] ?? 0) - wished) * (value - wished) < 0,
  );
  const [other] = others.sort((a, b) => apart(a, here) + off(a) - apart(b, here) - off(b));
  if (other === undefined) return null;
  const share = (wished - value) / ((figuresOf(tuning, other).values[worst] ?? 0) - value);
  return tried(
    tuning,
    here.place.map((part, at) => part + Math.max(LEAST_SHARE, Math.min(1 - LEAST_SHARE, share)) * ((other.place[at] ?? part) - part)),
  );
}

/**
 * Where targets are met by few sessions, and none surely, the best of those are tried with as many as decide, and from there it goes on
 * to where there is room on all sides.
 */
function* makeSure(tuning: Tuning): Generator<Round<TuneResult>, void, readonly Answer[]> {
  const sessions = Math.max(...tuning.held.map(({ crowd }) => sessionCount(crowd)));
  const aims = aimsOf(tuning, SURELY_INSIDE);
  const off = (one: Tried): number => Math.sqrt(shortOf(tuning, aims, one).reduce((sum, short) => sum + short * short, 0));
  // What is just sure by these sessions may not be by others.
  const isDone = (one: Tried): boolean => isSure(tuning, one, BEFORE_THE_LAST) || (off(one) === 0 && isSure(tuning, one));
  const course: Course = { sessions, aims, off, isDone };
  const byOff = (one: Tried, other: Tried): number => off(one) - off(other);
  const met = meeting(tuning);
  if (met.length === 0 || met.some((one) => isSure(tuning, one, BEFORE_THE_LAST))) return;
  const first = met.sort(byOff).slice(0, MOST_SURE);
  yield* play(
    tuning,
    first.filter((_, nth) => mayPlay(tuning, nth + 1, sessions)),
    sessions,
  );
  for (let tries = 0; tries < MOST_BETWEEN && !met.some(isDone) && mayPlay(tuning, 1, sessions); tries += 1) {
    const next = between(tuning, course, met.sort(byOff)[0] as Tried);
    if (next === null || !next.isLevel || met.includes(next)) break;
    yield* play(tuning, [next], sessions);
    met.push(next);
  }
  const [from] = known(tuning).sort(byOff);
  const looks = tuning.start.length + 1;
  if (from !== undefined && !met.some(isDone) && mayPlay(tuning, looks, sessions)) yield* goStraight(tuning, from, course);
}

/** Plays some settings, each with so many sessions in all. */
function* play(tuning: Tuning, some: readonly Tried[], upTo: number): Generator<Round<TuneResult>, void, readonly Answer[]> {
  const { asks, open } = asksAbout(tuning, some, upTo);
  if (asks.length === 0) return;
  const soFar = (): TuneResult | null => (known(tuning).length === 0 ? null : resultOf(tuning, null));
  const answers = yield { asks, soFar, more: Math.max(0, tuning.settings.sessions - tuning.spent) };
  take(tuning, open, answers);
}

/** Looks around by matrix adaptation over the ranges: every setting is tried with the same few sessions, the better half with more. */
function* lookAround(tuning: Tuning, from: Tried): Generator<Round<TuneResult>, void, readonly Answer[]> {
  const cost = (one: Tried): number => costOf(tuning, one);
  const byCost = (a: Ranked, b: Ranked): number => cost(a.one) + a.beyond - cost(b.one) - b.beyond;
  const search = createSearch(from.place, tuning.settings.seed);
  let [best, since, meets, stale] = [cost(from), 0, false, 0];
  const goesOn = (): boolean => tuning.spent < tuning.settings.sessions && search.reach() > LEAST_REACH && stale < MOST_STALE;
  while (goesOn() && (since < PATIENCE || !meets)) {
    const before = tuning.spent;
    const trials = search.trials().map((trial) => ({ ...trial, one: tried(tuning, trial.place) }));
    yield* play(
      tuning,
      trials.map(({ one }) => one),
      FEW,
    );
    trials.sort(byCost);
    const half = trials.splice(0, Math.ceil(trials.length / 2));
    yield* play(
      tuning,
      half.map(({ one }) => one),
      SURE_SESSIONS,
    );
    half.sort(byCost);
    search.learn([...half, ...trials]);
    const now = Math.min(...half.map(({ one }) => cost(one)));
    since = now < best - 1e-3 ? 0 : since + 1;
    best = Math.min(best, now);
    meets ||= half.some(({ one }) => missed(tuning, one) === 0);
    // Of few values, far apart, all that lie near have been tried.
    stale = tuning.spent === before ? stale + 1 : 0;
  }
}

/**
 * Moves several dials so that several targets are met, with as few sessions as it can: straight for them first, and where that comes to
 * rest before they are met by looking around. What it offers is judged by fresh sessions.
 */
export function* tune(level: Level, settings: TuneSettings): Study<TuneResult> {
  const tuning = beginTuning(level, settings, heldTo(level, settings));
  const first = tried(tuning, tuning.start);
  yield* play(tuning, [first], SURE_SESSIONS);
  const nearest = missed(tuning, first) > 0 ? yield* goStraight(tuning, first, straightOn(tuning)) : first;
  if (missed(tuning, nearest) > 0) yield* lookAround(tuning, nearest);
  else if (nearest !== first && tuning.held.length < tuning.start.length) {
    // With more dials than targets there are other ways: from the other side another is found.
    const opposite = tuning.start.map((value) => 1 - value);
    yield* goStraight(tuning, tried(tuning, opposite), straightOn(tuning));
  }
  yield* makeSure(tuning);
  const offered = chosen(tuning);
  const asks = offered.flatMap(({ one }) =>
    tuning.held.map(({ crowd, target }): Ask => {
      const fresh = { ...crowd, seed: (crowd.seed + FRESH) % 0x100000000 };
      return {
        version: null,
        turned: turnedTo(settings, one.values),
        crowd: fresh,
        from: 0,
        to: sessionCount(crowd),
        outcomes: [target.outcome],
      };
    }),
  );
  const answers = [...(yield { asks, soFar: () => resultOf(tuning, null), more: 0 })];
  const judged = new Map<Tried, readonly Verdict[]>();
  for (const { one } of offered) {
    judged.set(
      one,
      tuning.held.map(({ id, target }) => verdictOf(id, target, answers.shift()?.[0] ?? [])),
    );
  }
  return resultOf(tuning, judged);
}
