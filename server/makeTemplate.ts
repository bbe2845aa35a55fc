/**
 * Makes the database that every new data folder begins with, the demo in it, when Dial is built. Made again only when what
 * it is made of has changed.
 */
import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { presentDocuments } from './checking/checks.ts';
import { createChecker } from './checking/checker.ts';
import { openDatabase } from './db/database.ts';
import { createQueries } from './db/queries.ts';
import { DOCUMENTS, TEMPLATE } from './opening.ts';
import { seedDemo } from './seed.ts';
import { at } from './settings.ts';
import { bringUpToDate } from './upToDate.ts';

const stamp = `${TEMPLATE}.made-of`;
const present = presentDocuments();
const demo = at('../../demo');

function* files(path: string): Generator<string> {
  if (statSync(path).isFile()) yield path;
  else for (const name of readdirSync(path).sort()) yield* files(join(path, name));
}

function madeOf(): string {
  const hash = createHash('sha256').update(JSON.stringify(present));
  const engine = createRequire(import.meta.url).resolve('@electric-sql/pglite');
  for (const path of [engine, at('./db/worker.js'), at('../db/migrations/'), demo]) {
    for (const file of files(path)) hash.update(file.slice(-40)).update(readFileSync(file));
  }
  return hash.digest('hex');
}

async function make(folder: string): Promise<void> {
  const watch = { stillOurs: () => undefined, onCrash: () => undefined };
  const checker = createChecker();
  // Opened twice, so that what it is set to is in force when its log is cleared.
  const first = await openDatabase({ folder, fresh: true, backup: null, template: null }, watch);
  const queries = createQueries(first);
  await seedDemo(queries, checker, demo);
  await bringUpToDate(queries, checker, (message) => console.error(message));
  await checker.close();
  await first.close();
  const database = await openDatabase({ folder, fresh: false, backup: null, template: null }, watch);
  await database.maintain('vacuum full; checkpoint');
  await database.close();
  rmSync(TEMPLATE, { recursive: true, force: true });
  cpSync(join(folder, 'database'), TEMPLATE, { recursive: true });
}

// The server need not work out at each start what documents look like.
if (present.ok) writeFileSync(DOCUMENTS, present.value);
const wanted = madeOf();
if (!existsSync(TEMPLATE) || !existsSync(stamp) || readFileSync(stamp, 'utf8') !== wanted) {
  const folder = mkdtempSync(join(tmpdir(), 'dial-template-'));
  try {
    await make(folder);
    writeFileSync(stamp, wanted);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
