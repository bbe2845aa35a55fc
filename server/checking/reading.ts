import { parseJson, type Problem } from '@dial/core/level';

export type Checked<Value> =
  | { readonly ok: true; readonly value: Value }
  | {
      readonly ok: false;
      readonly what: 'not JSON' | 'not valid' | 'clash';
      readonly problems: readonly Problem[];
    };

const decoder = new TextDecoder('utf-8', { fatal: true });

/** Reads JSON from its bytes. */
export function readJson(bytes: Uint8Array, mostEntries?: number): Checked<unknown> {
  let text: string;
  try {
    text = decoder.decode(bytes);
  } catch {
    return { ok: false, what: 'not JSON', problems: [{ path: '', message: 'not UTF-8 text' }] };
  }
  const parsed = parseJson(text, mostEntries);
  if (parsed.ok) return parsed;
  const notJson = parsed.problems[0]?.message.startsWith('not JSON') === true;
  return { ok: false, what: notJson ? 'not JSON' : 'not valid', problems: parsed.problems };
}
