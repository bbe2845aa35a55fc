import type { z } from 'zod';
import { pointer } from './pointers.ts';

/** Something wrong in a document: where (a JSON Pointer, RFC 6901) and what. */
export interface Problem {
  readonly path: string;
  readonly message: string;
}

export type Parsed<Value> = { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly problems: Problem[] };

export const MOST_PROBLEMS = 50;

export function problemsOf(error: z.ZodError, under = ''): Problem[] {
  return error.issues.slice(0, MOST_PROBLEMS).map((issue) => ({ path: under + pointer(issue.path), message: issue.message }));
}
