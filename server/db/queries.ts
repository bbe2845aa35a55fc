import { Name, type Level } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import { z } from 'zod';
import type { Database } from './database.ts';

const timestamp = z.date().transform((date) => date.toISOString());
// What was accepted once is not checked again field by field on each read: it came in through the same schema.
const storedLevel = z.custom<Level>((value) => typeof value === 'object' && value !== null);
const storedRun = z.custom<Run>((value) => typeof value === 'object' && value !== null);

const LevelRow = z.object({ id: z.string(), revision: z.int(), document: storedLevel, updatedAt: timestamp });
export type LevelRow = z.infer<typeof LevelRow>;
const ListRow = LevelRow.extend({ latestRun: z.string().nullable() });
const RevisionRow = z.object({ revision: z.int() });
const VersionRow = z.object({ id: z.coerce.number(), name: z.string(), document: storedLevel, createdAt: timestamp });
type VersionRow = z.infer<typeof VersionRow>;
const RunEntry = z.object({ id: z.string(), name: z.string(), starred: z.boolean(), seconds: z.number(), createdAt: timestamp });
const RunRow = RunEntry.extend({ run: storedRun });
const PictureRow = z.object({ type: z.string(), bytes: z.instanceof(Uint8Array) });
const Nothing = z.unknown();
const StoredDocument = z.object({ key: z.string(), document: z.unknown() });

/** What may be changed of a run that is kept. */
export const RunChange = z.strictObject({ name: Name, starred: z.boolean(), deleted: z.boolean() }).partial();
export type RunChange = z.infer<typeof RunChange>;

/** Where documents are stored, by table: the column they are in, and what tells rows apart. */
const STORED = {
  levels: { column: 'document', key: 'id' },
  versions: { column: 'document', key: 'id::text' },
  runs: { column: 'run', key: "level_id || '/' || id" },
} as const;
export type DocumentTable = keyof typeof STORED;

const versionColumns = 'id, name, document, created_at as "createdAt"';
const runColumns = 'id, name, starred, steps::float8 / rate as seconds, created_at as "createdAt"';
const levelColumns = 'id, revision, document, updated_at as "updatedAt"';

