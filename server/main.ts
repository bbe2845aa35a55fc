import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import { buildApp } from './app.ts';
import { openDatabase } from './db/database.ts';
import { createQueries } from './db/queries.ts';
import { FolderInUse, lockFolder } from './folderLock.ts';
import { seedDemo } from './seed.ts';
import { bringUpToDate } from './upToDate.ts';

const at = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

const Settings = z.object({
  DIAL_HOST: z.string().default('127.0.0.1'),
  DIAL_PORT: z.coerce.number().int().min(0).max(65535).default(4310),
  DIAL_DATA: z.string().default(at('../../data')),
  DIAL_TOKEN: z.string().min(16, 'at least 16 characters').optional(),
});

function fail(message: string): never {
  console.error(message);
  process.exit(2);
}

const settings = Settings.safeParse(process.env);
if (!settings.success) fail(settings.error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`).join('\n'));
const { DIAL_HOST: host, DIAL_PORT: port, DIAL_DATA: folder, DIAL_TOKEN: token } = settings.data;
if (host !== '127.0.0.1' && token === undefined) {
  fail(`DIAL_HOST=${host} would open Dial to other machines: set DIAL_TOKEN as well, or leave DIAL_HOST out.`);
}

let release: () => void = () => undefined;
try {
  release = lockFolder(folder);
} catch (error) {
  if (error instanceof FolderInUse) fail(error.message);
  throw error;
}

const database = await openDatabase(folder, (error) => {
  // Every save that was acknowledged is on disk; without its database the server must not answer any more.
  console.error(`The database stopped: ${error.message}. Start Dial again; saved work is kept.`);
  release();
  process.exit(1);
});
const queries = createQueries(database);
await seedDemo(queries, at('../../demo'));
await bringUpToDate(queries, (message) => {
  console.error(message);
});
const app = await buildApp({ queries, pages: at('../../web/dist'), token });

try {
  console.log(await app.listen({ host, port }));
} catch (error) {
  await database.close();
  release();
  if (error instanceof Error && 'code' in error && error.code === 'EADDRINUSE') {
    fail(`Port ${String(port)} is taken. Stop what uses it, or choose another with DIAL_PORT.`);
  }
  throw error;
}

async function stop(): Promise<void> {
  await app.close();
  await database.close();
  release();
  process.exit(0);
}
process.once('SIGINT', () => void stop());
process.once('SIGTERM', () => void stop());
