import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { sameSecret, SESSION_COOKIE, sessionOf } from '../guard.ts';
import { HttpProblem } from '../problems.ts';
import { errors } from './shapes.ts';

/** Tries to sign in, from all machines together, in a minute. */
const MOST_TRIES = 30;

/** Signing in: the token in, a cookie out that no script can read and no other site can make the browser send. */
export const signInRoutes =
  (token: string | undefined): FastifyPluginAsyncZod =>
  async (app) => {
    const options = { path: '/', httpOnly: true, sameSite: 'strict' } as const;

    app.post(
      '/api/session',
      {
        config: { open: true, rateLimit: { max: MOST_TRIES, timeWindow: '1 minute', keyGenerator: () => 'all' } },
        schema: {
          summary: 'Sign a page in with the token of this server',
          security: [],
          body: z.strictObject({ token: z.string().max(500) }),
          response: { 204: z.null(), ...errors() },
        },
      },
      async (request, reply) => {
        if (token === undefined) return reply.code(204).send(null);
        if (!sameSecret(request.body.token.trim(), token)) {
          throw new HttpProblem(
            401,
            'Not this token',
            'This is not the token of this server. It was set as DIAL_TOKEN where it was started.',
            {
              headers: { 'www-authenticate': 'Bearer realm="Dial"' },
            },
          );
        }
        return reply.setCookie(SESSION_COOKIE, sessionOf(token), options).code(204).send(null);
      },
    );

    app.delete('/api/session', { schema: { summary: 'Sign a page out', response: { 204: z.null(), ...errors() } } }, async (_, reply) =>
      reply.clearCookie(SESSION_COOKIE, options).code(204).send(null),
    );
  };
