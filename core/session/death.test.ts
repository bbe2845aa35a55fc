import { arriving, box, circle, keys, kind, level, meter, pulsing, scene, told } from '../testing/scenes.ts';
import { play, runOf, short } from '../testing/levels.ts';
import { compareSessions, momentAt, simulate, withMarks } from '../players/index.ts';
import { compile } from './index.ts';

const after = (line: string): string => line.slice(line.indexOf(' ') + 1);
const LIVES = { lives: { name: 'lives', lower: 0, upper: 9, start: 2, whole: true } };
const METERS = {
  health: { name: 'health', lower: 0, upper: 100, start: 100 },
  score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
};

describe.each([30, 60, 120, 240])('at %i steps a second', (r) => {
  const pit = (effects: Record<string, unknown> = { kill: { type: 'kill' } }) => kind(box(2, 20), arriving(effects));

  test('lives, coming back at the checkpoint with grace and locked keys, items halved; then the game is over', () => {
    const document = scene(
      {
        post: arriving({ here: { type: 'checkpoint' } }),
        jars: arriving({ a: { type: 'item', item: 'jar', count: 5 } }, { becomes: { type: 'spent' } }),
        pit: pit(),
      },
      {
        meters: { ...METERS, ...LIVES },
        items: { jar: { name: 'jar' } },
        death: {
          returns: 'while lives last',
          pause: 1,
          returnTo: { type: 'checkpoint' },
          grace: 0.5,
          lock: 0.25,
          items: 'halved',
          resets: ['jars'],
        },
        placements: { post: { kind: 'post', x: 3, y: 10 }, jars: { kind: 'jars', x: 2, y: 10 }, pit: { kind: 'pit', x: 9.001, y: 10 } },
      },
    );
    const lines = told(document, r, 9, keys(r, [9, 1]));
    // Dies 6.001 − 0.5 u from the start: at 7.501 = 4·t + 1. Back at x = 3 a second later, held for ¼ s, then on: from 3 to
    // 7.501 is 1 u in half a second and 3.501 u at 4 u/s.
    const first = Math.floor(1.62525 * r) + 1;
    const back = first + r;
    const second = back + Math.round(0.25 * r) + Math.floor((0.5 + 3.501 / 4) * r) + 1;
    expect(lines.map(after)).toEqual([
      'item jars jar 5/5 → 5',
      'phase jars spent',
      'checkpoint post 3,10',
      'died pit',
      'changed - lives -1/-1 → 1',
      'item - jar -3/-3 → 2',
      'returned 3,10',
      'phase jars ready',
      'item jars jar 5/5 → 7',
      'phase jars spent',
      'nothing player 1 post already present',
      'died pit',
      'changed - lives -1/-1 → 0',
      'limit lives 0',
      'item - jar -4/-4 → 3',
      'returned 3,10',
      'phase jars ready',
      'item jars jar 5/5 → 8',
      'phase jars spent',
      'nothing player 1 post already present',
      'died pit',
      'ended lost',
    ]);
    const steps = lines.map((line) => parseInt(line));
    expect(steps[3]).toBe(first);
    expect(steps[6]).toBe(back);
    expect(Math.abs(steps[11]! - second)).toBeLessThanOrEqual(1);
  });

  test('grace: nothing harms, and when it ends whoever is inside arrives; the zone’s own point; coming back inside a zone', () => {
    const document = scene(
      {
        hearth: arriving({ a: meter('health', 'take', 30) }),
        pit: pit({ kill: { type: 'kill', returnTo: { type: 'point', point: 'inside' } } }),
      },
      {
        death: { returns: 'always', pause: 0.5, grace: 1 },
        points: { inside: { name: 'inside', x: 40, y: 10 } },
        placements: { pit: { kind: 'pit', x: 2, y: 10 }, hearth: { kind: 'hearth', x: 40, y: 10 } },
      },
    );
    const back = 1 + 0.5 * r;
    // Where one comes back is sensed in the next step; grace is in force for r steps of sensing from there on.
    const left = Number(((r - 1) / r).toFixed(9));
    expect(told(document, r, 2)).toEqual([
      '1 died pit',
      `${back} returned 40,10`,
      `${back + 1} nothing player 1 hearth grace ${left}`,
      `${back + r + 1} changed hearth health -30/-30 → 70`,
    ]);
  });

  test('contact sends to the start, to a weighted choice, or to the nearest point; velocity kept or zeroed', () => {
    const points = { near: { name: 'near', x: 4, y: 3 }, far: { name: 'far', x: 50, y: 18 } };
    const sent = (to: object, velocity: string): { line: string; x: number } => {
      const zone = kind(circle(0.5), arriving({ a: { type: 'move', to, velocity } }));
      const document = scene({ zone }, { points, placements: { z: { kind: 'zone', x: 8, y: 10 } } });
      const { lines, recording } = play(document, runOf(r, 3 * r, [keys(r, [3, 1])]), r);
      const moved = lines.find(({ type }) => type === 'moved')!;
      return { line: after(short([moved])[0]!), x: recording.x[moved.step + 1]! - recording.x[moved.step]! };
    };
    expect(sent({ type: 'start' }, 'kept')).toEqual({ line: 'moved z 2,10', x: expect.closeTo(4 / r, 5) as number });
    // From rest again: ½·8·t² in the first step.
    expect(sent({ type: 'nearest', points: ['near', 'far'] }, 'zeroed')).toEqual({
      line: 'moved z 4,3',
      x: expect.closeTo(4 / r ** 2, 5) as number,
    });
    expect(sent({ type: 'weighted', points: { near: 0, far: 1 } }, 'kept').line).toBe('moved z 50,18');
  });

  test('goals, time, and both in one step: won before lost before time', () => {
    const goal = { ends: { goals: { jars: { type: 'item', item: 'jar', count: 1 } }, timeLimit: 1 }, items: { jar: { name: 'jar' } } };
    const jar = arriving({ a: { type: 'item', item: 'jar', count: 1 } });
    expect(told(scene({ jar }, goal), r, 2).at(-1)).toBe('1 ended won');
    expect(told(scene({ jar, pit: pit() }, goal), r, 2).at(-1)).toBe('1 ended won');
    expect(told(scene({ pit: pit() }, { ends: { timeLimit: 1 / r } }), r, 2).at(-1)).toBe('1 ended lost');
    expect(play(scene({}, { ends: { timeLimit: 1 } }), runOf(r, 2 * r, [[]]), r).recording.outcome.ended).toEqual({
      how: 'time',
      seconds: 1,
    });
    const reach = {
      points: { door: { name: 'door', x: 10.001, y: 10 } },
      ends: { goals: { door: { type: 'reach', point: 'door', within: 1 } } },
    };
    // x = 9.001 = 4·t + 1, after 2.00025 s.
    const won = play(scene({}, reach), runOf(r, 4 * r, [keys(r, [4, 1])]), r).recording.outcome.ended;
    expect(won).toEqual({ how: 'won', seconds: (2 * r + 1) / r });
  });

  test('two players: own health, one score for both, joining and leaving', () => {
    const document = scene(
      { purse: pulsing(1, { a: meter('score', 'add', 2), b: meter('health', 'take', 1) }) },
      { players: { count: 2, sharedScore: true } },
    );
    const events = [
      { what: 'leave', step: Math.round(0.5 * r), player: 2 },
      { what: 'join', step: Math.round(1.5 * r), player: 2 },
    ] as const;
    const { lines, recording } = play(document, runOf(r, 2 * r, [[], []], { events: [...events] }), r);
    expect(short(lines).slice(0, -1)).toEqual([
      '1 changed purse score 2/2 → 2',
      '1 changed purse health -1/-1 → 99',
      '1 changed purse score 2/2 → 4',
      '1 changed purse health -1/-1 → 99',
      `${0.5 * r} outside leave`,
      `${0.5 * r} present player 2 leaves`,
      `${r} changed purse score 2/2 → 6`,
      `${r} changed purse health -1/-1 → 98`,
      `${1.5 * r} outside join`,
      `${1.5 * r} present player 2 joins`,
      // As at the session's start, but for the score that all share.
      `${1.5 * r} changed - health 1/1 → 100`,
      `${1.5 * r + 1} changed purse score 2/2 → 8`,
      `${1.5 * r + 1} changed purse health -1/-1 → 99`,
      `${2 * r} changed purse score 2/2 → 10`,
      `${2 * r} changed purse health -1/-1 → 97`,
    ]);
    expect(recording.outcome.players.map(({ meters }) => meters)).toEqual([
      { health: 97, score: 10 },
      { health: 99, score: 10 },
    ]);
  });

  test('four players: what one takes is gone for the others, in order; each has what it took', () => {
    const document = scene(
      {
        tile: arriving({ a: meter('score', 'add', 90) }, { becomes: { type: 'spent' } }),
        tin: arriving({ a: { type: 'item', item: 'tin', count: 1 } }, { uses: 2 }),
      },
      { players: { count: 4 }, items: { tin: { name: 'tin' } } },
    );
    const { recording, lines } = play(document, runOf(r, r, [[], [], [], []]), r);
    expect(recording.outcome.players.map(({ meters, items }) => [meters['score'], items['tin']])).toEqual([
      [90, 1],
      [0, 1],
      [0, 0],
      [0, 0],
    ]);
    expect(lines.flatMap((line) => (line.type === 'refused' ? [`${line.toucher} ${line.placement} ${line.reason}`] : []))).toEqual([
      'player 2 tile used up',
      'player 3 tile used up',
      'player 3 tin used up',
      'player 4 tile used up',
      'player 4 tin used up',
    ]);
  });

  test('a stated start, and health −25 from outside', () => {
    const salve = arriving({ a: meter('health', 'add', 18) });
    const start = { meters: { health: 30 }, items: { jar: 2 }, held: null, at: { x: 20, y: 5 }, checkpoint: null, shieldSeconds: 0 };
    const events = [{ what: 'meter', step: r, player: 1, meter: 'health', by: -25 }] as const;
    const document = scene({ salve }, { items: { jar: { name: 'jar' } }, placements: { s: { kind: 'salve', x: 20, y: 5 } } });
    expect(told(document, r, 2, [], { start, events: [...events] })).toEqual([
      '1 changed s health 18/18 → 48',
      `${r} outside meter`,
      `${r} changed - health -25/-25 → 23`,
    ]);
  });
});

