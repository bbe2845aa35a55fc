import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { join } from 'node:path';
import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import rateLimit from '@fastify/rate-limit';
import fastifyStatic from '@fastify/static';
import swagger from '@fastify/swagger';
import Fastify, { type FastifyInstance, type FastifyReply } from 'fastify';
import { serializerCompiler, validatorCompiler } from 'fastify-type-provider-zod';
import { SMALL_BYTES } from '@dial/core/api';
import { readSmallBodies } from './bodies.ts';
import type { Checker } from './checking/checker.ts';
import type { Database } from './db/database.ts';
import type { Queries } from './db/queries.ts';
import type { Followers } from './followers.ts';
import { installGuard } from './guard.ts';
import type { Studies } from './jobs/studies.ts';
import { openApi } from './openapi.ts';
import { detailsOf, HttpProblem, installProblems } from './problems.ts';
import { levelRoutes, levelWritingRoutes } from './routes/levels.ts';
import { pictureRoutes } from './routes/pictures.ts';
import { runRoutes } from './routes/runs.ts';
import { serviceRoutes } from './routes/service.ts';
import { signInRoutes } from './routes/signIn.ts';
import { studyRoutes } from './routes/studies.ts';
import { versionRoutes } from './routes/versions.ts';

export interface AppOptions {
  readonly database: Database;
  readonly queries: Queries;
  readonly checker: Checker;
  readonly followers: Followers;
  readonly studies: Studies;
  /** The data folder. */
  readonly folder: string;
  /** Folder of the built pages. */
  readonly pages: string;
  readonly token: string | undefined;
  /** Calls of the API that one address may make in a minute. */
  readonly callsAMinute: number;
}

/** Longest that a request may take to come in whole, in milliseconds. */
const REQUEST_MILLISECONDS = 30_000;
const YEAR_SECONDS = 365 * 24 * 3600;

/** What was no request at all is answered with problem details too, as far as there is a connection left. */
function answerClientError(
  error: Error & { code?: string },
  socket: { writable: boolean; end(text: string): void; destroy(): void },
): void {
  const [status, title] =
    error.code === 'HPE_HEADER_OVERFLOW'
      ? [431, 'Headers too large']
      : error.code === 'ERR_HTTP_REQUEST_TIMEOUT'
        ? [408, 'Too slow']
        : [400, 'Not a request'];
  const body = JSON.stringify(detailsOf(new HttpProblem(status, title, 'This could not be read as a request. Nothing was changed.')));
  if (!socket.writable) {
    socket.destroy();
    return;
  }
  const head = ['content-type: application/problem+json', `content-length: ${String(Buffer.byteLength(body))}`, 'connection: close'];
  socket.end(`HTTP/1.1 ${String(status)} ${title}\r\n${head.join('\r\n')}\r\n\r\n${body}`);
}

/** The pages: their files are known by name; every other address is the one document, whose script reads the address. */
async function servePages(app: FastifyInstance, pages: string): Promise<void> {
  const page = existsSync(pages) ? await readFile(join(pages, 'index.html'), 'utf8') : null;
  if (page !== null) {
    await app.register(async (files) => {
      files.addHook('onRoute', (route) => {
        route.config = { ...route.config, open: true, rateLimit: false };
      });
      await files.register(fastifyStatic, {
        root: pages,
        index: false,
        wildcard: false,
        cacheControl: false,
        setHeaders(reply, path) {
          // Built files carry a hash of what is in them in their names; all else may be another one tomorrow.
          const hashed = path.startsWith(`${pages.replace(/\/$/, '')}/assets/`);
          reply.header('cache-control', hashed ? `public, max-age=${String(YEAR_SECONDS)}, immutable` : 'no-cache');
        },
      });
    });
  }
  app.setNotFoundHandler((request, reply) => {
    // What was meant for the API or is a file that is gone is no page. A page holds nothing, however its address is written.
    const isPage = (request.method === 'GET' || request.method === 'HEAD') && !/^\/(api|assets)(\/|$)/.test(request.url);
    if (!isPage || page === null) throw new HttpProblem(404, 'Not found', 'There is nothing at this address.');
    // Styles that a package of the page puts in are known by this; another one for each answer.
    const nonce = `<meta name="csp-nonce" nonce="${reply.cspNonce.style}">`;
    return reply
      .header('cache-control', 'no-store')
      .type('text/html; charset=utf-8')
      .send(page.replace('<head>', `<head>${nonce}`));
  });
}

/** Puts the server together; it does not listen yet. */
export async function buildApp(options: AppOptions): Promise<FastifyInstance> {
  const { database, queries, checker, followers, studies, folder, pages, token, callsAMinute } = options;
  const app = Fastify({
    logger: { level: 'warn', stream: process.stderr },
    bodyLimit: SMALL_BYTES,
    requestTimeout: REQUEST_MILLISECONDS,
    forceCloseConnections: true,
    clientErrorHandler: answerClientError,
    frameworkErrors(error, _request, reply: FastifyReply) {
      const problem = new HttpProblem(error.statusCode ?? 400, 'Not an address', 'This is not an address that can be read.');
      void reply
        .code(problem.status)
        .type('application/problem+json')
        .send(JSON.stringify(detailsOf(problem)));
    },
    routerOptions: { maxParamLength: 200 },
  });
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  readSmallBodies(app);
  installProblems(app);
  await app.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    enableCSPNonces: true,
    strictTransportSecurity: false,
  });
  await app.register(cookie);
  installGuard(app, token);
  await app.register(rateLimit, {
    max: callsAMinute,
    timeWindow: '1 minute',
    errorResponseBuilder: (_, { after }) =>
      new HttpProblem(429, 'Too many calls', `Too many calls in a minute; go on in ${after}. Nothing was changed.`),
  });
  await app.register(swagger, openApi(token !== undefined));
  app.addHook('preClose', () => followers.end());

  await app.register(signInRoutes(token));
  await app.register(levelRoutes(queries, followers));
  await app.register(levelWritingRoutes(queries, followers, checker));
  await app.register(versionRoutes(queries));
  await app.register(runRoutes(queries, checker));
  await app.register(studyRoutes(queries, checker, studies));
  await app.register(pictureRoutes(queries));
  await app.register(serviceRoutes(queries, database, folder));
  app.get('/api/openapi.json', { schema: { hide: true } }, () => app.swagger());
  await servePages(app, pages);
  app.server.on('checkExpectation', (_request: IncomingMessage, response: ServerResponse) => {
    const problem = new HttpProblem(417, 'Not expected', 'What the request expects is not something this server does.');
    response.writeHead(problem.status, { 'content-type': 'application/problem+json' }).end(JSON.stringify(detailsOf(problem)));
  });
  return app;
}
