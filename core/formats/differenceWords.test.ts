import { addKind, addPlacement, addVariant, newLevel, planDifferences, readoutsOf, rescaleMeter, type Level } from '../level/index.ts';
import { parseLevel } from '../level/index.ts';
import { differenceWords, pointerWords } from './differenceWords.ts';
import { labelOf } from './words.ts';

const begun = (): Level => {
  const level = newLevel({ name: 'yard', view: 'top', width: 20, height: 10, unitsPerPixel: 0.03, framesPerSecond: 60 });
  addKind(level, 'mend');
  addKind(level, 'harm');
  addVariant(level, 'healing-pad');
  addPlacement(level, 'healing-pad', 3, 3);
  addPlacement(level, 'hazard', 6, 6);
  level.solids['wall'] = { order: 1, x: 1, y: 2, width: 3, height: 1, sides: ['top', 'bottom', 'left', 'right'] };
  return JSON.parse(JSON.stringify(level)) as Level;
};

/** A level as a change makes it: levels are not changed once they have been read. */
const changed = (change: (level: Level) => void): Level => {
  const level = begun();
  change(level);
  return JSON.parse(JSON.stringify(level)) as Level;
};

const blankTarget = {
  order: 1,
  statistic: { type: 'share' as const, from: null, to: null },
  least: 80,
  most: null,
  than: null,
  sessions: 200,
  seconds: 120,
  seed: 1,
  start: null,
};

const changes: [string, (level: Level) => void, string[]][] = [
  [
    'a number of a kind',
    ({ kinds }) => (kinds['healing-pad']!.rules['act']!.becomes = { type: 'rests', seconds: 9 }),
    ['healing pad: rests for 6 → 9 s'],
  ],
  [
    'another sort',
    ({ kinds }) => (kinds['healing-pad']!.rules['act']!.becomes = { type: 'spent' }),
    ['healing pad: rests for 6 s → none', 'healing pad: becomes rests → spent'],
  ],
  ['a choice', ({ kinds }) => (kinds['hazard']!.phases.ready.shown = 'faint'), ['hazard: ready shown full → faint']],
  [
    'a move, both coordinates at once',
    ({ placements }) => Object.assign(placements['hazard']!, { x: 7, y: 8 }),
    ['hazard: moved 6, 6 → 7, 8'],
  ],
  ['an own value', ({ placements }) => (placements['hazard']!.own = { '/role': 'score' }), ['hazard: own role harm → score']],
  [
    'what came and went',
    (level) => (delete level.placements['hazard'], void addPlacement(level, 'healing-pad', 9, 9)),
    ['placement deleted: hazard', 'new placement: healing pad 2'],
  ],
  [
    'a kind based on another',
    ({ variants }) => (variants['healing-pad-variant']!.changes['/rules/act/effects/heal/amount'] = 50),
    ['healing pad variant: health 20 → 50'],
  ],
  ['a solid', ({ solids }) => (solids['wall']!.width = 4), ['solid at 1, 2: width 3 → 4 u']],
  [
    'rarer settings',
    (level) => Object.assign(level.death, { grace: 2, resets: ['hazard'] }),
    ['death: grace 1 → 2 s', 'death: resets none → hazard'],
  ],
  ['the body', ({ body }) => (body.speed = 6), ['the player: speed 5 → 6 u/s']],
  [
    'a target and a persona',
    (level) => {
      level.personas['wary']!.caution = 1;
      level.targets['calm'] = { ...blankTarget, outcome: { type: 'finishes', within: 60 }, personas: ['wary'] };
    },
    ['wary: caution 0.8 → 1 u', 'new target: wary: ≥ 80 of 100 finish within 60 s'],
  ],
  ['a mere order', ({ kinds }) => (kinds['hazard']!.order = 77), []],
];

test('what a pointer points to is called by its name', () => {
  const words = ['/start', '/meters/health/start', '/solids/wall', '/kinds/hazard/phases/ready/shown', '/death/returnTo'];
  expect(words.map((path) => pointerWords(begun(), path))).toEqual([
    'start',
    'meter health: start',
    'solid at 1, 2',
    'kind hazard: ready shown',
    'death: return to',
  ]);
});

test.each(changes)('in words: %s', (_, change, words) => {
  expect(differenceWords(begun(), changed(change)).map((one) => one.words)).toEqual(words);
});

test('on the Plan: moved, new, gone, otherwise; solids as they were and as they are', () => {
  const now = changed((level) => {
    level.placements['hazard']!.x = 7;
    level.kinds['healing-pad']!.rules['act']!.uses = 3;
    addPlacement(level, 'hazard', 12, 2);
    delete level.solids['wall'];
  });
  const { moved, came, gone, otherwise, solidsGone, solidsCame } = planDifferences(begun(), now);
  expect([moved.map(({ from, to }) => [from.x, to.x]), came.map(({ x }) => x), gone, otherwise.map(({ x }) => x)]).toEqual([
    [[6, 7]],
    [12],
    [],
    [3],
  ]);
  expect([solidsGone.map(({ x }) => x), solidsCame]).toEqual([[1], []]);
});

test('readouts and starting states: none stated shows all there is; what does not fit is refused with its place; a rescaled meter takes them along', () => {
  const level = begun();
  expect(readoutsOf(level).map(([id, readout]) => [id, 'as' in readout ? readout.as : ''])).toEqual([
    ['meter-health', 'bar and number'],
    ['meter-score', 'number'],
    ['held', ''],
    ['time', ''],
  ]);
  const hurt = { name: 'hurt', order: 1, meters: { health: 30 }, items: {}, held: null, at: null, checkpoint: null, shieldSeconds: 0 };
  level.tries['hurt'] = hurt;
  expect(rescaleMeter(level, 'health', 10).map(({ path, now }) => [path, now])).toContainEqual(['/tries/hurt/meters/health', 3]);
  const refused = (parts: object): unknown => {
    const parsed = parseLevel({ ...level, ...parts });
    return parsed.ok ? 'taken' : parsed.problems[0];
  };
  expect(refused({})).toBe('taken');
  expect(refused({ tries: { hurt: { ...hurt, meters: { health: 300 } } } })).toMatchObject({ path: '/tries/hurt/meters/health' });
  expect(refused({ tries: { hurt: { ...hurt, held: 'boots' } } })).toMatchObject({ path: '/tries/hurt/held' });
  expect(refused({ readouts: { a: { type: 'meter', meter: 'mana' } } })).toMatchObject({
    path: '/readouts/a/meter',
    message: /no meter/ as never,
  });
});

test('a label names the kind and its main amount', () => {
  const kind = begun().kinds['hazard']!;
  expect(labelOf({ ...kind, label: '{name}: {amount} health' })).toBe('hazard: −10 health');
  expect(labelOf(kind)).toBeNull();
});
