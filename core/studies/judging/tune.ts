import { entry, inOrder, type Level, type Problem, type Target } from '../../level/index.ts';
import { lackingIn } from '../measures.ts';
import { crowdProblems, sessionCount } from '../settings.ts';
import type { Round, Study } from './asks.ts';
import { lostDial } from './dials.ts';
import { createSearch } from './matrixAdaptation.ts';
import type { Answer, Ask, TuneSettings } from './settings.ts';
import { crowdOfTarget, verdictOf, type Verdict } from './targets.ts';
import {
  asksAbout,
  beginTuning,
  chosen,
  costOf,
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
/** Generations that all bring nothing better, once the targets are met. */
const PATIENCE = 2;

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
  return [...settings.dials.flatMap((dial, at) => lostDial(level, dial, `/dials/${String(at)}`)), ...unknown, ...none, ...wrong];
}

/** Sessions that a search may cost, with those that judge what it offers. */
export const tuneCost = (level: Level, settings: TuneSettings): number =>
  settings.sessions + 4 * heldTo(level, settings).reduce((sum, [, target]) => sum + sessionCount(crowdOfTarget(level, target)), 0);

interface Ranked {
  readonly one: Tried;
  readonly beyond: number;
}

/** Plays some settings, each with so many sessions in all. */
function* play(tuning: Tuning, some: readonly Tried[], upTo: number): Generator<Round<TuneResult>, void, readonly Answer[]> {
  const { asks, open } = asksAbout(tuning, some, upTo);
  if (asks.length === 0) return;
  const soFar = (): TuneResult | null => (known(tuning).length === 0 ? null : resultOf(tuning, null));
  const answers = yield { asks, soFar, more: Math.max(0, tuning.settings.sessions - tuning.spent) };
  take(tuning, open, answers);
}

/**
 * Moves several dials so that several targets are met, with as few sessions as it can: matrix adaptation over the ranges, every setting
 * tried with the same few sessions and the better half with more. What it offers is judged by fresh sessions.
 */
export function* tune(level: Level, settings: TuneSettings): Study<TuneResult> {
  const tuning = beginTuning(level, settings, heldTo(level, settings));
  const cost = (one: Tried): number => costOf(tuning, one);
  const byCost = (a: Ranked, b: Ranked): number => cost(a.one) + a.beyond - cost(b.one) - b.beyond;
  const first = tried(tuning, tuning.start);
  yield* play(tuning, [first], SURE_SESSIONS);
  const search = createSearch(tuning.start, settings.seed);
  let [best, since, meets] = [cost(first), 0, missed(tuning, first) === 0];
  while (tuning.spent < settings.sessions && search.reach() > LEAST_REACH && (since < PATIENCE || !meets)) {
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
  }
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