export function createQueries(database: Database) {
  return {
    storedDocuments(table: DocumentTable) {
      const { column, key } = STORED[table];
      return database.query(StoredDocument, `select ${key} as key, ${column} as document from ${table} order by 1`);
    },

    /** Puts the same document, in a newer format, in the place of the old. */
    async replaceDocument(table: DocumentTable, rowKey: string, document: unknown): Promise<void> {
      const { column, key } = STORED[table];
      await database.query(Nothing, `update ${table} set ${column} = $2 where ${key} = $1`, [rowKey, JSON.stringify(document)]);
    },

    async countLevels(): Promise<number> {
      const rows = await database.query(z.object({ count: z.coerce.number() }), 'select count(*) as count from levels');
      return rows[0]?.count ?? 0;
    },

    listLevels: () =>
      database.query(
        ListRow,
        `select ${levelColumns}, (select runs.id from runs where level_id = levels.id and deleted_at is null order by sequence desc limit 1) as "latestRun"
           from levels where deleted_at is null order by updated_at desc, id`,
      ),

    async findLevel(id: string): Promise<LevelRow | undefined> {
      return (await database.query(LevelRow, `select ${levelColumns} from levels where id = $1 and deleted_at is null`, [id]))[0];
    },

    /** Adds a level at revision 1. Answers whether the id was free. */
    async insertLevel(id: string, document: Level): Promise<boolean> {
      const sql = 'insert into levels (id, revision, document) values ($1, 1, $2) on conflict do nothing returning revision';
      return (await database.query(RevisionRow, sql, [id, JSON.stringify(document)])).length > 0;
    },

    /** Takes a level out of sight, or brings it back. Answers whether there is such a level. */
    async setDeleted(id: string, deleted: boolean): Promise<boolean> {
      const sql = `update levels set deleted_at = ${deleted ? 'now()' : 'null'} where id = $1 returning revision`;
      return (await database.query(RevisionRow, sql, [id])).length > 0;
    },

    /** The revision an idempotency key led to, when it has been used. */
    async findPatch(levelId: string, key: string): Promise<number | undefined> {
      const sql = 'select revision from patches where level_id = $1 and idempotency_key = $2';
      return (await database.query(RevisionRow, sql, [levelId, key]))[0]?.revision;
    },

    /**
     * Stores a patched document and logs the patch, if the level still has the revision the patch was made on: one
     * statement, so all of it or none. Answers the new revision, or undefined when the level has moved on.
     */
    async savePatch(levelId: string, revision: number, key: string, operations: unknown, document: Level): Promise<number | undefined> {
      const rows = await database.query(
        RevisionRow,
        `with saved as (
           update levels set document = $4, revision = revision + 1, updated_at = now()
            where id = $1 and revision = $2 returning id, revision
         )
         insert into patches (level_id, revision, idempotency_key, operations)
         select id, revision, $3, $5 from saved returning revision`,
        [levelId, revision, key, JSON.stringify(document), JSON.stringify(operations)],
      );
      return rows[0]?.revision;
    },

    listVersions: (levelId: string) =>
      database.query(VersionRow, `select ${versionColumns} from versions where level_id = $1 and deleted_at is null order by id`, [
        levelId,
      ]),

    /** Takes a version out of sight, or brings it back. Answers whether there is such a version. */
    async setVersionDeleted(levelId: string, id: number, deleted: boolean): Promise<boolean> {
      const sql = `update versions set deleted_at = ${deleted ? 'now()' : 'null'} where level_id = $1 and id = $2 returning id`;
      return (await database.query(Nothing, sql, [levelId, id])).length > 0;
    },

    async insertVersion(levelId: string, name: string, document: Level): Promise<VersionRow> {
      const sql = `insert into versions (level_id, name, document) values ($1, $2, $3) returning ${versionColumns}`;
      const [row] = await database.query(VersionRow, sql, [levelId, name, JSON.stringify(document)]);
      if (row === undefined) throw new Error('the version was not stored');
      return row;
    },

    /** Runs that are not deleted: starred ones first, then the newest. */
    listRuns: (levelId: string) =>
      database.query(
        RunEntry,
        `select ${runColumns} from runs where level_id = $1 and deleted_at is null order by starred desc, sequence desc limit 500`,
        [levelId],
      ),

    async findRun(levelId: string, id: string) {
      return (await database.query(RunRow, `select ${runColumns}, run from runs where level_id = $1 and id = $2`, [levelId, id]))[0];
    },

    /** Changes what is said of a run; what is left out stays. Answers the run as it is now, or undefined when there is none. */
    async changeRun(levelId: string, id: string, { name, starred, deleted }: RunChange) {
      const [row] = await database.query(
        RunEntry,
        `update runs set
           name = coalesce($3, name),
           run = case when $3::text is null then run else jsonb_set(run, '{name}', to_jsonb($3::text)) end,
           starred = coalesce($4, starred),
           deleted_at = case when $5::boolean is null then deleted_at when $5 then now() else null end
         where level_id = $1 and id = $2 returning ${runColumns}`,
        [levelId, id, name ?? null, starred ?? null, deleted ?? null],
      );
      return row;
    },

    /** Stores a run under an id its maker chose. Answers whether the id now holds this very run. */
    async insertRun(levelId: string, id: string, run: Run): Promise<boolean> {
      const text = JSON.stringify(run);
      const inserted = await database.query(
        z.object({ id: z.string() }),
        `insert into runs (id, level_id, name, level_hash, rate, simulation, run, steps)
         values ($1, $2, $3, $4, $5, $6, $7, $8) on conflict (level_id, id) do nothing returning id`,
        [id, levelId, run.name, run.level, run.rate, run.simulation, text, run.steps],
      );
      if (inserted.length > 0) return true;
      const same = 'select run = $3::jsonb as same from runs where level_id = $1 and id = $2';
      return (await database.query(z.object({ same: z.boolean() }), same, [levelId, id, text]))[0]?.same ?? false;
    },

    /** Keeps a picture under the hash of its bytes; again is harmless. */
    async insertPicture(hash: string, type: string, bytes: Uint8Array): Promise<void> {
      await database.query(Nothing, 'insert into pictures (hash, type, bytes) values ($1, $2, $3) on conflict do nothing', [
        hash,
        type,
        bytes,
      ]);
    },

    async findPicture(hash: string) {
      return (await database.query(PictureRow, 'select type, bytes from pictures where hash = $1', [hash]))[0];
    },
  };
}

export type Queries = ReturnType<typeof createQueries>;
