import { SHIPPED_PERSONAS, type Level } from '../../level/index.ts';
import { compile } from '../../session/index.ts';
import { box, circle, kind, level } from '../../testing/levels.ts';
import { outcomeOfRun, playPersonas } from '../index.ts';

type Parts = Record<string, unknown>;

const arriving = (effect: Parts, more: Parts = {}): Parts => ({ setOffBy: { type: 'arriving' }, effects: { effect }, ...more });
const movement = (of: string, value: number, lasts: Parts): Parts => ({ type: 'movement', of, change: 'multiply', value, lasts });
const FIVE_SECONDS = { type: 'for', seconds: 5 };
const SPENT = { becomes: { type: 'spent' } };

/** What bars the way: solid while ready, but for what is said; it lets through when it has rested off, or is spent. */
function bar(height: number, rule: Parts | null, more: Parts = {}): Parts {
  const open = { shown: 'faint', solid: false, sensing: false, flourish: null };
  const made = kind(box(0.6, height), rule ?? {}, { solid: { width: 0.6, height, x: 0, y: 0 }, phases: { resting: open }, ...more });
  return rule === null ? { ...made, rules: {} } : made;
}

const key = kind(circle(0.4), arriving({ type: 'item', item: 'key', count: 1, atLimit: 'refuse' }, SPENT));
const withKey = { provided: { key: { type: 'item', item: 'key', is: 'at least', value: 1 } }, ...SPENT };
const door = (height: number): Parts => bar(height, arriving({ type: 'item', item: 'key', count: -1 }, withKey));
const gate = (height: number, becomes: Parts): Parts =>
  bar(height, { setOffBy: { type: 'notice', notice: 'open' }, effects: { effect: { type: 'notice', notice: 'opened' } }, ...becomes });
const plate = kind(circle(0.6), arriving({ type: 'notice', notice: 'open' }));
const sender = kind(circle(0.6), arriving({ type: 'move', to: { type: 'point', point: 'far' } }));
const pad = (effect: Parts, more: Parts = {}): Parts => kind(box(1.5, 0.4), arriving(effect, more));
const up = (strength: number): Parts => ({ type: 'launch', direction: { type: 'fixed', degrees: 90 }, strength });
const inside = (effect: Parts): Parts => ({ setOffBy: { type: 'inside' }, effects: { effect } });

const fire = kind(box(1, 4), arriving({ type: 'kill', blockable: true }));
const shield = kind(circle(0.5), arriving({ type: 'shield', seconds: 6 }, { becomes: { type: 'rests', seconds: 8 } }));
const spawn = { type: 'spawn', pool: { key: 1 }, at: { type: 'here' }, most: 1 };
const bringer = kind(circle(0.6), { setOffBy: { type: 'every', seconds: 4 }, effects: { spawn } });

const common = { personas: SHIPPED_PERSONAS, items: { key: { name: 'key', most: 9 } } };
const reach = (x: number, y: number): Parts => ({
  points: { goal: { name: 'goal', x, y }, far: { name: 'far', x: 18, y: 3 } },
  ends: { goals: { goal: { type: 'reach', point: 'goal', within: 1 } } },
});

/** Seen from above, a wall with a gap; the goal lies behind it. */
function above(kinds: Parts, placements: Parts, more: Parts = {}): Level {
  const wall = { x: 14, width: 0.6, height: 4 };
  return level({
    ...common,
    ...reach(22, 6),
    size: { width: 24, height: 12 },
    body: { radius: 0.35, speed: 4.5, acceleration: 40, braking: 60 },
    start: { x: 2, y: 6 },
    solids: { low: { ...wall, y: 0 }, high: { ...wall, y: 8 } },
    kinds,
    placements,
    ...more,
  });
}

