import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Checker } from './checking/checker.ts';
import * as checks from './checking/checks.ts';
import type { Checked } from './checking/reading.ts';
import type { Queries } from './db/queries.ts';
import { bringUpToDate } from './upToDate.ts';

const demo = JSON.parse(readFileSync(join(__dirname, '../demo/night-firing/level.json'), 'utf8')) as Record<string, unknown>;

/** Checks in this very thread. */
const checker = {
  run(task: keyof typeof checks, input: never) {
    const checked = checks[task](input) as Checked<unknown>;
    return checked.ok ? Promise.resolve(checked.value) : Promise.reject(new Error(checked.problems[0]?.message));
  },
} as unknown as Checker;

test('documents of an older version get what they lack, page by page and once; what cannot be read is kept and said', async () => {
  const older: Record<string, unknown> = { ...demo, kinds: {}, placements: {}, variants: {}, items: {}, readouts: {}, tries: {} };
  delete older['players'];
  const levels = new Map([
    ['foreign', JSON.stringify({ format: 99 })],
    ...Array.from({ length: 45 }, (_unused, at): [string, string] => [`older-${String(at).padStart(2, '0')}`, JSON.stringify(older)]),
  ]);
  // A crowd that was played before levels had targets, and findings to be set aside.
  const { targets, meant, ...before } = demo;
  expect([targets, meant]).not.toContain(undefined);
  const studies = new Map([['crowd', JSON.stringify(before)]]);
  const run = { format: 1, name: 'r', simulation: 1, level: '', rate: 60, steps: 1, players: [{ changes: [] }] };
  const runs = new Map<string, { bytes: Uint8Array; content: string | null }>([
    ['a/run', { bytes: Buffer.from(JSON.stringify(run)), content: null }],
    ['a/broken', { bytes: Buffer.from('{}'), content: null }],
  ]);
  const facts = new Map<string, string>();
  let pages = 0;
  let replaced = 0;
  const warned: string[] = [];
  const queries = {
    fact: async (name: string) => facts.get(name),
    setFact: async (name: string, value: string) => facts.set(name, value),
    async storedDocuments({ table }: { table: string }, after: string) {
      pages += 1;
      const rows = table === 'levels' ? [...levels] : table === 'studies' ? [...studies] : [];
      return rows
        .filter(([key]) => key > after)
        .slice(0, 20)
        .map(([key, document]) => ({ key, document }));
    },
    async replaceDocument({ table }: { table: string }, key: string, document: string) {
      (table === 'studies' ? studies : levels).set(key, document);
      replaced += 1;
    },
    runsWithoutDigest: async () =>
      [...runs].flatMap(([key, { bytes, content }]) => (content === null ? [{ levelId: 'a', id: key.slice(2), run: bytes }] : [])),
    replaceRun: async (levelId: string, id: string, kept: { bytes: Uint8Array; content: string }) => runs.set(`${levelId}/${id}`, kept),
  } as unknown as Queries;

  await bringUpToDate(queries, checker, (message) => warned.push(message));
  expect([replaced, pages]).toEqual([46, 7]);
  expect(JSON.parse(studies.get('crowd') ?? '')).toMatchObject({ targets: {}, meant: {} });
  expect(JSON.parse(levels.get('older-44') ?? '')).toMatchObject({ players: { count: 1 } });
  const kept = checks.runText({ bytes: runs.get('a/run')!.bytes, name: 'renamed' });
  expect(kept.ok && JSON.parse(kept.value)).toMatchObject({ name: 'renamed', seed: 1, start: null, events: [], marks: [] });
  expect(warned).toEqual([expect.stringContaining('levels foreign: kept'), expect.stringContaining('runs a/broken: kept')]);
  await bringUpToDate(queries, checker, () => undefined);
  expect([replaced, pages]).toEqual([46, 7]);
});

test('a log that leads to the level is told from one that does not', () => {
  const document = JSON.stringify(demo);
  const path = '/kinds/cooling-basin/rules/cool/becomes/seconds';
  const patch = (was: number, to: number) =>
    JSON.stringify([
      { op: 'test', path, value: was },
      { op: 'replace', path, value: to },
    ]);
  const log = [patch(6.5, 3), patch(3, 4)];
  const led = checks.replay({ document, patches: log });
  expect(led.ok && checks.sameDocument([led.value, document.replace('"seconds":6.5', '"seconds":4')])).toEqual({ ok: true, value: true });
  expect(led.ok && checks.sameDocument([led.value, document])).toEqual({ ok: true, value: false });
  expect(checks.replay({ document, patches: [log[1]!] })).toMatchObject({ ok: false, what: 'clash' });
  expect(checks.replay({ document, patches: [patch(6.5, -1)] })).toMatchObject({ ok: false, what: 'not valid' });
});
