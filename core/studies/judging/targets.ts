import { inOrder, type Level, type Target } from '../../level/index.ts';
import { USUAL, type Estimate, type Sureness } from '../intervals.ts';
import { lackingIn, measureOf } from '../measures.ts';
import type { SessionRow } from '../row.ts';
import { crowdProblems, sessionCount, sharedOut, type CrowdSettings } from '../settings.ts';
import type { Round, Study } from './asks.ts';
import { differenceOf, figureOf } from './figures.ts';
import type { Ask } from './settings.ts';

/** How a target stands. */
export interface Verdict {
  /** Id of the target. */
  readonly target: string;
  readonly state: 'met' | 'missed' | 'undecided' | 'not judged';
  /** What it came to; against a version by how much it differs. Null: nothing was played. */
  readonly estimate: Estimate | null;
  /** Missed by: how far it lies from where it has to. */
  readonly by: number;
  /** Undecided: about so many sessions would decide it; null: no number would, so near to the edge it lies. */
  readonly wanted: number | null;
  /** Why it could not be judged. */
  readonly why: string | null;
}

/**
 * Looks before the last one decide only where three standard errors do: so looking several times misleads hardly more often than
 * looking once (Haybittle 1971, Peto 1976).
 */
export const BEFORE_THE_LAST: Sureness = { tail: 0.00135, z: 3 };

/** Sessions at the first look; each next look has twice as many. */
const FIRST_LOOK = 50;

/** More than this would never be played. */
const MOST_WANTED = 10_000_000;

/** The crowd that plays a target; its sessions shared out evenly, the first personas get what is left over. */
export function crowdOfTarget(level: Level, { personas, sessions, seconds, seed, start }: Target): CrowdSettings {
  const ids = personas.length > 0 ? personas : inOrder(level.personas).map(([id]) => id);
  return { personas: sharedOut(ids, sessions), seconds, seed, start };
}

/** Judges a target by sessions; `was` are the same sessions of the version it is held against. */
export function verdictOf(
  id: string,
  target: Target,
  now: readonly number[],
  was: readonly number[] | null = null,
  sure: Sureness = USUAL,
): Verdict {
  const { least, most, seed, outcome, statistic } = target;
  const verdict = { target: id, by: 0, wanted: null, why: null };
  if (now.length === 0) return { ...verdict, state: 'not judged', estimate: null, why: 'nobody has played it' };
  const figure = { outcome, statistic };
  const estimate = was === null ? figureOf(figure, now, seed, sure) : differenceOf(figure, now, was, seed, sure);
  const { value, low, high, sessions } = estimate;
  const [from, to] = [least ?? -Infinity, most ?? Infinity];
  if (low >= from && high <= to) return { ...verdict, state: 'met', estimate };
  if (high < from || low > to) return { ...verdict, state: 'missed', estimate, by: value < from ? from - value : value - to };
  // The interval shrinks with the root of the sessions; it has to shrink until it ends where the edge is.
  const needed = [from, to]
    .filter((edge) => low < edge && edge <= high)
    .map((edge) => (edge > value ? high - value : value - low) / Math.abs(edge - value));
  const factor = Math.max(1, ...needed);
  const wanted = Math.ceil(sessions * factor * factor);
  return { ...verdict, state: 'undecided', estimate, wanted: wanted < MOST_WANTED ? wanted : null };
}

const notJudged = (target: string, why: string): Verdict => ({ target, state: 'not judged', estimate: null, by: 0, wanted: null, why });

interface Judged {
  readonly id: string;
  readonly target: Target;
  readonly crowd: CrowdSettings;
  readonly now: number[];
  readonly was: number[];
  verdict: Verdict;
  done: boolean;
}

/** Why a target cannot be judged; null: it can. */
function hindrance(level: Level, target: Target, crowd: CrowdSettings, versions: ReadonlySet<string>): string | null {
  const lacking = lackingIn(level, target.outcome);
  if (lacking !== null) return lacking;
  if (crowd.personas.length === 0) return 'the level has no persona to play it';
  if (target.than !== null && !versions.has(target.than)) return `there is no version “${target.than}”`;
  return crowdProblems(level, crowd)[0]?.message ?? null;
}

/** Targets that are played by the same sessions. */
const togetherKey = ({ crowd: { personas, seconds, seed, start }, now }: Judged): string =>
  JSON.stringify([personas.map(({ persona }) => persona), seconds, seed, start, now.length]);

