import { StudyAsked, StudyChange, StudyEntry, StudyReply } from '@dial/core/api';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { sendJson } from '../bodies.ts';
import type { Checker } from '../checking/checker.ts';
import type { Queries } from '../db/queries.ts';
import type { Studies } from '../jobs/studies.ts';
import { HttpProblem, notFound } from '../problems.ts';
import { errors, Id, LevelId } from './shapes.ts';

const StudyId = LevelId.extend({ study: Id });

/** Studies with simulated players, played on the server: crowds, and studies of values. */
export const studyRoutes =
  (queries: Queries, checker: Checker, studies: Studies): FastifyPluginAsyncZod =>
  async (app) => {
    const entryOf = async (level: string, study: string) => {
      const found = await queries.findStudy(study);
      if (found?.levelId !== level) throw notFound('such study');
      return StudyEntry.parse(found);
    };

    /** The versions of a level that are called so, as a text; one that is not there is left out. */
    const versionsOf = async (level: string, names: readonly string[]): Promise<string> => {
      if (names.length === 0) return '{}';
      const entries = (await queries.listVersions(level)).filter(({ name }) => names.includes(name));
      const found = await Promise.all(entries.map(async ({ id, name }) => ({ name, version: await queries.findVersion(level, id) })));
      return `{${found.map(({ name, version }) => `${JSON.stringify(name)}:${version?.document ?? 'null'}`).join(',')}}`;
    };

    app.get(
      '/api/levels/:level/studies',
      { schema: { summary: 'Studies of a level, newest first', params: LevelId, response: { 200: z.array(StudyEntry), ...errors() } } },
      ({ params: { level } }) => {
        // Whoever looks at studies is about to ask for one.
        void studies.ready(level);
        return queries.listStudies(level);
      },
    );

    app.put(
      '/api/levels/:level/studies/:study',
      {
        schema: {
          summary:
            'Begin a crowd or a study of values of the level as it is now, or of a version, under an id of your own; again is harmless',
          params: StudyId,
          body: StudyAsked,
          response: { 200: StudyEntry, ...errors(409) },
        },
      },
      async (request) => {
        const { level, study } = request.params;
        const { name, settings, version } = request.body;
        const there = await queries.findStudy(study);
        if (there === undefined) {
          const found = await queries.findLevel(level);
          const document = version === null ? found?.document : (await queries.findVersion(level, version))?.document;
          if (found === undefined || document === undefined) throw notFound(version === null ? 'such level' : 'such version');
          const { versions: named, ...asked } = await checker.run('readStudy', { document, settings });
          const versions = await versionsOf(level, named);
          await queries.insertStudy(level, { id: study, name, revision: found.revision, document, versions, ...asked });
        } else if (there.levelId !== level)
          throw new HttpProblem(409, 'Clash', 'Another level has a study of this id. Nothing was changed.');
        await studies.begin(study);
        return entryOf(level, study);
      },
    );

    app.get(
      '/api/levels/:level/studies/:study',
      {
        schema: {
          summary: 'One study, with the level it was played on and all sessions there are so far',
          params: StudyId,
          response: { 200: StudyReply, ...errors() },
        },
      },
      async (request, reply) => {
        const { level, study } = request.params;
        const entry = await entryOf(level, study);
        const { document = 'null', versions = '{}' } = (await queries.studyDocument(study)) ?? {};
        const parts = await queries.shardsOf(study);
        const judged = 'kind' in entry.settings;
        const text = await checker.run('studyText', { entry: JSON.stringify(entry), document, versions, judged, parts });
        return sendJson(reply, text) as never;
      },
    );

    app.patch(
      '/api/levels/:level/studies/:study',
      {
        schema: {
          summary: 'Name or delete a study, or bring it back; what is left out stays',
          params: StudyId,
          body: StudyChange,
          response: { 200: StudyEntry, ...errors() },
        },
      },
      async (request) => {
        const { level, study } = request.params;
        const changed = await queries.changeStudy(level, study, request.body);
        if (changed === undefined) throw notFound('such study');
        if (request.body.deleted === true) await studies.cancel(study);
        return changed;
      },
    );

    app.post(
      '/api/levels/:level/studies/:study/resume',
      {
        schema: {
          summary: 'Go on with a study that was stopped or failed, from what has been played of it',
          params: StudyId,
          response: { 200: StudyEntry, ...errors() },
        },
      },
      async (request) => {
        const { level, study } = request.params;
        await entryOf(level, study);
        if (await queries.reopenStudy(study)) await studies.begin(study);
        return entryOf(level, study);
      },
    );

    app.post(
      '/api/levels/:level/studies/:study/cancel',
      {
        schema: { summary: 'Stop a study; what has been played of it stays', params: StudyId, response: { 200: StudyEntry, ...errors() } },
      },
      async (request) => {
        const { level, study } = request.params;
        await entryOf(level, study);
        await studies.cancel(study);
        return entryOf(level, study);
      },
    );
  };
