import fc from 'fast-check';
import type { Level } from '../level/index.ts';
import type { Run } from '../players/index.ts';
import { level, runOf } from './levels.ts';

/** Random levels and inputs: a few kinds with any rules, things that stand and travel, solids, any walking speed. */
/** Numbers of a thousandth's grain, a little off round ones so that things rarely just touch. */
const number = (min: number, max: number): fc.Arbitrary<number> =>
  fc.integer({ min: Math.ceil(min * 1000), max: Math.floor(max * 1000) - 1 }).map((value) => (value + 0.137) / 1000);

const place = fc.record({ x: number(0, 60), y: number(0, 20) });
const one = fc.constantFrom;
const maybe = <Value>(value: fc.Arbitrary<Value>): fc.Arbitrary<Value | null> => fc.option(value, { freq: 3 });
const named = <Value>(values: readonly Value[]): Record<string, Value> =>
  Object.fromEntries(values.map((value, index) => [`n${index}`, value]));

const circle = fc.record({ type: one('circle'), radius: number(0.1, 4) });
const box = fc.record({ type: one('box'), width: number(0.1, 8), height: number(0.1, 8), rotation: fc.integer({ min: -180, max: 180 }) });
const wedge = fc.record({
  type: one('polygon'),
  points: one([
    [-1, -0.7],
    [1.5, -0.5],
    [0.4, 1.2],
  ]),
  rotation: fc.integer({ min: -180, max: 180 }),
});

const seconds = one(0, 0.37, 1.3, 2.05);
const curve = fc.record({
  by: one('distance', 'time inside', 'wind-up'),
  points: one(
    [[0, 3]],
    [
      [0, 9],
      [1.5, 2],
    ],
  ),
});
const amount = fc.oneof(
  number(0.1, 40),
  one(0.25, 0.5).map((share) => ({ share })),
  curve,
);
const destination = fc.oneof(
  one({ type: 'start' }, { type: 'checkpoint' }, { type: 'point', point: 'here' }, { type: 'nearest', points: ['here', 'there'] }),
  one({ type: 'weighted', points: { here: 1, there: 2 } }, { type: 'clear', distance: 3, margin: 1 }),
);
const movement = (lasts: fc.Arbitrary<object>): fc.Arbitrary<object> =>
  fc.record({
    type: one('movement'),
    of: one('speed', 'control', 'acceleration', 'jump', 'gravity'),
    change: one('multiply', 'add', 'set'),
    value: one(0, 0.5, 1.8, 3),
    lasts,
    again: one('ignore', 'refresh', 'extend', 'stack'),
    most: one(1, 3),
  });
const timed = fc.oneof(
  seconds.map((time) => ({ type: 'for', seconds: time })),
  one({ type: 'until death' }),
);
const plainMeter = fc.record({
  type: one('meter'),
  meter: one('health', 'score', 'heat'),
  change: one('add', 'take', 'set'),
  amount: number(0.1, 40),
  blockable: fc.boolean(),
});
const effect = fc.oneof(
  { weight: 4, arbitrary: plainMeter },
  fc.record({ type: one('meter'), meter: one('health', 'heat'), change: one('add', 'take', 'set', 'fill'), amount }),
  fc.record({
    type: one('item'),
    item: one('jar', 'boots'),
    count: one(-1, 1, 2),
    atLimit: one('take what fits', 'refuse'),
    hold: fc.boolean(),
  }),
  { weight: 2, arbitrary: movement(timed) },
  fc.record({
    type: one('launch'),
    change: one('set', 'add'),
    direction: one({ type: 'fixed', degrees: 60 }, { type: 'away' }, { type: 'along' }),
    strength: fc.oneof(number(0, 20), curve),
  }),
  fc.record({ type: one('move'), to: destination, velocity: one('kept', 'zeroed'), grace: seconds, lock: seconds }),
  fc.record({ type: one('kill'), blockable: fc.boolean(), returnTo: maybe(destination) }),
  one({ type: 'checkpoint' }, { type: 'checkpoint', point: 'there' }, { type: 'lives', count: 1 }, { type: 'shield', seconds: 1.1 }),
  one({ type: 'notice', notice: 'bell' }, { type: 'notice', notice: 'gong' }, { type: 'flourish', flourish: 'ting' }),
  fc.record({
    type: one('spawn'),
    pool: one({ n0: 1 }, { n0: 1, n1: 3 }),
    at: one({ type: 'here' }, { type: 'point', point: 'here' }, { type: 'clear' }),
    most: one(1, 3),
  }),
);

