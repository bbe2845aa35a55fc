import { existsSync } from 'node:fs';
import { nameTwice } from '@dial/core/level';
import helmet from '@fastify/helmet';
import rateLimit from '@fastify/rate-limit';
import sensible from '@fastify/sensible';
import fastifyStatic from '@fastify/static';
import swagger from '@fastify/swagger';
import Fastify, { type FastifyInstance } from 'fastify';
import { jsonSchemaTransform, serializerCompiler, validatorCompiler } from 'fastify-type-provider-zod';
import type { Queries } from './db/queries.ts';
import { Followers } from './followers.ts';
import { installGuard } from './guard.ts';
import { HttpProblem, installProblems } from './problems.ts';
import { levelRoutes } from './routes/levels.ts';
import { pictureRoutes } from './routes/pictures.ts';
import { runRoutes } from './routes/runs.ts';

export interface AppOptions {
  readonly queries: Queries;
  /** Folder of the built pages. */
  readonly pages: string;
  readonly token: string | undefined;
}

const MOST_CALLS_A_MINUTE = 6000;

/** Puts the server together; it does not listen yet. */
export async function buildApp({ queries, pages, token }: AppOptions): Promise<FastifyInstance> {
  const app = Fastify({
    logger: { level: 'warn', stream: process.stderr },
    bodyLimit: 1024 * 1024,
  });
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  const parseBody = app.getDefaultJsonParser('error', 'error');
  app.removeContentTypeParser('application/json');
  app.addContentTypeParser<string>(['application/json', 'application/json-patch+json'], { parseAs: 'string' }, (request, body, done) => {
    void parseBody(request, body, (error, value: unknown) => {
      const twice = error === null ? nameTwice(body) : undefined;
      if (twice === undefined) done(error, value);
      else
        done(
          new HttpProblem(422, 'Not valid', `${twice} stands twice in what was sent; only one of them can be meant. Nothing was changed.`),
        );
    });
  });
  installProblems(app);
  installGuard(app, token);

  await app.register(sensible);
  await app.register(rateLimit, { max: MOST_CALLS_A_MINUTE, timeWindow: '1 minute' });
  await app.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity: false,
  });
  await app.register(swagger, {
    openapi: { openapi: '3.1.0', info: { title: 'Dial', version: '1', description: 'Levels, versions and runs.' } },
    transform: jsonSchemaTransform,
  });
  const followers = new Followers();
  app.addHook('preClose', () => followers.end());
  await app.register(levelRoutes(queries, followers));
  await app.register(runRoutes(queries));
  await app.register(pictureRoutes(queries));
  app.get('/api/openapi.json', { schema: { hide: true } }, () => app.swagger());
  app.get('/api/health', { schema: { summary: 'Whether the server answers' } }, () => ({ ok: true }));

  if (existsSync(pages)) {
    await app.register(fastifyStatic, { root: pages, immutable: true, maxAge: '1y', index: false, wildcard: false });
  }
  app.setNotFoundHandler((request, reply) => {
    // Pages of the interface have addresses of their own; all are the one document.
    const isPage = request.method === 'GET' && !request.url.startsWith('/api/') && !request.url.startsWith('/assets/');
    if (!isPage || !existsSync(pages)) throw new HttpProblem(404, 'Not found', 'There is nothing at this address.');
    return reply.sendFile('index.html', { cacheControl: false });
  });
  return app;
}
