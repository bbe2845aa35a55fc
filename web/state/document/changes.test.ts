import { patchTooLarge } from '@dial/core/api';
import { setAt, valueAt } from '@dial/core/level';
import { basin, level, shard } from '../../../core/testing/levels.ts';
import { applyGuarded, edit } from './changes.ts';

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