const condition = fc.oneof(
  one(
    { type: 'below limit', meter: 'health' },
    { type: 'meter', meter: 'health', is: 'below', value: 50 },
    { type: 'share', meter: 'heat', is: 'at most', value: 0.5 },
  ),
  one({ type: 'item', item: 'jar', is: 'at least', value: 1 }, { type: 'held', item: 'boots' }, { type: 'ground' }),
  one(
    { type: 'movement', of: 'speed', present: false },
    { type: 'speed', is: 'above', value: 2 },
    { type: 'time', is: 'above', value: 0.8 },
  ),
  one({ type: 'times used', is: 'below', value: 2 }, { type: 'notice', notice: 'bell', posted: true }),
);

const becomes = fc.oneof(
  { weight: 3, arbitrary: one({ type: 'stays' }, { type: 'spent' }, { type: 'rests', seconds: 1.3 }, { type: 'rests', seconds: 0 }) },
  one({ type: 'off' }, { type: 'ready' }, { type: 'moves' }, { type: 'moves', atStart: true }),
);

const common = {
  who: one({ any: ['player'], none: [] }, { any: [], none: [] }, { any: ['rover'], none: ['player'] }),
  provided: fc.oneof({ weight: 3, arbitrary: one({}) }, fc.array(condition, { minLength: 1, maxLength: 2 }).map(named)),
  needs: one('all', 'any'),
  becomes,
  scope: one('placement', 'placement', 'player', 'kind'),
  uses: one(null, null, 2),
};
const effects = fc.array(effect, { minLength: 1, maxLength: 3 }).map(named);

const touchRule = fc.record({
  ...common,
  setOffBy: one(
    { type: 'arriving' },
    { type: 'arriving' },
    { type: 'leaving' },
    { type: 'inside', pulse: { every: 0.7 } },
    { type: 'use', reach: 3 },
  ),
  effects,
  side: one([], [], ['top'], ['left', 'right']),
  keepTrying: fc.boolean(),
  windUp: maybe(fc.record({ seconds, ifLeft: one('kept', 'dropped'), turn: maybe(one({ x: 1, y: 0, degrees: 80 })) })),
  active: one({ type: 'instant' }, { type: 'instant' }, { type: 'for', seconds: 0.8 }, { type: 'movement' }),
  hits: one('toucher', 'toucher', 'all inside'),
});
const rate = fc.record({
  ...common,
  setOffBy: one({ type: 'inside' }),
  effects: fc
    .array(
      fc.oneof(
        { weight: 3, arbitrary: plainMeter },
        movement(one({ type: 'while' })),
        fc.record({ type: one('push'), as: one('velocity', 'acceleration'), degrees: one(0, 200), strength: number(0, 9) }),
      ),
      { minLength: 1, maxLength: 3 },
    )
    .map(named),
});
const untouched = fc.record({
  ...common,
  setOffBy: one({ type: 'notice', notice: 'bell' }, { type: 'notice', notice: 'gong' }, { type: 'start' }, { type: 'every', seconds: 0.9 }),
  effects,
  hits: one('toucher', 'all inside'),
});
const rule = fc.oneof({ weight: 4, arbitrary: touchRule }, { weight: 2, arbitrary: rate }, untouched);

const look = fc.record({ shown: one('full'), solid: fc.boolean(), sensing: fc.boolean() });

