import { reasonOf } from '@dial/core/level';
import type { StudyProgress } from '@dial/core/api';
import { existsSync, readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { buildApp } from './app.ts';
import { createChecker } from './checking/checker.ts';
import type { FastifyInstance } from 'fastify';
import type { Database } from './db/database.ts';
import { createQueries } from './db/queries.ts';
import { Followers } from './followers.ts';
import { createStudies } from './jobs/studies.ts';
import { startKeeping } from './keeping.ts';
import { backupsOf, DOCUMENTS, type OpenFolder } from './opening.ts';
import { seedDemo } from './seed.ts';
import { at, type Settings } from './settings.ts';
import { bringUpToDate } from './upToDate.ts';

/** Longest wait for requests under way when the server is asked to stop, in milliseconds. */
const STOP_MILLISECONDS = 5000;

const warn = (message: string): void => console.error(message);

function inWords(error: unknown, { host, port }: Settings): unknown {
  const code = error instanceof Error && 'code' in error ? error.code : undefined;
  if (code === 'EADDRINUSE') return new Error(`Port ${String(port)} is taken. Stop what uses it, or choose another with DIAL_PORT.`);
  if (code === 'EACCES') return new Error(`Port ${String(port)} may not be used by this account. Choose one above 1023 with DIAL_PORT.`);
  if (code === 'EADDRNOTAVAIL' || code === 'ENOTFOUND' || code === 'EAI_AGAIN') {
    return new Error(`This machine has no address ${host}. Leave DIAL_HOST out, or name one it has.`);
  }
  return error;
}

/** A database that is still being opened: what is asked of it waits until it is. */
function later(opening: Promise<OpenFolder>): Database {
  const opened = async (): Promise<Database> => (await opening).database;
  return {
    query: async (schema, sql, params) => (await opened()).query(schema, sql, params),
    maintain: async (sql) => (await opened()).maintain(sql),
    script: async (sql) => (await opened()).script(sql),
    dump: async () => (await opened()).dump(),
    close: async () => (await opened()).close(),
  };
}

/** Ends in good order when the process is asked to: what is under way is answered, within a time. */
function stopWhenAsked(app: FastifyInstance, close: () => Promise<void>): void {
  let stopping = false;
  const stop = async (): Promise<void> => {
    if (stopping) return;
    stopping = true;
    setTimeout(() => app.server.closeAllConnections(), STOP_MILLISECONDS).unref();
    await app.close();
    await close();
  };
  const end = (): void => {
    stop().then(
      () => process.exit(0),
      (error: unknown) => {
        warn(`Dial stopped, but not in good order: ${reasonOf(error)}`);
        process.exit(1);
      },
    );
  };
  process.once('SIGINT', end);
  process.once('SIGTERM', end);
}

/** Answers with what is in a folder, once it is open, until the process is asked to stop. Returns the address. */
export async function answer(settings: Settings, opening: Promise<OpenFolder>): Promise<string> {
  const { host, port, folder, token, callsAMinute } = settings;
  const checker = createChecker();
  const keeping = startKeeping({ database: later(opening), folder, backups: backupsOf(folder), warn });
  const queries = createQueries(keeping.database);
  const followers = new Followers();
  const tell = (level: string, progress: StudyProgress): void => followers.tellOfStudy(level, progress);
  const studies = createStudies({ database: keeping.database, queries, tell, warn });
  // Put together while the database opens.
  const [app, open] = await Promise.all([
    buildApp({
      database: keeping.database,
      queries,
      checker,
      followers,
      studies,
      folder,
      pages: at('../../web/dist'),
      token,
      callsAMinute,
    }),
    opening,
  ]);
  const close = async (): Promise<void> => {
    await studies.stop();
    await keeping.stop();
    await checker.close();
    await open.close();
  };
  try {
    if (open.fresh) await seedDemo(queries, checker, at('../../demo'));
    open.begun();
    await bringUpToDate(queries, checker, warn, existsSync(DOCUMENTS) ? readFileSync(DOCUMENTS, 'utf8') : undefined);
    await app.listen({ host, port });
    const { port: listening } = app.server.address() as AddressInfo;
    const address = `http://${host.includes(':') ? `[${host}]` : host}:${String(listening)}`;
    open.lock.sayAddress(address);
    void checker.run('presentDocuments', null).catch(() => undefined); // So that the first save finds a thread that is ready.
    stopWhenAsked(app, close);
    studies.resume().catch((error: unknown) => warn(`Studies could not be gone on with: ${reasonOf(error)}`));
    return address;
  } catch (error) {
    await close();
    throw inWords(error, settings);
  }
}
