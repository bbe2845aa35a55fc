/** Sessions worked out by hand where two things meet: limits and what becomes of a thing, moves and contacts, players who come and go. */
import fc from 'fast-check';
import { play, runOf, short } from '../testing/levels.ts';
import { arriving, circle, HERE, keys, kind, meter, movement, pulsing, scene, told } from '../testing/scenes.ts';
import { runs } from '../testing/runs.ts';

const RATES = [30, 60, 240];
const jars = { items: { jar: { name: 'jar', start: 2, most: 3 } } };
const give = (count: number, atLimit = 'refuse') => ({ type: 'item', item: 'jar', count, atLimit });

test('sensing that comes back is met by all who are inside, also by one who came in the same step and stands still', () => {
  const wake = arriving({ call: { type: 'notice', notice: 'lit' } }, { order: 1, becomes: { type: 'ready' } });
  const gain = arriving({ gain: meter('score', 'add', 1) }, { order: 2 });
  const lamp = { ...kind(circle(1), wake), rules: { wake, gain } };
  const document = scene({ lamp }, { players: { count: 2 }, placements: { lamp: { kind: 'lamp', ...HERE, starts: { type: 'off' } } } });
  const { lines } = play(document, runOf(60, 3, [[], []]));
  expect(lines.filter(({ type }) => type === 'changed' || type === 'refused').map((line) => `${short([line])[0]!.split(' ').slice(0, 2).join(' ')} ${'toucher' in line ? line.toucher : ''}`)).toEqual([
    '1 refused player 1',
    '1 changed player 2',
    '2 changed player 1',
    '2 changed player 2',
  ]); // prettier-ignore
});

test('what touches for no more than a moment arrives, and leaves in the same step', () => {
  const come = arriving({ gain: meter('score', 'add', 1) }, { order: 1 });
  const go = { setOffBy: { type: 'leaving' }, effects: { gain: meter('score', 'add', 10) }, order: 2 };
  const pad = { ...kind(circle(1), come), rules: { come, go } };
  // A body of half a unit, just at the rim of the pad, goes away from it.
  const document = scene({ pad }, { placements: { pad: { kind: 'pad', x: 0.5, y: 10 } } });
  expect(told(document, 30, 0.2, keys(30, [0.2, 1]))).toEqual(['1 changed pad score 1/1 → 1', '1 changed pad score 10/10 → 11']);
});

test('a spawned thing goes on and off, and does what it does every so often, from when it came', () => {
  const every = { setOffBy: { type: 'every', seconds: 0.5 }, effects: { call: { type: 'notice', notice: 'tick' } } };
  const flare = { ...kind(circle(1), arriving({ call: { type: 'notice', notice: 'lit' } })), cycle: { on: 0.4, off: 0.3 } };
  const spawns = (what: string): object => ({ type: 'spawn', pool: { [what]: 1 }, at: { type: 'here' }, most: 2 });
  const maker = arriving({ a: spawns('bell'), b: spawns('flare') }, { becomes: { type: 'spent' } });
  const document = scene({ bell: every, flare, maker }, { placements: { maker: { kind: 'maker', ...HERE } } });
  expect(told(document, 30, 1.1).slice(3)).toEqual([
    '2 notice flare 1 lit',
    '13 phase flare 1 off',
    '16 notice bell 1 tick',
    '22 phase flare 1 ready',
    '23 notice flare 1 lit',
    '31 notice bell 1 tick',
  ]);
});

test('sensing that was off while it wound up comes back when it has acted: who is inside arrives, a magnet draws, a box is there again', () => {
  const off = { shown: 'full', solid: false, sensing: false };
  const act = arriving({ burn: meter('health', 'take', 1) }, { windUp: { seconds: 0.1, ifLeft: 'kept' }, uses: 2 });
  const trap = { ...kind(circle(1), act), phases: { windingUp: off } };
  expect(told(scene({ trap }), 30, 0.5)).toEqual([
    '1 phase trap winding up',
    '4 changed trap health -1/-1 → 99',
    '4 phase trap ready',
    '5 phase trap winding up',
    '8 changed trap health -1/-1 → 98',
    '8 phase trap spent',
  ]);
  // Out of its shape and within its reach; as soon as it is ready it draws, and is a box to run into.
  const calls = { setOffBy: { type: 'start' }, effects: {}, windUp: { seconds: 0.1, ifLeft: 'kept' } };
  const magnet = { reach: 5, giveUp: 9, speed: [[0, 0]] };
  const pearl = { ...kind(circle(0.2), arriving({})), rules: { act: arriving({}), calls }, magnet, phases: { windingUp: off } };
  expect(told(scene({ pearl }, { placements: { pearl: { kind: 'pearl', x: 5, y: 10 } } }), 30, 0.3)).toEqual([
    '0 phase pearl winding up',
    '3 phase pearl ready',
    '4 drawn pearl to player 1',
  ]);
});