/** Seen from the side, a floor, and the goal at its end, or on a ledge that is too high to be jumped on. */
function beside(to: 'floor' | 'ledge', kinds: Parts, placements: Parts, more: Parts = {}): Level {
  const solids = {
    floor: { x: 0, y: 0, width: 24, height: 1 },
    ...(to === 'ledge' ? { ledge: { x: 14, y: 4.2, width: 6, height: 0.5 } } : {}),
  };
  return level({
    ...common,
    ...(to === 'ledge' ? reach(17, 5.35) : reach(21, 1.65)),
    view: 'side',
    size: { width: 24, height: 24 },
    body: { radius: 0.35, width: 0.7, height: 1.3, speed: 5, acceleration: 45, braking: 60, jumpSpeed: 13, gravity: 36, airControl: 0.75 },
    start: { x: 2, y: 1.65 },
    solids,
    kinds,
    placements,
    ...more,
  });
}

const at = (of: string, x: number, y: number): Parts => ({ kind: of, x, y });
const USED = { setOffBy: { type: 'use' }, windUp: { seconds: 0.7, ifLeft: 'kept' } };

/** Seen from the side, a pit that kills, so wide, and the goal beyond it. */
function pitted(kinds: Parts, placements: Parts, width: number): Level {
  const pit = kind(box(width, 0.6), arriving({ type: 'kill' }));
  return beside(
    'floor',
    { pit, ...kinds },
    { pit: at('pit', 6 + width / 2, 0.3), ...placements },
    {
      ...reach(21, 4.25),
      start: { x: 2, y: 4.25 },
      death: { returns: 'always' },
      solids: { near: { x: 0, y: 0, width: 6, height: 3.6 }, far: { x: 6 + width, y: 0, width: 18 - width, height: 3.6 } },
    },
  );
}
const RESTS = { becomes: { type: 'rests', seconds: 4 } };

test.each([
  ['a door whose key lies aside', above({ door: door(4), key }, { door: at('door', 14.3, 6), key: at('key', 6, 9) })],
  [
    'a door whose key has first to be found',
    above({ door: door(4), key }, { door: at('door', 14.3, 6), key: at('key', 1, 0.6) }, { start: { x: 12, y: 10 } }),
  ],
  [
    'a gate that a plate opens for a while',
    above({ gate: gate(4, RESTS), plate }, { gate: at('gate', 14.3, 6), plate: at('plate', 8, 10) }),
  ],
  [
    'a gate that comes and goes by a clock',
    above({ gate: bar(4, null, { cycle: { on: 3, off: 2, offset: 0 } }) }, { gate: at('gate', 14.3, 6) }),
  ],
  [
    'a wall, and what sends one behind it',
    above({ sender }, { sender: at('sender', 6, 9) }, { solids: { wall: { x: 14, y: 0, width: 0.6, height: 12 } } }),
  ],
  ['a fire, with what shields from it', above({ fire, shield }, { fire: at('fire', 14.3, 6), shield: at('shield', 8, 9) })],
  [
    'a door whose key is brought forth after a while',
    above({ door: door(4), key, bringer }, { door: at('door', 14.3, 6), bringer: at('bringer', 6, 9) }),
  ],
  ['a door across the floor', beside('floor', { door: door(6), key }, { door: at('door', 14, 4), key: at('key', 8, 1.6) })],
  [
    'a door across the floor that is used',
    beside(
      'floor',
      { door: bar(6, { setOffBy: { type: 'use', reach: 2.6 }, effects: { effect: { type: 'notice', notice: 'opened' } }, ...SPENT }) },
      { door: at('door', 12, 4) },
    ),
  ],
  [
    'a gate across the floor, by a clock',
    beside('floor', { gate: bar(6, null, { cycle: { on: 3, off: 2, offset: 0 } }) }, { gate: at('gate', 12, 4) }),
  ],
  ['a ledge, and what throws who comes from above', beside('ledge', { pad: pad(up(20), { side: ['top'] }) }, { pad: at('pad', 12, 1.2) })],
  [
    'a ledge, and a draught that carries up',
    beside(
      'ledge',
      { draught: kind(box(2, 6), inside({ type: 'push', as: 'acceleration', degrees: 90, strength: 60 })) },
      { draught: at('draught', 12, 4) },
    ),
  ],
  [
    'a ledge, and a draught that carries up whoever jumps in it',
    beside(
      'ledge',
      { draught: kind(box(2, 6), inside({ type: 'push', as: 'acceleration', degrees: 90, strength: 25 })) },
      { draught: at('draught', 12.6, 4) },
    ),
  ],
  ['a ledge, and what throws at the use key, a moment later', beside('ledge', { pad: pad(up(20), USED) }, { pad: at('pad', 12, 1.2) })],
  [
    'a pit too wide to leap, and what throws one over it at the use key',
    pitted(
      { pad: pad({ ...up(22), direction: { type: 'fixed', degrees: 50 } }, { setOffBy: { type: 'use' } }) },
      { pad: at('pad', 5, 3.8) },
      5.2,
    ),
  ],
  [
    'a ledge, and a place where one is light',
    beside('ledge', { light: kind(box(6, 7), arriving(movement('gravity', 0.4, { type: 'while' }))) }, { light: at('light', 11, 4) }),
  ],
  [
    'a ledge, and what lets one jump higher for a while',
    beside('ledge', { pad: pad(movement('jump', 1.6, FIVE_SECONDS)) }, { pad: at('pad', 5, 1.2) }, { start: { x: 10, y: 1.65 } }),
  ],
  [
    'a ledge, and something to carry that does',
    beside(
      'ledge',
      { key },
      { key: at('key', 21, 1.6) },
      {
        items: {
          key: {
            name: 'boots',
            most: 1,
            rules: { go: { setOffBy: 'carried', effects: { effect: movement('jump', 1.6, { type: 'while' }) } } },
          },
        },
      },
    ),
  ],
])('personas find their way past %s', (_name, document) => {
  const compiled = compile(document);
  const ends = ['steady', 'newcomer'].flatMap((id) =>
    [1, 2, 3, 4].map(
      (seed) => outcomeOfRun(compiled, playPersonas(compiled, [document.personas[id]!], { seed, seconds: 60 }).run).ended.how,
    ),
  );
  expect(ends.filter((how) => how !== 'won')).toEqual([]);
});

