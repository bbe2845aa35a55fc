import { PROBLEMS_TOLD, type ProblemDetails } from '@dial/core/api';
import { problemsOf, segmentsOf, type Problem } from '@dial/core/level';
import type { FastifyError, FastifyInstance } from 'fastify';
import { DatabaseLate } from './db/deadline.ts';
import { hasZodFastifySchemaValidationErrors } from 'fastify-type-provider-zod';
import type { z } from 'zod';

/** Longest text of one problem, so that no answer to an error is larger than 16 kB. */
const LONGEST = 240;

interface Extra {
  readonly problems?: readonly Problem[] | undefined;
  readonly revision?: number | undefined;
  readonly headers?: Readonly<Record<string, string>>;
}

/** An error a route answers with. */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly extra: Extra = {},
  ) {
    super(detail);
    this.name = 'HttpProblem';
  }
}

export const notFound = (what: string): HttpProblem => new HttpProblem(404, 'Not found', `There is no ${what}.`);

const short = (text: string): string => (text.length <= LONGEST ? text : `${text.slice(0, LONGEST)}…`);

/** The body of an answer, with no more than can be read. */
export function detailsOf({ status, title, message, extra: { problems, revision } }: HttpProblem): ProblemDetails {
  const more = (problems?.length ?? 0) - PROBLEMS_TOLD;
  return {
    type: 'about:blank',
    title,
    status,
    detail: message.length <= 3 * LONGEST ? message : `${message.slice(0, 3 * LONGEST)}…`,
    ...(problems === undefined
      ? {}
      : { problems: problems.slice(0, PROBLEMS_TOLD).map((one) => ({ path: short(one.path), message: short(one.message) })) }),
    ...(more > 0 ? { moreProblems: more } : {}),
    ...(revision === undefined ? {} : { revision }),
  };
}

/** What the framework itself refuses, in words. */
const REFUSED: Readonly<Record<string, string>> = {
  FST_ERR_CTP_BODY_TOO_LARGE: 'What was sent is larger than allowed. Nothing was changed.',
  FST_ERR_CTP_INVALID_MEDIA_TYPE: 'What was sent is of a sort that is not taken here. Nothing was changed.',
  FST_ERR_CTP_EMPTY_JSON_BODY: 'Nothing was sent; a body of JSON is wanted. Nothing was changed.',
  FST_ERR_BAD_URL: 'This is not an address that can be read.',
};

const UNFORESEEN = 'Something went wrong';

/** Codes of PostgreSQL: no room on the disk; a page or an index that cannot be read. */
const DISK_FULL = '53100';
const DAMAGED: readonly string[] = ['XX001', 'XX002'];

const NOT_KNOWN = 'Whether a change was made is not known; sending it again with the same key is safe.';

/** Whether something failed because there is no room on the disk. */
export const isDiskFull = (error: unknown): boolean =>
  typeof error === 'object' && error !== null && 'code' in error && error.code === DISK_FULL;

function asProblem(error: FastifyError | HttpProblem | DatabaseLate): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (hasZodFastifySchemaValidationErrors(error)) {
    // As Zod found them, before they were made over for the validator that Fastify knows.
    const issues = error.validation.map(({ keyword, instancePath, message, params }) => {
      return { ...params, code: keyword, path: segmentsOf(instancePath), message: message ?? '' } as z.core.$ZodIssue;
    });
    const problems = problemsOf({ issues });
    return new HttpProblem(422, 'Not valid', 'What was sent is not valid. Nothing was changed.', { problems });
  }
  if (isDiskFull(error)) {
    return new HttpProblem(507, 'Disk full', 'There is no room left on the disk that Dial keeps its data on. Nothing was changed.');
  }
  if (DAMAGED.includes(error.code)) {
    const detail = 'Part of the database cannot be read. Nothing was changed. Stop Dial and bring a backup back: see docs/keeping-data.md.';
    return new HttpProblem(500, 'Damaged', detail);
  }
  if (error instanceof DatabaseLate) {
    return new HttpProblem(503, 'Not now', `${error.message} ${NOT_KNOWN}`, { headers: { 'retry-after': '5' } });
  }
  const status = error.statusCode ?? 500;
  if (status >= 500) {
    return new HttpProblem(500, UNFORESEEN, `The server could not finish this. ${NOT_KNOWN}`);
  }
  return new HttpProblem(status, 'Refused', REFUSED[error.code] ?? `${error.message}. Nothing was changed.`);
}

/** Answers every error, known or not, with problem details. */
export function installProblems(app: FastifyInstance): void {
  app.setErrorHandler<FastifyError | HttpProblem | DatabaseLate>((error, request, reply) => {
    const problem = asProblem(error);
    // What has words of its own is told to whoever asked; the log is for what nobody foresaw.
    if (problem.title === UNFORESEEN) request.log.error(error);
    return reply
      .code(problem.status)
      .headers({ ...problem.extra.headers })
      .type('application/problem+json')
      .send(JSON.stringify(detailsOf(problem)));
  });
}
