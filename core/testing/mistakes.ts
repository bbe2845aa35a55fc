import { box, circle, kind, level, meterEffect, shard, vent } from './levels.ts';
import type { Level } from '../level/index.ts';

type Parts = Record<string, unknown>;

/** A level that has a mistake, and one that nearly has it and does not; the first as it stands in the docs. */
export interface Example {
  readonly has: Parts;
  readonly nearly: Parts;
}

const place = (kindId: string, x = 10, y = 10, more: Parts = {}): Parts => ({ kind: kindId, x, y, ...more });
const METERS: Parts = {
  health: { name: 'health', lower: 0, upper: 100, start: 100 },
  score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
};
const meters = (more: Parts): Parts => ({ ...METERS, ...more });
/** A level with one kind, placed once. */
const one = (made: Parts, more: Parts = {}): Parts => ({ kinds: { thing: made }, placements: { one: place('thing') }, ...more });
const two = (made: Parts, more: Parts = {}): Parts => ({
  kinds: { thing: made },
  placements: { one: place('thing'), two: place('thing', 20) },
  ...more,
});
const touch = (rule: Parts, more: Parts = {}): Parts =>
  kind(circle(0.5), { setOffBy: { type: 'arriving' }, effects: meterEffect('score', 'add', 15), ...rule }, more);
const condition = (asked: Parts): Parts => touch({ provided: { asked } });
const rover = { ...kind(circle(0.5), { setOffBy: { type: 'start' }, effects: {} }), name: 'rover', tags: ['rover'] };
const rails = {
  paths: {
    rails: {
      name: 'rails',
      speed: 2,
      round: 'back and forth',
      wayPoints: [
        { x: 5, y: 15 },
        { x: 25, y: 15 },
      ],
    },
  },
};

const spend = { becomes: { type: 'spent' } };
const take = (meter: string, amount: number): Parts => ({ effects: meterEffect(meter, 'take', amount) });
const add = (meter: string, amount: number): Parts => ({ effects: meterEffect(meter, 'add', amount) });
const wall = (x: number, y: number, width: number, height: number): Parts => ({ x, y, width, height });
const boost = (seconds: number): Parts => ({
  effects: { pace: { type: 'movement', of: 'speed', change: 'multiply', value: 1.8, lasts: { type: 'for', seconds } } },
});
const slow = (change: string, value: number): Parts => ({
  effects: { pace: { type: 'movement', of: 'speed', change, value, lasts: { type: 'for', seconds: 2 } } },
});
const inPips = (upper: number): Parts => ({
  meters: meters({ health: { name: 'health', lower: 0, upper, start: upper } }),
  readouts: { health: { type: 'meter', meter: 'health', as: 'pips' } },
});
const phases = (phase: string, look: Parts): Parts => ({ phases: { [phase]: { shown: 'full', solid: true, sensing: true, ...look } } });
const block = { solid: { width: 1, height: 1 } };
const cell = [wall(20, 5, 10, 1), wall(20, 14, 10, 1), wall(20, 6, 1, 8), wall(29, 6, 1, 8)];
const room = (walls: readonly Parts[]): Parts => ({
  solids: Object.fromEntries(walls.map((one_, at) => [`wall${String(at)}`, one_])),
  placements: { one: place('thing', 25, 10) },
});
const back = { death: { returns: 'always', returnTo: { type: 'point', point: 'post' } } };
const post = (x: number, y: number): Parts => ({ points: { post: { name: 'post', x, y } } });
const zone = (returnTo: Parts | null): Parts =>
  kind(box(4, 4), { setOffBy: { type: 'arriving' }, effects: { kill: { type: 'kill', returnTo } } });
