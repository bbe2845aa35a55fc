import { randomUUID } from 'node:crypto';
import { LEVEL_BYTES, LevelEntry, LevelReply, PATCH_BYTES, Saved } from '@dial/core/api';
import { levelJsonSchema } from '@dial/core/level';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { bytesOf, sendJson, takeBytes, withDocument } from '../bodies.ts';
import type { Checker } from '../checking/checker.ts';
import type { Queries } from '../db/queries.ts';
import type { Followers } from '../followers.ts';
import { HttpProblem, notFound } from '../problems.ts';
import { createSaving } from '../saving.ts';
import { errors, Key, LevelId } from './shapes.ts';

const noLevel = (): HttpProblem => notFound('such level');

/** Reading, deleting and following levels. */
export const levelRoutes =
  (queries: Queries, followers: Followers): FastifyPluginAsyncZod =>
  async (app) => {
    app.get('/api/levels', { schema: { summary: 'All levels, newest first', response: { 200: z.array(LevelEntry), ...errors() } } }, () =>
      queries.listLevels(),
    );

    app.get(
      '/api/levels/:level',
      { schema: { summary: 'One level', params: LevelId, response: { 200: LevelReply, ...errors() } } },
      async (request, reply) => {
        const found = await queries.findLevel(request.params.level);
        if (found === undefined) throw noLevel();
        const { document, ...entry } = found;
        reply.header('etag', `"${String(found.revision)}"`);
        return sendJson(reply, withDocument(entry, 'document', document)) as never;
      },
    );

    app.delete(
      '/api/levels/:level',
      {
        schema: {
          summary: 'Delete a level; it can be restored for thirty days',
          params: LevelId,
          response: { 204: z.null(), ...errors() },
        },
      },
      async (request, reply) => {
        if (!(await queries.setDeleted(request.params.level, true))) throw noLevel();
        return reply.code(204).send(null);
      },
    );

    app.post(
      '/api/levels/:level/restore',
      { schema: { summary: 'Bring a deleted level back', params: LevelId, response: { 204: z.null(), ...errors() } } },
      async (request, reply) => {
        if (!(await queries.setDeleted(request.params.level, false))) throw noLevel();
        return reply.code(204).send(null);
      },
    );

    app.get(
      '/api/levels/:level/changes',
      {
        schema: {
          summary:
            'Follow a level: server-sent events `at` {revision} and, for each saved change, `saved` {revision, key, operations}; for each step of a study `study` {id, state, done}',
          params: LevelId,
          response: {
            200: { description: 'A stream of events.', content: { 'text/event-stream': { schema: z.string() } } },
            ...errors(),
          },
        },
      },
      async (request, reply) => {
        const { level } = request.params;
        if (followers.full)
          throw new HttpProblem(503, 'Not now', 'Too many windows follow levels already.', { headers: { 'retry-after': '30' } });
        const revision = await queries.revisionOf(level);
        if (revision === undefined) throw noLevel();
        const headers = reply.getHeaders() as Record<string, string>;
        reply.hijack();
        followers.add(level, revision, reply.raw, headers);
      },
    );

    app.get(
      '/api/schema/level',
      { schema: { summary: 'JSON Schema (2020-12) of a level', response: { 200: z.unknown(), ...errors() } } },
      () => levelJsonSchema(),
    );
  };

/** Adding and changing levels: their bodies are checked in threads of their own. */
export const levelWritingRoutes =
  (queries: Queries, followers: Followers, checker: Checker): FastifyPluginAsyncZod =>
  async (app) => {
    takeBytes(app, 'application/json', LEVEL_BYTES);
    app.post(
      '/api/levels',
      {
        bodyLimit: LEVEL_BYTES,
        schema: {
          summary: 'Add a level; its first version is named by how it came to be. With an idempotency key it is added once',
          querystring: z.object({ as: z.enum(['imported', 'begun', 'copied']).default('imported') }),
          headers: z.looseObject({ 'idempotency-key': Key.optional() }),
          body: bytesOf('LevelFile'),
          response: { 201: Saved, ...errors() },
        },
      },
      async (request, reply) => {
        const document = await checker.run('readLevel', request.body);
        const key = request.headers['idempotency-key'] ?? null;
        const added = await queries.insertLevel(randomUUID(), document, `as ${request.query.as}`, key);
        return reply.code(201).header('location', `/api/levels/${added.id}`).send(added);
      },
    );

    const save = createSaving(queries, followers, checker);
    await app.register(async (patching) => {
      takeBytes(patching, ['application/json-patch+json', 'application/json'], PATCH_BYTES);
      (patching as typeof app).patch(
        '/api/levels/:level',
        {
          bodyLimit: PATCH_BYTES,
          schema: {
            summary: 'Change a level by a JSON Patch made on the revision named in If-Match. With an idempotency key it is made once',
            consumes: ['application/json-patch+json'],
            params: LevelId,
            headers: z.looseObject({ 'if-match': z.string().optional(), 'idempotency-key': Key.optional() }),
            body: bytesOf('JsonPatch'),
            response: { 200: Saved, ...errors(409, 428) },
          },
        },
        async (request, reply) => {
          const { level: id } = request.params;
          const revision = Number(/^"(\d{1,15})"$/.exec(request.headers['if-match'] ?? '')?.[1] ?? NaN);
          if (Number.isNaN(revision)) {
            throw new HttpProblem(428, 'Revision wanted', 'Name the revision the change was made on in If-Match. Nothing was changed.');
          }
          const key = request.headers['idempotency-key'] ?? randomUUID();
          const saved = await save({ id, revision, key, patch: request.body });
          return reply.header('etag', `"${String(saved)}"`).send({ id, revision: saved });
        },
      );
    });
  };
