import type { Level } from '@dial/core/level';
import { compile, readLine, type Compiled, type LedgerLine } from '@dial/core/session';
import type { ShownRun } from './protocol.ts';

const compiledLevels = new WeakMap<Level, Compiled>();

/** The compiled form of a level, made once for each document. */
export function compiledOf(level: Level): Compiled {
  const known = compiledLevels.get(level);
  if (known !== undefined) return known;
  const compiled = compile(level);
  compiledLevels.set(level, compiled);
  return compiled;
}

const readRuns = new WeakMap<ShownRun, readonly LedgerLine[]>();

/** The ledger of a simulated run, read once. */
export function ledgerOf(run: ShownRun): readonly LedgerLine[] {
  const known = readRuns.get(run);
  if (known !== undefined) return known;
  const compiled = compiledOf(run.level);
  const lines = Array.from({ length: run.lines.count }, (_, index) => readLine(compiled, run.lines, index));
  readRuns.set(run, lines);
  return lines;
}
