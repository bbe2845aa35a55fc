import { reasonOf } from '@dial/core/level';
import type { Checker } from './checking/checker.ts';
import { STORED, type Queries } from './db/queries.ts';

const FACT = 'documents';

/**
 * Brings documents stored by an older version up to the present format, with every default filled in, page by page; once
 * after each change of the format. `made` is what documents look like, where that is known already. What cannot be read any more is left as it is and said.
 */
export async function bringUpToDate(queries: Queries, checker: Checker, warn: (message: string) => void, made?: string): Promise<void> {
  if (made !== undefined && (await queries.fact(FACT)) === made) return;
  const wanted = await checker.run('presentDocuments', null);
  if ((await queries.fact(FACT)) === wanted) return;
  const kept = (what: string, error: unknown): void => {
    warn(`${what}: kept, but cannot be read by this version (${reasonOf(error)})`);
  };
  for (const stored of STORED) {
    for (let after = '', more = true; more;) {
      const page = await queries.storedDocuments(stored, after);
      for (const { key, document } of page) {
        try {
          const newer = await checker.run('upToDate', document);
          if (newer !== null) await queries.replaceDocument(stored, key, newer);
        } catch (error) {
          kept(`${stored.table} ${key}`, error);
        }
        after = key;
      }
      more = page.length > 0;
    }
  }
  for (let page = await queries.runsWithoutDigest(); page.length > 0; page = await queries.runsWithoutDigest()) {
    for (const { levelId, id, run } of page) {
      try {
        await queries.replaceRun(levelId, id, await checker.run('readRun', run));
      } catch (error) {
        kept(`runs ${levelId}/${id}`, error);
        await queries.replaceRun(levelId, id, { bytes: run, content: 'unread' });
      }
    }
  }
  await queries.setFact(FACT, wanted);
}