const hears = (notice: string, posts: string): Parts => ({
  setOffBy: { type: 'notice', notice },
  effects: { tell: { type: 'notice', notice: posts } },
});
const jar = { items: { jar: { name: 'jar', most: 3 } } };
const gives = (count: number): Parts => touch({ effects: { jar: { type: 'item', item: 'jar', count } }, ...spend });
const goal = (it: Parts): Parts => ({ ends: { goals: { it } } });
const still = kind(circle(0.5), { setOffBy: { type: 'arriving' }, effects: {} });
const setter = (value: number): Parts =>
  kind(box(4, 4), {
    setOffBy: { type: 'inside' },
    effects: { pace: { type: 'movement', of: 'speed', change: 'set', value, lasts: { type: 'while' } } },
  });

const pair = { players: { count: 2, tags: [['left'], ['right']] } };
const lever = (reach: number): Parts =>
  kind(circle(0.5), { setOffBy: { type: 'use', reach }, ...add('score', 5) }, { solid: { width: 2, height: 2 } });
const thrower = kind(circle(0.5), {
  setOffBy: { type: 'arriving' },
  effects: { throws: { type: 'launch', direction: { type: 'fixed', degrees: 0 }, strength: 12 } },
});
const hurts = kind(circle(1), { setOffBy: { type: 'arriving' }, ...take('health', 60) });
const heals = kind(circle(1), {
  setOffBy: { type: 'arriving' },
  provided: { hurt: { type: 'below limit', meter: 'health' } },
  ...add('health', 18),
});
const onBell = (change: 'add' | 'set' | 'take', amount: number): Parts =>
  kind(circle(1), { setOffBy: { type: 'notice', notice: 'bell' }, effects: meterEffect('health', change, amount) });
/** A path of two units about the start, and back there from death. */
const shuttle = (y: number): Parts => ({
  paths: {
    rails: {
      name: 'rails',
      speed: 4,
      round: 'back and forth',
      wayPoints: [
        { x: 1, y },
        { x: 3, y },
      ],
    },
  },
  death: { returns: 'always', grace: 0.5 },
});
/** A door to a checkpoint within walls; the goal is without. */
const cellar = (walls: readonly Parts[]): Parts => ({
  ...room(walls),
  kinds: {
    thing: touch({ effects: { here: { type: 'checkpoint', point: 'post' }, go: { type: 'move', to: { type: 'point', point: 'post' } } } }),
  },
  placements: { one: place('thing') },
  points: { post: { name: 'post', x: 25, y: 10 }, exit: { name: 'exit', x: 50, y: 10 } },
  death: { returns: 'always', returnTo: { type: 'checkpoint' } },
  ...goal({ type: 'reach', point: 'exit', within: 1 }),
});

