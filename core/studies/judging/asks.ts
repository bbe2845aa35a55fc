import { parseLevel, readAt, segmentsOf, writeAt, type Level, type Parsed } from '../../level/index.ts';
import { measureOf } from '../measures.ts';
import { playShard } from '../shard.ts';
import type { Answer, Ask, Turned } from './settings.ts';

/** The levels that asks speak of: the level itself, and versions of it by name. */
export interface Levels {
  readonly level: Level;
  readonly versions: Readonly<Record<string, Level>>;
}

/** What is to be played next of a study, and what is known so far. */
export interface Round<Result> {
  readonly asks: readonly Ask[];
  /** Worked out when it is asked for only. Null: nothing. */
  readonly soFar: () => Result | null;
  /** Sessions that may still be played after this round, at most. */
  readonly more: number;
}

/**
 * A study: it says what is to be played, is told what came of it, and so on until it has its result. It draws nothing and knows no clock:
 * the same answers lead to the same rounds and the same result, so that it is gone on with by telling it again what is known.
 */
export type Study<Result> = Generator<Round<Result>, Result, readonly Answer[]>;

/** A copy of a level in which what lies on the way to a value may be written to; what lies beside it is shared. */
function openedAt(level: Level, path: string): Level {
  const opened: Level = { ...level };
  const way = segmentsOf(path).slice(0, -1);
  let inner = opened as unknown as Record<string, unknown>;
  way.forEach((key, at) => {
    const next = Object.hasOwn(inner, key) ? inner[key] : undefined;
    if (typeof next !== 'object' || next === null) return;
    // What a variant changes may lie within another of its changes.
    const copy: unknown = at === way.length - 1 ? structuredClone(next) : Array.isArray(next) ? [...(next as unknown[])] : { ...next };
    inner[key] = copy;
    inner = copy as Record<string, unknown>;
  });
  return opened;
}

/** A level with some dials at other values; or why it would not be valid. */
export function turnedLevel(level: Level, turned: readonly Turned[]): Parsed<Level> {
  let made = level;
  for (const { paths, value } of turned) {
    for (const path of paths) {
      if (typeof readAt(made, path) !== 'number')
        return { ok: false, problems: [{ path, message: 'the level has no such number any more' }] };
      const opened = openedAt(made, path);
      writeAt(made, opened, path, value);
      made = opened;
    }
  }
  return turned.length === 0 ? { ok: true, value: level } : parseLevel(made);
}

const problems = new WeakMap<Level, Map<string, string | null>>();

/** Why a level would not be valid with some dials at other values; null: it would be. Found out once: a study is told again and again. */
export function turnedProblem(level: Level, turned: readonly Turned[]): string | null {
  const known = problems.get(level) ?? new Map<string, string | null>();
  problems.set(level, known);
  const key = JSON.stringify(turned);
  const before = known.get(key);
  if (before !== undefined) return before;
  const made = turnedLevel(level, turned);
  const problem = made.ok ? null : (made.problems[0]?.message ?? 'not a valid level');
  known.set(key, problem);
  return problem;
}

/** The level that an ask is about. Throws for one that is not known or would not be valid. */
function levelAsked({ level, versions }: Levels, { version, turned }: Pick<Ask, 'version' | 'turned'>): Level {
  const of = version === null ? level : versions[version];
  if (of === undefined) throw new Error(`there is no version “${String(version)}”`);
  const made = turnedLevel(of, turned);
  if (made.ok) return made.value;
  throw new Error(made.problems.map(({ path, message }) => `${path}: ${message}`).join('; '));
}

/** Plays what is asked: the same ask comes to the same answer wherever it is played. */
export function answer(levels: Levels, ask: Ask): Answer {
  const level = levelAsked(levels, ask);
  const measures = ask.outcomes.map((outcome) => measureOf(level, outcome));
  const { rows } = playShard(level, ask.crowd, { from: ask.from, to: ask.to });
  return measures.map(({ of }) => rows.map(of));
}

/** Sessions that are played at a time: where little is asked fewer, so that all threads have something to do. */
const [FEW, PART, MANY_ASKS] = [25, 100, 8];

/** What is asked in a round, in parts that are small enough to be shared out; the same however many threads there are. */
export function partsOf(asks: readonly Ask[]): Ask[][] {
  const size = asks.length < MANY_ASKS ? FEW : PART;
  return asks.map((ask) => {
    const count = Math.max(1, Math.ceil((ask.to - ask.from) / size));
    return Array.from({ length: count }, (_, nth) => ({
      ...ask,
      from: ask.from + nth * size,
      to: Math.min(ask.to, ask.from + (nth + 1) * size),
    }));
  });
}

/** What was answered to each ask of a round, put together of the answers to its parts. */
export const joined = (asks: readonly Ask[], parts: readonly (readonly Answer[])[]): Answer[] =>
  asks.map(({ outcomes }, ask) => outcomes.map((_, outcome) => (parts[ask] ?? []).flatMap((part) => part[outcome] ?? [])));

/** Sessions of some asks. */
export const sessionsIn = (asks: readonly Ask[]): number => asks.reduce((sum, { from, to }) => sum + to - from, 0);

/** How far a study has come. */
export interface Stage<Result> {
  readonly soFar: () => Result | null;
  readonly done: number;
  /** Sessions in all, as far as is known now. */
  readonly of: number;
}

interface Conduct<Result> {
  /** Plays a part; several are asked for at a time. `nth` is its number in the whole study. */
  readonly play: (part: Ask, nth: number) => Promise<Answer>;
  /** Whether it shall go on. */
  readonly wanted?: () => boolean;
  /** Is told after each part, and at each new round with what is known. */
  readonly onStage?: (stage: Stage<Result>) => void;
}

/** Brings a study to its result; null when it was not wanted any more. */
export async function conduct<Result>(
  study: Study<Result>,
  { play, wanted = () => true, onStage }: Conduct<Result>,
): Promise<Result | null> {
  let [done, parts] = [0, 0];
  let next = study.next();
  while (next.done !== true) {
    const { asks, soFar, more } = next.value;
    const of = done + sessionsIn(asks) + more;
    onStage?.({ soFar, done, of });
    const one = async (part: Ask): Promise<Answer> => {
      parts += 1;
      const values = await play(part, parts - 1);
      done += part.to - part.from;
      onStage?.({ soFar, done, of });
      return values;
    };
    const played = await Promise.all(partsOf(asks).map((some) => Promise.all(some.map(one))));
    if (!wanted()) return null;
    next = study.next(joined(asks, played));
  }
  return next.value;
}