const kind = fc.record({
  name: one('thing'),
  role: one('score'),
  mark: one('ring'),
  tags: one([], ['rover'], ['rover/small']),
  shapes: fc.array(fc.oneof(circle, box, wedge), { minLength: 1, maxLength: 2 }).map(named),
  rules: fc.array(rule, { minLength: 1, maxLength: 3 }).map(named),
  solid: maybe(fc.record({ width: number(0.5, 3), height: number(0.5, 3), sides: one(['top'], ['top', 'bottom', 'left', 'right']) })),
  carries: fc.boolean(),
  magnet: maybe(
    fc.record({
      reach: number(1, 6),
      latched: fc.boolean(),
      giveUp: number(6, 9),
      then: one('stays', 'goes home'),
      speed: one([
        [0, 2],
        [1, 7],
      ]),
      passesSolids: fc.boolean(),
      takenAt: one(null, 0.4),
    }),
  ),
  drift: maybe(fc.record({ speed: number(0, 6), degrees: one(null, 30, 200) })),
  cycle: maybe(one({ on: 0.8, off: 0.5, offset: 0.3 })),
  phases: fc.record({ resting: look, active: look, windingUp: look }),
});

const LIMITS = { lower: 0, upper: 100 };

const METERS = {
  health: { name: 'health', ...LIMITS, start: 100, regeneration: { perSecond: 2, pauseAfterLoss: 1 } },
  score: { name: 'score', lower: 0, upper: null, start: 0, whole: true, atLower: 'gong' },
  heat: { name: 'heat', ...LIMITS, start: 30, whole: true, atUpper: 'bell', regeneration: { perSecond: 3 } },
  lives: { name: 'lives', lower: 0, upper: 9, start: 2, whole: true },
};
const POINTS = { here: { name: 'here', x: 6.1, y: 9.3 }, there: { name: 'there', x: 30.2, y: 12.4 } };

interface Placed {
  readonly at: { readonly x: number; readonly y: number };
  readonly kind: number;
  readonly moves: boolean;
  readonly starts: string;
}

const placedOn = (kindCount: number, list: readonly Placed[]) => ({
  placements: named(
    list.map(({ at, kind: index, moves, starts }) => ({
      kind: `n${index % kindCount}`,
      ...at,
      starts: { type: starts },
      travel: moves ? { path: 'way', startOffset: at.x / 7 } : null,
    })),
  ),
});

export const anyLevel = fc
  .record({
    view: one('top', 'top', 'side'),
    kinds: fc.array(kind, { minLength: 2, maxLength: 4 }),
    placements: fc.array(fc.record({ at: place, kind: fc.nat(3), moves: fc.boolean(), starts: one('ready', 'ready', 'off') }), {
      maxLength: 12,
    }),
    solids: fc.array(
      fc.record({ at: place, width: number(0.1, 9), height: number(0.1, 9), sides: one(['top'], ['top', 'bottom', 'left', 'right']) }),
      {
        maxLength: 4,
      },
    ),
    speed: number(0, 400),
    stops: fc.array(place, { minLength: 2, maxLength: 5 }),
    players: fc.record({ count: one(1, 1, 2), sharedScore: fc.boolean() }),
    death: fc.record({
      returns: one('never', 'while lives last', 'always'),
      pause: seconds,
      returnTo: destination,
      grace: seconds,
      lock: seconds,
      items: one('kept', 'lost', 'halved'),
      score: one('kept', 'lost', 'halved'),
      resets: one([], ['n0']),
      squeezed: one('waits', 'killed', 'left in'),
    }),
    itemMovement: movement(one({ type: 'while' })),
  })
  .map(({ kinds, placements, solids, speed, stops, itemMovement, ...rest }): Level =>
    level({
      ...rest,
      body: { radius: 0.5, speed, acceleration: 50, braking: 80 },
      start: { x: 2, y: 10 },
      meters: METERS,
      items: {
        jar: {
          name: 'jar',
          most: 3,
          dropsAs: 'n0',
          holdable: true,
          rules: { gulp: { setOffBy: 'use', spends: 1, effects: { m: { type: 'meter', meter: 'health', change: 'add', amount: 7 } } } },
        },
        boots: {
          name: 'boots',
          holdable: true,
          start: 1,
          rules: {
            quick: { setOffBy: 'held', effects: { m: itemMovement, h: { type: 'meter', meter: 'heat', change: 'add', amount: 3.3 } } },
          },
        },
      },
      points: POINTS,
      flourishes: { ting: { name: 'ting' } },
      kinds: named(kinds),
      ...placedOn(kinds.length, placements),
      solids: named(solids.map(({ at, ...size }) => ({ ...at, ...size }))),
      paths: { way: { name: 'way', speed: 3, round: 'back and forth', wayPoints: [{ x: 1, y: 1, pause: 1 }, ...stops] } },
    }),
  );

