import type { ProblemDetails } from '@dial/core/api';
import { z } from 'zod';

/** What one level, or run, is known by. */
export const Id = z.string().regex(/^[a-z0-9-]{1,64}$/, 'small letters, digits and dashes');
export const LevelId = z.object({ level: Id });
export const Key = z
  .string()
  .regex(/^[\x21-\x7e]{8,100}$/, '8 to 100 printable characters')
  .meta({ description: 'A word of the sender’s own: what is sent twice under it is done once.' });

const WORDS: Readonly<Record<number, string>> = {
  400: 'Not JSON, or not an address.',
  401: 'The token is wanted.',
  403: 'Refused: not from the page’s own address.',
  404: 'Not there.',
  409: 'Clash: it has been changed since.',
  413: 'Too large.',
  415: 'Of a sort that is not taken here.',
  422: 'Not valid; `problems` says where.',
  428: 'A revision is wanted.',
  429: 'Too many calls in a minute.',
  500: 'Something went wrong.',
  507: 'The disk is full.',
  503: 'Not now.',
};

const Problem = z.custom<ProblemDetails>().meta({ $ref: '#/components/schemas/ProblemDetails' });

type Problems = Record<number, { description: string; content: { 'application/problem+json': { schema: typeof Problem } } }>;

/** The errors a route may answer with: those that any may, and its own. */
export function errors(...statuses: readonly number[]): Problems {
  const all = [400, 401, 403, 404, 413, 415, 422, 429, 500, 503, ...statuses];
  return Object.fromEntries(
    all.map((status) => [status, { description: WORDS[status] ?? '', content: { 'application/problem+json': { schema: Problem } } }]),
  );
}
