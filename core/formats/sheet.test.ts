import { readFileSync } from 'node:fs';
import { addKind, addPlacement, addVariant, allKinds, allNumbers, newLevel, parseLevelText, type Level } from '../level/index.ts';
import { kindSheetText, personaSheetText, placementSheetText, readKindSheet, readPersonaSheet, readPlacements } from './index.ts';

const demo = (file: string): Level => {
  const parsed = parseLevelText(readFileSync(`demo/${file}/level.json`, 'utf8'));
  if (!parsed.ok) throw new Error(`${file} is not valid`);
  return parsed.value;
};
const NIGHT = demo('night-firing');
const YARD = demo('proving-yard');

/** A pad that gives 20, a kind based on it, and one of each placed; the second with a rest of its own. */
function small(): Level {
  const level = newLevel({ name: 'yard', view: 'top', width: 20, height: 10, unitsPerPixel: 0.05, framesPerSecond: 60 });
  const pad = addKind(level, 'mend');
  const variant = addVariant(structuredClone(level), pad);
  addVariant(level, pad);
  addPlacement(level, pad, 4, 4);
  const placed = level.placements[addPlacement(level, variant, 6, 4)];
  if (placed !== undefined) placed.own = { '/rules/act/becomes/seconds': 9 };
  return structuredClone(level);
}

/** How many numbers a JSON value has that are not mere orders. */
function countNumbers(value: unknown, name = ''): number {
  if (typeof value === 'number') return name === 'order' ? 0 : 1;
  if (typeof value !== 'object' || value === null) return 0;
  return Object.entries(value).reduce((sum, [key, one]) => sum + countNumbers(one, key), 0);
}

test('every number of every kind of the demo levels is in the Sheet', () => {
  for (const level of [NIGHT, YARD]) {
    for (const [id, kind] of allKinds(level)) {
      expect([id, allNumbers(level, { kind: id, placements: [] }).length]).toEqual([id, countNumbers(kind)]);
    }
  }
});

test.each([
  ['Night Firing', NIGHT],
  ['Proving Yard', YARD],
  ['a small yard', small()],
])('what is written of %s and read again changes nothing', (_, level) => {
  const kinds = readKindSheet(level, kindSheetText(level));
  const placements = readPlacements(level, placementSheetText(level), { yDown: false });
  expect([kinds.changes, kinds.refused, placements.changes, placements.refused]).toEqual([[], [], [], []]);
  const personas = readPersonaSheet(level, personaSheetText(level));
  expect([personas.changes, personas.refused, personas.same]).toEqual([[], [], 15 * Object.keys(level.personas).length]);
  expect(kinds.same).toBeGreaterThan(8);
  expect(placements.same).toBeGreaterThanOrEqual(2 * Object.keys(level.placements).length);
});

test('a file of personas changes what differs and says what it does not take', () => {
  const read = readPersonaSheet(small(), 'persona;heals below;patience (f);rests for\nWary;0,5;90;4\nsteady;2;;\nnobody;1;;');
  expect(read.changes.map(({ words }) => words)).toEqual(['wary: heals below 0.75 → 0.5', 'wary: patience 6 → 1.5 s']);
  expect(read.refused).toEqual([
    { line: 1, text: 'rests for', why: 'no persona has a number of this name' },
    { line: 3, text: '2', why: 'steady, heals below: at most 1' },
    { line: 4, text: 'nobody', why: 'there is no persona of this name' },
  ]);
  expect(read.level.personas.wary).toMatchObject({ healsBelow: 0.5, patience: 1.5 });
});

test('a file of kinds changes what differs and says what it does not take', () => {
  const text = [
    '\uFEFFkind;gives health;rests for (f);radius;uses',
    'Healing pad;25;390;-1;',
    'healing-pad-variant;;=2+3;0,8;4',
    'rover;1;2;3;',
    '',
    'healing-pad;1,234;;;',
  ].join('\n');
  const { level, changes, refused } = readKindSheet(small(), text);
  expect(changes.map(({ line, words }) => [line, words])).toEqual([
    [2, 'healing pad: health 20 → 25'],
    [2, 'healing pad: rests for 6 → 6.5 s'],
    [3, 'healing pad variant: radius 1 → 0.8 u'],
  ]);
  expect(level.variants['healing-pad-variant']?.changes).toEqual({ '/mark': 'triangle', '/shapes/body/radius': 0.8 });
  expect(refused.map(({ line, why }) => [line, why])).toEqual([
    [1, 'no kind has a number of this name'],
    [2, 'healing pad, radius: at least 0.01'],
    [3, 'healing pad variant, rests for: a formula; only numbers are read'],
    [5 - 1, 'there is no kind of this name'],
    [6, expect.stringContaining('could be read two ways')],
  ]);
});

test('only the values that would make the level invalid are refused', () => {
  const text = 'kind,gives health,rests for\nhealing-pad,0,3\n';
  const { changes, refused, level } = readKindSheet(small(), text);
  expect(changes.map(({ words }) => words)).toEqual(['healing pad: rests for 6 → 3 s']);
  expect(refused).toEqual([{ line: 2, text: 'healing pad: health 20 → 0', why: 'an amount above 0 is needed' }]);
  expect(level.kinds['healing-pad']?.rules['act']?.becomes).toMatchObject({ seconds: 3 });
});

test('a file of placements adds and changes, in pixels with y down as well', () => {
  const text = [
    'placement,kind,x (px),y (px),rests for',
    'healing-pad,healing-pad,,60,',
    ',Healing pad,100,40,2.5',
    "'=HYPERLINK(1),healing-pad,20,20,",
    ',healing-pad,20,,',
    ',healing-pad,20,soon,',
    'healing-pad,healing-pad-variant,1,1,',
  ].join('\n');
  const { level, changes, refused } = readPlacements(small(), text, { yDown: true });
  expect(changes.map(({ words }) => words)).toEqual(['healing pad: y 4 → 7 u', 'new: healing pad at 5, 8', 'new: healing pad at 1, 9']);
  expect(Object.keys(level.placements)).toHaveLength(4);
  expect(Object.values(level.placements).find(({ x }) => x === 5)?.own).toEqual({ '/rules/act/becomes/seconds': 2.5 });
  expect(refused.map(({ line }) => line)).toEqual([5, 6, 7]);
});

test.each([
  ['', 'the file is empty'],
  ['x'.repeat(5_000_001), 'larger than 5 million'],
  ['radius,radius\n1,2', 'two columns are called “radius”'],
  ['colour,radius\nred,2', 'there is no column “kind”'],
  ['kind,radius\n' + 'a,1\n'.repeat(20_001), 'more than 20000 lines'],
])('a file that is no Sheet is refused as a whole', (text, why) => {
  const { changes, refused } = readKindSheet(small(), text);
  expect([changes, refused.map((one) => one.why)]).toEqual([[], [expect.stringContaining(why)]]);
});

test('a name that a spreadsheet would take for a formula is written as text', () => {
  const level = small();
  const kind = level.kinds['healing-pad'];
  if (kind !== undefined) kind.name = '=cmd()';
  expect(kindSheetText(level)).toContain(`"'=cmd()"`);
  expect(readKindSheet(level, kindSheetText(level)).refused).toEqual([]);
});
