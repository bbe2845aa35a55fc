import { randomUUID } from 'node:crypto';
import { levelJsonSchema, MOST_LEVEL_BYTES, Name, parseLevel, type Level, type Problem } from '@dial/core/level';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { applyPatch } from 'rfc6902';
import { z } from 'zod';
import type { Queries } from '../db/queries.ts';
import type { Followers } from '../followers.ts';
import { HttpProblem, notFound } from '../problems.ts';

const PATCH_BYTES = 2 * 1024 * 1024;

const Pointer = z
  .string()
  .max(1000)
  .regex(/^(\/([^~/]|~[01])*)*$/, 'not a JSON Pointer')
  .refine((path) => !/\/(__proto__|constructor|prototype)(\/|$)/.test(path), 'this path is not allowed');
const Operation = z.discriminatedUnion('op', [
  z.strictObject({ op: z.literal(['add', 'replace', 'test']), path: Pointer, value: z.json() }),
  z.strictObject({ op: z.literal('remove'), path: Pointer }),
  z.strictObject({ op: z.literal(['move', 'copy']), from: Pointer, path: Pointer }),
]);
export const Patch = z.array(Operation).min(1).max(10_000).meta({ description: 'A JSON Patch (RFC 6902).' });

const LevelId = z.object({ level: z.string().max(64) });
const LevelReply = z.object({ id: z.string(), revision: z.int(), document: z.custom<Level>(), updatedAt: z.string() });
const Saved = z.object({ id: z.string(), revision: z.int() });
const Version = z.object({ id: z.number(), name: z.string(), document: z.custom<Level>(), createdAt: z.string() });

const refused = (problems: readonly Problem[]): HttpProblem =>
  new HttpProblem(422, 'Not a valid level', `${problems[0]?.path ?? ''}: ${problems[0]?.message ?? 'not valid'}. Nothing was changed.`, {
    problems,
  });

/** Applies a patch to a copy of a document; throws what a save is answered with when it cannot be. */
function patched(document: Level, operations: z.infer<typeof Patch>, revision: number): Level {
  const copy: unknown = structuredClone(document);
  for (const [index, error] of applyPatch(copy, operations).entries()) {
    if (error === null) continue;
    const path = operations[index]?.path ?? '';
    if (error.name === 'TestError') {
      throw new HttpProblem(409, 'Clash', `${path} is no longer what the change was made on. Nothing was changed.`, { revision });
    }
    throw refused([{ path, message: 'the level has no such place' }]);
  }
  const parsed = parseLevel(copy);
  if (!parsed.ok) throw refused(parsed.problems);
  return parsed.value;
}

