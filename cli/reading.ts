import { readFile, writeFile } from 'node:fs/promises';
import { endingWords, parseRunText, readTarget, stuckWords, targetsIn } from '@dial/core/formats';
import {
  inOrder,
  parseJson,
  parseLevelText,
  parseWith,
  StartingState,
  startingProblems,
  type Level,
  type Parsed,
  type Problem,
  reasonOf,
  type Route,
} from '@dial/core/level';
import { personaOf, playPersonas, runProblems, walkRoute, type Run } from '@dial/core/players';
import { compile, SIMULATION_VERSION } from '@dial/core/session';

/** Something the user gave that cannot be used; the message says what and where. */
export class BadInput extends Error {}

async function text(file: string): Promise<string> {
  try {
    return await readFile(file, 'utf8');
  } catch (error) {
    throw new BadInput(`${file}: cannot be read (${reasonOf(error)})`);
  }
}

export function problemWords(file: string, problems: readonly Problem[]): string {
  return problems.map(({ path, message }) => `${file}${path === '' ? '' : ` at ${path}`}: ${message}`).join('\n');
}

export function accepted<Value>(file: string, parsed: Parsed<Value>): Value {
  if (parsed.ok) return parsed.value;
  throw new BadInput(problemWords(file, parsed.problems));
}

export async function readLevel(file: string): Promise<Level> {
  return accepted(file, parseLevelText(await text(file)));
}

/** A level held to targets in words instead of those that it states; to its own, where there are none. */
export function withTargets(level: Level, words: readonly string[] = []): Level {
  if (words.length === 0) return level;
  const read = words.flatMap(targetsIn).map((one, order) => {
    const reading = readTarget(level, one);
    if (!reading.ok) throw new BadInput(`--target ${one}: ${reading.why}`);
    return [`target-${String(order + 1)}`, { ...reading.target, order }] as const;
  });
  return { ...level, targets: Object.fromEntries(read) };
}

/** Writes a file; says what is wrong where it cannot. */
export async function write(file: string, content: string): Promise<void> {
  try {
    await writeFile(file, content);
  } catch (error) {
    throw new BadInput(`${file}: cannot be written (${reasonOf(error)})`);
  }
}

/** Which session to simulate: a recorded run or a route, with what replaces parts of it. */
export interface RunOptions {
  readonly run?: string;
  readonly route?: string;
  readonly persona?: string;
  readonly seed?: string;
  readonly rate?: string;
  readonly fromState?: string;
}

export function wholeNumber(option: string, given: string, least: number, most: number): number {
  const value = /^\d+$/.test(given) ? Number(given) : NaN;
  if (Number.isInteger(value) && value >= least && value <= most) return value;
  throw new BadInput(`${option} takes a whole number from ${String(least)} to ${String(most)}`);
}

export function rateOf(options: RunOptions, level: Level): number {
  return options.rate === undefined ? level.rate : wholeNumber('--rate', options.rate, 30, 240);
}

async function readStart(file: string, level: Level): Promise<StartingState> {
  const start = accepted(file, parseWith(StartingState, accepted(file, parseJson(await text(file)))));
  const problems = startingProblems(level, start);
  if (problems.length > 0) throw new BadInput(problemWords(file, problems));
  return start;
}

/** Lets a persona play: on the route asked for, else by its own way. */
function playOf(wanted: string | undefined, options: RunOptions, level: Level, seed: number, start: StartingState | null): Run {
  const persona = wanted === undefined ? inOrder(level.personas)[0]?.[1] : personaOf(level, wanted);
  if (persona == null) {
    const known =
      inOrder(level.personas)
        .map(([, { name }]) => name)
        .join(', ') || 'none';
    throw new BadInput(
      wanted === undefined ? 'the level has neither route nor persona; give --run FILE' : `no persona “${wanted}”; the level has: ${known}`,
    );
  }
  const compiled = compile(level, rateOf(options, level));
  const played = playPersonas(compiled, [persona], {
    seed,
    start,
    route: options.route === undefined ? null : routeOf(options.route, level).wayPoints,
  });
  const words = endingWords(persona.name, played.endings[0] ?? null, played.run.steps / compiled.rate);
  if (words !== null) console.error(words);
  return played.run;
}

function routeOf(wanted: string, level: Level): Route {
  const routes = inOrder(level.routes);
  const found = routes.find(([id, one]) => id === wanted || one.name === wanted);
  if (found === undefined)
    throw new BadInput(`no route “${wanted}”; the level has: ${routes.map(([, { name }]) => name).join(', ') || 'none'}`);
  return found[1];
}

/** Walks the route asked for, else the level's first, with the plain walker; a level without one is played by its first persona. */
function walkOf(options: RunOptions, level: Level, seed: number): Run {
  const first = inOrder(level.routes)[0]?.[1];
  const route = options.route === undefined ? first : routeOf(options.route, level);
  if (route === undefined) return playOf(undefined, options, level, seed, null);
  const { run, stuckAt } = walkRoute(compile(level, rateOf(options, level)), route, { seed });
  if (stuckAt !== null) {
    console.error(stuckWords(level, stuckAt));
  }
  return run;
}

/** The run asked for: a file, a persona's session, or a route walked by the plain walker; with another seed or starting state if given. */
export async function readRun(options: RunOptions, level: Level): Promise<Run> {
  if (options.run !== undefined && (options.route ?? options.persona) !== undefined)
    throw new BadInput('give either --run, or --route or --persona');
  const seed = options.seed === undefined ? undefined : wholeNumber('--seed', options.seed, 0, 0xffffffff);
  const stated = options.fromState === undefined ? null : await readStart(options.fromState, level);
  const recorded =
    options.persona !== undefined
      ? playOf(options.persona, options, level, seed ?? 1, stated)
      : options.run === undefined
        ? walkOf(options, level, seed ?? 1)
        : accepted(options.run, parseRunText(await text(options.run)));
  const start = stated ?? recorded.start;
  const run = { ...recorded, seed: seed ?? recorded.seed, start };
  for (const { path, message } of runProblems(level, run)) console.error(`left out: ${path} ${message}`);
  if (run.simulation > SIMULATION_VERSION) {
    const versions = `simulation ${String(run.simulation)}; this is ${String(SIMULATION_VERSION)}`;
    console.error(`recorded with ${versions}: the session may part from it`);
  }
  return run;
}