/** The most sessions of those that are played together: the first so many of them are the same for all. */
const largest = (together: readonly Judged[]): CrowdSettings =>
  together.map(({ crowd }) => crowd).reduce((most, one) => (sessionCount(one) > sessionCount(most) ? one : most));

/** What is to be played for targets that have been played equally often, up to a look; with and without the version held against. */
function asksFor(
  together: readonly Judged[],
  look: number,
): { readonly asks: Ask[]; readonly take: (answers: readonly (readonly number[])[][]) => void } {
  const crowd = largest(together);
  const from = together[0]?.now.length ?? 0;
  const to = Math.min(look, sessionCount(crowd));
  const versions = [null, ...new Set(together.flatMap(({ target: { than } }) => (than === null ? [] : [than])))];
  const members = versions.map((version) => together.filter(({ target }) => version === null || target.than === version));
  const asks = versions.map((version, at): Ask => {
    return { version, turned: [], crowd, from, to, outcomes: (members[at] ?? []).map(({ target }) => target.outcome) };
  });
  return {
    asks,
    take: (answers) =>
      members.forEach((some, at) =>
        some.forEach((one, outcome) => {
          const room = Math.min(to, sessionCount(one.crowd)) - from;
          (at === 0 ? one.now : one.was).push(...(answers[at]?.[outcome] ?? []).slice(0, room));
        }),
      ),
  };
}

/** Judges targets of a level, with no more sessions than decide them: at fifty, a hundred, two hundred … up to what each states. */
export function* checkTargets(
  level: Level,
  targets: readonly (readonly [id: string, target: Target])[],
  versions: ReadonlySet<string>,
): Study<Verdict[]> {
  const all = targets.map(([id, target]): Judged => {
    const crowd = crowdOfTarget(level, target);
    const why = hindrance(level, target, crowd, versions);
    return { id, target, crowd, now: [], was: [], verdict: notJudged(id, why ?? 'nobody has played it'), done: why !== null };
  });
  for (let look = FIRST_LOOK; all.some(({ done }) => !done); look *= 2) {
    const groups = new Map<string, Judged[]>();
    for (const one of all.filter(({ done }) => !done)) groups.set(togetherKey(one), [...(groups.get(togetherKey(one)) ?? []), one]);
    const some = [...groups.values()].map((together) => asksFor(together, look));
    const open = all.filter(({ done }) => !done);
    const more = open.reduce((sum, { crowd }) => sum + Math.max(0, sessionCount(crowd) - look), 0);
    const round: Round<Verdict[]> = { asks: some.flatMap(({ asks }) => asks), soFar: () => all.map(({ verdict }) => verdict), more };
    const answers = [...(yield round)];
    for (const { asks, take } of some) take(answers.splice(0, asks.length).map((one) => one.map((values) => [...values])));
    for (const one of open) {
      const { id, target, crowd, now, was } = one;
      const last = now.length >= sessionCount(crowd);
      one.verdict = verdictOf(id, target, now, target.than === null ? null : was, last ? USUAL : BEFORE_THE_LAST);
      one.done = last || one.verdict.state !== 'undecided';
    }
  }
  return all.map(({ verdict }) => verdict);
}

/** Judges the targets of a level by the sessions of some crowd, as far as those are of the players that a target asks for. */
export function verdictsFrom(level: Level, { personas, seconds, start }: CrowdSettings, rows: readonly SessionRow[]): Verdict[] {
  return inOrder(level.targets).map(([id, target]) => {
    const lacking = lackingIn(level, target.outcome);
    if (lacking !== null) return notJudged(id, lacking);
    if (target.than !== null) return notJudged(id, `held against “${target.than}” by the full check alone`);
    if (target.start !== start) return notJudged(id, 'it starts otherwise: the full check plays it');
    const wanted = target.personas.length === 0 ? null : new Set(target.personas);
    const played = rows.filter(({ persona }) => wanted?.has(personas[persona]?.persona ?? '') ?? true);
    // What went on for longer than the target lets it would have been cut off.
    if (target.seconds > seconds || played.some((row) => row.seconds > target.seconds))
      return notJudged(id, 'of other length: the full check plays it');
    return verdictOf(id, target, played.map(measureOf(level, target.outcome).of));
  });
}

/** Whether everything that a level is held to is met. */
export const allMet = (verdicts: readonly Verdict[]): boolean => verdicts.every(({ state }) => state === 'met');
