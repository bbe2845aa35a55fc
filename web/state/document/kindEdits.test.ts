import { kindOf, type Level } from '@dial/core/level';
import { arriving, meter, scene } from '../../../core/testing/scenes.ts';
import { documentActions } from '../slices/document.ts';
import { setValue, undo } from './edits.ts';
import { deleteForAll, exempt, makeOwnRule, putOnTag, renameShape, takeAgain } from './kindEdits.ts';
import { createStore } from '../store.ts';

const fruit = (name: string) => ({
  name,
  role: 'score',
  mark: 'star',
  tags: ['harvest'],
  shapes: { body: { type: 'circle', radius: 1 } },
  rules: {},
});
const GAIN = 'harvest:gain';
const ON_PEAR = { kind: 'pear', placements: [] };

function orchard() {
  const level = scene(
    { pear: fruit('pear'), plum: fruit('plum') },
    { tagRules: { harvest: { tag: 'harvest', order: 1, rules: { gain: arriving({ a: meter('score', 'add', 1) }) } } } },
  );
  const store = createStore();
  store.dispatch(documentActions.opened({ id: 'one', level, revision: 1, compared: null, run: null }));
  const now = (): Level => store.getState().document.open!.level;
  return { store, now, rulesOf: (kind: string) => Object.keys(kindOf(now(), kind)?.rules ?? {}) };
}

test('a rule of a tag is made one kind’s own: it and what it does stay, the others keep theirs, one undo takes it back', () => {
  const { store, now, rulesOf } = orchard();
  makeOwnRule(store, ON_PEAR, GAIN);
  expect([rulesOf('pear'), rulesOf('plum')]).toEqual([['rule'], [GAIN]]);
  expect(now().kinds['pear']?.rules['rule']?.effects).toEqual(now().tagRules['harvest']?.rules['gain']?.effects);
  undo(store);
  expect([rulesOf('pear'), rulesOf('plum')]).toEqual([[GAIN], [GAIN]]);
});

test('a rule of a tag is taken from one kind, from one thing, or from all', () => {
  const { store, now, rulesOf } = orchard();
  exempt(store, { kind: 'pear', placements: ['pear'] }, GAIN);
  expect([now().placements['pear']?.own, rulesOf('pear')]).toEqual([{ '/exempt': [GAIN] }, [GAIN]]);
  exempt(store, ON_PEAR, GAIN);
  expect([rulesOf('pear'), rulesOf('plum')]).toEqual([[], [GAIN]]);
  takeAgain(store, ON_PEAR, kindOf(now(), 'pear')!, GAIN);
  expect([now().kinds['pear']!.exempt, rulesOf('pear')]).toEqual([[], [GAIN]]);
  exempt(store, ON_PEAR, GAIN);
  deleteForAll(store, GAIN);
  expect(now().kinds['pear']!.exempt).toEqual([]);
  expect([now().tagRules, rulesOf('plum')]).toEqual([{}, []]);
});

test('a shape is called otherwise, and what is tied to it follows; a name that is taken is refused', () => {
  const { store, now } = orchard();
  store.dispatch(documentActions.opened({ id: 'two', level: ringed(), revision: 1, compared: null, run: null }));
  const owner = { kind: 'ring', placements: [] };
  expect(renameShape(store, owner, kindOf(now(), 'ring')!, 'one', 'core')).toBeNull();
  expect([Object.keys(now().kinds['ring']!.shapes), now().kinds['ring']!.rules['warns']!.touching]).toEqual([['core', 'rim'], 'core']);
  expect(renameShape(store, owner, kindOf(now(), 'ring')!, 'core', 'rim')).toMatch('already');
  expect(renameShape(store, owner, kindOf(now(), 'ring')!, 'core', 'Not A Name')).toMatch('an id is a small letter');
});

test('a name that another of its sort has is asked about once, and taken when it is given again', () => {
  const { store, now } = orchard();
  const call = (path: string, name: string) => setValue(store, [path], 'rename', name);
  expect(call('/kinds/pear/name', 'plum')).toBe('Another is called “plum” already. Type it once more if it is meant.');
  expect(now().kinds['pear']?.name).toBe('pear');
  expect(call('/kinds/pear/name', 'plum')).toBeNull();
  expect(now().kinds['pear']?.name).toBe('plum');
  // Of another sort it is no matter, and its own name is not another's.
  expect([call('/meters/score/name', 'plum'), call('/kinds/pear/name', 'quince'), call('/name', 'quince')]).toEqual([null, null, null]);
});

function ringed(): Level {
  const shapes = { one: { type: 'circle', radius: 1 }, rim: { type: 'circle', radius: 3 } };
  return scene({ ring: { name: 'ring', role: 'harm', mark: 'ring', shapes, rules: { warns: arriving({}, { touching: 'one' }) } } });
}

test('a rule is put on a tag of its kind: all that bear it have it, there with other rules in its place', () => {
  const { store, now, rulesOf } = orchard();
  makeOwnRule(store, ON_PEAR, GAIN);
  expect(putOnTag(store, ON_PEAR, kindOf(now(), 'pear')!, 'rule', 'harvest')).toBeNull();
  expect([rulesOf('pear'), rulesOf('plum')]).toEqual([['harvest:rule'], [GAIN, 'harvest:rule']]);
  deleteForAll(store, GAIN);
  expect([rulesOf('pear'), rulesOf('plum'), now().tagRules['harvest']?.rules['rule']?.setOffBy]).toEqual([
    ['harvest:rule'],
    ['harvest:rule'],
    { type: 'arriving' },
  ]);
});
