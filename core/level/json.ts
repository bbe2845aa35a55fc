import type { Parsed } from './problems.ts';
import { pointer } from './pointers.ts';

/** A JSON string, or one of the marks between values; all else is skipped. */
const TOKEN = /"(?:[^"\\]|\\.)*"|[{}[\],:]/g;

/**
 * The place of the first name that stands twice in one object of valid JSON text; undefined when there is none.
 * `JSON.parse` keeps the last of them and says nothing, so that a part of a file would be lost unseen.
 */
export function nameTwice(text: string): string | undefined {
  const open: { readonly names: Set<string> | null; at: string | number }[] = [];
  let name: string | null = null;
  for (const [token] of text.matchAll(TOKEN)) {
    const here = open.at(-1);
    if (token === '{') open.push({ names: new Set(), at: '' });
    else if (token === '[') open.push({ names: null, at: 0 });
    else if (token === '}' || token === ']') open.pop();
    else if (token === ',' && here?.names === null) here.at = Number(here.at) + 1;
    else if (token === ':' && here !== undefined && here.names !== null && name !== null) {
      here.at = JSON.parse(name) as string;
      if (here.names.has(here.at)) return pointer(open.map(({ at }) => at));
      here.names.add(here.at);
    }
    name = token.startsWith('"') ? token : null;
  }
  return undefined;
}

/** Reads JSON text, with a plain message when it is none or states something twice. */
export function parseJson(text: string): Parsed<unknown> {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { ok: false, problems: [{ path: '', message: `not JSON: ${error instanceof Error ? error.message : String(error)}` }] };
  }
  const twice = nameTwice(text);
  return twice === undefined
    ? { ok: true, value }
    : { ok: false, problems: [{ path: twice, message: 'this stands twice in the file; only one of them can be meant' }] };
}
