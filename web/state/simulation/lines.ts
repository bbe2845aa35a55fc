import { readLine, type LedgerLine } from '@dial/core/session';
import type { ShownRun } from './protocol.ts';

const readRuns = new WeakMap<ShownRun, readonly LedgerLine[]>();

/** The ledger of a simulated run, read once. */
export function ledgerOf(run: ShownRun): readonly LedgerLine[] {
  const known = readRuns.get(run);
  if (known !== undefined) return known;
  const lines = Array.from({ length: run.lines.count }, (_, index) => readLine(run.names, run.lines, index));
  readRuns.set(run, lines);
  return lines;
}
