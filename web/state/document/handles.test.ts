import { addKind, addPlacement, newLevel, parseLevel, type Kind, type Level } from '@dial/core/level';
import { produce } from 'immer';
import { handleRecipe, handlesOf } from './handles.ts';

/** One harm kind, two of it placed, and a solid. */
function level(change: (kind: Kind) => void = () => undefined): Level {
  const made = newLevel({ name: 'yard', view: 'top', width: 20, height: 10, unitsPerPixel: 0.05, framesPerSecond: 60 });
  const id = addKind(made, 'mend');
  change(made.kinds[id]!);
  addPlacement(made, id, 4, 4);
  addPlacement(made, id, 8, 4);
  made.solids['wall'] = { order: 1, x: 1, y: 1, width: 2, height: 3, sides: ['top'] };
  return structuredClone(made);
}
const NOTHING = { kind: null, placements: [], solid: null, spot: null };
const CHOSEN = { ...NOTHING, kind: 'healing-pad', placements: ['healing-pad'] };
const PLACE = { x: 4, y: 4 };

function dragged(of: Level, name: string, to: [number, number], only = false, finely = false): Level {
  const handle = handlesOf(of, CHOSEN, PLACE, only).find((one) => one.id === name)!;
  return produce(of, handleRecipe(handle, { x: to[0], y: to[1] }, finely));
}

test('a radius is dragged for all of a kind, or for one thing only', () => {
  const all = dragged(level(), 'body radius', [5.52, 4]);
  const one = dragged(level(), 'body radius', [5.527, 4], true, true);
  expect(all.kinds['healing-pad']?.shapes['body']).toMatchObject({ radius: 1.5 });
  expect(one.placements['healing-pad']?.own).toEqual({ '/shapes/body/radius': 1.53 });
  expect(one.kinds).toEqual(level().kinds);
});

test('a turned box is dragged along its own sides, and turned by steps of five degrees', () => {
  const box = level((kind) => (kind.shapes['body'] = { type: 'box', width: 2, height: 1, rotation: 90, x: 0, y: 0 }));
  // Turned by a quarter, its width runs up the Plan.
  expect(dragged(box, 'body width', [4.3, 5.5]).kinds['healing-pad']?.shapes['body']).toMatchObject({ width: 3, height: 1 });
  expect(dragged(box, 'body rotation', [4, 9]).kinds['healing-pad']?.shapes['body']).toMatchObject({ rotation: 45 });
});

test('reach, direction, pivot and corners have handles; one that makes no shape is refused as an edit', () => {
  const rich = level((kind) => {
    kind.shapes['body'] = { type: 'polygon', points: [[-1, -1], [1, -1], [0, 1]], rotation: 0, x: 0, y: 0 }; // prettier-ignore
    kind.magnet = { reach: 3, latched: true, giveUp: 6, then: 'stays', speed: [[0, 4]], passesSolids: true, takenAt: null };
    const rule = kind.rules['act']!;
    rule.windUp = { seconds: 1, ifLeft: 'kept', turn: { x: 0, y: 0, degrees: 90 } };
    rule.effects['throw'] = { type: 'launch', order: 2, change: 'set', direction: { type: 'fixed', degrees: 0 }, strength: 5 };
  });
  const kind = (of: Level) => of.kinds['healing-pad']!;
  expect(kind(dragged(rich, 'drawn from', [4, 8])).magnet?.reach).toBe(4);
  expect(kind(dragged(rich, '/kinds/healing-pad/rules/act/effects/throw', [4, 6.1])).rules['act']?.effects['throw']).toMatchObject({
    direction: { degrees: 90 },
  });
  expect(kind(dragged(rich, 'act pivot', [5, 4.5])).rules['act']?.windUp?.turn).toMatchObject({ x: 1, y: 0.5 });
  expect(parseLevel(dragged(rich, 'body corner 2', [4, 7])).ok).toBe(true);
  expect(parseLevel(dragged(rich, 'body corner 2', [4, 2])).ok).toBe(false);
});

test('a face of a solid is dragged while the opposite one stays, and never past it', () => {
  const face = (id: string, x: number, y: number) => {
    const handle = handlesOf(level(), { ...NOTHING, solid: 'wall' }, null, false).find((one) => one.id === id)!;
    return produce(level(), handleRecipe(handle, { x, y }, false)).solids['wall'];
  };
  expect(face('solid 1 0', 4.4, 9)).toMatchObject({ x: 1, y: 1, width: 3.5, height: 3 });
  expect(face('solid -1 1', 0.5, 6)).toMatchObject({ x: 0.5, y: 1, width: 2.5, height: 5 });
  expect(face('solid -1 0', 9, 2)).toMatchObject({ x: 2.95, width: 0.05 });
});

test('several things have none: their dials are turned together', () => {
  expect(handlesOf(level(), { ...CHOSEN, placements: ['healing-pad', 'healing-pad-2'] }, PLACE, false)).toEqual([]);
});
