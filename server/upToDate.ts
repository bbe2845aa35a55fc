import { canonicalText, parseLevel, parseWith } from '@dial/core/level';
import { Run } from '@dial/core/players';
import type { Queries } from './db/queries.ts';

/**
 * Brings documents stored by an older version up to the present format, with every default filled in, once at start.
 * What cannot be read any more is left as it is and said.
 */
export async function bringUpToDate(queries: Queries, warn: (message: string) => void): Promise<void> {
  for (const table of ['levels', 'versions', 'runs'] as const) {
    for (const { key, document } of await queries.storedDocuments(table)) {
      const parsed = table === 'runs' ? parseWith(Run, document) : parseLevel(document);
      if (!parsed.ok) {
        const [problem] = parsed.problems;
        warn(`${table} ${key}: kept, but cannot be read by this version (${problem?.path ?? ''}: ${problem?.message ?? ''})`);
      } else if (canonicalText(parsed.value) !== canonicalText(document)) {
        await queries.replaceDocument(table, key, parsed.value);
      }
    }
  }
}
