import type { z } from 'zod';

/** Something wrong in a document: where (a JSON Pointer, RFC 6901) and what. */
export interface Problem {
  readonly path: string;
  readonly message: string;
}

export type Parsed<Value> = { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly problems: Problem[] };

export const MOST_PROBLEMS = 50;

/** `['kinds', 'a/b']` → `/kinds/a~1b`. */
export function pointer(segments: readonly PropertyKey[]): string {
  return segments.map((segment) => '/' + String(segment).replaceAll('~', '~0').replaceAll('/', '~1')).join('');
}

/** `/kinds/a~1b` → `['kinds', 'a/b']`. */
export function segmentsOf(path: string): string[] {
  return path
    .split('/')
    .slice(1)
    .map((segment) => segment.replaceAll('~1', '/').replaceAll('~0', '~'));
}

export function problemsOf(error: z.ZodError, under = ''): Problem[] {
  return error.issues.slice(0, MOST_PROBLEMS).map((issue) => ({ path: under + pointer(issue.path), message: issue.message }));
}

/** The entry of a map, never something inherited from Object. */
export function entry<Value>(map: Readonly<Record<string, Value>>, id: string): Value | undefined {
  return Object.hasOwn(map, id) ? map[id] : undefined;
}