/** What the plain stepper knows of: see there. */
const plainEffect = fc.oneof(
  { weight: 4, arbitrary: plainMeter },
  fc.record({ type: one('meter'), meter: one('health', 'heat'), change: one('take', 'fill'), amount: one({ share: 0.25 }) }),
  fc.record({ type: one('item'), item: one('jar'), count: one(-1, 1, 2), atLimit: one('take what fits', 'refuse') }),
  { weight: 2, arbitrary: movement(timed) },
  fc.record({
    type: one('move'),
    to: one({ type: 'start' }, { type: 'checkpoint' }, { type: 'point', point: 'here' }),
    velocity: one('kept', 'zeroed'),
    grace: seconds,
    lock: seconds,
  }),
  one({ type: 'kill' }, { type: 'kill', blockable: true }, { type: 'checkpoint' }, { type: 'checkpoint', point: 'there' }),
  one({ type: 'shield', seconds: 1.1 }, { type: 'notice', notice: 'bell' }, { type: 'notice', notice: 'gong' }),
  fc.record({
    type: one('launch'),
    change: one('set', 'add'),
    direction: one({ type: 'fixed', degrees: 200 }, { type: 'away' }, { type: 'along' }),
    strength: number(0, 9),
  }),
);
const plainPush = fc.record({ type: one('push'), as: one('velocity', 'acceleration'), degrees: one(0, 75, 190), strength: number(0, 8) });
const plainCondition = fc.oneof(
  one({ type: 'below limit', meter: 'health' }, { type: 'meter', meter: 'health', is: 'below', value: 50 }),
  one({ type: 'share', meter: 'heat', is: 'at most', value: 0.5 }, { type: 'item', item: 'jar', is: 'at least', value: 1 }),
  one(
    { type: 'movement', of: 'speed', present: false },
    { type: 'speed', is: 'above', value: 2 },
    { type: 'time', is: 'above', value: 0.8 },
  ),
  one({ type: 'times used', is: 'below', value: 2 }, { type: 'notice', notice: 'bell', posted: true }),
);
const plainCommon = {
  ...common,
  provided: fc.oneof({ weight: 3, arbitrary: one({}) }, fc.array(plainCondition, { minLength: 1, maxLength: 2 }).map(named)),
  becomes: one(
    { type: 'stays' },
    { type: 'stays' },
    { type: 'spent' },
    { type: 'rests', seconds: 0.6 },
    { type: 'rests', seconds: 0 },
    { type: 'off' },
    { type: 'ready' },
  ),
};
const plainEffects = fc.array(plainEffect, { minLength: 1, maxLength: 3 }).map(named);
const plainRule = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({
      ...plainCommon,
      setOffBy: one(
        { type: 'arriving' },
        { type: 'arriving' },
        { type: 'leaving' },
        { type: 'inside', pulse: { every: 0.31 } },
        { type: 'use', reach: 9 },
      ),
      effects: plainEffects,
      keepTrying: fc.boolean(),
      windUp: maybe(fc.record({ seconds, ifLeft: one('kept', 'dropped') })),
      active: one({ type: 'instant' }, { type: 'instant' }, { type: 'for', seconds: 0.8 }, { type: 'movement' }),
      hits: one('toucher', 'toucher', 'all inside'),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      ...plainCommon,
      setOffBy: one({ type: 'inside' }),
      effects: fc.array(fc.oneof(plainMeter, movement(one({ type: 'while' })), plainPush), { minLength: 1, maxLength: 3 }).map(named),
    }),
  },
  fc.record({
    ...plainCommon,
    setOffBy: one(
      { type: 'notice', notice: 'bell' },
      { type: 'notice', notice: 'gong' },
      { type: 'start' },
      { type: 'every', seconds: 0.47 },
    ),
    effects: plainEffects,
    hits: one('toucher', 'all inside'),
  }),
);

const plainMagnet = fc.record({
  reach: number(1, 6),
  latched: fc.boolean(),
  giveUp: number(2, 9),
  then: one('stays', 'goes home'),
  speed: one(
    [
      [0, 2],
      [0.4, 7],
    ],
    [[0, 3]],
  ),
  passesSolids: one(true),
});

