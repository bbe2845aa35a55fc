import { readTarget } from '@dial/core/formats';
import { addKind, addPlacement, addVariant, allKinds, newLevel, type Level } from '@dial/core/level';
import { lineUp, makeVariant, removeKind, reorderKind } from './authoring.ts';
import { documentActions } from '../slices/document.ts';
import { viewActions } from '../slices/view.ts';
import { sharedDials } from './dialList.ts';
import { setValue, turnDial, undo, writeMany } from './edits.ts';
import { areaSpots, evenArea, evenRow, rowSpots, usualGap } from './stamping.ts';
import { addTargets } from './targets.ts';
import { createStore, type AppStore } from '../store.ts';

/** Two pads, a hazard, and a kind based on the first pad; one of each placed. */
function level(): Level {
  const made = newLevel({ name: 'yard', view: 'top', width: 20, height: 10, unitsPerPixel: 0.05, framesPerSecond: 60 });
  const pad = addKind(made, 'mend');
  addKind(made, 'mend');
  addKind(made, 'harm');
  addVariant(made, pad);
  for (const [id] of allKinds(structuredClone(made))) addPlacement(made, id, 4, 4);
  return structuredClone(made);
}

function openStore(): AppStore {
  const store = createStore();
  store.dispatch(documentActions.opened({ id: 'one', level: level(), revision: 1, compared: null, run: null }));
  return store;
}
const now = (store: AppStore): Level => store.getState().document.open!.level;
const order = (store: AppStore): string[] => allKinds(now(store)).map(([id]) => id);

test('a kind is put elsewhere in the Tray: first, last, or before another', () => {
  const store = openStore();
  const [first = '', second = '', third = '', fourth = ''] = order(store);
  reorderKind(store, fourth, first);
  expect(order(store)).toEqual([fourth, first, second, third]);
  reorderKind(store, fourth, null);
  expect(order(store)).toEqual([first, second, third, fourth]);
  reorderKind(store, first, third);
  expect(order(store)).toEqual([second, first, third, fourth]);
  undo(store);
  expect(order(store)).toEqual([first, second, third, fourth]);
});

test('things of several kinds share the dials that all of them have, for their kinds or for them alone', () => {
  const both = ['healing-pad', 'healing-pad-2'];
  const shared = sharedDials(level(), both, false);
  const rest = shared.find(({ label }) => label === 'rests for');
  expect(rest?.paths).toEqual(['/kinds/healing-pad/rules/act/becomes/seconds', '/kinds/healing-pad-2/rules/act/becomes/seconds']);
  const own = sharedDials(level(), both, true).find(({ label }) => label === 'rests for');
  expect(own?.paths).toEqual(both.map((id) => `/placements/${id}/own/~1rules~1act~1becomes~1seconds`));
  expect(sharedDials(level(), [...both, 'hazard'], false).map(({ label }) => label)).not.toContain('rests for');
  const store = openStore();
  expect(writeMany(store, 'rests', own!.paths.map((path) => ({ path, value: 2 })))).toEqual([]); // prettier-ignore
  expect(now(store).placements['healing-pad-2']?.own).toEqual({ '/rules/act/becomes/seconds': 2 });
});

test('rows and areas are stamped evenly; things are spread between the outermost', () => {
  expect(rowSpots({ x: 1, y: 1 }, { x: 4, y: 5 }, 2.5)).toEqual([{ x: 1, y: 1 }, { x: 2.5, y: 3 }, { x: 4, y: 5 }]); // prettier-ignore
  expect(rowSpots({ x: 1, y: 1 }, { x: 1, y: 1 }, 2)).toEqual([{ x: 1, y: 1 }]);
  expect(areaSpots({ x: 0, y: 0, width: 2, height: 1 }, 1)).toHaveLength(6);
  expect(areaSpots({ x: 0, y: 0, width: 400, height: 400 }, 1)).toHaveLength(500);
  expect(evenRow({ x: 1, y: 1 }, { x: 4, y: 7 }, 4).map(({ x, y }) => [x, y])).toEqual([[1, 1], [2, 3], [3, 5], [4, 7]]); // prettier-ignore
  // Thirty on a box three times as wide as high: three rows of ten. Seven: rows of three and four, edge to edge.
  const thirty = evenArea({ x: 0, y: 0, width: 9, height: 3 }, 30);
  expect([thirty.length, new Set(thirty.map(({ y }) => y)).size, thirty[9]]).toEqual([30, 3, { x: 9, y: 0 }]);
  expect(evenArea({ x: 0, y: 0, width: 6, height: 3 }, 7).map(({ x, y }) => `${String(x)} ${String(y)}`)).toEqual(['0 0', '3 0', '6 0', '0 3', '2 3', '4 3', '6 3']); // prettier-ignore
  expect([1, 2].map((count) => evenArea({ x: 0, y: 0, width: 6, height: 3 }, count).length)).toEqual([1, 2]);
  expect(evenArea({ x: 2, y: 2, width: 0, height: 0 }, 5)).toHaveLength(5);
  expect(usualGap(level(), 'healing-pad')).toBe(2.5);
  const store = openStore();
  const ids = Object.keys(now(store).placements);
  writeMany(store, 'move', [{ path: `/placements/${ids[0]!}/x`, value: 10 }]);
  store.dispatch(viewActions.selected({ placements: ids.slice(0, 3) }));
  lineUp(store, 'row', true);
  expect(ids.slice(0, 3).map((id) => now(store).placements[id]?.x).sort()).toEqual([10, 4, 7]); // prettier-ignore
});

test('what others are based on is not deleted, and the reason is said', () => {
  const store = openStore();
  removeKind(store, 'healing-pad');
  expect([order(store).includes('healing-pad'), store.getState().view.trouble]).toEqual([true, expect.stringContaining('Not done')]);
  makeVariant(store, 'hazard');
  removeKind(store, 'hazard-variant');
  expect(order(store)).toHaveLength(4);
});

test('targets are added as one edit; one that the level states already is that one', () => {
  const store = openStore();
  const read = (words: string) => {
    const reading = readTarget(now(store), words);
    if (!reading.ok) throw new Error(reading.why);
    return reading.target;
  };
  const [few, some] = [read('at most 5 % lose a life'), read('mean time 20 to 40')];
  expect(addTargets(store, [few])).toEqual({ ok: true, ids: ['target'] });
  expect(addTargets(store, [some, few, some])).toEqual({ ok: true, ids: ['target-2', 'target', 'target-2'] });
  expect(Object.values(now(store).targets).map(({ order: place }) => place)).toEqual([1, 2]);
  undo(store);
  expect(Object.keys(now(store).targets)).toEqual(['target']);
});

test('a dial that is let go where it was turned to leaves the very level that is shown, so that nothing is simulated twice', () => {
  const store = openStore();
  const paths = ['/kinds/healing-pad/rules/act/becomes/seconds'];
  turnDial(store, paths, 3);
  const shown = store.getState().document.turning;
  expect(setValue(store, paths, 'rests for', 3)).toBeNull();
  expect(now(store)).toBe(shown);
  // Let go elsewhere, it is the other that holds.
  turnDial(store, paths, 4);
  expect(setValue(store, paths, 'rests for', 5)).toBeNull();
  expect(now(store).kinds['healing-pad']?.rules['act']?.becomes).toMatchObject({ seconds: 5 });
});
