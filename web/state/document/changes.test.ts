import { patchTooLarge } from '@dial/core/api';
import { differencesOf, setAt, valueAt, type Level } from '@dial/core/level';
import { basin, level, shard } from '../../../core/testing/levels.ts';
import { applyGuarded, edit, previewed, writeTo } from './changes.ts';
import { knownChanges } from './origins.ts';

const document = level({ kinds: { shard, basin }, placements: { one: { kind: 'shard', x: 3, y: 3 } } });
const REST = '/kinds/basin/rules/act/becomes/seconds';

test('an edit is a guarded patch that makes it and one that takes it back', () => {
  const edited = edit(document, 'rests for', (draft) => setAt(draft, REST, 4));
  if (!edited.ok) throw new Error(edited.problem.message);
  expect(edited.change.forward).toEqual([
    { op: 'test', path: REST, value: 6.5 },
    { op: 'replace', path: REST, value: 4 },
  ]);
  expect(applyGuarded(document, edited.change.forward)).toEqual(edited.level);
  expect(applyGuarded(edited.level, edited.change.backward)).toEqual(document);
});

test('a patch whose guard no longer holds changes nothing', () => {
  const edited = edit(document, 'rests for', (draft) => setAt(draft, REST, 4));
  if (!edited.ok) throw new Error(edited.problem.message);
  const elsewhere = structuredClone(document);
  setAt(elsewhere, REST, 9);
  expect(applyGuarded(elsewhere, edited.change.forward)).toBeUndefined();
  expect(valueAt(elsewhere, REST)).toBe(9);
});

test('entries added and removed are guarded too', () => {
  const added = edit(document, 'place', (draft) => {
    draft.placements['two'] = { kind: 'basin', order: 2, x: 5, y: 5, travel: null, own: {}, starts: { type: 'ready' } };
    delete draft.placements['one'];
  });
  if (!added.ok) throw new Error(added.problem.message);
  expect(added.change.forward).toContainEqual({ op: 'test', path: '/placements/one', value: document.placements['one'] });
  expect(applyGuarded(added.level, added.change.backward)).toEqual(document);
});

test('what the schema fills in and trims is part of the edit, so that page and server keep the same', () => {
  const edited = edit(document, 'place', (draft) => {
    draft.placements['two'] = { kind: 'basin', x: 5, y: 5 } as never;
    draft.name = '  Kiln  ';
  });
  if (!edited.ok) throw new Error(edited.problem.message);
  expect([edited.level.placements['two'], edited.level.name]).toEqual([
    { kind: 'basin', order: 0, x: 5, y: 5, travel: null, own: {}, starts: { type: 'ready' } },
    'Kiln',
  ]);
  expect(applyGuarded(document, edited.change.forward)).toEqual(edited.level);
  expect(applyGuarded(edited.level, edited.change.backward)).toEqual(document);
  expect([patchTooLarge(Array.from({ length: 60_001 }, () => 0)), patchTooLarge([{ value: 'ü'.repeat(9_000_000) }])]).toEqual([
    expect.stringContaining('do it in parts'),
    expect.stringContaining('do it in parts'),
  ]);
});

test('an edit that would not be a valid level is refused with its place', () => {
  expect(edit(document, 'rests for', (draft) => setAt(draft, REST, -1))).toMatchObject({ ok: false, problem: { path: REST } });
  expect(() => setAt(structuredClone(document), '/kinds/none/name', 1)).toThrow('nothing at');
});

test('what was changed is known of levels made of one another, and comes to the same as comparing them', () => {
  const base = level({ kinds: { basin: { ...basin } }, placements: { one: { kind: 'basin', x: 3, y: 3 } } });
  const turn = (of: Level, path: string, value: unknown): Level => previewed(of, (draft) => writeTo(draft, path, value));
  const [left, right] = [turn(base, '/placements/one/x', 4), turn(base, '/placements/one/y', 9)];
  const edited = edit(base, 'a name', (draft) => writeTo(draft, '/name', 'other'));
  const known = (was: Level, now: Level) =>
    knownChanges(was, now) && [...knownChanges(was, now)!].sort((a, b) => (a.path < b.path ? -1 : 1));
  for (const [was, now] of [
    [base, left],
    [left, right],
    [left, base],
    [right, edited.ok ? edited.level : base],
    [turn(base, '/placements/two', { ...base.placements['one']! }), left],
    [turn(base, '/placements/one', undefined), turn(base, '/name', 'x')],
  ] as const)
    expect(known(was, now)).toEqual(differencesOf(was, now).map(({ path, now: then }) => ({ path, now: then })));
  // Made of a preview, of a stranger, or where the place itself is gone: to be compared.
  expect(knownChanges(base, turn(left, '/name', 'y'))).toBeNull();
  expect(knownChanges(left, level({}))).toBeNull();
  expect(knownChanges(left, turn(base, '/placements/one', undefined))).toBeNull();
});
