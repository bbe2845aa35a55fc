import { RUN_BYTES, RunChange, RunEntry, RunReply } from '@dial/core/api';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { bytesOf, sendJson, takeBytes, withDocument } from '../bodies.ts';
import type { Checker } from '../checking/checker.ts';
import type { Queries } from '../db/queries.ts';
import { HttpProblem, notFound } from '../problems.ts';
import { errors, Id, LevelId } from './shapes.ts';

const RunId = LevelId.extend({ run: Id });

export const runRoutes =
  (queries: Queries, checker: Checker): FastifyPluginAsyncZod =>
  async (app) => {
    app.get(
      '/api/levels/:level/runs',
      {
        schema: {
          summary: 'Runs of a level: starred ones first, then the newest',
          params: LevelId,
          response: { 200: z.array(RunEntry), ...errors() },
        },
      },
      (request) => queries.listRuns(request.params.level),
    );

    app.get(
      '/api/levels/:level/runs/:run',
      { schema: { summary: 'One run', params: RunId, response: { 200: RunReply, ...errors() } } },
      async (request, reply) => {
        const found = await queries.findRun(request.params.level, request.params.run);
        if (found === undefined) throw notFound('such run');
        const { run, ...entry } = found;
        const text = await checker.run('runText', { bytes: run, name: entry.name });
        return sendJson(reply, withDocument(entry, 'run', text)) as never;
      },
    );

    app.patch(
      '/api/levels/:level/runs/:run',
      {
        schema: {
          summary: 'Name, star, delete or bring back a run, or state its events from outside; what is left out stays',
          params: RunId,
          body: RunChange,
          response: { 200: RunEntry, ...errors() },
        },
      },
      async (request) => {
        const { level, run } = request.params;
        const { events, ...rest } = request.body;
        const found = events === undefined ? undefined : await queries.findRun(level, run);
        const other = found && events && (await checker.run('runWithEvents', { bytes: found.run, name: found.name, events }));
        const changed = await queries.changeRun(level, run, rest, other);
        if (changed === undefined) throw notFound('such run');
        return changed;
      },
    );

    await app.register(async (putting) => {
      takeBytes(putting, 'application/json', RUN_BYTES);
      (putting as typeof app).put(
        '/api/levels/:level/runs/:run',
        {
          bodyLimit: RUN_BYTES,
          schema: {
            summary: 'Keep a run under an id of your own; again is harmless',
            params: RunId,
            body: bytesOf('RunFile'),
            response: { 200: z.object({ id: z.string() }), ...errors(409) },
          },
        },
        async (request) => {
          const { level, run } = request.params;
          if ((await queries.revisionOf(level)) === undefined) throw notFound('such level');
          const checked = await checker.run('readRun', request.body);
          if (!(await queries.insertRun(level, run, checked))) {
            throw new HttpProblem(409, 'Clash', `Another run is kept as “${run}” already. Nothing was changed.`);
          }
          return { id: run };
        },
      );
    });
  };