export const levelRoutes =
  (queries: Queries, followers: Followers): FastifyPluginAsyncZod =>
  async (app) => {
    app.get(
      '/api/levels',
      {
        schema: {
          summary: 'All levels, newest first',
          response: { 200: z.array(LevelReply.extend({ latestRun: z.string().nullable() })) },
        },
      },
      () => queries.listLevels(),
    );

    app.post(
      '/api/levels',
      {
        bodyLimit: MOST_LEVEL_BYTES,
        schema: {
          summary: 'Add a level; its first version is named by how it came to be',
          querystring: z.object({ as: z.enum(['imported', 'begun', 'copied']).default('imported') }),
          body: z.unknown(),
          response: { 201: Saved },
        },
      },
      async (request, reply) => {
        const parsed = parseLevel(request.body);
        if (!parsed.ok) throw refused(parsed.problems);
        const id = randomUUID();
        await queries.insertLevel(id, parsed.value);
        await queries.insertVersion(id, `as ${request.query.as}`, parsed.value);
        return reply.code(201).header('location', `/api/levels/${id}`).send({ id, revision: 1 });
      },
    );

    app.get(
      '/api/levels/:level',
      { schema: { summary: 'One level', params: LevelId, response: { 200: LevelReply } } },
      async (request, reply) => {
        const found = await queries.findLevel(request.params.level);
        if (found === undefined) throw notFound('such level');
        return reply.header('etag', `"${String(found.revision)}"`).send(found);
      },
    );

    app.delete(
      '/api/levels/:level',
      { schema: { summary: 'Delete a level; it can be restored', params: LevelId, response: { 204: z.null() } } },
      async (request, reply) => {
        if (!(await queries.setDeleted(request.params.level, true))) throw notFound('such level');
        return reply.code(204).send(null);
      },
    );

    app.post(
      '/api/levels/:level/restore',
      { schema: { summary: 'Bring a deleted level back', params: LevelId, response: { 204: z.null() } } },
      async (request, reply) => {
        if (!(await queries.setDeleted(request.params.level, false))) throw notFound('such level');
        return reply.code(204).send(null);
      },
    );

    app.patch(
      '/api/levels/:level',
      {
        bodyLimit: PATCH_BYTES,
        schema: {
          summary: 'Change a level by a JSON Patch made on the revision named in If-Match',
          consumes: ['application/json-patch+json'],
          params: LevelId,
          headers: z.looseObject({ 'if-match': z.string().optional(), 'idempotency-key': z.string().min(8).max(100).optional() }),
          body: Patch,
          response: { 200: Saved },
        },
      },
      async (request, reply) => {
        const { level: id } = request.params;
        const revision = Number(/^"(\d+)"$/.exec(request.headers['if-match'] ?? '')?.[1] ?? NaN);
        if (Number.isNaN(revision)) {
          throw new HttpProblem(428, 'Revision wanted', 'Name the revision the change was made on in If-Match. Nothing was changed.');
        }
        const key = request.headers['idempotency-key'] ?? randomUUID();
        const answer = (saved: number) => reply.header('etag', `"${String(saved)}"`).send({ id, revision: saved });

        const before = await queries.findPatch(id, key);
        if (before !== undefined) return answer(before);
        const found = await queries.findLevel(id);
        if (found === undefined) throw notFound('such level');
        const document = found.revision === revision ? patched(found.document, request.body, revision) : undefined;
        const saved = document === undefined ? undefined : await queries.savePatch(id, revision, key, request.body, document);
        if (saved === undefined) {
          // The same change may have been on its way twice; the other one won.
          const twin = await queries.findPatch(id, key);
          if (twin !== undefined) return answer(twin);
          const now = (await queries.findLevel(id))?.revision ?? found.revision;
          const detail = `The level is at revision ${String(now)}, the change was made on ${String(revision)}. Nothing was changed.`;
          throw new HttpProblem(409, 'Clash', detail, { revision: now });
        }
        followers.tell(id, { revision: saved, key, operations: request.body });
        return answer(saved);
      },
    );

    app.get(
      '/api/levels/:level/changes',
      {
        schema: {
          summary: 'Follow a level: server-sent events `at` {revision} and, for each saved change, `saved` {revision, key, operations}',
          params: LevelId,
          produces: ['text/event-stream'],
        },
      },
      async (request, reply) => {
        const found = await queries.findLevel(request.params.level);
        if (found === undefined) throw notFound('such level');
        reply.hijack();
        followers.add(found.id, found.revision, reply.raw);
      },
    );

    app.get(
      '/api/levels/:level/versions',
      {
        schema: {
          summary: 'Named versions of a level, oldest first',
          params: LevelId,
          response: { 200: z.array(Version) },
        },
      },
      (request) => queries.listVersions(request.params.level),
    );

    app.post(
      '/api/levels/:level/versions',
      {
        schema: {
          summary: 'Keep the level as it is now, under a name',
          params: LevelId,
          body: z.strictObject({ name: Name }),
          response: { 201: Version },
        },
      },
      async (request, reply) => {
        const found = await queries.findLevel(request.params.level);
        if (found === undefined) throw notFound('such level');
        return reply.code(201).send(await queries.insertVersion(found.id, request.body.name, found.document));
      },
    );

    const VersionId = LevelId.extend({ version: z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER) });
    app.delete(
      '/api/levels/:level/versions/:version',
      { schema: { summary: 'Delete a version; it can be restored', params: VersionId, response: { 204: z.null() } } },
      async (request, reply) => {
        const { level, version } = request.params;
        if (!(await queries.setVersionDeleted(level, version, true))) throw notFound('such version');
        return reply.code(204).send(null);
      },
    );

    app.post(
      '/api/levels/:level/versions/:version/restore',
      { schema: { summary: 'Bring a deleted version back', params: VersionId, response: { 204: z.null() } } },
      async (request, reply) => {
        const { level, version } = request.params;
        if (!(await queries.setVersionDeleted(level, version, false))) throw notFound('such version');
        return reply.code(204).send(null);
      },
    );

    app.get('/api/schema/level', { schema: { summary: 'JSON Schema (2020-12) of a level', response: { 200: z.unknown() } } }, () =>
      levelJsonSchema(),
    );
  };
