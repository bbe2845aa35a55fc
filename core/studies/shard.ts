import { levelHash, type Level } from '../level/index.ts';
import type { Run } from '../players/index.ts';
import { compile, SIMULATION_VERSION, type Compiled } from '../session/index.ts';
import { addHeat, emptyCounts, heatGrid, heatOf } from './heat.ts';
import { playRun, playSession, type Tally } from './playing.ts';
import type { SessionRow } from './row.ts';
import { crowdOf, sessionAt, type CrowdSettings } from './settings.ts';
import type { Summary } from './summary.ts';

/** The sessions of a crowd from one number to before another. */
export interface SessionRange {
  readonly from: number;
  readonly to: number;
}

interface ShardOptions {
  /** Whether the meters are kept for each second. */
  readonly tracks?: boolean;
  /** Called after each session. */
  readonly onSession?: () => void;
}

const hashes = new WeakMap<Level, string>();

function hashOf(level: Level): string {
  const hash = hashes.get(level) ?? levelHash(level);
  hashes.set(level, hash);
  return hash;
}

/** Plays some sessions of a crowd: the same level, settings and range come to the same summary wherever they are played. */
export function playShard(
  level: Level,
  settings: CrowdSettings,
  { from, to }: SessionRange,
  { tracks = false, onSession }: ShardOptions = {},
  compiled: Compiled = compile(level),
): Summary {
  const { personas, start } = crowdOf(level, settings);
  const grid = heatGrid(level);
  const tally: Tally = { grid, heat: emptyCounts(grid), over: null };
  const rows: SessionRow[] = [];
  for (let index = from; index < to; index += 1) {
    const session = sessionAt(settings, index);
    const persona = personas[session.persona];
    if (persona === undefined) throw new Error(`the crowd has no session ${String(index)}`);
    rows.push(playSession(compiled, persona, session, { seconds: settings.seconds, start, tracks }, tally));
    onSession?.();
  }
  return { level: hashOf(level), simulation: SIMULATION_VERSION, rate: compiled.rate, rows, heat: heatOf(tally.heat) };
}

/** What runs come to on a level, as the sessions of a crowd. */
export function playRuns(level: Level, runs: readonly Run[]): SessionRow[] {
  const grid = heatGrid(level);
  const tally: Tally = { grid, heat: emptyCounts(grid), over: null };
  const compiled = compile(level);
  return runs.map((run, index) => playRun(compiled, run, index, tally));
}

/** Several summaries as one, the same in whatever order and parts they come. Throws when they are not of one level, rate and simulation. */
export function mergeSummaries(level: Level, parts: readonly Summary[]): Summary {
  const grid = heatGrid(level);
  const counts = emptyCounts(grid);
  const [first] = parts;
  const made = {
    level: first?.level ?? hashOf(level),
    simulation: first?.simulation ?? SIMULATION_VERSION,
    rate: first?.rate ?? level.rate,
  };
  for (const part of parts) {
    if (part.level !== made.level || part.simulation !== made.simulation || part.rate !== made.rate) {
      throw new Error('sessions of different levels or simulations cannot be put together');
    }
    addHeat(counts, part.heat);
  }
  const rows = parts.flatMap((part) => part.rows).sort((a, b) => a.index - b.index);
  const twice = rows.findIndex((row, at) => at > 0 && rows[at - 1]?.index === row.index);
  if (twice >= 0) throw new Error(`session ${String(rows[twice]?.index)} is there twice`);
  return { ...made, rows, heat: heatOf(counts) };
}
