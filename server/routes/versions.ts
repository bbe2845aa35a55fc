import { VersionEntry, VersionReply } from '@dial/core/api';
import { Name } from '@dial/core/level';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { sendJson, withDocument } from '../bodies.ts';
import type { Queries } from '../db/queries.ts';
import { notFound } from '../problems.ts';
import { errors, Key, LevelId } from './shapes.ts';

const VersionId = LevelId.extend({ version: z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER) });

/** Named states of a level. */
export const versionRoutes =
  (queries: Queries): FastifyPluginAsyncZod =>
  async (app) => {
    app.get(
      '/api/levels/:level/versions',
      {
        schema: {
          summary: 'Named versions of a level, oldest first',
          params: LevelId,
          response: { 200: z.array(VersionEntry), ...errors() },
        },
      },
      (request) => queries.listVersions(request.params.level),
    );

    app.get(
      '/api/levels/:level/versions/:version',
      { schema: { summary: 'One version, with its level', params: VersionId, response: { 200: VersionReply, ...errors() } } },
      async (request, reply) => {
        const found = await queries.findVersion(request.params.level, request.params.version);
        if (found === undefined) throw notFound('such version');
        const { document, ...entry } = found;
        return sendJson(reply, withDocument(entry, 'document', document)) as never;
      },
    );

    app.post(
      '/api/levels/:level/versions',
      {
        schema: {
          summary: 'Keep the level as it is now, under a name. With an idempotency key it is kept once',
          params: LevelId,
          headers: z.looseObject({ 'idempotency-key': Key.optional() }),
          body: z.strictObject({ name: Name }),
          response: { 201: VersionEntry, ...errors() },
        },
      },
      async (request, reply) => {
        const kept = await queries.insertVersion(request.params.level, request.body.name, request.headers['idempotency-key'] ?? null);
        if (kept === undefined) throw notFound('such level');
        return reply.code(201).send(kept);
      },
    );

    app.delete(
      '/api/levels/:level/versions/:version',
      {
        schema: {
          summary: 'Delete a version; it can be restored for thirty days',
          params: VersionId,
          response: { 204: z.null(), ...errors() },
        },
      },
      async (request, reply) => {
        const { level, version } = request.params;
        if (!(await queries.setVersionDeleted(level, version, true))) throw notFound('such version');
        return reply.code(204).send(null);
      },
    );

    app.post(
      '/api/levels/:level/versions/:version/restore',
      { schema: { summary: 'Bring a deleted version back', params: VersionId, response: { 204: z.null(), ...errors() } } },
      async (request, reply) => {
        const { level, version } = request.params;
        if (!(await queries.setVersionDeleted(level, version, false))) throw notFound('such version');
        return reply.code(204).send(null);
      },
    );
  };
