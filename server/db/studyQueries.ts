import { StudyEntry, type CheckOutcome, type StudyState } from '@dial/core/api';
import { SIMULATION_VERSION } from '@dial/core/session';
import { askingOf } from '@dial/core/studies';
import { z } from 'zod';
import type { Database } from './database.ts';

const time = z.date().transform((date) => date.toISOString());
const StudyEntryRow = StudyEntry.extend({ createdAt: time, endedAt: time.nullable() });
const Nothing = z.unknown();
const IdRow = z.object({ id: z.string() });
const columns = `id, name, revision, settings, sessions, state, why, outcome, simulation, asking, created_at as "createdAt", ended_at as "endedAt",
  coalesce((select sum(shards.sessions) from shards where study_id = studies.id), 0)::integer as done`;

/** A study that is begun: of which level, as a text, and what is asked of it. */
export interface NewStudy {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly document: string;
  readonly settings: string;
  readonly sessions: number;
  readonly asking: number;
  /** Versions of the level that it speaks of, by name, as a text. */
  readonly versions?: string;
}

/** Studies of levels, and the parts in which what they came to is kept. */
export function studyQueries(database: Database) {
  const one = async <Row>(schema: z.ZodType<Row>, sql: string, params: unknown[]): Promise<Row | undefined> =>
    (await database.query(schema, sql, params))[0];
  return {
    listStudies: (levelId: string) =>
      database.query(
        StudyEntryRow,
        `select ${columns} from studies where level_id = $1 and deleted_at is null order by sequence desc limit 200`,
        [levelId],
      ),

    findStudy: (id: string) =>
      one(StudyEntryRow.extend({ levelId: z.string() }), `select level_id as "levelId", ${columns} from studies where id = $1`, [id]),

    /** Adds a study under an id its maker chose; again is harmless. */
    async insertStudy(levelId: string, study: NewStudy): Promise<void> {
      const { id, name, revision, document, settings, sessions, asking, versions = '{}' } = study;
      await database.query(
        Nothing,
        `insert into studies (id, level_id, name, revision, document, settings, sessions, versions, simulation, asking)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) on conflict (id) do nothing`,
        [id, levelId, name, revision, document, settings, sessions, versions, SIMULATION_VERSION, asking],
      );
    },

    /** What has to be played of a study that is not ended, and which parts of it are there: those that an earlier Dial played are dropped. */
    async openStudy(id: string) {
      const found = await one(
        z.object({
          document: z.string(),
          versions: z.string(),
          settings: StudyEntry.shape.settings,
          sessions: z.int(),
          levelId: z.string(),
          simulation: z.int(),
          asking: z.int(),
        }),
        `select document::text as document, versions::text as versions, settings, sessions, level_id as "levelId", simulation, asking from studies
          where id = $1 and deleted_at is null and state in ('waiting', 'running')`,
        [id],
      );
      if (found === undefined) return undefined;
      const asking = askingOf(found.settings);
      if (found.simulation !== SIMULATION_VERSION || found.asking !== asking) {
        await database.query(Nothing, 'delete from shards where study_id = $1', [id]);
        await database.query(Nothing, 'update studies set simulation = $2, asking = $3 where id = $1', [id, SIMULATION_VERSION, asking]);
      }
      const done = await database.query(z.object({ first: z.int() }), 'select first from shards where study_id = $1', [id]);
      return { ...found, done: new Set(done.map(({ first }) => first)) };
    },

    openStudies: () =>
      database.query(IdRow, `select id from studies where state in ('waiting', 'running') and deleted_at is null order by sequence`),

    /** Changes the state of a study that has not ended. Answers whether it had not. */
    async setStudyState(id: string, state: StudyState, why: string | null = null): Promise<boolean> {
      const ended = state === 'waiting' || state === 'running' ? 'null' : 'now()';
      const sql = `update studies set state = $2, why = $3, ended_at = ${ended}
                    where id = $1 and state in ('waiting', 'running') returning id`;
      return (await one(IdRow, sql, [id, state, why])) !== undefined;
    },

    /** Lets a study that was stopped or failed wait again: what has been played of it stays. Answers whether it was one. */
    async reopenStudy(id: string): Promise<boolean> {
      const sql = `update studies set state = 'waiting', why = null, ended_at = null where id = $1 and state in ('cancelled', 'failed') returning id`;
      return (await one(IdRow, sql, [id])) !== undefined;
    },

    /** Ends a study of values: what it was played with, and how targets stand. Answers whether it had not ended. */
    async endJudging(id: string, outcome: CheckOutcome | null): Promise<boolean> {
      const sql = `update studies set state = 'done', ended_at = now(), outcome = $2,
                     sessions = coalesce((select sum(shards.sessions) from shards where study_id = studies.id), 0)
                    where id = $1 and state in ('waiting', 'running') returning id`;
      return (await one(IdRow, sql, [id, outcome === null ? null : JSON.stringify(outcome)])) !== undefined;
    },

    /** Names a study, deletes it out of sight or brings it back; what is left out stays. */
    changeStudy: (levelId: string, id: string, { name, deleted }: { name?: string | undefined; deleted?: boolean | undefined }) =>
      one(
        StudyEntryRow,
        `update studies set name = coalesce($3, name),
           deleted_at = case when $4::boolean is null then deleted_at when $4 then coalesce(deleted_at, now()) else null end
         where level_id = $1 and id = $2 returning ${columns}`,
        [levelId, id, name ?? null, deleted ?? null],
      ),

    /** Keeps a part of what a study came to; the same part is kept once. */
    async insertShard(studyId: string, first: number, sessions: number, summary: Uint8Array): Promise<void> {
      const sql = 'insert into shards (study_id, first, sessions, summary) values ($1, $2, $3, $4) on conflict do nothing';
      await database.query(Nothing, sql, [studyId, first, sessions, summary]);
    },

    studyDocument: (id: string) =>
      one(
        z.object({ document: z.string(), versions: z.string() }),
        'select document::text as document, versions::text as versions from studies where id = $1',
        [id],
      ),

    shardsOf: (studyId: string) =>
      database.query(
        z.object({ first: z.int(), summary: z.instanceof(Uint8Array) }),
        'select first, summary from shards where study_id = $1 order by first',
        [studyId],
      ),

    /** One part of what a study came to; undefined while it is not there. */
    shardOf: (studyId: string, first: number) =>
      one(z.object({ summary: z.instanceof(Uint8Array) }), 'select summary from shards where study_id = $1 and first = $2', [
        studyId,
        first,
      ]),
  };
}
