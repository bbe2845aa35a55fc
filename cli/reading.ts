import { readFile, writeFile } from 'node:fs/promises';
import { parseRunText, stuckWords } from '@dial/core/formats';
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
} from '@dial/core/level';
import { runProblems, walkRoute, type Run } from '@dial/core/players';
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

function problemWords(file: string, problems: readonly Problem[]): string {
  return problems.map(({ path, message }) => `${file}${path === '' ? '' : ` at ${path}`}: ${message}`).join('\n');
}

function accepted<Value>(file: string, parsed: Parsed<Value>): Value {
  if (parsed.ok) return parsed.value;
  throw new BadInput(problemWords(file, parsed.problems));
}

export async function readLevel(file: string): Promise<Level> {
  return accepted(file, parseLevelText(await text(file)));
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
  readonly seed?: string;
  readonly rate?: string;
  readonly fromState?: string;
}

function wholeNumber(option: string, given: string, least: number, most: number): number {
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

/** Walks the route asked for, else the level's first, with the plain walker. */
function walkOf(options: RunOptions, level: Level, seed: number): Run {
  const routes = inOrder(level.routes);
  const { route } = options;
  const found = route === undefined ? routes[0] : routes.find(([id, one]) => id === route || one.name === route);
  if (found === undefined) {
    const known = routes.map(([, { name }]) => name).join(', ') || 'none';
    throw new BadInput(route === undefined ? 'the level has no route; give --run FILE' : `no route "${route}"; the level has: ${known}`);
  }
  const { run, stuckAt } = walkRoute(compile(level, rateOf(options, level)), found[1], { seed });
  if (stuckAt !== null) {
    console.error(stuckWords(level, stuckAt));
  }
  return run;
}

/** The run asked for: a file, or a route walked by the plain walker; with another seed or starting state if given. */
export async function readRun(options: RunOptions, level: Level): Promise<Run> {
  if (options.run !== undefined && options.route !== undefined) throw new BadInput('give either --run or --route');
  const seed = options.seed === undefined ? undefined : wholeNumber('--seed', options.seed, 0, 0xffffffff);
  const recorded =
    options.run === undefined ? walkOf(options, level, seed ?? 1) : accepted(options.run, parseRunText(await text(options.run)));
  const start = options.fromState === undefined ? recorded.start : await readStart(options.fromState, level);
  const run = { ...recorded, seed: seed ?? recorded.seed, start };
  for (const { path, message } of runProblems(level, run)) console.error(`left out: ${path} ${message}`);
  if (run.simulation > SIMULATION_VERSION) {
    const versions = `simulation ${String(run.simulation)}; this is ${String(SIMULATION_VERSION)}`;
    console.error(`recorded with ${versions}: the session may part from it`);
  }
  return run;
}