test.each([
  ['one after the other', 5, 2, [0, 1.5, 3]],
  ['at once', 4, 1.5, [0, 0, 0]],
  ['against the way', 3, 1.5, [0, 1, 2]],
])('platforms that come and go by clocks, %s, are gone over when all are there in turn', (_name, on, off, offsets) => {
  const solid = { width: 2, height: 0.4, x: 0, y: 0, sides: ['top'] };
  const stepping = (offset: number): Parts => ({ ...bar(1, null, { cycle: { on, off, offset } }), shapes: {}, solid });
  const kinds = Object.fromEntries(offsets.map((offset, place) => [`stepping${String(place)}`, stepping(offset)]));
  const placements = Object.fromEntries(Object.keys(kinds).map((of, place) => [of, at(of, 9 + 3 * place, 3.4)]));
  const document = pitted(kinds, placements, 12);
  const compiled = compile(document);
  const outcomes = ['steady', 'greedy'].flatMap((id) =>
    [1, 2, 3, 4].map((seed) => outcomeOfRun(compiled, playPersonas(compiled, [document.personas[id]!], { seed, seconds: 60 }).run)),
  );
  expect(outcomes.filter(({ ended }) => ended.how !== 'won')).toEqual([]);
  expect(outcomes.reduce((sum, { players }) => sum + players[0]!.deaths, 0)).toBeLessThanOrEqual(1);
});

test('what rests is used again, by a key that was let go', () => {
  const mends = { type: 'meter', meter: 'health', change: 'add', amount: 40 };
  const spring = kind(circle(0.6), arriving(mends, { setOffBy: { type: 'use' }, becomes: { type: 'rests', seconds: 2 } }));
  const document = above(
    { spring },
    { spring: at('spring', 6, 6) },
    {
      meters: { health: { name: 'health', lower: 0, upper: 100, start: 10 }, score: { name: 'score', lower: 0, upper: null, start: 0 } },
    },
  );
  const compiled = compile(document);
  const patient = { ...document.personas['steady']!, healsBelow: 0.8, patience: 5 };
  const { ended, perPlacement } = outcomeOfRun(compiled, playPersonas(compiled, [patient], { seed: 1, seconds: 30 }).run);
  const { uses, refusals } = perPlacement['spring']!;
  expect([ended.how, uses, refusals]).toEqual(['won', 2, 0]);
});

