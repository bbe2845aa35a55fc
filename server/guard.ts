import { createHash, createHmac, timingSafeEqual } from 'node:crypto';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { HttpProblem } from './problems.ts';

declare module 'fastify' {
  interface FastifyContextConfig {
    /** Whether a route answers without the token: the pages, their files, and signing in. */
    open?: boolean;
  }
}

/** The cookie of a page that has signed in. It holds a proof that the token was known, never the token. */
export const SESSION_COOKIE = 'dial-session';

const LOCAL_NAMES = new Set(['localhost', '127.0.0.1', '[::1]']);

function hostName(host: string): string | undefined {
  try {
    return new URL(`http://${host}`).hostname;
  } catch {
    return undefined;
  }
}

const digest = (text: string): Buffer => createHash('sha256').update(text).digest();

/** Whether two secrets are the same, told in a time that says nothing about either. */
export const sameSecret = (given: string, wanted: string): boolean => timingSafeEqual(digest(given), digest(wanted));

/** What a signed-in page's cookie holds. */
export const sessionOf = (token: string): string => createHmac('sha256', token).update('dial session 1').digest('base64url');

/** The host that the request's own line names, as proxies write it; none for the usual form. */
function hostOfLine(url: string): string | undefined {
  return URL.canParse(url) ? new URL(url).host : undefined;
}

function checkWhere({ headers, url }: FastifyRequest, anyHost: boolean): void {
  const host = headers.host ?? '';
  const named = [host, hostOfLine(url) ?? host];
  if (!anyHost && named.some((one) => !LOCAL_NAMES.has(hostName(one) ?? ''))) {
    throw new HttpProblem(403, 'Refused', 'This server answers only to its local address.');
  }
  const { origin } = headers;
  if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`) {
    throw new HttpProblem(403, 'Refused', 'This server answers only to its own pages.');
  }
}

/** Browsers say where a request comes from; another page's is refused even where it sends no Origin. */
function checkSite({ headers }: FastifyRequest): void {
  const site = headers['sec-fetch-site'];
  if (site !== undefined && site !== 'same-origin' && site !== 'none') {
    throw new HttpProblem(403, 'Refused', 'This server answers only to its own pages.');
  }
}

function hasToken({ headers, cookies }: FastifyRequest, token: string): boolean {
  const given = /^bearer +(\S+) *$/i.exec(headers.authorization ?? '')?.[1];
  if (given !== undefined) return sameSecret(given, token);
  return sameSecret(cookies[SESSION_COOKIE] ?? '', sessionOf(token));
}

/**
 * Keeps other web pages and, with a token, other people out. A request must name this machine as its Host (unless a token
 * lets other machines in), and its Origin, when it has one, must be the page's own. Which route was found decides, not how
 * the address was written: all are closed but those marked as open.
 */
export function installGuard(app: FastifyInstance, token: string | undefined): void {
  app.addHook('onRequest', async (request) => {
    checkWhere(request, token !== undefined);
    if (request.routeOptions.config.open === true || request.is404) return;
    checkSite(request);
    if (token !== undefined && !hasToken(request, token)) {
      throw new HttpProblem(401, 'Token wanted', 'Sign in, or send the token of this server as "Authorization: Bearer …".', {
        headers: { 'www-authenticate': 'Bearer realm="Dial"' },
      });
    }
  });
}
