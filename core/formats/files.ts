import type { Level } from '../level/index.ts';
import { parseJson, parseWith, type Parsed } from '../level/index.ts';
import { Run } from '../players/index.ts';

/** A name for a file, made of what is in it. */
export function fileName(name: string, ending: string): string {
  return `${name.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}.${ending}`;
}

/** A level as the text of a level file. Reading it back gives an equal level. */
export function levelText(level: Level): string {
  return JSON.stringify(level, null, 2) + '\n';
}

/** Reads a run file. */
export function parseRunText(text: string): Parsed<Run> {
  const document = parseJson(text);
  return document.ok ? parseWith(Run, document.value) : document;
}

/** A run as the text of a run file. Reading it back gives an equal run. */
export function runText(run: Run): string {
  return JSON.stringify(run) + '\n';
}
