import { inOrder, kindOf, type Level } from '../level/index.ts';
import type { Outcome, PlacementOutcome } from '../session/index.ts';
import { csvText } from './csvTable.ts';
import { forFile, plainNumber } from './numerals.ts';
import { endedWords } from './endings.ts';

/** One figure of an outcome, as a table has it. */
export interface OutcomeRow {
  readonly name: string;
  /** As it is shown. */
  readonly text: string;
  /** As a number, for tables that reckon with it; null for words. */
  readonly value: number | null;
  readonly unit: string;
}

/** What a session came to, row by row: how it ended, then for each player what the tables of runs compare. */
export function outcomeRows(level: Level, outcome: Outcome): readonly OutcomeRow[] {
  const rows: OutcomeRow[] = [];
  const words = (name: string, text: string): void => void rows.push({ name, text, value: null, unit: '' });
  const number = (name: string, value: number, unit = '', places = 1): void =>
    void rows.push({ name, text: plainNumber(value, places) + (unit === '' ? '' : ` ${unit}`), value, unit });
  const all = Object.values(outcome.perKind);
  const sum = (of: (one: PlacementOutcome) => number): number => all.reduce((total, one) => total + of(one), 0);
  words('ended', endedWords(outcome));
  number('lasted', outcome.ended.seconds, 's');
  outcome.players.forEach((player, index) => {
    const of = outcome.players.length > 1 ? ` of player ${String(index + 1)}` : '';
    for (const [id, { name }] of inOrder(level.meters)) number(`final ${name}${of}`, player.meters[id] ?? 0);
    number(`lowest health${of}`, player.lowestHealth);
    number(`deaths${of}`, player.deaths);
    for (const [id, { name }] of inOrder(level.items)) number(`${name}${of}`, player.items[id] ?? 0);
    number(`distance${of}`, player.distance, 'u');
    number(`movement changed${of}`, player.changedSeconds, 's');
    for (const [id, lost] of Object.entries(player.damageByKind).sort(([, a], [, b]) => b - a)) {
      number(`damage by ${kindOf(level, id)?.name ?? id}${of}`, lost);
    }
  });
  number(
    'healed',
    sum(({ healed }) => healed),
  );
  number(
    'healing wasted',
    sum(({ wasted }) => wasted),
  );
  number(
    'waited for what rested',
    sum(({ waitingSeconds }) => waitingSeconds),
    's',
  );
  return rows;
}

/** All names of some tables: what only a later one has stands where that has it. */
function allNames(tables: readonly (readonly OutcomeRow[])[]): readonly string[] {
  const names: string[] = [];
  for (const rows of tables) {
    let at = 0;
    for (const { name } of rows) {
      const known = names.indexOf(name);
      if (known < 0) names.splice(at, 0, name);
      at = (known < 0 ? at : known) + 1;
    }
  }
  return names;
}

/** Outcomes beside each other: every figure that one of them has, with each one's value. */
export function outcomesBeside(
  outcomes: readonly { readonly level: Level; readonly outcome: Outcome }[],
): readonly { readonly name: string; readonly cells: readonly (OutcomeRow | null)[] }[] {
  const tables = outcomes.map(({ level, outcome }) => outcomeRows(level, outcome));
  return allNames(tables).map((name) => ({ name, cells: tables.map((rows) => rows.find((row) => row.name === name) ?? null) }));
}

/** Outcomes of several runs as CSV: a line for each run, a column for each figure. */
export function outcomesCsv(runs: readonly { readonly name: string; readonly level: Level; readonly outcome: Outcome }[]): string {
  const beside = forFile(() => outcomesBeside(runs));
  const unitOf = (cells: readonly (OutcomeRow | null)[]): string => cells.find((cell) => cell !== null)?.unit ?? '';
  const heads = beside.map(({ name, cells }) => (unitOf(cells) === '' ? name : `${name} (${unitOf(cells)})`));
  return csvText([
    ['run', ...heads],
    ...runs.map(({ name }, index) => [
      name,
      ...beside.map(({ cells }) => {
        const cell = cells[index];
        return cell == null ? '' : (cell.value ?? cell.text);
      }),
    ]),
  ]);
}
