import type { z } from 'zod';
import { pointer } from './pointers.ts';

/** Something wrong in a document: where (a JSON Pointer, RFC 6901) and what. */
export interface Problem {
  readonly path: string;
  readonly message: string;
}

export type Parsed<Value> = { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly problems: Problem[] };

export const MOST_PROBLEMS = 50;

/** Names and choices listed in one message, at most. */
const MOST_LISTED = 12;

const SORTS: Readonly<Record<string, string>> = {
  number: 'a number',
  int: 'a whole number',
  string: 'a text',
  boolean: 'yes or no (true or false)',
  array: 'a list',
  tuple: 'a list',
  object: 'a group of fields',
  record: 'a map by id',
};

/** What is counted of something whose size has a limit. */
const COUNTED: Readonly<Record<string, string>> = { string: 'characters', array: 'entries', record: 'entries' };

/** A limit, and what it counts. */
function limit(count: number | bigint, origin: string): string {
  const counted = COUNTED[origin];
  if (counted === undefined) return String(count);
  return Number(count) === 1 ? (origin === 'string' ? '1 character' : '1 entry') : `${String(count)} ${counted}`;
}

function quoted(values: readonly unknown[]): string {
  const listed = values.slice(0, MOST_LISTED).map((value) => `“${String(value).slice(0, 80)}”`);
  const more = values.length - listed.length;
  return listed.join(', ') + (more > 0 ? ` and ${String(more)} more` : '');
}

/** What Zod has to say, in Dial's words; messages of the schema's own stand as they are. */
function words(issue: z.core.$ZodIssue): string {
  if (!/^(Invalid (input|option|discriminator|key)|Too (small|big)|Unrecognized key)/.test(issue.message)) return issue.message;
  switch (issue.code) {
    case 'invalid_type': {
      const wanted = SORTS[issue.expected] ?? issue.expected;
      const received = /received (\w+)$/.exec(issue.message)?.[1] ?? '';
      if (issue.expected === 'int' && received === 'number') return 'must be a whole number, not a fraction';
      return received === 'undefined' ? `is missing: ${wanted}` : `must be ${wanted}, not ${SORTS[received] ?? received}`;
    }
    case 'too_small':
      return `must ${issue.origin in COUNTED ? 'have' : 'be'} ${issue.inclusive === false ? 'more than' : 'at least'} ${limit(issue.minimum, issue.origin)}`;
    case 'too_big':
      return `must ${issue.origin in COUNTED ? 'have' : 'be'} ${issue.inclusive === false ? 'less than' : 'at most'} ${limit(issue.maximum, issue.origin)}`;
    case 'unrecognized_keys':
      return `has ${quoted(issue.keys)}, which is not known here`;
    case 'invalid_value':
      return `must be ${issue.values.length > 1 ? 'one of ' : ''}${quoted(issue.values)}`;
    case 'invalid_union': {
      const sorts = [...issue.message.matchAll(/'([^']*)'/g)].map(([, sort]) => sort);
      if (sorts.length > 0) return `must be one of ${quoted(sorts)}`;
      const wanted = [...new Set(issue.errors.map(optionWords))];
      return wanted.length > 0 ? `must be ${wanted.join(', or ')}` : 'is nothing that fits here';
    }
    case 'invalid_key':
      return `cannot be called so: ${issue.issues.map(words).join('; ')}`;
    default:
      return issue.message;
  }
}

/** What one of several things that could stand somewhere asks for, by what is wrong with what stands there. */
function optionWords(issues: readonly z.core.$ZodIssue[]): string {
  const [first] = issues;
  if (first === undefined) return 'something else';
  if (first.path.length === 0 && first.code === 'invalid_type') return SORTS[first.expected] ?? first.expected;
  if (first.path.length === 0) return `something else: it ${words(first)}`;
  return `a group of fields whose “${first.path.join('/')}” ${words(first)}`;
}

/** What is wrong with a document, in words; `under` is where it stands. */
export function problemsOf(error: Pick<z.ZodError, 'issues'>, under = ''): Problem[] {
  return error.issues.slice(0, MOST_PROBLEMS).map((issue) => ({ path: under + pointer(issue.path), message: words(issue) }));
}

/** Why something failed, fit to be said. */
export const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
