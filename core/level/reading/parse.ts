import { z } from 'zod';
import { parseJson } from '../document/json.ts';
import { problemsOf, type Parsed } from '../document/problems.ts';
import { checkReferences } from './references.ts';
import { Level, LEVEL_FORMAT } from '../document/schema.ts';

export type { Parsed, Problem } from '../document/problems.ts';
export { formProblem, JsonValue, parseJson, textProblem } from '../document/json.ts';
export { roundSeconds } from './references.ts';

/** Brings a document of an older format up to the present one. Format 1 is the first, so nothing changes yet. */
export function migrate(document: unknown): Parsed<unknown> {
  const format = z.object({ format: z.number() }).safeParse(document);
  if (!format.success) {
    return { ok: false, problems: [{ path: '/format', message: 'this is not a Dial level: it states no format number' }] };
  }
  if (format.data.format !== LEVEL_FORMAT) {
    const message = `format ${String(format.data.format)} is not one this version reads (it reads ${String(LEVEL_FORMAT)})`;
    return { ok: false, problems: [{ path: '/format', message }] };
  }
  return { ok: true, value: document };
}

/** Reads a level document of any known format. Nothing is kept of a document that has a problem. */
export function parseLevel(document: unknown): Parsed<Level> {
  const migrated = migrate(document);
  if (!migrated.ok) return migrated;
  const parsed = Level.safeParse(migrated.value);
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error) };
  const problems = checkReferences(parsed.data);
  return problems.length > 0 ? { ok: false, problems } : { ok: true, value: parsed.data };
}

/** A level file is no larger than this, in bytes and so in characters. */
export const MOST_LEVEL_BYTES = 8 * 1024 * 1024;

/** Why a level file of so many characters or bytes is not read; null when it may be. */
export function tooLarge(size: number): string | null {
  const millions = (bytes: number): string => (bytes / 1024 / 1024).toFixed(0);
  return size <= MOST_LEVEL_BYTES ? null : `the file is larger than ${millions(MOST_LEVEL_BYTES)} MB (it has ${millions(size)})`;
}

/** Reads a level from JSON text. */
export function parseLevelText(text: string): Parsed<Level> {
  const large = tooLarge(text.length);
  if (large !== null) return { ok: false, problems: [{ path: '', message: large }] };
  const document = parseJson(text);
  return document.ok ? parseLevel(document.value) : document;
}

/** Checks any other document against its schema, with the same kind of answer. */
export function parseWith<Value>(schema: z.ZodType<Value>, document: unknown): Parsed<Value> {
  const parsed = schema.safeParse(document);
  return parsed.success ? { ok: true, value: parsed.data } : { ok: false, problems: problemsOf(parsed.error) };
}