describe('a rule is refused as a whole or acts as a whole', () => {
  const told1 = (effects: object, more: object = {}, level: object = {}) =>
    told(scene({ crate: arriving(effects as never, { becomes: { type: 'spent' }, ...more }) }, { ...jars, ...level }), 60, 0.5);
  const full = { items: { jar: { name: 'jar', start: 3, most: 3 } } };
  const notice = { type: 'notice', order: 1, notice: 'taken' };

  test('at the limit an item effect that refuses refuses the rule: nothing is used, posted or spent', () => {
    expect(told1({ a: give(1), b: notice }, {}, full)).toEqual(['1 refused player 1 crate carry limit']);
    expect(told1({ a: give(2), b: notice })).toEqual(['1 refused player 1 crate carry limit']);
    expect(told1({ a: give(-3), b: notice })).toEqual(['1 refused player 1 crate empty']);
    // Two that fit each by itself and not together.
    expect(told1({ a: give(1), c: { ...give(1), order: 2 } })).toEqual(['1 refused player 1 crate carry limit']);
    const { recording } = play(scene({ crate: arriving({ a: give(1) }, { becomes: { type: 'spent' } }) }, full), runOf(60, 30, [[]]));
    expect(recording.outcome.perPlacement['crate']).toMatchObject({ uses: 0, nothings: 0, refusals: 1 });
  });

  test('one that takes what fits acts; where nothing fits the effect alone comes to nothing', () => {
    expect(told1({ a: give(2, 'take what fits'), b: notice })).toEqual([
      '1 item crate jar 2/1 → 3',
      '1 notice crate taken',
      '1 phase crate spent',
    ]);
    expect(told1({ a: give(1, 'take what fits'), b: notice }, {}, full)).toEqual([
      '1 nothing player 1 crate carry limit',
      '1 notice crate taken',
      '1 phase crate spent',
    ]);
  });

  test('a shielded player uses up a pill, a full one a cure; a strength that meets nobody is used and hits nobody', () => {
    const outcome = (effects: object, more: object = {}) => {
      const document = scene({ pill: arriving(effects as never, { becomes: { type: 'spent' }, ...more }) });
      const { recording, lines } = play(document, runOf(60, 30, [[]], { start: { ...START, shieldSeconds: 9 } }));
      const { uses, nothings, refusals } = recording.outcome.perPlacement['pill']!;
      return [short(lines)[0], uses, nothings, refusals];
    };
    expect(outcome({ a: meter('health', 'take', 5) })).toEqual(['1 nothing player 1 pill blocked 8.983333333', 1, 1, 0]);
    expect(outcome({ a: meter('health', 'add', 5) })).toEqual(['1 nothing player 1 pill full', 1, 1, 0]);
    expect(outcome({ a: meter('health', 'add', 5), b: meter('score', 'add', 1) })).toEqual(['1 nothing player 1 pill full', 1, 0, 0]);
    const gong = { setOffBy: { type: 'every', seconds: 0.25 }, hits: 'all inside', effects: { a: meter('health', 'take', 5) } };
    expect(told(scene({ gong }, { placements: { gong: { kind: 'gong', x: 30, y: 3 } } }), 60, 0.3)).toEqual([
      '15 nothing nobody gong nobody there',
    ]);
  });

  test('a rate that gives once goes on when no more can be carried', () => {
    const spring = { setOffBy: { type: 'inside' }, effects: { a: give(1), b: { ...meter('score', 'add', 60), order: 1 } } };
    expect(told(scene({ spring }, jars), 60, 1)).toEqual(['1 item spring jar 1/1 → 3', '60 rate spring score 60/60 → 60']);
  });
});