test('a master tile moves to a clear place when taken, and one of three wanderers appears at another, at most two alive', () => {
  const wanderer = { ...kind(circle(0.5), arriving({})), drift: { speed: 2 } };
  const tile = {
    ...kind(
      circle(0.5),
      arriving(
        {
          a: meter('score', 'add', 640),
          b: { type: 'spawn', pool: { soot: 1, ash: 1, smoke: 1 }, at: { type: 'clear', distance: 4, margin: 1 }, most: 2 },
        },
        { becomes: { type: 'moves', distance: 6, margin: 1, atStart: true } },
      ),
    ),
    magnet: { reach: 60, giveUp: 100, speed: [[0, 30]] },
  };
  const document = scene({ tile, soot: wanderer, ash: wanderer, smoke: wanderer }, { placements: { t: { kind: 'tile', x: 2, y: 10 } } });
  const { lines } = play(document, runOf(60, 600, [[]]));
  const spawned = lines.filter(({ type }) => type === 'spawned');
  const relocated = lines.filter(({ type }) => type === 'relocated');
  expect(spawned).toHaveLength(2);
  expect(relocated.length).toBeGreaterThan(5);
  expect(lines.some((line) => line.type === 'nothing' && line.reason === 'spawn limit')).toBe(true);
  // The player stands at (2, 10); each place is clear of it, of the edge, and not the same again.
  for (const line of relocated) {
    if (line.type !== 'relocated') continue;
    expect(Math.hypot(line.x - 2, line.y - 10)).toBeGreaterThanOrEqual(6);
    expect(line.x >= 1.5 && line.x <= 58.5 && line.y >= 1.5 && line.y <= 18.5).toBe(true);
  }
  expect(new Set(relocated.map((line) => (line.type === 'relocated' ? line.x : 0))).size).toBe(relocated.length);
  expect(lines.some(({ type }) => type === 'crowded')).toBe(false);
  // A room too small: the clearest of 64 tries, with a line.
  const small = play(
    scene(
      { tile },
      {
        size: { width: 6, height: 6 },
        start: { x: 3, y: 3 },
        kinds: { tile: { ...tile, rules: { act: arriving({}, { becomes: { type: 'moves', distance: 20, atStart: true } }) } } },
        placements: { t: { kind: 'tile', x: 2, y: 2 } },
      },
    ),
    runOf(60, 5, [[]]),
  );
  expect(
    short(small.lines)
      .slice(0, 2)
      .map((line) => line.split(' ').slice(0, 2).join(' ')),
  ).toEqual(['0 relocated', '0 crowded']);
  // Another seed, other places; the same seed, the same.
  const places = (seed: number): string[] => short(play(document, runOf(60, 60, [[]], { seed })).lines);
  expect(places(1)).toEqual(places(1));
  expect(places(1)).not.toEqual(places(2));
});

test('where two sessions part: the second of a recording, and the first step and field', () => {
  const basin = (amount: number) =>
    level({
      kinds: { b: kind(circle(1), arriving({ a: meter('score', 'add', amount) })) },
      placements: { p: { kind: 'b', x: 10.004, y: 10 } },
    });
  const run = runOf(60, 240, [keys(60, [4, 1])]);
  // Touched at x = 8.504: 4·t + 1, after 1.876 s, in step 113.
  expect(compareSessions(compile(basin(5)), compile(basin(6)), run)).toEqual({
    step: 113,
    seconds: 113 / 60,
    field: 'players/0/meters/score',
    a: 5,
    b: 6,
  });
  expect(compareSessions(compile(basin(5)), compile(basin(5)), run)).toBeNull();
  const recorded = withMarks(compile(basin(5)), run);
  expect(simulate(compile(basin(5)), recorded).partsAtSeconds).toBeNull();
  expect(simulate(compile(basin(6)), recorded).partsAtSeconds).toBe(1);
  expect(momentAt(compile(basin(5)), run, simulate(compile(basin(5)), run), 113).players[0]!.meters['score']).toBe(5);
});