test('what kills by a clock is waited for also by the hasty, and what harms to death is not gone through for what one may do without', () => {
  const corridor = { low: { x: 0, y: 0, width: 24, height: 4 }, high: { x: 0, y: 8, width: 24, height: 4 } };
  const blaze = kind(box(1.6, 4), arriving({ type: 'kill' }), { cycle: { on: 1.5, off: 2, offset: 0 } });
  const places = { one: at('blaze', 9, 6), two: at('blaze', 15, 6) };
  const lethal = above({ blaze }, places, { solids: corridor, death: { returns: 'always' } });
  const vent = kind(box(3, 4), inside({ type: 'meter', meter: 'health', change: 'take', amount: 90 }));
  const spring = kind(circle(0.6), arriving({ type: 'meter', meter: 'health', change: 'add', amount: 90 }));
  const healing = above({ vent, spring }, { vent: at('vent', 9, 6), spring: at('spring', 4, 7) }, { solids: corridor });
  const deaths = (document: Level, id: string): number => {
    const compiled = compile(document);
    return [1, 2, 3, 4, 5, 6].reduce((sum, seed) => {
      const { ended, players } = outcomeOfRun(compiled, playPersonas(compiled, [document.personas[id]!], { seed, seconds: 60 }).run);
      expect(ended.how).toBe('won');
      return sum + players[0]!.deaths;
    }, 0);
  };
  expect(deaths(lethal, 'hasty')).toBeLessThanOrEqual(3);
  // It is through with little left, and does not go back to be healed.
  expect(deaths(healing, 'steady')).toBe(0);
});

test('a run-up that is timed late takes off all the same, and what kills is leapt over', () => {
  const spikes = kind(box(2, 0.5), arriving({ type: 'kill' }));
  const document = beside('floor', { spikes }, { spikes: at('spikes', 12, 1.2) }, { death: { returns: 'always' } });
  const compiled = compile(document);
  const late = { ...document.personas['steady']!, timingError: 0.03 };
  const outcomes = [1, 2, 3, 4, 5, 6].map((seed) => outcomeOfRun(compiled, playPersonas(compiled, [late], { seed, seconds: 60 }).run));
  expect(outcomes.map(({ ended }) => ended.how)).toEqual(Array.from({ length: 6 }, () => 'won'));
  // Who has once died of it leaps all the same.
  expect(Math.max(...outcomes.map(({ players }) => players[0]!.deaths))).toBeLessThanOrEqual(2);
});

test('a persona says that it goes for what may help where no way leads on', () => {
  const document = above({ door: door(4), key }, { door: at('door', 14.3, 6), key: at('key', 6, 9) });
  const { decisions } = playPersonas(compile(document), [document.personas['steady']!], { seed: 1, seconds: 60 });
  const said = decisions.map(({ what, placement }) => [what, placement]).filter(([what]) => what !== 'explore');
  expect(said).toEqual([
    ['help', 'key'],
    ['help', 'door'],
    ['goal', null],
  ]);
});

test('who finds nothing left to do in a hop comes down before it ends its session', () => {
  const boost = kind(circle(0.8), arriving(movement('speed', 1.5, FIVE_SECONDS)));
  const prize = kind(circle(0.4), arriving({ type: 'meter', meter: 'score', change: 'add', amount: 10 }));
  // The prize lies out of reach, whatever the boost may help.
  const placements = { boost: at('boost', 8, 3.4), prize: at('prize', 17, 7) };
  const compiled = compile(beside('ledge', { boost, prize }, placements, { ends: {}, points: {} }));
  for (const id of ['steady', 'hasty']) {
    const { endings, decisions, recording } = playPersonas(compiled, [compiled.level.personas[id]!], {
      seed: 1,
      seconds: 120,
      records: true,
    });
    expect([id, endings]).toEqual([id, ['nothing left to do']]);
    expect(decisions.filter(({ what }) => what === 'help')).toHaveLength(1);
    expect(recording!.y.at(-1)).toBeCloseTo(1.65, 2);
  }
});