const START = { meters: {}, items: {}, held: null, at: null, checkpoint: null, shieldSeconds: 0 };
const five = Object.fromEntries(['a', 'b', 'c', 'd', 'e'].map((id, order) => [id, { kind: 'urn', order, ...HERE }]));

test.each([
  ['kind', ['a', 'b', 'c'], ['d', 'e']],
  ['placement', ['a', 'b', 'c', 'd', 'e'], []],
  ['player', ['a', 'b', 'c', 'd', 'e'], []],
])('three uses for scope “%s”: of five urns these act, and these are used up', (scope, act, refused) => {
  const urn = arriving({ a: meter('score', 'add', 1) }, { uses: 3, scope });
  const { lines, recording } = play(scene({ urn }, { placements: five }), runOf(60, 2, [[]]));
  const of = (type: string) => lines.flatMap((line) => (line.type === type && 'placement' in line ? [line.placement] : []));
  expect([of('changed'), of('refused')]).toEqual([act, refused]);
  expect(recording.outcome.players[0]!.meters['score']).toBe(act.length);
});

test('uses for each player: two each, whoever comes first; a third press is used up for that player alone', () => {
  const urn = pulsing(1, { a: meter('score', 'add', 1) }, { uses: 2, scope: 'player' });
  const { lines } = play(scene({ urn }, { players: { count: 2 } }), runOf(60, 180, [[], []]));
  const by = (player: string, type: string) =>
    lines.filter((line) => line.type === type && 'toucher' in line && line.toucher === player).length;
  expect(['player 1', 'player 2'].map((player) => [by(player, 'changed'), by(player, 'refused')])).toEqual([
    [2, 1],
    [2, 1],
  ]);
});

describe.each(RATES)('at %i steps a second', (r) => {
  test.each([1, 2, r])('what lasts %i steps is in force for as many steps of motion, and its line says when it ends', (steps) => {
    const pad = arriving({ a: movement('speed', 'multiply', 2, steps / r) }, { becomes: { type: 'spent' } });
    // Acceleration without end: speed is what the value says, in every step.
    const body = { radius: 0.5, speed: 4, acceleration: 100_000, braking: 100_000 };
    const { recording, lines } = play(scene({ pad }, { body }), runOf(r, 3 * r, [keys(r, [3, 1])]), r);
    const fast = [...recording.x].slice(1).filter((x, at) => x - recording.x[at]! > 6 / r).length;
    expect([fast, short(lines).find((line) => line.includes('ends'))]).toEqual([steps, `${1 + steps} movement pad speed ends 8 → 4`]);
    // A shield begun in step 1 stops blows in the next `steps` steps, and no longer.
    const shield = arriving({ a: { type: 'shield', seconds: steps / r } }, { becomes: { type: 'spent' } });
    const blow = pulsing(
      1 / r,
      { a: meter('health', 'take', 0.1) },
      { setOffBy: { type: 'inside', pulse: { every: 1 / r, first: 'after' } } },
    );
    const struck = play(scene({ shield, z: blow }), runOf(r, 2 * r, [[]]), r).lines;
    expect(struck.filter((line) => line.type === 'nothing').map((line) => line.step)).toEqual(
      Array.from({ length: steps }, (_, at) => at + 2),
    );
    // Rest: whoever is inside arrives in the step after its last.
    const pool = arriving({ a: meter('score', 'add', 1) }, { becomes: { type: 'rests', seconds: steps / r } });
    expect(told(scene({ pool }), r, (steps + 1) / r)).toEqual([
      '1 changed pool score 1/1 → 1',
      '1 phase pool resting',
      `${1 + steps} phase pool ready`,
    ]);
  });

  test('an amount by distance, and the place of a death, are those of the contact', () => {
    // Faster than its own size a step; the disc of radius 1 is met at x = 20 − 1.5 whatever the rate: 1.5 u from its centre.
    const body = { radius: 0.5, speed: 60, acceleration: 100_000, braking: 100_000 };
    const blast = {
      by: 'distance',
      points: [
        [0, 10],
        [2, 90],
      ],
    };
    const pit = arriving({ a: meter('health', 'take', blast), b: { type: 'kill', order: 1 } });
    const document = scene({ pit }, { body, placements: { pit: { kind: 'pit', x: 20, y: 10 } } });
    const { lines, recording } = play(document, runOf(r, r, [keys(r, [1, 1])]), r);
    expect(lines[0]).toMatchObject({ type: 'changed', applied: expect.closeTo(-70, 5) as number });
    expect(recording.outcome.deaths[0]).toMatchObject({ x: expect.closeTo(18.5, 6) as number, y: 10 });
  });
});

