import { LevelEntry, RunEntry, VersionEntry, type RunChange } from '@dial/core/api';
import { z } from 'zod';
import type { CheckedRun } from '../checking/checks.ts';
import type { Database } from './database.ts';
import { studyQueries } from './studyQueries.ts';

// Documents are texts from the database to the answer: nothing large is read on the way.
const time = z.date().transform((date) => date.toISOString());
const LevelEntryRow = LevelEntry.extend({ updatedAt: time });
const LevelRow = z.object({ id: z.string(), revision: z.int(), document: z.string(), updatedAt: time });
type LevelRow = z.infer<typeof LevelRow>;
const RevisionRow = z.object({ revision: z.int() });
const VersionEntryRow = VersionEntry.extend({ id: z.coerce.number(), createdAt: time });
const VersionRow = VersionEntryRow.extend({ document: z.string() });
const RunEntryRow = RunEntry.extend({ createdAt: time });
const RunRow = RunEntryRow.extend({ run: z.instanceof(Uint8Array) });
const PictureRow = z.object({ type: z.string(), bytes: z.instanceof(Uint8Array) });
const IdRow = z.object({ id: z.string() });
const Nothing = z.unknown();
const StoredDocument = z.object({ key: z.string(), document: z.string() });
const LoggedLevel = z.object({ id: z.string(), base: z.string(), baseRevision: z.int(), document: z.string(), revision: z.int() });

/** Where level documents are stored, and what tells their rows apart. */
export const STORED = [
  { table: 'levels', key: 'id' },
  { table: 'versions', key: 'id::text' },
  // What a study was played on; its page reads it as any level.
  { table: 'studies', key: 'id' },
] as const;
type Stored = (typeof STORED)[number];

const versionColumns = 'id, name, created_at as "createdAt"';
const runColumns = 'id, name, starred, steps::float8 / rate as seconds, created_at as "createdAt"';

/** The first row of a query, or undefined. */
const oneOf =
  (database: Database) =>
  async <Row>(schema: z.ZodType<Row>, sql: string, params: unknown[]): Promise<Row | undefined> =>
    (await database.query(schema, sql, params))[0];

/** The database as a whole: whether it answers, what is known of it, what is cleared away. */
function serviceQueries(database: Database) {
  const one = oneOf(database);
  return {
    /** Whether the database answers at all. */
    ping: () => database.query(Nothing, 'select 1'),

    /** A page of stored documents, by key, after one. */
    storedDocuments({ table, key }: Stored, after: string) {
      const sql = `select ${key} as key, document::text as document from ${table} where ${key} > $1 order by ${key} limit 20`;
      return database.query(StoredDocument, sql, [after]);
    },

    /** Puts the same document, in a newer format, in the place of the old; the log of a level begins anew with it. */
    async replaceDocument({ table, key }: Stored, rowKey: string, document: string): Promise<void> {
      const base = table === 'levels' ? ', base = $2, base_revision = revision' : '';
      await database.query(Nothing, `update ${table} set document = $2${base} where ${key} = $1`, [rowKey, document]);
    },

    /** A fact about the database as a whole, such as which format its documents have. */
    async fact(name: string): Promise<string | undefined> {
      return (await one(z.object({ value: z.string() }), 'select value from facts where name = $1', [name]))?.value;
    },

    async setFact(name: string, value: string): Promise<void> {
      const sql = 'insert into facts values ($1, $2) on conflict (name) do update set value = excluded.value';
      await database.query(Nothing, sql, [name, value]);
    },

    /** Clears what is kept no longer: deleted levels, versions and runs after `days`, and all but the newest patches of each level. */
    async clear({ days, patches }: { readonly days: number; readonly patches: number }): Promise<void> {
      const past = `deleted_at < now() - make_interval(days => ${String(days)})`;
      for (const table of ['levels', 'versions', 'runs', 'studies']) await database.query(Nothing, `delete from ${table} where ${past}`);
      // The log is cut only when twice as much has come together, since its base is then a whole document anew.
      await database.query(Nothing, 'update levels set base = document, base_revision = revision where revision - base_revision > $1', [
        2 * patches,
      ]);
      await database.query(
        Nothing,
        `delete from patches using levels where levels.id = level_id
            and patches.revision <= least(levels.base_revision, levels.revision - $1)`,
        [patches],
      );
    },
  };
}

