import { createHash, timingSafeEqual } from 'node:crypto';
import type { FastifyInstance } from 'fastify';
import { HttpProblem } from './problems.ts';

const LOCAL_NAMES = new Set(['localhost', '127.0.0.1', '[::1]']);

function hostName(host: string): string | undefined {
  try {
    return new URL(`http://${host}`).hostname;
  } catch {
    return undefined;
  }
}

const digest = (text: string): Buffer => createHash('sha256').update(text).digest();

/**
 * Keeps other web pages out: a request must name this machine as its Host, and its Origin, when it has one, must be
 * the page's own. With a token (for any other bind address) each call of the API must carry it instead.
 */
export function installGuard(app: FastifyInstance, token: string | undefined): void {
  app.addHook('onRequest', async (request) => {
    const host = request.headers.host ?? '';
    const { origin } = request.headers;
    if (token === undefined && !LOCAL_NAMES.has(hostName(host) ?? '')) {
      throw new HttpProblem(403, 'Refused', 'This server answers only to its local address.');
    }
    if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`) {
      throw new HttpProblem(403, 'Refused', 'This server answers only to its own pages.');
    }
    if (token !== undefined && request.url.startsWith('/api/')) {
      const given = /^Bearer (.+)$/.exec(request.headers.authorization ?? '')?.[1] ?? '';
      if (!timingSafeEqual(digest(given), digest(token))) {
        throw new HttpProblem(401, 'Token wanted', 'Send the token of this server as "Authorization: Bearer …".');
      }
    }
  });
}
