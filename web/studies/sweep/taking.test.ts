import { readFileSync } from 'node:fs';
import { parseLevelText } from '../../../core/level/index.ts';
import { undo } from '../../state/document/edits.ts';
import { documentActions } from '../../state/slices/document.ts';
import { createStore } from '../../state/store.ts';
import { sessionPath, takeValues } from './taking.ts';

const parsed = parseLevelText(readFileSync('demo/night-firing/level.json', 'utf8'));
if (!parsed.ok) throw new Error('the demo is not valid');
const level = parsed.value;
const TIMED = '/variants/timed-vent/changes/~1rules~1burn~1effects~1health~1amount';

function openStore() {
  const store = createStore();
  store.dispatch(documentActions.opened({ id: 'one', level, revision: 1, compared: null, run: null }));
  return { store, now: () => store.getState().document.open!.level };
}

test('two values are taken as one edit, also of a kind based on another, and taken back as one', () => {
  const { store, now } = openStore();
  const taken = takeValues(store, [
    { paths: ['/body/speed'], value: 6 },
    { paths: [TIMED], value: 33 },
  ]);
  expect(taken).toEqual({ ok: true, words: expect.stringContaining('player: walk speed 6, timed vent: health 33') as string });
  expect([now().body.speed, Object.values(now().variants['timed-vent']!.changes)]).toEqual([6, expect.arrayContaining([33]) as number[]]);
  expect(store.getState().document.undo).toHaveLength(1);
  undo(store);
  expect(now()).toEqual(level);
  // What is so already is no edit: there is nothing that Undo would take back.
  expect(takeValues(store, [{ paths: ['/body/speed'], value: level.body.speed }]).words).toContain('Nothing to take');
});

test.each([
  ['that the level may not have', '/body/radius'],
  ['of a dial that has gone', '/kinds/gone/rules/burn/effects/health/amount'],
  ['of a dial that has gone out of what is still there', '/kinds/cart/rules/run/effects/shove/amount'],
])('a value %s is refused in words, and nothing is taken', (_, path) => {
  const { store, now } = openStore();
  const taken = takeValues(store, [
    { paths: ['/body/speed'], value: 6 },
    { paths: [path], value: -1 },
  ]);
  expect([taken.ok, taken.words]).toEqual([false, expect.stringContaining('The level is as it was') as string]);
  expect(now()).toEqual(level);
});

test('a session of a study is asked for on the Bench by its persona, seed, length and start', () => {
  const crowd = {
    personas: [
      { persona: 'wary', sessions: 3 },
      { persona: 'hasty', sessions: 3 },
    ],
    seconds: 45,
    seed: 9,
    start: 'hurt',
  };
  expect(decodeURIComponent(sessionPath('a b', crowd, 3))).toBe('/levels/a b?run=persona:hasty:10:45&at=0&from=hurt');
});
