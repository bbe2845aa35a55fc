import { arriving, box, circle, keys, kind, level, meter, movement, pulsing, scene, told } from '../testing/scenes.ts';
import { play, runOf, short } from '../testing/levels.ts';

/** Rules worked out by hand, at every rate. `r` is the steps in a second; pulses of one second fall in steps 1, r, 2r … */
describe.each([30, 60, 120, 240])('at %i steps a second', (r) => {
  const boost = (again: string, most = 1) => scene({ pad: pulsing(1, { quick: movement('speed', 'multiply', 2, 2.5, { again, most }) }) });

  test('a boost that comes again: ignored, refreshed, extended, or stacked up to two', () => {
    const begins = (step: number, from: number, to: number): string => `${step} movement pad speed ${from} → ${to}`;
    const ends = (step: number, from: number, to: number): string => `${step} movement pad speed ends ${from} → ${to}`;
    const left = (seconds: number): number => Number(seconds.toFixed(9));
    expect(told(boost('ignore'), r, 3.4)).toEqual([
      begins(1, 4, 8),
      `${r} nothing player 1 pad already present ${left((1 + 2.5 * r - r) / r)}`,
      `${2 * r} nothing player 1 pad already present ${left((1 + 0.5 * r) / r)}`,
      ends(1 + 2.5 * r, 8, 4),
      begins(3 * r, 4, 8),
    ]);
    // Refreshed at 1, 2 and 3 s, it lasts on; the value is the same before and after.
    expect(told(boost('refresh'), r, 3.4)).toEqual([begins(1, 4, 8), begins(r, 8, 8), begins(2 * r, 8, 8), begins(3 * r, 8, 8)]);
    expect(told(boost('extend'), r, 3.4)).toEqual([begins(1, 4, 8), begins(r, 8, 8), begins(2 * r, 8, 8), begins(3 * r, 8, 8)]);
    expect(told(boost('stack', 2), r, 3.4)).toEqual([
      begins(1, 4, 8),
      begins(r, 8, 16),
      `${2 * r} nothing player 1 pad already present`,
      ends(1 + 2.5 * r, 16, 8),
      begins(3 * r, 8, 16),
    ]);
  });

  test('boost, draught and wet clay at once: adds before multiplies, and the base value exactly at the end', () => {
    const lines = told(
      scene({
        boost: arriving({ a: movement('speed', 'multiply', 1.8, 1) }),
        draught: arriving({ a: movement('speed', 'add', 3, 2) }),
        clay: { setOffBy: { type: 'inside' }, effects: { a: movement('speed', 'multiply', 0.5, 'while') } },
      }),
      r,
      // Walks off after 2.5 s: out of the clay when 1.5 u away, after 0.5 s and 1 u, then 0.5 u at 2 u/s … at half speed.
      2.4,
    );
    expect(lines).toEqual([
      `1 movement boost speed 4 → 7.2`,
      `1 movement draught speed 7.2 → 12.6`,
      `1 movement clay speed 12.6 → 6.3`,
      `${1 + r} movement boost speed ends 6.3 → 3.5`,
      `${1 + 2 * r} movement draught speed ends 3.5 → 2`,
      `${Math.round(2.4 * r)} movement clay speed ends 2 → 4`,
    ]);
  });

  test('a press roots for its hold and vanishes with it, whichever comes first, the boost or the press', () => {
    const press = arriving({ a: movement('control', 'set', 0, 1.6) }, { active: { type: 'movement' }, becomes: { type: 'spent' } });
    const draught = arriving({ a: movement('speed', 'multiply', 1.8, 1) });
    const hold = 1 + Math.round(1.6 * r);
    expect(told(scene({ press, draught }), r, 2)).toEqual([
      '1 movement press control 1 → 0',
      '1 phase press active',
      '1 movement draught speed 4 → 7.2',
      `${1 + r} movement draught speed ends 7.2 → 4`,
      `${hold} movement press control ends 0 → 1`,
      `${hold} phase press spent`,
    ]);
    const { recording } = play(scene({ draught, press }), runOf(r, 3 * r, [keys(r, [3, 1])]));
    // One step of setting out and one of braking, 8 ÷ r² in all; then nobody walks for all of the hold's steps, and half a
    // second of gathering speed is 1 u.
    expect(recording.x[hold]).toBeCloseTo(2 + 8 / r ** 2, 6);
    expect(recording.x[3 * r]).toBeCloseTo(3 + 8 / r ** 2 + 4 * ((3 * r - hold) / r - 0.5), 5);
  });

  test('blows of 40 from 100: two leave 20, three kill; a shield stops blockable blows, not the others', () => {
    const blow = (more = {}) => pulsing(1, { a: meter('health', 'take', 40, more) });
    expect(told(scene({ hammer: blow() }), r, 1.5)).toEqual([
      '1 changed hammer health -40/-40 → 60',
      `${r} changed hammer health -40/-40 → 20`,
    ]);
    expect(told(scene({ hammer: blow() }), r, 2.5)).toEqual([
      '1 changed hammer health -40/-40 → 60',
      `${r} changed hammer health -40/-40 → 20`,
      `${2 * r} changed hammer health -40/-20 → 0`,
      `${2 * r} limit health 0`,
      `${2 * r} died hammer`,
      `${2 * r} ended lost`,
    ]);
    const apron = arriving({ a: { type: 'shield', seconds: 1.5 } });
    const gone = 1 + Math.round(1.5 * r);
    expect(told(scene({ apron, hammer: blow() }), r, 2.5)).toEqual([
      '1 shield apron begins',
      // What begins in step 1 counts from step 2 on.
      '1 changed hammer health -40/-40 → 60',
      `${r} nothing player 1 hammer blocked ${Number(((gone - r) / r).toFixed(9))}`,
      `${gone} shield - ends`,
      `${2 * r} changed hammer health -40/-40 → 20`,
    ]);
    expect(told(scene({ apron, hammer: blow({ blockable: false }) }), r, 0.5)).toEqual([
      '1 shield apron begins',
      '1 changed hammer health -40/-40 → 60',
    ]);
  });

  test('once, per second and in pulses: the same total at every rate', () => {
    const lines = told(
      scene(
        {
          once: arriving({ a: meter('health', 'take', 10) }),
          slow: { setOffBy: { type: 'inside' }, effects: { a: meter('health', 'take', 5) } },
          drip: pulsing(0.25, { a: meter('score', 'add', 1) }),
        },
        { body: { radius: 0.5, speed: 4, acceleration: 8, braking: 8 } },
      ),
      r,
      2,
    );
    // Pulses at once and then every quarter of a second: nine in two seconds.
    expect(lines.filter((line) => line.includes('drip'))).toHaveLength(9);
    expect(lines.filter((line) => line.includes('slow'))).toEqual([`${2 * r} rate slow health -10/-10 → 80`]);
  });

  test('a share of the limit, fill and set; regeneration pauses after a loss; a limit posts its notice', () => {
    const meters = {
      health: { name: 'health', lower: 0, upper: 80, start: 40, regeneration: { perSecond: 8, pauseAfterLoss: 1 } },
      score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
      heat: { name: 'heat', lower: 0, upper: 50, start: 10, whole: true, atUpper: 'hot' },
    };
    const lines = told(
      scene(
        {
          quarter: arriving({ a: meter('health', 'take', { share: 0.25 }) }),
          stoke: arriving({ a: meter('heat', 'set', 30), b: meter('heat', 'fill', 0) }),
          siren: { setOffBy: { type: 'notice', notice: 'hot' }, effects: { a: meter('score', 'add', 3) } },
        },
        { meters },
      ),
      r,
      3,
    );
    expect(lines).toEqual([
      '1 changed quarter health -20/-20 → 20',
      '1 changed stoke heat 20/20 → 30',
      '1 changed stoke heat 20/20 → 50',
      '1 limit heat 50',
      '1 changed siren score 3/3 → 3',
      // From 1 s after the loss to the end: 2 s less the step of the loss, at 8 a second.
      `${3 * r} rate - health ${Number((8 * ((2 * r - 1) / r)).toFixed(9))}/${Number((8 * ((2 * r - 1) / r)).toFixed(9))} → ${Number((20 + 8 * ((2 * r - 1) / r)).toFixed(9))}`,
    ]);
  });

  test('items: counted to the carry limit, taken or refused as a whole, held, used up, dropped and taken again', () => {
    const document = scene(
      {
        crate: arriving({ a: { type: 'item', item: 'jar', count: 3 } }),
        all: arriving({ a: { type: 'item', item: 'jar', count: 2, atLimit: 'refuse' } }),
        toll: arriving({ a: { type: 'item', item: 'salve', count: -1 } }),
        boots: arriving({ a: { type: 'item', item: 'boots', count: 1, hold: true } }, { becomes: { type: 'spent' } }),
      },
      {
        items: {
          jar: { name: 'jar', most: 4, start: 2 },
          salve: {
            name: 'salve',
            start: 1,
            holdable: true,
            rules: { use: { setOffBy: 'use', spends: 1, effects: { a: meter('health', 'add', 35) } } },
          },
          boots: {
            name: 'boots',
            holdable: true,
            dropsAs: 'boots',
            rules: { quick: { setOffBy: 'held', effects: { a: movement('speed', 'multiply', 1.5, 'while') } } },
          },
        },
        placements: {
          a: { kind: 'crate', x: 2, y: 10 },
          b: { kind: 'all', x: 2, y: 10 },
          d: { kind: 'boots', x: 2, y: 10 },
          e: { kind: 'toll', x: 20, y: 10 },
        },
      },
    );
    const [next, useHeld, drop] = [4, 8, 16];
    const changes = keys(r, [0.5, 0], [0.2, 0, 0, drop], [0.3, 0], [0.2, 0, 0, next], [0.3, 0], [0.2, 0, 0, useHeld], [1, 0]);
    const at = (seconds: number): number => Math.round(seconds * r) + 1;
    expect(told(document, r, 2.5, changes)).toEqual([
      '1 item a jar 3/2 → 4',
      '1 refused player 1 b carry limit',
      '1 item d boots 1/1 → 1',
      '1 held boots',
      '1 movement boots speed 4 → 6',
      '1 phase d spent',
      `${at(0.5)} spawned boots 2 boots 2,10`,
      `${at(0.5)} item - boots -1/-1 → 0`,
      `${at(0.5)} held nothing`,
      `${at(0.5)} movement boots speed ends 6 → 4`,
      `${at(1)} held salve`,
      `${at(1.5)} nothing player 1 salve full`,
      `${at(1.5)} item salve salve -1/-1 → 0`,
      `${at(1.5)} held nothing`,
    ]);
  });

  test('using: the nearest in reach, and a key tapped between two steps is not lost', () => {
    const lever = (reach: number) => kind(circle(0.2), { setOffBy: { type: 'use', reach }, effects: { a: meter('score', 'add', reach) } });
    const document = scene(
      { near: lever(3), far: lever(8) },
      { placements: { far: { kind: 'far', x: 6, y: 10 }, near: { kind: 'near', x: 4, y: 10 } } },
    );
    const use = 2;
    expect(
      told(document, r, 1, [
        [2, 0, 0, use],
        [3, 0, 0, 0],
        [5, 0, 0, 0, use],
      ]),
    ).toEqual(['2 changed near score 3/3 → 3', '5 changed near score 3/3 → 6']);
  });

  test('wind-up: kept or dropped when the toucher leaves, refused meanwhile; active a while, then resting', () => {
    const rule = (ifLeft: string) =>
      arriving(
        { a: meter('score', 'add', 1) },
        { windUp: { seconds: 1, ifLeft }, active: { type: 'for', seconds: 0.5 }, becomes: { type: 'rests', seconds: 0.5 } },
      );
    const phases = (step: number) => [
      `${step} changed hod score 1/1 → 1`,
      `${step} phase hod active`,
      `${step + 0.5 * r} phase hod resting`,
      `${step + r} phase hod ready`,
    ];
    const walkOff = keys(r, [2.5, 1]);
    // Out of the disc at 2 + 1.5 = 3.5: 1 u in the first half second, the next half u at 4 u/s: at 0.625 s.
    const out = Math.floor(0.625 * r) + 1;
    expect(told(scene({ hod: rule('kept') }), r, 2.5, walkOff)).toEqual(['1 phase hod winding up', ...phases(1 + r)]);
    expect(told(scene({ hod: rule('dropped') }), r, 2.5, walkOff)).toEqual(['1 phase hod winding up', `${out} phase hod ready`]);
    // Standing in it, one arrives again when it is ready.
    expect(told(scene({ hod: rule('kept') }), r, 2.2)).toEqual([
      '1 phase hod winding up',
      ...phases(1 + r),
      `${2 + 2 * r} phase hod winding up`,
    ]);
  });

  test('three scopes of a cooldown: this thing, each player, all of the kind', () => {
    const document = (scope: string) =>
      scene(
        { pool: arriving({ a: meter('score', 'add', 1) }, { becomes: { type: 'rests', seconds: 5 }, scope }) },
        { placements: { a: { kind: 'pool', x: 2, y: 10 }, b: { kind: 'pool', x: 2, y: 10 } }, players: { count: 2 } },
      );
    const both = (scope: string): string[] => {
      const run = runOf(r, r, [[], []]);
      return short(play(document(scope), run, r).lines).filter((line) => !line.includes('ended'));
    };
    const full = 5;
    expect(both('placement')).toEqual([
      '1 changed a score 1/1 → 1',
      '1 phase a resting',
      '1 changed b score 1/1 → 2',
      '1 phase b resting',
      `1 refused player 2 a resting ${full}`,
      `1 refused player 2 b resting ${full}`,
    ]);
    expect(both('kind')).toEqual([
      '1 changed a score 1/1 → 1',
      '1 phase a resting',
      '1 phase b resting',
      `1 refused player 1 b resting ${full}`,
      `1 refused player 2 a resting ${full}`,
      `1 refused player 2 b resting ${full}`,
    ]);
    expect(both('player')).toEqual([
      '1 changed a score 1/1 → 1',
      '1 phase a resting for player 1',
      '1 changed b score 1/1 → 2',
      '1 phase b resting for player 1',
      '1 changed a score 1/1 → 1',
      '1 phase a resting for player 2',
      '1 changed b score 1/1 → 2',
      '1 phase b resting for player 2',
    ]);
  });

  test('who: nested tags, none-of, what the player accepts, a second player, and a mover that may', () => {
    const cart = { ...kind(box(2, 2), arriving({})), tags: ['rover/heavy'] };
    const taking = (who: object, tags: string[] = []) => ({
      ...kind(circle(1), arriving({ a: meter('score', 'add', 1), b: { type: 'notice', notice: 'ding' } }, { who })),
      tags,
    });
    const document = scene(
      {
        cart,
        'any-rover': taking({ any: ['rover'] }, ['pickup/big']),
        'no-guest': taking({ any: ['player'], none: ['guest'] }, ['pickup']),
        trap: taking({ any: ['player'] }, ['trap']),
      },
      {
        players: { count: 2, tags: [[], ['guest']] },
        body: { radius: 0.5, speed: 4, acceleration: 8, braking: 8, accepts: ['pickup'] },
        paths: {
          rail: {
            name: 'rail',
            speed: 0.5,
            round: 'loop',
            wayPoints: [
              { x: 2, y: 10 },
              { x: 3, y: 10 },
            ],
          },
        },
        placements: {
          cart: { kind: 'cart', x: 2, y: 10, travel: { path: 'rail' } },
          one: { kind: 'any-rover', x: 2, y: 10 },
          two: { kind: 'no-guest', x: 2, y: 10 },
          trap: { kind: 'trap', x: 2, y: 10 },
        },
      },
    );
    const { lines } = play(document, runOf(r, 2, [[], []]), r);
    expect(short(lines).filter((line) => line.startsWith('1 '))).toEqual([
      '1 refused player 1 cart not accepted',
      '1 refused player 1 one wrong tag',
      '1 refused player 1 trap not accepted',
      '1 changed two score 1/1 → 1',
      '1 notice two ding',
      '1 refused player 2 cart not accepted',
      '1 refused player 2 one wrong tag',
      '1 refused player 2 trap not accepted',
      '1 refused player 2 two wrong tag',
      '1 nothing cart one no player',
      '1 notice one ding',
      '1 refused cart trap wrong tag',
      '1 refused cart two wrong tag',
    ]);
  });

  test('a door opens after three jars; a chain goes on for 64 links and is stopped with a line', () => {
    const jar = arriving(
      { a: { type: 'item', item: 'jar', count: 1 }, b: { type: 'notice', notice: 'placed' } },
      { becomes: { type: 'spent' } },
    );
    const door = {
      ...kind(
        {},
        {
          setOffBy: { type: 'notice', notice: 'placed' },
          provided: { three: { type: 'item', item: 'jar', is: 'at least', value: 3 } },
          effects: {},
          becomes: { type: 'spent' },
        },
      ),
      solid: { width: 1, height: 20 },
    };
    const document = scene(
      { jar, door },
      {
        items: { jar: { name: 'jar' } },
        placements: {
          a: { kind: 'jar', x: 2, y: 10 },
          b: { kind: 'jar', x: 6, y: 10 },
          c: { kind: 'jar', x: 9, y: 10 },
          door: { kind: 'door', x: 20, y: 10 },
        },
      },
    );
    const { lines, recording } = play(document, runOf(r, 6 * r, [keys(r, [6, 1])]), r);
    expect(
      short(lines)
        .filter((line) => line.includes('door'))
        .map((line) => line.slice(line.indexOf(' ') + 1)),
    ).toEqual(['refused player 1 door condition', 'refused player 1 door condition', 'phase door spent']);
    expect(recording.x[6 * r]).toBeCloseTo(25, 4);
    // A notice that sets itself off.
    const echo = told(
      scene({
        echo: { setOffBy: { type: 'notice', notice: 'boo' }, effects: { a: { type: 'notice', notice: 'boo' } } },
        start: arriving({ a: { type: 'notice', notice: 'boo' } }),
      }),
      r,
      1,
    );
    expect(echo.filter((line) => line.includes('notice'))).toHaveLength(65);
    expect(echo.at(-1)).toBe('1 stopped 1');
  });
});