/** Levels and the log of their patches. */
function levelQueries(database: Database) {
  const one = oneOf(database);
  return {
    async hasLevels(): Promise<boolean> {
      return (await one(Nothing, 'select 1 from levels limit 1', [])) !== undefined;
    },

    listLevels: () =>
      database.query(
        LevelEntryRow,
        `select id, name, revision, updated_at as "updatedAt",
                (select runs.id from runs where level_id = levels.id and deleted_at is null order by sequence desc limit 1) as "latestRun",
                (select json_build_object('outcome', outcome, 'revision', revision) from studies
                  where level_id = levels.id and outcome is not null and deleted_at is null order by sequence desc limit 1) as "check"
           from levels where deleted_at is null order by updated_at desc, id`,
      ),

    findLevel: (id: string): Promise<LevelRow | undefined> =>
      one(
        LevelRow,
        'select id, revision, document::text as document, updated_at as "updatedAt" from levels where id = $1 and deleted_at is null',
        [id],
      ),

    /** The revision of a level, without its document. */
    async revisionOf(id: string): Promise<number | undefined> {
      return (await one(RevisionRow, 'select revision from levels where id = $1 and deleted_at is null', [id]))?.revision;
    },

    /**
     * Adds a level at revision 1, with its first version where one is named, in one statement. The same key adds it once: answers the level
     * that the key led to, now or before.
     */
    async insertLevel(id: string, document: string, version: string | null, key: string | null): Promise<{ id: string; revision: number }> {
      const added = await one(
        IdRow.extend({ revision: z.int() }),
        `with added as (
           insert into levels (id, revision, document, base, base_revision, made_with) values ($1, 1, $2, $2, 1, $4)
           on conflict do nothing returning id, revision, document
         ), first as (
           insert into versions (level_id, name, document) select id, $3, document from added where $3::text is not null
         )
         select id, revision from added union all select id, revision from levels where made_with = $4 and $4::text is not null`,
        [id, document, version, key],
      );
      if (added === undefined) throw new Error(`the level ${id} is there already`);
      return added;
    },

    /** Takes a level out of sight, or brings it back. Answers whether there is such a level. */
    async setDeleted(id: string, deleted: boolean): Promise<boolean> {
      const sql = `update levels set deleted_at = ${deleted ? 'coalesce(deleted_at, now())' : 'null'} where id = $1 returning revision`;
      return (await one(RevisionRow, sql, [id])) !== undefined;
    },

    /** The revision an idempotency key led to, when it has been used. */
    async findPatch(levelId: string, key: string): Promise<number | undefined> {
      const sql = 'select revision from patches where level_id = $1 and idempotency_key = $2';
      return (await one(RevisionRow, sql, [levelId, key]))?.revision;
    },

    /**
     * Stores a patched document and logs the patch, if the level still has the revision the patch was made on and the key
     * is new: one statement, so all of it or none. Answers the new revision, or undefined when it was not stored.
     */
    async savePatch(levelId: string, revision: number, key: string, operations: string, document: string): Promise<number | undefined> {
      const sql = `with saved as (
           update levels set document = $4, revision = revision + 1, updated_at = now()
            where id = $1 and revision = $2 and deleted_at is null
              and not exists (select 1 from patches where level_id = $1 and idempotency_key = $3)
           returning id, revision
         )
         insert into patches (level_id, revision, idempotency_key, operations)
         select id, revision, $3, $5 from saved returning revision`;
      return (await one(RevisionRow, sql, [levelId, revision, key, document, operations]))?.revision;
    },

    /** A level with the base of its log, the next by id after one. */
    nextLogged: (after: string) =>
      one(
        LoggedLevel,
        `select id, base::text as base, base_revision as "baseRevision", document::text as document, revision
           from levels where id > $1 order by id limit 1`,
        [after],
      ),

    /** The logged patches of a level after its base, in order. */
    async loggedPatches(id: string): Promise<string[]> {
      const rows = await database.query(
        z.object({ operations: z.string() }),
        `select operations::text as operations from patches
          where level_id = $1 and revision > (select base_revision from levels where id = $1) order by revision`,
        [id],
      );
      return rows.map(({ operations }) => operations);
    },
  };
}

