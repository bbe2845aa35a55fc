#!/usr/bin/env node
import { readFile, writeFile } from 'node:fs/promises';
import { clockTime, ledgerText, levelText, parseRunText, plainNumber } from '@dial/core/formats';
import { inOrder, levelJsonSchema, parseLevelText, type Level, type Parsed } from '@dial/core/level';
import { simulate, walkRoute, type Run } from '@dial/core/players';
import { compile, type Outcome } from '@dial/core/session';
import { Command, CommanderError } from 'commander';

/** Exit codes: 0 fine, 1 a check was missed, 2 bad input or usage. */
const BAD_INPUT = 2;

class BadInput extends Error {}

async function text(file: string): Promise<string> {
  try {
    return await readFile(file, 'utf8');
  } catch (error) {
    throw new BadInput(`${file}: cannot be read (${error instanceof Error ? error.message : String(error)})`);
  }
}

function accepted<Value>(file: string, parsed: Parsed<Value>): Value {
  if (parsed.ok) return parsed.value;
  throw new BadInput(parsed.problems.map(({ path, message }) => `${file}${path === '' ? '' : ` at ${path}`}: ${message}`).join('\n'));
}

const readLevel = async (file: string): Promise<Level> => accepted(file, parseLevelText(await text(file)));

interface RunOptions {
  run?: string;
  route?: string;
  rate?: string;
  ledger?: string;
  saveRun?: string;
  json?: true;
}

function rateOf(options: RunOptions, level: Level): number {
  if (options.rate === undefined) return level.rate;
  const rate = Number(options.rate);
  if (!Number.isInteger(rate) || rate < 30 || rate > 240) throw new BadInput('--rate takes a whole number from 30 to 240');
  return rate;
}

/** The run asked for: a file, or a route walked by the plain walker; else the level's first route. */
async function runOf(options: RunOptions, level: Level): Promise<Run> {
  if (options.run !== undefined && options.route !== undefined) throw new BadInput('give either --run or --route');
  if (options.run !== undefined) return accepted(options.run, parseRunText(await text(options.run)));
  const routes = inOrder(level.routes);
  const found =
    options.route === undefined ? routes[0] : routes.find(([id, route]) => id === options.route || route.name === options.route);
  if (found === undefined) {
    const known = routes.map(([, route]) => route.name).join(', ') || 'none';
    throw new BadInput(
      options.route === undefined ? 'the level has no route; give --run FILE' : `no route "${options.route}"; the level has: ${known}`,
    );
  }
  const walk = walkRoute(compile(level, rateOf(options, level)), found[1]);
  if (walk.stuckAt !== null) {
    const { x, y, wayPoint, seconds } = walk.stuckAt;
    console.error(
      `stuck on the way to way-point ${String(wayPoint + 1)} at ${plainNumber(x)}, ${plainNumber(y)} after ${clockTime(seconds)}`,
    );
  }
  return walk.run;
}

function outcomeWords(level: Level, outcome: Outcome): string {
  const player = outcome.players[0];
  const meters = inOrder(level.meters).map(([id, { name }]) => `${name} ${plainNumber(player?.meters[id] ?? 0)}`);
  const rows = Object.entries(outcome.perKind).map(([id, one]) => {
    const parts = [`used ${String(one.uses)}`, `refused ${String(one.refusals)}`];
    if (one.healed > 0 || one.wasted > 0) parts.push(`healed ${plainNumber(one.healed)}, wasted ${plainNumber(one.wasted)}`);
    if (one.hurt > 0) parts.push(`took ${plainNumber(one.hurt)} health`);
    if (one.scored > 0) parts.push(`scored ${plainNumber(one.scored)}`);
    return `  ${level.kinds[id]?.name ?? id}: ${parts.join(', ')}`;
  });
  return [`${outcome.ended.how} at ${clockTime(outcome.ended.seconds)}: ${meters.join(', ')}`, ...rows].join('\n');
}

async function run(file: string, options: RunOptions): Promise<void> {
  const level = await readLevel(file);
  const compiled = compile(level, rateOf(options, level));
  const recorded = await runOf(options, level);
  const recording = simulate(compiled, recorded);
  if (options.saveRun !== undefined) await writeFile(options.saveRun, JSON.stringify(recorded) + '\n');
  if (options.ledger !== undefined) await writeFile(options.ledger, ledgerText(compiled, recording.lines));
  const { outcome, digest } = recording;
  console.log(options.json === true ? JSON.stringify({ ...outcome, digest }) : outcomeWords(level, outcome));
}

const program = new Command('dial').description('Simulate, check and describe Dial levels.').exitOverride();
program
  .command('run')
  .argument('<level>', 'level file')
  .option('--run <file>', 'recorded run to simulate')
  .option('--route <name>', 'route to walk instead')
  .option('--rate <steps>', 'steps a second, 30 to 240')
  .option('--ledger <file>', 'write the ledger as NDJSON')
  .option('--save-run <file>', 'write the run that was simulated')
  .option('--json', 'print the outcome as JSON')
  .description('simulate a session and print its outcome')
  .action(run);
program
  .command('validate')
  .argument('<level>', 'level file')
  .description('check a level file; prints each problem with its path')
  .action(async (file: string) => {
    const level = await readLevel(file);
    console.log(`${level.name}: a valid level of format ${String(level.format)}`);
  });
program
  .command('schema')
  .description('print the JSON Schema of a level')
  .action(() => {
    console.log(JSON.stringify(levelJsonSchema(), null, 2));
  });
program
  .command('tidy')
  .argument('<level>', 'level file')
  .description('print a level with every default filled in')
  .action(async (file: string) => {
    process.stdout.write(levelText(await readLevel(file)));
  });

try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof BadInput) console.error(error.message);
  else if (!(error instanceof CommanderError)) throw error;
  process.exitCode = error instanceof CommanderError && error.exitCode === 0 ? 0 : BAD_INPUT;
}