test('a kind based on another, own values of one placement, and tag rules: using one leaves the others alone', () => {
  const document = level({
    kinds: {
      basin: { ...kind(circle(1), arriving({ a: meter('score', 'add', 5) }, { becomes: { type: 'rests', seconds: 2 } })), tags: ['water'] },
    },
    variants: { deep: { name: 'deep basin', basedOn: 'basin', changes: { '/rules/act/effects/a/amount': 9 } } },
    tagRules: { wet: { tag: 'water', rules: { splash: arriving({ a: { type: 'notice', notice: 'splash' } }) } } },
    placements: {
      a: { kind: 'basin', x: 2, y: 10 },
      b: { kind: 'deep', x: 2, y: 10 },
      c: { kind: 'deep', x: 2, y: 10, own: { '/rules/act/becomes/seconds': 0.5 } },
    },
  });
  expect(told(document, 60, 1)).toEqual([
    '1 changed a score 5/5 → 5',
    '1 phase a resting',
    '1 notice a splash',
    '1 changed b score 9/9 → 14',
    '1 phase b resting',
    '1 notice b splash',
    '1 changed c score 9/9 → 23',
    '1 phase c resting',
    '1 notice c splash',
    '31 phase c ready',
    '32 changed c score 9/9 → 32',
    '32 phase c resting',
    '32 notice c splash',
  ]);
});
