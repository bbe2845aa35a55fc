import { Run } from '@dial/core/players';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { RunChange, type Queries } from '../db/queries.ts';
import { HttpProblem, notFound } from '../problems.ts';

const RUN_BYTES = 32 * 1024 * 1024;
const LevelId = z.object({ level: z.string().max(64) });
const RunId = LevelId.extend({ run: z.string().regex(/^[a-z0-9-]{4,64}$/, 'small letters, digits and dashes') });
const RunEntry = z.object({ id: z.string(), name: z.string(), starred: z.boolean(), seconds: z.number(), createdAt: z.string() });

export const runRoutes =
  (queries: Queries): FastifyPluginAsyncZod =>
  async (app) => {
    app.get(
      '/api/levels/:level/runs',
      {
        schema: { summary: 'Runs of a level: starred ones first, then the newest', params: LevelId, response: { 200: z.array(RunEntry) } },
      },
      (request) => queries.listRuns(request.params.level),
    );

    app.get(
      '/api/levels/:level/runs/:run',
      { schema: { summary: 'One run', params: RunId, response: { 200: RunEntry.extend({ run: z.custom<Run>() }) } } },
      async (request) => {
        const found = await queries.findRun(request.params.level, request.params.run);
        if (found === undefined) throw notFound('such run');
        return found;
      },
    );

    app.put(
      '/api/levels/:level/runs/:run',
      {
        bodyLimit: RUN_BYTES,
        schema: {
          summary: 'Keep a run under an id of your own; again is harmless',
          params: RunId,
          body: Run,
          response: { 200: z.object({ id: z.string() }) },
        },
      },
      async (request) => {
        const { level, run } = request.params;
        if ((await queries.findLevel(level)) === undefined) throw notFound('such level');
        if (!(await queries.insertRun(level, run, request.body))) {
          throw new HttpProblem(409, 'Clash', `Another run is kept as “${run}” already. Nothing was changed.`);
        }
        return { id: run };
      },
    );

    app.patch(
      '/api/levels/:level/runs/:run',
      {
        schema: {
          summary: 'Name, star, delete or bring back a run; what is left out stays',
          params: RunId,
          body: RunChange,
          response: { 200: RunEntry },
        },
      },
      async (request) => {
        const { level, run } = request.params;
        const changed = await queries.changeRun(level, run, request.body);
        if (changed === undefined) throw notFound('such run');
        return changed;
      },
    );
  };
