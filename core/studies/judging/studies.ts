import { inOrder, type Level, type Problem } from '../../level/index.ts';
import { sessionCount } from '../settings.ts';
import { joined, partsOf, sessionsIn, type Levels, type Study } from './asks.ts';
import { seek, seekCost, seekProblems, type SeekResult } from './seek.ts';
import { sensitivity, sensitivityCost, sensitivityProblems, type SensitivityResult } from './sensitivity.ts';
import type { Answer, Judging } from './settings.ts';
import { sweep, sweepProblems, type SweepResult } from './sweep.ts';
import { checkTargets, crowdOfTarget, type Verdict } from './targets.ts';
import { tune, tuneCost, tuneProblems } from './tune.ts';
import type { TuneResult } from './tuning.ts';

/** What each comes to. */
export type JudgingResult =
  | { readonly kind: 'check'; readonly result: readonly Verdict[] }
  | { readonly kind: 'sweep'; readonly result: SweepResult }
  | { readonly kind: 'sensitivity'; readonly result: SensitivityResult }
  | { readonly kind: 'seek'; readonly result: SeekResult }
  | { readonly kind: 'tune'; readonly result: TuneResult };

/** The study that is asked for. */
export function judging({ level, versions }: Levels, asked: Judging): Study<JudgingResult['result']> {
  switch (asked.kind) {
    case 'check':
      return checkTargets(level, inOrder(level.targets), new Set(Object.keys(versions)));
    case 'sweep':
      return sweep(level, asked.of);
    case 'sensitivity':
      return sensitivity(level, asked.of);
    case 'seek':
      return seek(level, asked.of);
    case 'tune':
      return tune(level, asked.of);
  }
}

/** What in it does not fit the level, or asks for too much. */
export function judgingProblems(level: Level, asked: Judging): Problem[] {
  const within = (problems: readonly Problem[]): Problem[] => problems.map((one) => ({ ...one, path: `/of${one.path}` }));
  switch (asked.kind) {
    case 'check':
      return Object.keys(level.targets).length > 0 ? [] : [{ path: '', message: 'the level states no targets: there is nothing to check' }];
    case 'sweep':
      return within(sweepProblems(level, asked.of));
    case 'sensitivity':
      return within(sensitivityProblems(level, asked.of));
    case 'seek':
      return within(seekProblems(level, asked.of));
    case 'tune':
      return within(tuneProblems(level, asked.of));
  }
}

/** Sessions that it may cost, at most. */
export function judgingCost(level: Level, asked: Judging): number {
  switch (asked.kind) {
    case 'check':
      return Object.values(level.targets).reduce(
        (sum, target) => sum + (target.than === null ? 1 : 2) * sessionCount(crowdOfTarget(level, target)),
        0,
      );
    case 'sweep':
      return asked.of.dials.reduce((product, { values }) => product * values.length, sessionCount(asked.of.crowd));
    case 'sensitivity':
      return sensitivityCost(asked.of);
    case 'seek':
      return seekCost(asked.of);
    case 'tune':
      return tuneCost(level, asked.of);
  }
}

/** What is known of a study from the parts that have been played. */
export interface Replayed<Result> {
  /** What it came to; null while parts are missing. */
  readonly result: Result | null;
  readonly soFar: Result | null;
  readonly done: number;
  readonly of: number;
}

/** Tells a study what has been played of it, by the numbers of its parts, as far as that leads. */
export function replayed<Result>(study: Study<Result>, known: ReadonlyMap<number, Answer>): Replayed<Result> {
  let [part, done] = [0, 0];
  let next = study.next();
  while (next.done !== true) {
    const { asks, soFar, more } = next.value;
    const parts = partsOf(asks);
    const of = done + sessionsIn(asks) + more;
    const found = parts.map((some) =>
      some.map((ask) => {
        const answer = known.get(part);
        part += 1;
        if (answer !== undefined) done += ask.to - ask.from;
        return answer;
      }),
    );
    const played = found.map((some) => some.filter((answer) => answer !== undefined));
    if (played.some((some, ask) => some.length < (found[ask]?.length ?? 0))) return { result: null, soFar: soFar(), done, of };
    next = study.next(joined(asks, played));
  }
  return { result: next.value, soFar: next.value, done, of: done };
}