/** Named states of levels. */
function versionQueries(database: Database) {
  const one = oneOf(database);
  return {
    listVersions: (levelId: string) =>
      database.query(VersionEntryRow, `select ${versionColumns} from versions where level_id = $1 and deleted_at is null order by id`, [
        levelId,
      ]),

    findVersion: (levelId: string, id: number) =>
      one(VersionRow, `select ${versionColumns}, document::text as document from versions where level_id = $1 and id = $2`, [levelId, id]),

    /** Takes a version out of sight, or brings it back. Answers whether there is such a version. */
    async setVersionDeleted(levelId: string, id: number, deleted: boolean): Promise<boolean> {
      const to = deleted ? 'coalesce(deleted_at, now())' : 'null';
      return (
        (await one(Nothing, `update versions set deleted_at = ${to} where level_id = $1 and id = $2 returning id`, [levelId, id])) !==
        undefined
      );
    },

    /** Keeps a level as it is now under a name, once for each key. Answers undefined when there is no such level. */
    insertVersion: (levelId: string, name: string, key: string | null) =>
      one(
        VersionEntryRow,
        `with added as (
           insert into versions (level_id, name, document, made_with)
           select id, $2, document, $3 from levels where id = $1 and deleted_at is null
           on conflict do nothing returning ${versionColumns}
         )
         select * from added union all select ${versionColumns} from versions where level_id = $1 and made_with = $3 and $3::text is not null`,
        [levelId, name, key],
      ),

    /** Keeps a document as a version. */
    async addVersion(levelId: string, name: string, document: string): Promise<void> {
      await database.query(Nothing, 'insert into versions (level_id, name, document) values ($1, $2, $3)', [levelId, name, document]);
    },
  };
}

/** Runs, and pictures. */
function runQueries(database: Database) {
  const one = oneOf(database);
  return {
    /** Runs that are not deleted: starred ones first, then the newest. */
    listRuns: (levelId: string) =>
      database.query(
        RunEntryRow,
        `select ${runColumns} from runs where level_id = $1 and deleted_at is null order by starred desc, sequence desc limit 500`,
        [levelId],
      ),

    findRun: (levelId: string, id: string) =>
      one(RunRow, `select ${runColumns}, run from runs where level_id = $1 and id = $2`, [levelId, id]),

    /** Changes what is said of a run; what is left out stays. Answers the run as it is now, or undefined when there is none. */
    changeRun: (levelId: string, id: string, { name, starred, deleted }: Omit<RunChange, 'events'>, run?: CheckedRun) =>
      one(
        RunEntryRow,
        `update runs set
           name = coalesce($3, name),
           starred = coalesce($4, starred),
           run = coalesce($6, run),
           content = coalesce($7, content),
           deleted_at = case when $5::boolean is null then deleted_at when $5 then coalesce(deleted_at, now()) else null end
         where level_id = $1 and id = $2 returning ${runColumns}`,
        [levelId, id, name ?? null, starred ?? null, deleted ?? null, run?.bytes ?? null, run?.content ?? null],
      ),

    /** Stores a run under an id its maker chose. Answers whether the id now holds this very run. */
    async insertRun(levelId: string, id: string, run: CheckedRun): Promise<boolean> {
      const { bytes, content, name, level, rate, simulation, steps } = run;
      const inserted = await one(
        IdRow,
        `insert into runs (id, level_id, name, level_hash, rate, simulation, run, content, steps)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9) on conflict (level_id, id) do nothing returning id`,
        [id, levelId, name, level, rate, simulation, bytes, content, steps],
      );
      if (inserted !== undefined) return true;
      const there = await one(z.object({ content: z.string().nullable() }), 'select content from runs where level_id = $1 and id = $2', [
        levelId,
        id,
      ]);
      return there?.content === content;
    },

    /** Runs kept before their content had a digest. */
    runsWithoutDigest: () =>
      database.query(
        z.object({ levelId: z.string(), id: z.string(), run: z.instanceof(Uint8Array) }),
        'select level_id as "levelId", id, run from runs where content is null limit 20',
      ),

    async replaceRun(levelId: string, id: string, { bytes, content }: Pick<CheckedRun, 'bytes' | 'content'>): Promise<void> {
      await database.query(Nothing, 'update runs set run = $3, content = $4 where level_id = $1 and id = $2', [
        levelId,
        id,
        bytes,
        content,
      ]);
    },

    /** Keeps a picture under the hash of its bytes; again is harmless. */
    async insertPicture(hash: string, type: string, bytes: Uint8Array): Promise<void> {
      const sql = 'insert into pictures (hash, type, bytes) values ($1, $2, $3) on conflict do nothing';
      await database.query(Nothing, sql, [hash, type, bytes]);
    },

    findPicture: (hash: string) => one(PictureRow, 'select type, bytes from pictures where hash = $1', [hash]),
  };
}

/** Every question that is put to the database. */
export const createQueries = (database: Database) => ({
  ...serviceQueries(database),
  ...levelQueries(database),
  ...versionQueries(database),
  ...runQueries(database),
  ...studyQueries(database),
});

export type Queries = ReturnType<typeof createQueries>;