describe('being put elsewhere ends all contacts', () => {
  const points = { at1: { name: 'at 1', x: 10, y: 10 }, at2: { name: 'at 2', x: 30, y: 10 } };
  const to = (point: string, more: Record<string, unknown> = {}) =>
    arriving({ a: { type: 'move', to: { type: 'point', point }, velocity: 'zeroed' } }, more);

  test.each([
    ['one', 'two'],
    ['two', 'one'],
  ])('two-way portals that never rest send to and fro each step, %s first', (first, second) => {
    const order = (id: string) => (id === first ? 1 : id === second ? 2 : 3);
    const placements = { one: { kind: 'one', order: order('one'), x: 10, y: 10 }, two: { kind: 'two', order: order('two'), x: 30, y: 10 } };
    const document = scene({ one: to('at2'), two: to('at1') }, { points, placements, start: { x: 10, y: 10 } });
    expect(told(document, 60, 4 / 60)).toEqual(['1 moved one 30,10', '2 moved two 10,10', '3 moved one 30,10', '4 moved two 10,10']);
  });

  test('what is left by it says so: leaving rules act at once, by the line that moved; what covers both places arrives again', () => {
    const hall = {
      name: 'hall',
      role: 'score',
      mark: 'ring',
      shapes: { body: { type: 'box', width: 60, height: 20, x: 28, y: 0 } },
      rules: {
        in: arriving({ a: meter('score', 'add', 1) }),
        out: { setOffBy: { type: 'leaving' }, effects: { a: meter('score', 'add', 100) } },
      },
    };
    const portal = kind(circle(1), to('at2', { becomes: { type: 'spent' } }));
    const document = scene({ hall, portal }, { points });
    const { lines } = play(document, runOf(60, 3, [[]]));
    expect(short(lines)).toEqual([
      '1 changed hall score 1/1 → 1',
      '1 moved portal 30,10',
      '1 phase portal spent',
      '1 changed hall score 100/100 → 101',
      '2 changed hall score 1/1 → 102',
      '3 ended running',
    ]);
    expect(lines[3]).toMatchObject({ cause: 1 });
  });
});

