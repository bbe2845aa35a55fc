import { reasonOf } from './problems.ts';
import { z } from 'zod';
import { pointer } from './pointers.ts';
import type { Parsed, Problem } from './problems.ts';

/** Documents are nested no deeper than this. */
const MOST_DEPTH = 64;
/** Names and list entries in one document, at most: a level as large as one may be has a fifth of it. */
const MOST_ENTRIES = 1_000_000;
/** Names in one object, at most; the largest map of a level has a quarter of it. */
const MOST_NAMES = 20_000;
/** Values kept as they are inside a document, such as own values of a placement, are nested no deeper than this. */
const MOST_VALUE_DEPTH = 24;

const BACKSLASH = 0x5c;

/** The index of the quotation mark that ends the string which begins at `from`. */
function endOfString(text: string, from: number): number {
  let at = from;
  for (;;) {
    at = text.indexOf('"', at + 1);
    if (at < 0) return text.length;
    let slashes = at;
    while (text.charCodeAt(slashes - 1) === BACKSLASH) slashes -= 1;
    if ((at - slashes) % 2 === 0) return at;
  }
}

/** Why a text cannot be kept as it is; null when it can. */
export function textProblem(text: string): string | null {
  if (text.includes('\u0000')) return 'contains a zero character, which cannot be kept';
  // With the flag u, only a half without its other half counts as a surrogate.
  return !/\p{Surrogate}/u.test(text) ? null : 'contains half of a character (a lone surrogate), which cannot be kept';
}

interface Open {
  /** Names so far in an object; null for a list. */
  readonly names: Set<string> | null;
  at: string | number;
}

/**
 * What is wrong with the form of valid JSON text: nested too deep, too many entries, a name that stands twice in one
 * object (`JSON.parse` keeps the last and says nothing), a name or text that cannot be kept. Null when nothing is. One
 * pass over the text that never recurses, so that it is safe before anything else looks at the document.
 */
export function formProblem(text: string, mostEntries: number = MOST_ENTRIES): Problem | null {
  const open: Open[] = [];
  let entries = 0;
  let name: string | null = null;
  const here = (): string => pointer(open.map(({ at }) => at));
  for (let at = 0; at < text.length; at += 1) {
    switch (text[at]) {
      case '"': {
        const end = endOfString(text, at);
        const token = text.slice(at, end + 1);
        at = end;
        // Only an escape can make a text that cannot be kept: text decoded from UTF-8 has no halves of characters.
        const escaped = token.includes('\\');
        const value = escaped ? (JSON.parse(token) as string) : token.slice(1, -1);
        const problem = escaped ? textProblem(value) : null;
        if (problem !== null) return { path: here(), message: problem };
        name = value;
        break;
      }
      case '{':
      case '[':
        open.push(text[at] === '{' ? { names: new Set(), at: '' } : { names: null, at: 0 });
        if (open.length > MOST_DEPTH) return { path: '', message: `nested more than ${String(MOST_DEPTH)} deep` };
        entries += 1;
        break;
      case '}':
      case ']':
        open.pop();
        break;
      case ',': {
        entries += 1;
        const inside = open.at(-1);
        if (inside?.names === null) inside.at = Number(inside.at) + 1;
        break;
      }
      case ':': {
        const inside = open.at(-1);
        if (inside === undefined || inside.names === null || name === null) break;
        inside.at = name;
        if (name === '__proto__') return { path: here(), message: '“__proto__” cannot be used as a name' };
        if (inside.names.has(name)) return { path: here(), message: 'this stands twice in the file; only one of them can be meant' };
        inside.names.add(name);
        if (inside.names.size > MOST_NAMES) return { path: '', message: `more than ${String(MOST_NAMES)} names in one group` };
        break;
      }
      default:
    }
    if (entries > mostEntries) return { path: '', message: `more than ${String(mostEntries)} entries` };
  }
  return null;
}

/** Reads JSON text, with a plain message when it is none, or its form is not one that can be kept. */
export function parseJson(text: string, mostEntries: number = MOST_ENTRIES): Parsed<unknown> {
  // A byte-order mark is how some editors begin a file; it is no part of it.
  const body = text.startsWith('\ufeff') ? text.slice(1) : text;
  let value: unknown;
  try {
    value = JSON.parse(body);
  } catch (error) {
    return { ok: false, problems: [{ path: '', message: `not JSON: ${reasonOf(error)}` }] };
  }
  const problem = formProblem(body, mostEntries);
  return problem === null ? { ok: true, value } : { ok: false, problems: [problem] };
}

function isPlainJson(value: unknown, depth: number): boolean {
  switch (typeof value) {
    case 'string':
      return textProblem(value) === null;
    case 'number':
      return Number.isFinite(value);
    case 'boolean':
      return true;
    case 'object':
      if (value === null) return true;
      if (depth === 0) return false;
      return Array.isArray(value)
        ? value.every((one) => isPlainJson(one, depth - 1))
        : Object.entries(value).every(([key, one]) => textProblem(key) === null && isPlainJson(one, depth - 1));
    default:
      return false;
  }
}

/** Any JSON value that can be kept. */
export const JsonValue = z
  .unknown()
  .refine((value) => isPlainJson(value, MOST_VALUE_DEPTH), `must be a JSON value, nested at most ${String(MOST_VALUE_DEPTH)} deep`);
