import type { Level } from '../level/index.ts';
import { parseJson, parseWith, type Parsed } from '../level/index.ts';
import { Run } from '../players/index.ts';
import { readLines, type Compiled, type Rows } from '../session/index.ts';

/** A level as the text of a level file. Reading it back gives an equal level. */
/** A name for a file, made of what is in it. */
export function fileName(name: string, ending: string): string {
  return `${name.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}.${ending}`;
}

export function levelText(level: Level): string {
  return JSON.stringify(level, null, 2) + '\n';
}

/** Reads a run file. */
export function parseRunText(text: string): Parsed<Run> {
  const document = parseJson(text);
  return document.ok ? parseWith(Run, document.value) : document;
}

/** A ledger as NDJSON: one JSON object a line. */
export function ledgerText(compiled: Compiled, lines: Rows): string {
  return readLines(compiled, lines)
    .map((line) => JSON.stringify(line) + '\n')
    .join('');
}