export const plainLevel = fc
  .record({
    kinds: fc.array(
      fc.record({
        name: one('thing'),
        role: one('score'),
        mark: one('ring'),
        tags: one([], ['rover'], ['rover/small']),
        shapes: fc.array(fc.oneof(circle, box, wedge), { minLength: 1, maxLength: 2 }).map(named),
        rules: fc.array(plainRule, { minLength: 1, maxLength: 3 }).map(named),
        cycle: maybe(one({ on: 0.8, off: 0.5, offset: 0.3 })),
        magnet: fc.oneof({ weight: 3, arbitrary: one(null) }, plainMagnet),
        phases: fc.record({ resting: look, active: look, windingUp: look }),
      }),
      { minLength: 1, maxLength: 4 },
    ),
    placements: fc.array(
      fc.record({
        at: fc.record({ x: number(0, 16), y: number(3, 17) }),
        kind: fc.nat(3),
        moves: fc.boolean(),
        starts: one('ready', 'ready', 'off'),
      }),
      { maxLength: 8 },
    ),
    solids: fc.array(fc.record({ at: place, width: number(0.1, 9), height: number(0.1, 9) }), { maxLength: 3 }),
    speed: fc.oneof(number(2, 12), number(0, 400)),
    stops: fc.array(place, { minLength: 2, maxLength: 5 }),
    players: one({ count: 1 }, { count: 2 }, { count: 2, starts: ['there', 'here'] }),
    death: fc.record({
      returns: one('never', 'while lives last', 'always'),
      pause: seconds,
      returnTo: one({ type: 'start' }, { type: 'checkpoint' }, { type: 'point', point: 'here' }),
      grace: seconds,
      lock: seconds,
    }),
  })
  .map(({ kinds, placements, solids, speed, stops, death, players }): Level =>
    level({
      death,
      players,
      body: { radius: 0.5, speed, acceleration: 50, braking: 80 },
      start: { x: 2, y: 10 },
      meters: METERS,
      items: { jar: { name: 'jar', most: 3 } },
      points: POINTS,
      kinds: named(kinds),
      ...placedOn(kinds.length, placements),
      solids: named(solids.map(({ at, ...size }) => ({ ...at, ...size }))),
      paths: { way: { name: 'way', speed: 3, round: 'back and forth', wayPoints: [{ x: 1, y: 1, pause: 1 }, ...stops] } },
    }),
  );

const keys = fc.record({ x: fc.integer({ min: -1, max: 1 }), y: fc.integer({ min: -1, max: 1 }), buttons: fc.nat(31), tapped: fc.nat(31) });
const pieces = fc.array(fc.tuple(fc.integer({ min: 3, max: 120 }), keys), { minLength: 1, maxLength: 8 });

const outside = fc.tuple(
  fc.integer({ min: 1, max: 140 }),
  fc.integer({ min: 1, max: 2 }),
  one(
    { what: 'meter', meter: 'health', by: -60 },
    { what: 'meter', meter: 'heat', by: 12.5 },
    { what: 'item', item: 'jar', by: 2 },
    { what: 'notice', notice: 'gong' },
    { what: 'leave' },
    { what: 'join' },
  ),
);

export const anyRun = fc
  .record({ players: fc.array(pieces, { minLength: 2, maxLength: 2 }), seed: fc.nat(9), happens: fc.array(outside, { maxLength: 4 }) })
  .map(({ players, seed, happens: some }): Run => {
    const happens = some.map(([step, player, what]) => ({ ...what, step, player }));
    let steps = 1;
    const changes = players.map((list) => {
      let step = 1;
      return list.map(([length, { x, y, buttons, tapped }]): [number, number, number, number, number] => {
        const at = step;
        step += length;
        steps = Math.max(steps, step);
        return [at, x * 127, y * 127, buttons, tapped];
      });
    });
    const events = [
      { what: 'meter', step: 20, player: 1, meter: 'health', by: -25 },
      { what: 'leave', step: 60, player: 2 },
      { what: 'join', step: 90, player: 2 },
      { what: 'notice', step: 100, player: 1, notice: 'bell' },
      ...happens,
    ].sort((a, b) => a.step - b.step) as Run['events'];
    return runOf(60, steps - 1, changes, { seed, events });
  });
