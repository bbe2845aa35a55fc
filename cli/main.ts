#!/usr/bin/env node
import { clockTime, ledgerNdjson, levelText } from '@dial/core/formats';
import { openFindings } from '@dial/core/findings';
import { LEVEL_FORMAT, levelJsonSchema, startingStateJsonSchema } from '@dial/core/level';
import { compareSessions, outcomeOfRun, runJsonSchema, simulate, withMarks, type Parting } from '@dial/core/players';
import { compile, readLines, SIMULATION_VERSION } from '@dial/core/session';
import { studyJsonSchema } from '@dial/core/studies';
import { Command, CommanderError } from 'commander';
import { check } from './check.ts';
import { crowd } from './crowd.ts';
import { seek, sensitivity, sweep, tune } from './judging.ts';
import { differences, differenceWords, outcomeWords } from './printing.ts';
import { BadInput, rateOf, readLevel, readRun, type RunOptions, write } from './reading.ts';

/** Exit codes: 0 fine, 1 a check was missed, 2 bad input or usage. */
const BAD_INPUT = 2;

interface RunCommand extends RunOptions {
  readonly ledger?: string;
  readonly saveRun?: string;
  readonly json?: true;
}

async function run(file: string, options: RunCommand): Promise<void> {
  const level = await readLevel(file);
  const compiled = compile(level, rateOf(options, level));
  const recorded = await readRun(options, level);
  const recording = simulate(compiled, recorded);
  if (options.saveRun !== undefined) await write(options.saveRun, JSON.stringify(withMarks(compiled, recorded)) + '\n');
  if (options.ledger !== undefined) await write(options.ledger, ledgerNdjson(readLines(compiled, recording.lines)));
  const { outcome, digest, partsAtSeconds } = recording;
  console.log(
    options.json === true
      ? JSON.stringify({ ...outcome, digest, simulation: SIMULATION_VERSION, partsAtSeconds })
      : outcomeWords(level, recording),
  );
}

function partingWords(parting: Parting | null): string {
  if (parting === null) return 'the sessions are the same';
  const { step, seconds, field, a, b } = parting;
  return `they part at step ${String(step)} (${clockTime(seconds)}): ${field} is ${String(a)} and ${String(b)}`;
}

async function compare(fileA: string, fileB: string, options: RunCommand): Promise<void> {
  const a = await readLevel(fileA);
  const b = await readLevel(fileB);
  const recorded = await readRun(options, a);
  const rate = rateOf(options, a);
  const [compiledA, compiledB] = [compile(a, rate), compile(b, rate)];
  const parting = compareSessions(compiledA, compiledB, recorded);
  const [outcomeA, outcomeB] = [outcomeOfRun(compiledA, recorded), outcomeOfRun(compiledB, recorded)];
  const rows = differences(outcomeA, outcomeB);
  if (options.json === true) console.log(JSON.stringify({ parts: parting, differences: rows, a: outcomeA, b: outcomeB }));
  else console.log([partingWords(parting), ...(rows.length === 0 ? [] : [differenceWords(rows)])].join('\n'));
}

/** Options that say which session to simulate. */
function sessionOptions(command: Command): Command {
  return command
    .option('--run <file>', 'recorded run to simulate')
    .option('--route <name>', 'route to walk instead')
    .option('--persona <name>', 'let a persona play it; with --route along that')
    .option('--seed <number>', 'seed of all chance, 0 to 4294967295')
    .option('--rate <steps>', 'steps a second, 30 to 240')
    .option('--from-state <file>', 'starting state: meters, items, place')
    .option('--json', 'print JSON');
}

const many = (given: string, before: readonly string[] = []): string[] => [...before, given];

/** Options that say who plays. */
function crowdOptions(command: Command): Command {
  return command
    .option('--personas <counts>', 'who plays how often: wary=200,hasty=200')
    .option('--seconds <number>', 'seconds after which a session is cut off')
    .option('--seed <number>', 'seed of the first session of each persona, 0 to 4294967295')
    .option('--from-state <name>', 'starting state of the level')
    .option('--threads <number>', 'threads to play in; else as many as there are cores')
    .option('--json', 'print JSON');
}

/** Options of studies that turn dials. */
function studyOptions(command: Command): Command {
  return crowdOptions(command)
    .option('--outcome <name>', 'what is asked of each session: finishes, final health, deaths, uses of …; else final health')
    .option(
      '--statistic <which>',
      'mean, median, quantile:0.1 or share:60:80; else the share that is so, the mean of what is counted, or the median',
    )
    .option('--csv', 'print CSV');
}

