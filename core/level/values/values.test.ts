import {
  addKind,
  addPlacement,
  addVariant,
  forgetAt,
  isOwn,
  kindOf,
  kindOfPlacement,
  newLevel,
  parseLevel,
  pathsOf,
  readAt,
  writeAt,
  type Level,
} from '../index.ts';

/** A pad, a kind based on it, and one of that placed. */
function level(): Level {
  const begun = newLevel({ name: 'yard', view: 'top', width: 20, height: 10, unitsPerPixel: 0.03, framesPerSecond: 60 });
  addKind(begun, 'mend');
  addVariant(begun, 'healing-pad');
  addPlacement(begun, 'healing-pad-variant', 4, 4);
  return structuredClone(begun);
}
function edited(of: Level, recipe: (draft: Level) => void): Level {
  const draft = structuredClone(of);
  recipe(draft);
  return draft;
}
const VARIANT = { kind: 'healing-pad-variant', placements: [] };
const PLACED = { kind: 'healing-pad-variant', placements: ['healing-pad-variant'] };
const REST = '/rules/act/becomes/seconds';
const write = (of: Level, paths: readonly string[], value: unknown): Level =>
  edited(of, (draft) => paths.forEach((path) => writeAt(of, draft, path, value)));

test('a number of a kind based on another becomes its own, and can follow again', () => {
  const begun = level();
  const [path = ''] = pathsOf(begun, VARIANT, REST);
  expect([readAt(begun, path), isOwn(begun, path)]).toEqual([6, false]);
  const turned = write(begun, [path], 9);
  expect([readAt(turned, path), isOwn(turned, path), readAt(turned, `/kinds/healing-pad${REST}`)]).toEqual([9, true, 6]);
  const back = edited(turned, (draft) => forgetAt(draft, path));
  expect([readAt(back, path), back.variants['healing-pad-variant']?.changes]).toEqual([6, { '/mark': 'triangle' }]);
});

test('a whole part chosen anew takes in the numbers changed within it, and numbers turned later stay within it', () => {
  const [rest = ''] = pathsOf(level(), VARIANT, REST);
  const [becomes = ''] = pathsOf(level(), VARIANT, '/rules/act/becomes');
  const chosen = write(write(level(), [rest], 9), [becomes], { type: 'rests', seconds: 2 });
  const turned = write(chosen, [rest], 3);
  expect(turned.variants['healing-pad-variant']?.changes).toEqual({
    '/mark': 'triangle',
    '/rules/act/becomes': { type: 'rests', seconds: 3 },
  });
  expect(parseLevel(turned).ok).toBe(true);
});

test('an effect is added to, and one removed from, a thing alone', () => {
  const effect = (id: string): string => pathsOf(level(), PLACED, `/rules/act/effects/${id}`)[0] ?? '';
  const added = write(level(), [effect('kill')], { type: 'kill', order: 2, blockable: false, returnTo: null });
  const removed = write(added, [effect('heal')], undefined);
  expect(parseLevel(removed).ok).toBe(true);
  const effects = (kind: { rules: Level['kinds'][string]['rules'] } | undefined): string[] =>
    Object.keys(kind?.rules['act']?.effects ?? {});
  expect([effects(kindOfPlacement(removed, 'healing-pad-variant')), effects(kindOf(removed, 'healing-pad'))]).toEqual([['kill'], ['heal']]);
});
