import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Queries } from './db/queries.ts';
import { bringUpToDate } from './upToDate.ts';

const demo = JSON.parse(readFileSync(join(__dirname, '../demo/night-firing/level.json'), 'utf8')) as Record<string, unknown>;

test('documents of an older version get what they lack; what cannot be read is kept and said', async () => {
  const older = Object.fromEntries(
    Object.entries({ ...demo, kinds: {}, placements: {}, variants: {}, items: {}, readouts: {}, tries: {} }).filter(
      ([key]) => key !== 'players',
    ),
  );
  const stored: Record<string, { key: string; document: unknown }[]> = {
    levels: [
      { key: 'older', document: older },
      { key: 'foreign', document: { format: 99 } },
    ],
    versions: [],
    runs: [{ key: 'a/run', document: { format: 1, name: 'r', simulation: 1, level: '', rate: 60, steps: 1, players: [{ changes: [] }] } }],
  };
  const replaced: string[] = [];
  const warned: string[] = [];
  const queries = {
    storedDocuments: (table: string) => Promise.resolve(stored[table]),
    replaceDocument: (table: string, key: string, document: unknown) => {
      const row = stored[table]?.find((one) => one.key === key);
      if (row !== undefined) row.document = document;
      replaced.push(`${table} ${key}`);
      return Promise.resolve();
    },
  } as unknown as Queries;
  await bringUpToDate(queries, (message) => warned.push(message));
  expect(replaced).toEqual(['levels older', 'runs a/run']);
  expect(stored['levels']![0]!.document).toMatchObject({ players: { count: 1 } });
  expect(stored['runs']![0]!.document).toMatchObject({ seed: 1, start: null, events: [], marks: [] });
  expect(warned).toEqual([expect.stringContaining('levels foreign: kept')]);
  replaced.length = 0;
  await bringUpToDate(queries, () => undefined);
  expect(replaced).toEqual([]);
});