describe('players who join and leave', () => {
  const ember = pulsing(1, { a: meter('health', 'take', 40) });
  const events = (...list: [what: 'join' | 'leave', step: number][]) => ({
    events: list.map(([what, step]) => ({ what, step, player: 2 })),
  });
  const second = (document: ReturnType<typeof scene>, seconds: number, ...list: ['join' | 'leave', number][]) => {
    const { recording, lines } = play(document, runOf(60, seconds * 60, [[], []], events(...list)));
    return { outcome: recording.outcome.players[1]!, lines: short(lines), ended: recording.outcome.ended };
  };
  const away = { players: { count: 2, starts: ['p1', 'p2'] }, points: { p1: { name: 'p1', x: 50, y: 10 }, p2: { name: 'p2', ...HERE } } };

  test.each([
    ['hurt', 'always', 90],
    ['dead, its return due', 'always', 150],
    ['out of the game', 'never', 150],
  ])('who left %s begins as at the start on joining', (_, returns, leaves) => {
    const document = scene({ ember }, { ...away, death: { returns, pause: 1 }, items: { jar: { name: 'jar', start: 1 } } });
    const { outcome, lines } = second(document, 5, ['leave', leaves], ['join', 240]);
    expect(lines.filter((line) => line.startsWith('240'))).toEqual([
      '240 outside join',
      '240 present player 2 joins',
      expect.stringMatching(/^240 changed - health \d+\/\d+ → 100$/) as string,
    ]);
    // Struck as it comes and a second later; no return that had been due.
    expect([outcome.meters['health'], lines.some((line) => line.includes('returned'))]).toEqual([20, false]);
  });

  test('who joins with a key held faces the way it asks for', () => {
    const pad = arriving({ throw: { type: 'launch', change: 'set', direction: { type: 'along' }, strength: 6 } });
    const document = scene({ pad }, { players: { count: 2 }, body: { radius: 0.5, speed: 0.1, acceleration: 1, braking: 1 }, start: HERE });
    const events = [
      { what: 'leave', step: 5, player: 2 },
      { what: 'join', step: 10, player: 2 },
    ] as const;
    const { recording } = play(document, runOf(30, 15, [[], keys(30, [1, 0, 1])], { events: [...events] }));
    const { x, y } = recording.others[0]!;
    expect([x.at(-1), y.at(-1)! - 10]).toEqual([2, expect.closeTo(0.9, 0)]);
  });

  test('leaving ends what protects and changes; an empty session goes on until its inputs end', () => {
    const boots = arriving(
      { a: movement('speed', 'multiply', 2, 9), b: { type: 'shield', order: 1, seconds: 9 } },
      { becomes: { type: 'spent' } },
    );
    const { outcome, lines, ended } = second(scene({ boots }, away), 3, ['leave', 30], ['join', 60]);
    expect(lines.filter((line) => line.startsWith('30'))).toEqual([
      '30 outside leave',
      '30 present player 2 leaves',
      '30 movement boots speed ends 8 → 4',
      '30 shield - ends',
    ]);
    expect([outcome.died, ended]).toEqual([false, { how: 'inputs ended', seconds: 3 }]);
    const alone = play(scene({ ember }), runOf(60, 120, [[]], { events: [{ what: 'leave', step: 5, player: 1 }] }));
    expect(alone.recording.outcome.ended).toEqual({ how: 'inputs ended', seconds: 2 });
  });

  test('two deaths in one step have their own causes, and so have the returns and the loss', () => {
    const pit = (by: string) => ({ ...kind(circle(1), arriving({ kill: { type: 'kill' } })), name: by });
    const document = scene(
      { p: pit('p'), q: pit('q') },
      {
        ...away,
        placements: { p: { kind: 'p', x: 50, y: 10 }, q: { kind: 'q', ...HERE } },
        death: { returns: 'while lives last', pause: 0.5 },
        meters: {
          health: { name: 'h', lower: 0, upper: 100, start: 100 },
          score: { name: 's', lower: 0, upper: null, start: 0 },
          lives: { name: 'l', lower: 0, upper: 9, start: 1, whole: true },
        },
      },
    );
    const { lines } = play(document, runOf(60, 60, [[], []]));
    const causes = lines.map(({ index, cause }) => [index, cause] as const);
    expect(short(lines).slice(0, 7)).toEqual([
      '1 died p',
      '1 died q',
      '1 changed - lives -1/-1 → 0',
      '1 limit lives 0',
      '1 changed - lives -1/-1 → 0',
      '1 limit lives 0',
      '31 returned - 50,10'.replace('- ', ''),
    ]);
    expect([causes[2], causes[4], causes[6], causes[7]]).toEqual([
      [2, 0],
      [4, 1],
      [6, 0],
      [7, 1],
    ]);
    expect(lines.at(-1)).toMatchObject({ type: 'ended', how: 'lost', cause: lines.findLastIndex(({ type }) => type === 'died') });
  });
});

test('regeneration says its own end before another change of the same meter', () => {
  const meters = {
    health: { name: 'h', lower: 0, upper: 100, start: 50, regeneration: { perSecond: 6, pauseAfterLoss: 0.5 } },
    score: { name: 's', lower: 0, upper: null, start: 0 },
  };
  const blow = { setOffBy: { type: 'every', seconds: 1 }, hits: 'all inside', effects: { a: meter('health', 'take', 20) } };
  expect(told(scene({ blow }, { meters }), 60, 1.5)).toEqual(['60 rate - health 6/6 → 56', '60 changed blow health -20/-20 → 36']);
});