const program = new Command('dial')
  .description('Simulate, check and describe Dial levels.')
  .version(`0.1.0, level format ${String(LEVEL_FORMAT)}, simulation ${String(SIMULATION_VERSION)}`)
  .exitOverride();
sessionOptions(program.command('run').argument('<level>', 'level file'))
  .option('--ledger <file>', 'write the ledger as NDJSON')
  .option('--save-run <file>', 'write the run that was simulated')
  .description('simulate a session and print its outcome')
  .action(run);
sessionOptions(program.command('compare').argument('<a>', 'level file').argument('<b>', 'level file'))
  .description('simulate one run on two levels: where the sessions part, and the outcomes side by side')
  .action(compare);
crowdOptions(program.command('crowd').argument('<level>', 'level file'))
  .option('--session <number>', 'bring one session, counted from 0, out as a run, with --save-run')
  .option('--save-run <file>', 'where that run is written')
  .option('--csv', 'print a row a session')
  .option('--save <file>', 'write the settings and all sessions, as JSON')
  .description('let a crowd of personas play, else the one that the level states or a hundred of each, and print what it came to')
  .action(crowd);
program
  .command('check')
  .argument('<level>', 'level file')
  .option('--against <name=file>', 'a version of the level that targets are held against; again for each', many)
  .option('--target <words>', 'a target in words, instead of those of the level; again for each', many)
  .option('--crowd', 'let the crowd that the level states play it, too, and tell what its sessions show')
  .option('--runs <file>', 'a recorded run, again for each: tell what three and more of them show', many)
  .option('--threads <number>', 'threads to play in; else as many as there are cores')
  .option('--junit <file>', 'write JUnit XML: a test case a target')
  .option('--sarif <file>', 'write SARIF 2.1.0: what is not met')
  .option('--json', 'print JSON')
  .description('judge the targets of a level: exit 0 all met, 1 one missed or undecided, 2 bad input')
  .action(check);
studyOptions(program.command('sweep').argument('<level>', 'level file'))
  .requiredOption('--dial <pointer=from:to:step>', 'a dial and its range; twice for a map', many)
  .description('turn one or two dials over their ranges, with the same sessions at each value')
  .action(sweep);
studyOptions(program.command('sensitivity').argument('<level>', 'level file'))
  .option('--dial <pointer>', 'a dial that is nudged; again for each; else all', many)
  .option('--share <number>', 'by so much of its value each is nudged; else 0.2')
  .description('nudge dials down and up, and rank them by how far an outcome moves')
  .action(sensitivity);
studyOptions(program.command('seek').argument('<level>', 'level file'))
  .requiredOption('--dial <pointer=from:to>', 'the dial and its range', many)
  .requiredOption('--wish <number>', 'what the outcome shall be')
  .description('find the value of a dial at which an outcome is as wished')
  .action(seek);
program
  .command('tune')
  .argument('<level>', 'level file')
  .requiredOption(
    '--dial <pointer=from:to[:step[:weight]]>',
    'a dial that may move: its range, steps, and how much it shall stay; again for each',
    many,
  )
  .option('--targets <ids>', 'targets of the level to be met; else all')
  .option('--target <words>', 'a target in words, instead of those of the level; again for each', many)
  .option('--sessions <number>', 'sessions that the search may cost; else 20000')
  .option('--seed <number>', 'what the search is drawn by')
  .option('--threads <number>', 'threads to play in; else as many as there are cores')
  .option('--json', 'print JSON')
  .option('--csv', 'print CSV')
  .description('move several dials so that the targets are met; offers a handful of settings, judged by fresh sessions')
  .action(tune);
program
  .command('validate')
  .argument('<level>', 'level file')
  .description('check a level file; prints each problem with its path')
  .action(async (file: string) => {
    const level = await readLevel(file);
    console.log(`${level.name}: a valid level of format ${String(level.format)}`);
    for (const { severity, at, what, why } of openFindings(level)) console.log(`  ${severity}: ${at}: ${what} ${why}`);
  });
program
  .command('schema')
  .argument('[of]', 'what to describe: level, run, state or study', 'level')
  .description('print the JSON Schema of a level, a run or a starting state')
  .action((of: string) => {
    const schema = { level: levelJsonSchema, run: runJsonSchema, state: startingStateJsonSchema, study: studyJsonSchema }[of];
    if (schema === undefined) throw new BadInput(`there is no schema of “${of}”; there are level, run, state and study`);
    console.log(JSON.stringify(schema(), null, 2));
  });
program
  .command('migrate')
  .argument('<level>', 'level file of any known format')
  .description('print a level in the present format, with every default filled in')
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