/** An example for each sort of mistake. */
export const EXAMPLES: Readonly<Record<string, Example>> = {
  'tag-nobody-bears': { has: one(touch({ who: { any: ['plaier'] } })), nearly: one(touch({ who: { any: ['plaier', 'player'] } })) },
  'not-accepted': {
    has: one(touch({}, { tags: ['tile'] }), { body: { radius: 0.5, speed: 4, acceleration: 8, braking: 8, accepts: ['jar'] } }),
    nearly: one(touch({}, { tags: ['jar/glaze'] }), { body: { radius: 0.5, speed: 4, acceleration: 8, braking: 8, accepts: ['jar'] } }),
  },
  'taken-by-others': {
    has: {
      kinds: { thing: touch({ who: { any: [] }, ...spend }), rover },
      placements: { one: place('thing'), cart: place('rover', 5, 15, { travel: { path: 'rails' } }) },
      ...rails,
    },
    nearly: {
      kinds: { thing: touch(spend), rover },
      placements: { one: place('thing'), cart: place('rover', 5, 15, { travel: { path: 'rails' } }) },
      ...rails,
    },
  },
  'never-senses': {
    has: one(touch({}, phases('ready', { sensing: false }))),
    nearly: one(touch({ ...spend }, phases('spent', { shown: 'hidden', sensing: false, solid: false }))),
  },
  'thing-outside': {
    has: { kinds: { thing: touch({}) }, placements: { one: place('thing', 70, 10) } },
    nearly: { kinds: { thing: touch({}) }, placements: { one: place('thing', 60.3, 10) } },
  },
  'thing-in-solid': {
    has: one(touch({}), { solids: { rock: wall(8, 8, 4, 4) } }),
    // Turned by 45° a box of 2.4 u reaches 1.7 u to each side, out of a solid of 3.2 u.
    nearly: one(kind({ body: { type: 'box', width: 2.4, height: 2.4, rotation: 45 } }, { setOffBy: { type: 'arriving' } }), {
      solids: { rock: wall(8.4, 8.4, 3.2, 3.2) },
    }),
  },
  'covered-by-solid': {
    has: one(touch({}, { solid: { width: 1.2, height: 1.2 } })),
    nearly: one(touch({}, { solid: { width: 1, height: 1 } })),
  },
  'never-holds': {
    has: one(condition({ type: 'item', item: 'jar', is: 'at least', value: 2 }), { items: { jar: { name: 'jar', start: 1 } } }),
    nearly: one(condition({ type: 'item', item: 'jar', is: 'at least', value: 1 }), {
      items: { jar: { name: 'jar', start: 1, dropsAs: 'thing' } },
    }),
  },
  'always-holds': {
    has: one(condition({ type: 'meter', meter: 'health', is: 'at least', value: 50 })),
    nearly: two(touch({ ...take('health', 5), provided: { asked: { type: 'meter', meter: 'health', is: 'at least', value: 50 } } })),
  },
  'out-of-reach': {
    has: { kinds: { thing: touch({}) }, ...room(cell) },
    nearly: { kinds: { thing: touch({}) }, ...room(cell.slice(1)) },
  },
  'taken-by-another': {
    has: one(touch({}, { tags: ['left'] }), pair),
    nearly: one(touch({ who: { any: ['left'] } }, { tags: ['left'] }), pair),
  },
  'use-kept-off': { has: one(lever(1.4), {}), nearly: one(lever(1.5), {}) },
  'side-shut-off': {
    has: one(kind(box(2, 2), { setOffBy: { type: 'arriving' }, side: ['left'], ...add('score', 5) }), {
      solids: { rock: wall(6, 5, 3, 10) },
    }),
    nearly: one(kind(box(2, 2), { setOffBy: { type: 'arriving' }, side: ['left'], ...add('score', 5) }), {
      solids: { rock: wall(6, 5, 2, 10) },
    }),
  },
  'never-ready-again': {
    has: one(touch({ becomes: { type: 'off' } })),
    nearly: one({ ...touch({ becomes: { type: 'off' } }), cycle: { on: 3, off: 2 } }),
  },
  'hidden-but-solid': {
    has: one(touch(spend, { ...block, ...phases('spent', { shown: 'hidden', sensing: false }) })),
    nearly: one(touch({}, { ...block, ...phases('spent', { shown: 'hidden', sensing: false }) })),
  },
  'shown-not-solid': {
    has: one(touch({ becomes: { type: 'rests', seconds: 3 } }, { ...block, ...phases('resting', { solid: false, sensing: false }) })),
    nearly: one(
      touch(
        { becomes: { type: 'rests', seconds: 3 } },
        { ...block, ...phases('resting', { shown: 'faint', solid: false, sensing: false }) },
      ),
    ),
  },
  'senses-while-hidden': {
    has: one(touch({ becomes: { type: 'rests', seconds: 3 } }, phases('resting', { shown: 'hidden' }))),
    nearly: one(touch({ becomes: { type: 'rests', seconds: 3 } }, phases('resting', { shown: 'hidden', sensing: false }))),
  },
  'wind-up-too-long': {
    // Through 1 u and the player's own 1 u at 4 u/s: half a second.
    has: one(touch({ ...take('health', 9), windUp: { seconds: 0.6, ifLeft: 'dropped' } })),
    nearly: one(touch({ ...take('health', 9), windUp: { seconds: 0.5, ifLeft: 'dropped' } })),
  },
  'cycle-too-short': {
    has: one({ ...touch({}), cycle: { on: 0.01, off: 2 } }),
    nearly: one({ ...touch({}), cycle: { on: 0.02, off: 2 } }),
  },
  'rest-together': {
    has: two(touch({ becomes: { type: 'rests', seconds: 3 }, scope: 'kind' })),
    nearly: one(touch({ becomes: { type: 'rests', seconds: 3 }, scope: 'kind' })),
  },
  'starts-too-late': {
    has: {
      kinds: { thing: shard },
      placements: { one: place('thing', 10, 10, { starts: { type: 'resting', seconds: 60 } }) },
      ends: { timeLimit: 60 },
    },
    nearly: {
      kinds: { thing: shard },
      placements: { one: place('thing', 10, 10, { starts: { type: 'resting', seconds: 59 } }) },
      ends: { timeLimit: 60 },
    },
  },
  'meter-without-limit': {
    has: one(kind(circle(1), { setOffBy: { type: 'inside' }, ...add('score', 5) })),
    nearly: one(kind(circle(1), { setOffBy: { type: 'inside', pulse: { every: 1 } }, ...add('score', 5) })),
  },
  'heal-wasted': {
    has: { kinds: { thing: touch({ ...add('health', 9), ...spend }), vent }, placements: { one: place('thing'), vent: place('vent', 30) } },
    nearly: {
      kinds: { thing: touch({ ...add('health', 9), ...spend, provided: { hurt: { type: 'below limit', meter: 'health' } } }), vent },
      placements: { one: place('thing'), vent: place('vent', 30) },
    },
  },
  'cure-not-needed': {
    has: one(touch(add('health', 9))),
    nearly: { kinds: { thing: touch(add('health', 9)), vent }, placements: { one: place('thing'), vent: place('vent', 30) } },
  },
  'fraction-of-whole': { has: one(touch(add('score', 7.5))), nearly: one(touch(add('health', 7.5))) },
  'below-nought': { has: one(touch(slow('multiply', -0.5))), nearly: one(touch(slow('add', -0.5))) },
  'below-whole-step': { has: one(touch(add('score', 0.4))), nearly: one(touch(add('score', 1))) },
  'always-boosted': {
    has: one(touch({ ...boost(4), becomes: { type: 'rests', seconds: 4 } })),
    nearly: one(touch({ ...boost(4), becomes: { type: 'rests', seconds: 4.1 } })),
  },
  'harm-too-fast': {
    has: one(kind(circle(1), { setOffBy: { type: 'inside' }, ...take('health', 2000) })),
    nearly: one(kind(circle(1), { setOffBy: { type: 'inside' }, ...take('health', 2000) }, { role: 'lethal' })),
  },
  'one-touch-kills': { has: one(touch(take('health', 100))), nearly: one(touch(take('health', 99))) },
  'heals-less-than-harmed': {
    has: {
      kinds: { pad: kind(circle(1), { setOffBy: { type: 'inside' }, ...add('health', 12) }), vent },
      placements: { pad: place('pad'), vent: place('vent', 12) },
    },
    nearly: {
      kinds: { pad: kind(circle(1), { setOffBy: { type: 'inside' }, ...add('health', 13) }), vent },
      placements: { pad: place('pad'), vent: place('vent', 12) },
    },
  },
  'goal-met-at-start': {
    has: { ...two(shard), ...goal({ type: 'meter', meter: 'health', value: 100 }) },
    nearly: { ...two(shard), ...goal({ type: 'meter', meter: 'score', value: 1 }) },
  },
  'goal-out-of-reach': {
    has: { ...two(shard), ...goal({ type: 'meter', meter: 'score', value: 31 }) },
    nearly: { ...two(shard), ...goal({ type: 'meter', meter: 'score', value: 30 }) },
  },
  'regeneration-undoes-harm': {
    has: one(vent, { meters: meters({ health: { name: 'health', lower: 0, upper: 100, start: 100, regeneration: { perSecond: 12 } } }) }),
    nearly: one(vent, {
      meters: meters({ health: { name: 'health', lower: 0, upper: 100, start: 100, regeneration: { perSecond: 12, pauseAfterLoss: 1 } } }),
    }),
  },
  'set-twice': {
    has: { kinds: { a: setter(2), b: setter(3) }, placements: { one: place('a'), two: place('b', 13) } },
    nearly: { kinds: { a: setter(2), b: setter(3) }, placements: { one: place('a'), two: place('b', 14.5) } },
  },
  'magnet-too-slow': {
    has: one({
      ...shard,
      magnet: {
        reach: 4,
        speed: [
          [0, 1],
          [2, 4],
        ],
      },
    }),
    nearly: one({
      ...shard,
      magnet: {
        reach: 4,
        speed: [
          [0, 1],
          [2, 4.1],
        ],
      },
    }),
  },
  'magnet-gives-up': {
    has: one({ ...shard, magnet: { reach: 4, giveUp: 3, speed: [[0, 9]] } }),
    nearly: one({ ...shard, magnet: { reach: 4, giveUp: 4, speed: [[0, 9]] } }),
  },
  'crosses-in-a-step': {
    // 2 u across with the player: a step of 1/30 s at 60 u/s.
    has: one(shard, { rate: 30, body: { radius: 0.5, speed: 61, acceleration: 8, braking: 8 } }),
    nearly: one(shard, { rate: 30, body: { radius: 0.5, speed: 59, acceleration: 8, braking: 8 } }),
  },
  'return-in-harm': {
    has: { kinds: { thing: vent }, placements: { one: place('thing') }, ...back, ...post(13.4, 10) },
    nearly: { kinds: { thing: vent }, placements: { one: place('thing') }, ...back, ...post(13.6, 10) },
  },
  'return-in-solid': {
    has: one(vent, { ...back, ...post(30.4, 10), solids: { rock: wall(28, 8, 2, 4) } }),
    nearly: one(vent, { ...back, ...post(30.5, 10), solids: { rock: wall(28, 8, 2, 4) } }),
  },
  'return-outside': { has: one(vent, { ...back, ...post(59.6, 10) }), nearly: one(vent, { ...back, ...post(59.5, 10) }) },
  'return-on-the-way': {
    // A patrol half a unit around, along y = 15; the player's body is another half.
    has: {
      kinds: { patrol: touch(take('health', 9)) },
      placements: { one: place('patrol', 5, 15, { travel: { path: 'rails' } }) },
      ...rails,
      ...back,
      ...post(20, 14.1),
    },
    nearly: {
      kinds: { patrol: touch(take('health', 9)) },
      placements: { one: place('patrol', 5, 15, { travel: { path: 'rails' } }) },
      ...rails,
      ...back,
      ...post(20, 13.9),
    },
  },
  'return-over-death': {
    has: { view: 'side', kinds: { pit: zone(null) }, placements: { one: place('pit', 30, 4) }, ...back, ...post(30, 12) },
    nearly: {
      view: 'side',
      kinds: { pit: zone(null) },
      placements: { one: place('pit', 30, 4) },
      solids: { floor: wall(28, 7, 4, 1) },
      ...back,
      ...post(30, 12),
    },
  },
  'kill-zones-disagree': {
    has: {
      kinds: { a: zone({ type: 'point', point: 'post' }), b: zone(null) },
      placements: { one: place('a', 30), two: place('b', 33) },
      death: { returns: 'always' },
      ...post(50, 10),
    },
    nearly: {
      kinds: { a: zone({ type: 'point', point: 'post' }), b: zone(null) },
      placements: { one: place('a', 30), two: place('b', 34) },
      death: { returns: 'always' },
      ...post(50, 10),
    },
  },
  'starts-dead': {
    has: one(vent, { meters: meters({ health: { name: 'health', lower: 0, upper: 100, start: 0 } }) }),
    nearly: one(vent, { meters: meters({ health: { name: 'health', lower: 0, upper: 100, start: 1 } }) }),
  },
  'returns-dead': {
    has: one(vent, { death: { returns: 'always', health: 0 } }),
    nearly: one(vent, { death: { returns: 'always', health: 1 } }),
  },
  'dies-again': {
    has: {
      kinds: { patrol: touch({ effects: { kill: { type: 'kill' } } }) },
      placements: { one: place('patrol', 5, 10, { travel: { path: 'rails' } }) },
      ...shuttle(10),
    },
    nearly: {
      kinds: { patrol: touch({ effects: { kill: { type: 'kill' } } }) },
      placements: { one: place('patrol', 5, 12, { travel: { path: 'rails' } }) },
      ...shuttle(12),
    },
  },
  'checkpoint-dead-end': { has: cellar(cell), nearly: cellar(cell.slice(1)) },
  'cannot-lose': {
    has: { ...two(shard), ...goal({ type: 'meter', meter: 'score', value: 30 }) },
    nearly: { ...two(shard), ends: { goals: { it: { type: 'meter', meter: 'score', value: 30 } }, timeLimit: 60 } },
  },
  'cannot-win': { has: one(shard, { ends: { timeLimit: 60 } }), nearly: one(shard, { ends: { timeLimit: null } }) },
  'no-room': {
    has: one(touch({ becomes: { type: 'moves', distance: 57, margin: 1 } })),
    nearly: one(touch({ becomes: { type: 'moves', distance: 20, margin: 1 } })),
  },
  'pool-fills-up': {
    has: {
      kinds: {
        nest: kind(circle(1), {
          setOffBy: { type: 'every', seconds: 5 },
          effects: { spawn: { type: 'spawn', pool: { stone: 1 }, at: { type: 'here' }, most: 3 } },
        }),
        stone: still,
      },
      placements: { one: place('nest') },
    },
    nearly: {
      kinds: {
        nest: kind(circle(1), {
          setOffBy: { type: 'every', seconds: 5 },
          effects: { spawn: { type: 'spawn', pool: { stone: 1 }, at: { type: 'here' }, most: 3 } },
        }),
        stone: shard,
      },
      placements: { one: place('nest') },
    },
  },
  'stacked-things': {
    has: { kinds: { thing: shard }, placements: { one: place('thing'), two: place('thing') } },
    nearly: { kinds: { thing: shard }, placements: { one: place('thing'), two: place('thing', 10.1) } },
  },
  'path-through-solid': {
    has: {
      kinds: { rover },
      placements: { cart: place('rover', 5, 15, { travel: { path: 'rails' } }) },
      ...rails,
      solids: { rock: wall(14, 14, 2, 3) },
    },
    nearly: {
      kinds: { rover },
      placements: { cart: place('rover', 5, 15, { travel: { path: 'rails' } }) },
      ...rails,
      solids: { rock: wall(14, 15, 2, 3) },
    },
  },
  // Twelve units a second come to rest after 9 u; a kill zone begins 1.5 u away, or 11.5 u.
  'launch-astray': {
    has: { kinds: { thing: thrower, pit: zone(null) }, placements: { one: place('thing'), pit: place('pit', 14) } },
    nearly: { kinds: { thing: thrower, pit: zone(null) }, placements: { one: place('thing'), pit: place('pit', 24) } },
  },
  'overlap-order': {
    has: { kinds: { hurts, heals }, placements: { one: place('hurts'), two: place('heals') } },
    // Touched a moment later, it comes second in either order.
    nearly: { kinds: { hurts, heals }, placements: { one: place('hurts'), two: place('heals', 10.3) } },
  },
  'chain-order': {
    has: { kinds: { a: onBell('set', 50), b: onBell('add', 10) }, placements: { one: place('a'), two: place('b', 20) } },
    nearly: { kinds: { a: onBell('take', 50), b: onBell('take', 10) }, placements: { one: place('a'), two: place('b', 20) } },
  },
  'notice-never-posted': {
    has: {
      kinds: { thing: kind(circle(1), { setOffBy: { type: 'notice', notice: 'opened' }, ...add('score', 5) }) },
      placements: { one: place('thing') },
    },
    nearly: {
      kinds: {
        thing: kind(circle(1), { setOffBy: { type: 'notice', notice: 'opened' }, ...add('score', 5) }),
        door: touch({ effects: { tell: { type: 'notice', notice: 'opened' } } }),
      },
      placements: { one: place('thing'), door: place('door', 20) },
    },
  },
  'notice-unheard': {
    has: one(touch({ effects: { tell: { type: 'notice', notice: 'opened' } } })),
    nearly: one(touch({ effects: { tell: { type: 'notice', notice: 'opened' } } }), goal({ type: 'notice', notice: 'opened' })),
  },
  'notice-loop': {
    has: {
      kinds: { a: kind(circle(1), hears('ding', 'dong')), b: kind(circle(1), hears('dong', 'ding')) },
      placements: { one: place('a'), two: place('b', 20) },
    },
    nearly: {
      kinds: { a: kind(circle(1), hears('ding', 'dong')), b: kind(circle(1), { ...hears('dong', 'ding'), windUp: { seconds: 1 } }) },
      placements: { one: place('a'), two: place('b', 20) },
    },
  },
  'unused-kind': {
    has: one(shard, { kinds: { thing: shard, lone: still } }),
    nearly: one(shard, { kinds: { thing: shard }, items: { jar: { name: 'jar', dropsAs: 'thing' } } }),
  },
  'unused-item': { has: one(shard, jar), nearly: one(gives(1), jar) },
  'unused-meter': { has: one(shard, { meters: meters(stamina()) }), nearly: one(touch(take('stamina', 5)), { meters: meters(stamina()) }) },
  'unused-point': { has: one(shard, post(30, 10)), nearly: one(vent, { ...post(30, 10), ...back }) },
  'unused-path': {
    has: one(shard, rails),
    nearly: { kinds: { rover }, placements: { cart: place('rover', 5, 15, { travel: { path: 'rails' } }) }, ...rails },
  },
  'unused-flourish': {
    has: one(shard, { flourishes: { clink: { name: 'clink' } } }),
    nearly: one(touch({ effects: { clink: { type: 'flourish', flourish: 'clink' } } }), { flourishes: { clink: { name: 'clink' } } }),
  },
  'unused-tag': {
    has: one(shard, { tagRules: { harvest: { tag: 'harvest', rules: { gain: { setOffBy: { type: 'arriving' }, ...add('score', 1) } } } } }),
    nearly: one(
      { ...shard, tags: ['harvest/tile'] },
      { tagRules: { harvest: { tag: 'harvest', rules: { gain: { setOffBy: { type: 'arriving' }, ...add('score', 1) } } } } },
    ),
  },
  'pips-not-shown': { has: one(vent, inPips(25)), nearly: one(vent, inPips(24)) },
  'names-alike': {
    has: one(touch({ who: { any: ['player', 'rover'] } }, { tags: ['rovers'] })),
    nearly: one(touch({ who: { any: ['player', 'rover'] } }, { tags: ['roving'] })),
  },
};

function stamina(): Parts {
  return { stamina: { name: 'stamina', order: 2, lower: 0, upper: 50, start: 50 } };
}

/** The level of an example, whole. */
export const exampleLevel = (parts: Parts): Level => level({ name: 'example', ...parts });