test('a win says who won it by what: the rule that ends, the item that was the last, the notice', () => {
  const ended = (document: ReturnType<typeof scene>) => play(document, runOf(60, 60, [[]])).lines.at(-1);
  expect(ended(scene({ door: arriving({ a: { type: 'end', how: 'won' } }) }))).toMatchObject({
    how: 'won',
    placement: 'door',
    toucher: 'player 1',
  });
  const goal = { ...jars, ends: { goals: { jars: { type: 'item', item: 'jar', count: 3 } } } };
  expect(ended(scene({ crate: arriving({ a: give(1), b: { ...meter('score', 'add', 5), order: 1 } }) }, goal))).toMatchObject({
    how: 'won',
    cause: 0,
  });
});

test('in which order things stand never changes a session in which no two are touched at one moment', () => {
  const points = Object.fromEntries([0, 1, 2, 3].map((at) => [`p${at}`, { name: `p${at}`, x: 8 + 14 * at, y: 5 + 9 * (at % 2) }]));
  const portal = (to: number) =>
    kind(
      circle(1),
      arriving({ a: { type: 'move', to: { type: 'point', point: `p${to}` }, grace: 0.5 } }, { becomes: { type: 'rests', seconds: 0.7 } }),
    );
  const kinds = {
    there: portal(1),
    back: portal(3),
    pool: kind(circle(1.5), arriving({ a: meter('score', 'add', 2) }, { becomes: { type: 'rests', seconds: 1 }, scope: 'kind', uses: 5 })),
    ember: kind(circle(1.5), { setOffBy: { type: 'inside' }, effects: { a: meter('health', 'take', 9) } }),
    gate: kind(circle(1.5), { setOffBy: { type: 'leaving' }, effects: { a: movement('speed', 'multiply', 1.5, 0.4) } }),
    pit: kind(circle(0.7), arriving({ kill: { type: 'kill' } })),
  };
  const names = Object.keys(kinds);
  const way = fc.tuple(fc.integer({ min: 5, max: 60 }), fc.integer({ min: -127, max: 127 }), fc.integer({ min: -127, max: 127 }));
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom(...names), { minLength: 8, maxLength: 8 }),
      fc.shuffledSubarray([0, 1, 2, 3, 4, 5, 6, 7], { minLength: 8 }),
      fc.array(way, { minLength: 6, maxLength: 12 }),
      (chosen, orders, ways) => {
        const placed = (order: (at: number) => number) =>
          Object.fromEntries(
            chosen.map((of, at) => [`t${at}`, { kind: of, order: order(at), x: 8 + 14 * (at >> 1), y: at % 2 === 0 ? 5 : 14 }]),
          );
        const changes = ways.map(([, x, y], at): [number, number, number, number] => [
          1 + ways.slice(0, at).reduce((sum, [steps]) => sum + steps, 0),
          x,
          y,
          0,
        ]);
        const story = (order: (at: number) => number): string[] => {
          const death = { returns: 'always', pause: 0.3, grace: 0.5 };
          const body = { radius: 0.5, speed: 14, acceleration: 80, braking: 80 };
          const document = scene({}, { kinds, points, placements: placed(order), death, body });
          return short(play(document, runOf(60, 400, [changes])).lines).sort();
        };
        expect(story((at) => orders[at]!)).toEqual(story((at) => at));
      },
    ),
    { numRuns: runs(60) },
  );
});

