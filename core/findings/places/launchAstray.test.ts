import { box, circle, kind, level } from '../../testing/levels.ts';
import { openFindings } from '../index.ts';

type Parts = Record<string, unknown>;

const throws = (degrees: number, strength: number, more: Parts = {}): Parts =>
  kind(
    circle(0.5),
    { setOffBy: { type: 'arriving' }, effects: { up: { type: 'launch', direction: { type: 'fixed', degrees }, strength } } },
    more,
  );
const plate = (strength: number): Parts => ({ ...throws(90, strength), shapes: box(1, 1) });
const side = { view: 'side', start: { x: 2, y: 0.7 } };
const one = (y: number): Parts => ({ one: { kind: 'thing', x: 40, y } });
const rock = (x: number): Parts => ({ rock: { x, y: 5, width: 2, height: 10 } });

// Braking is 8 u/s²: 22 u/s come to rest after 30 u, 9 u/s after 5 u. Gravity is 36 u/s²: 45 u/s rise 28 u, 36 u/s 18 u.
test.each<[string, Parts, string[]]>([
  [
    'towards an edge that is too near',
    { kinds: { thing: throws(0, 22) }, placements: one(10) },
    ['thing throws players out of the level.'],
  ],
  ['towards an edge that is far enough', { kinds: { thing: throws(0, 9) }, placements: one(10) }, []],
  ['into a wall', { kinds: { thing: throws(0, 9) }, placements: one(10), solids: rock(41) }, ['thing throws players against a solid.']],
  ['towards a wall that it hardly comes to', { kinds: { thing: throws(0, 9) }, placements: one(10), solids: rock(45) }, []],
  ['over the top', { ...side, kinds: { thing: plate(45) }, placements: one(0.5) }, ['thing throws players out of the level.']],
  ['not so high', { ...side, kinds: { thing: plate(36) }, placements: one(0.5) }, []],
  [
    'under a ceiling',
    { ...side, kinds: { thing: plate(36) }, placements: one(0.5), solids: { lid: { x: 36, y: 1.7, width: 8, height: 1 } } },
    ['thing throws players against a solid.'],
  ],
  [
    'what is asked for is not there',
    {
      kinds: {
        thing: {
          ...throws(0, 20),
          rules: { act: { ...(throws(0, 20)['rules'] as { act: Parts }).act, provided: { no: { type: 'speed', is: 'above', value: 9 } } } },
        },
      },
      placements: one(10),
    },
    [],
  ],
])('a throw %s', (_, parts, told) => {
  expect(openFindings(level(parts)).flatMap(({ code, what }) => (code === 'launch-astray' ? [what] : []))).toEqual(told);
});
