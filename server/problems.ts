import type { Problem } from '@dial/core/level';
import type { FastifyError, FastifyInstance } from 'fastify';
import { hasZodFastifySchemaValidationErrors } from 'fastify-type-provider-zod';
import { z } from 'zod';

/** Problem details (RFC 9457), the body of every error. `problems` lists the places in a refused document. */
export const ProblemDetails = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.int(),
    detail: z.string(),
    problems: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
    revision: z.int().optional().meta({ description: 'The revision the level has now, when a save was refused.' }),
  })
  .meta({ id: 'ProblemDetails' });

interface Extra {
  readonly problems?: readonly Problem[];
  readonly revision?: number;
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

function asProblem(error: FastifyError | HttpProblem): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (hasZodFastifySchemaValidationErrors(error)) {
    const problems = error.validation.map(({ instancePath, message }) => ({ path: instancePath, message: message ?? '' }));
    return new HttpProblem(422, 'Not valid', 'What was sent is not valid. Nothing was changed.', { problems });
  }
  if (error.code === 'FST_ERR_CTP_BODY_TOO_LARGE') {
    return new HttpProblem(413, 'Too large', 'What was sent is larger than allowed. Nothing was changed.');
  }
  const status = error.statusCode ?? 500;
  if (status >= 500) return new HttpProblem(500, 'Something went wrong', 'The server could not do this. Nothing was changed.');
  return new HttpProblem(status, 'Refused', `${error.message}. Nothing was changed.`);
}

/** Answers every error, known or not, with problem details. */
export function installProblems(app: FastifyInstance): void {
  app.setErrorHandler<FastifyError | HttpProblem>((error, request, reply) => {
    const problem = asProblem(error);
    if (problem.status >= 500) request.log.error(error);
    const { status, title, message, extra } = problem;
    return reply
      .code(status)
      .type('application/problem+json')
      .serializer(JSON.stringify)
      .send({ type: 'about:blank', title, status, detail: message, ...extra });
  });
}