describe('what is spawned', () => {
  const mote = kind(circle(0.5), arriving({ kill: { type: 'kill' } }, { becomes: { type: 'spent' } }), { name: 'soot mote' });
  const spring = {
    setOffBy: { type: 'every', seconds: 0.5 },
    effects: { a: { type: 'spawn', pool: { mote: 1 }, at: { type: 'point', point: 'here' }, most: 1 } },
  };
  const here = { points: { here: { name: 'here', ...HERE } }, death: { returns: 'always', pause: 0.1 } };

  test('has a serial of its kind, which goes on from those placed, whichever room it takes; deaths keep its name', () => {
    const placements = { spring: { kind: 'spring', x: 50, y: 3 }, first: { kind: 'mote', x: 40, y: 3 } };
    const { recording, lines } = play(scene({ spring, mote }, { ...here, placements }), runOf(60, 75, [[]]));
    expect(short(lines).filter((line) => /spawned|died|phase/.test(line))).toEqual([
      '30 spawned mote 2 mote 2,10',
      '31 died mote 2',
      '31 phase mote 2 spent',
      '60 spawned mote 3 mote 2,10',
      '61 died mote 3',
      '61 phase mote 3 spent',
    ]);
    expect(recording.outcome.deaths.map(({ placement, kind: of }) => [placement, of])).toEqual([
      ['mote 2', 'mote'],
      ['mote 3', 'mote'],
    ]);
  });

  test('leaves no contact behind in the room it gives up: the next in it is met anew by whoever stands there', () => {
    const again = { type: 'spawn', order: 2, pool: { seed: 1 }, at: { type: 'here' }, most: 1 };
    const seed = kind(circle(1), arriving({ gain: meter('score', 'add', 1), again }, { becomes: { type: 'spent' } }));
    const three = (step: number) => [
      `changed seed ${step} score 1/1 → ${step}`,
      `phase seed ${step} spent`,
      `spawned seed ${step + 1} seed 2,10`,
    ];
    const all = told(scene({ seed }), 30, 0.2);
    expect(all.slice(3)).toEqual([2, 3, 4, 5, 6].flatMap((step) => three(step).map((line) => `${step} ${line}`)));
  });

  test('and used up by one, what it did to another ends with its line, at the end of the session too', () => {
    const puddle = kind(circle(1), {
      setOffBy: { type: 'inside' },
      effects: { burn: meter('health', 'take', 3) },
      becomes: { type: 'spent' },
    });
    const effects = { a: { type: 'spawn', pool: { puddle: 1 }, at: { type: 'point', point: 'here' }, most: 1 } };
    const post = { setOffBy: { type: 'start' }, effects };
    const document = scene({ post, puddle }, { ...here, players: { count: 2 }, placements: { post: { kind: 'post', x: 50, y: 3 } } });
    const rates = (events: readonly object[]) =>
      short(play(document, runOf(30, 20, [[], []], { events: events as never })).lines).filter((line) => line.includes(' rate '));
    expect(rates([{ what: 'leave', step: 11, player: 1 }])).toEqual(Array(2).fill('11 rate puddle 1 health -1/-1 → 99'));
    expect(rates([])).toEqual(Array(2).fill('20 rate puddle 1 health -2/-2 → 98'));
  });

  test('and is called by it as whoever sets something off', () => {
    const rover = kind(circle(0.5), arriving({ a: meter('score', 'add', 1) }), { drift: { speed: 1, degrees: 0 }, tags: ['rover'] });
    const dock = kind(circle(2), { ...arriving({ a: { type: 'notice', notice: 'docked' } }), who: { any: ['rover'], none: [] } });
    const bay = { ...spring, effects: { a: { ...spring.effects.a, pool: { rover: 1 }, at: { type: 'point', point: 'far' } } } };
    const document = scene(
      { bay, dock, rover },
      {
        points: { far: { name: 'far', x: 40, y: 10 } },
        placements: { bay: { kind: 'bay', x: 50, y: 3 }, dock: { kind: 'dock', x: 40, y: 10 } },
      },
    );
    expect(play(document, runOf(60, 33, [[]])).lines.find(({ type }) => type === 'notice')).toMatchObject({ toucher: 'rover 1' });
  });
});

describe('a beginning that was hardly meant', () => {
  const meters = (start: number) => ({
    health: { name: 'health', lower: 0, upper: 100, start },
    score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
  });

  test('nobody lives without health: dead at the start, on coming back, on joining', () => {
    expect(told(scene({}, { meters: meters(0) }), 60, 0.1)).toEqual(['0 died -', '1 ended lost']);
    const pit = arriving({ kill: { type: 'kill' } }, { becomes: { type: 'spent' } });
    const again = told(scene({ pit }, { death: { returns: 'always', pause: 0.1, health: 0 } }), 60, 0.2);
    expect(again).toEqual([
      '1 died pit',
      '1 phase pit spent',
      '7 returned 2,10',
      '7 changed - health -100/-100 → 0',
      '7 limit health 0',
      '7 died -',
    ]);
  });

  test('a start in a solid, or outside, is said once, with where the player was put', () => {
    const solids = { wall: { x: 0, y: 9, width: 6, height: 2 } };
    const lines = (more: object) => play(scene({}, more as never), runOf(60, 2, [[]])).lines;
    expect(lines({ solids })[0]).toMatchObject({ type: 'displaced', step: 0, outside: false, y: expect.closeTo(11.5, 3) as number });
    expect(lines({ start: { x: -3, y: 10 } })[0]).toMatchObject({ type: 'displaced', outside: true, x: expect.closeTo(0.5, 3) as number });
    expect(lines({ start: { x: 0.5, y: 10 } }).map(({ type }) => type)).toEqual(['ended']);
    const trapped = { solids, points: { in: { name: 'in', x: 3, y: 10 } }, start: { x: 30, y: 10 } };
    const gate = kind(circle(1), arriving({ a: { type: 'move', to: { type: 'point', point: 'in' } } }));
    const moved = play(scene({ gate }, { ...trapped, placements: { gate: { kind: 'gate', x: 30, y: 10 } } }), runOf(60, 1, [[]])).lines;
    expect(moved.slice(0, 2)).toMatchObject([{ type: 'moved' }, { type: 'displaced', cause: 0 }]);
  });

  test('a magnet that gives up within its reach gives up once, until the player has been away', () => {
    const magnet = { reach: 6, giveUp: 2, speed: [[0, 0.1]] };
    const shard = kind(circle(0.2), arriving({ a: meter('score', 'add', 1) }), { magnet });
    const document = scene({ shard }, { placements: { shard: { kind: 'shard', x: 10, y: 10 } } });
    const walked = keys(60, [1, 1], [3, 0], [2, -1], [2, 1], [1, 0]);
    const lines = told(document, 60, 9, walked).map((line) => line.replace(/^\d+ /, ''));
    expect(lines).toEqual(['drawn shard to player 1', 'drawn shard no more', 'drawn shard to player 1', 'drawn shard no more']);
  });
});

test.each(RATES)(
  'carried against a wall, one stops there whatever is pressed, and nothing seen from above is ground, at %i steps a second',
  (rate) => {
    const asks = { setOffBy: { type: 'inside' }, provided: { on: { type: 'ground' } }, effects: { gain: meter('score', 'add', 5) } };
    const cart = { ...kind({ body: { type: 'box', width: 6, height: 6 } }, asks), carries: true };
    // Down at 3 u a second, through a wall whose upper face is at 11 u: half a unit of body stops at 11.5 u.
    const document = scene(
    { cart },
    {
      start: { x: 10, y: 15 },
      solids: { wall: { x: 0, y: 9, width: 60, height: 2 } },
      paths: { way: { name: 'way', speed: 3, round: 'back and forth', wayPoints: [{ x: 10, y: 15 }, { x: 10, y: 3 }] } },
      placements: { cart: { kind: 'cart', x: 10, y: 15, travel: { path: 'way' } } },
    },
  ); // prettier-ignore
    for (const up of [0, -127]) {
      const { recording } = play(document, runOf(rate, 3 * rate, [[[1, 0, up, 0]]]));
      expect(recording.y.at(-1)).toBeCloseTo(11.5, 3);
      expect(recording.meters['score']!.at(-1)).toBe(0);
    }
  },
);

test('a thing that is put elsewhere when it is taken is left in the next step, however evenly its taker goes on', () => {
  const come = arriving({ gain: meter('score', 'add', 1) }, { order: 1, becomes: { type: 'moves', distance: 40 } });
  const go = { setOffBy: { type: 'leaving' }, effects: { gain: meter('score', 'add', 10) }, order: 2 };
  const tile = { ...kind(circle(1), come), rules: { come, go } };
  const document = scene({ tile }, { size: { width: 100, height: 20 }, placements: { tile: { kind: 'tile', x: 8, y: 10 } } });
  expect(told(document, 60, 2, keys(60, [2, 1])).map((line) => line.split(' ').slice(0, 3).join(' '))).toEqual([
    '83 changed tile',
    '83 relocated tile',
    '84 changed tile',
  ]);
});
