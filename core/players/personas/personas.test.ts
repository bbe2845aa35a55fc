import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { compile, createSession, hasEnded, restore, snapshot, step, stepOf } from '../../session/index.ts';
import { createDigest, parseLevel, SHIPPED_PERSONAS, type Level, type Persona } from '../../level/index.ts';
import fc from 'fast-check';
import { createMesh, findWay } from '../navigation/index.ts';
import { runs } from '../../testing/runs.ts';
import { box, circle, kind, level, meterEffect, shard } from '../../testing/levels.ts';
import { fitPersona, fittedPersona, outcomeOfRun, playPersonas, simulate, type PersonaPlay } from '../index.ts';
import { copyMind, createMind, type Mind } from './mind.ts';
import { pressKeys } from './persona.ts';
import { worldOf } from './world.ts';

/** One that errs in nothing, fears nothing, sees and remembers all. */
const PLAIN: Persona = {
  name: 'plain',
  order: 0,
  reaction: 0.1,
  reactionSpread: 0,
  aimError: 0,
  timingError: 0,
  decisions: 10,
  sight: 200,
  memory: 7200,
  caution: 0,
  greed: 1,
  healsBelow: 0,
  patience: 3,
  boosts: 'used in passing',
  haste: 1,
  curiosity: 0,
  givesUpDeaths: 5,
  givesUpSeconds: 30,
};

interface Played extends PersonaPlay {
  readonly seconds: number;
}

function play(document: Level, persona: Partial<Persona> = {}, seed = 1, seconds = 120): Played {
  const compiled = compile(document);
  const played = playPersonas(compiled, [{ ...PLAIN, ...persona }], { seed, seconds });
  // From its keys alone.
  return { ...played, outcome: outcomeOfRun(compiled, played.run), seconds: played.run.steps / compiled.rate };
}

const hazard = (width: number, height: number, perSecond: number, more = {}) =>
  kind(box(width, height), { setOffBy: { type: 'inside' }, effects: meterEffect('health', 'take', perSecond) }, more);

/** From (2, 10) to a goal at (40, 10), seen from the start. */
const towards = (parts: object): Level =>
  level({
    points: { end: { name: 'end', x: 40, y: 10 } },
    ends: { goals: { end: { type: 'reach', point: 'end', within: 1 } } },
    ...parts,
  });

test('what puts one back is gone round also by who comes out of it, and harmed by nothing for a moment', () => {
  const back = kind(box(4, 4), { setOffBy: { type: 'arriving' }, effects: { a: { type: 'move', to: { type: 'start' }, grace: 0.5 } } });
  const send = kind(circle(0.5), {
    setOffBy: { type: 'arriving' },
    effects: { a: { type: 'move', to: { type: 'point', point: 'in' }, grace: 0.5 } },
  });
  const points = { end: { name: 'end', x: 40, y: 10 }, in: { name: 'in', x: 6, y: 10 } };
  const placements = { send: { kind: 'send', x: 2, y: 10 }, back: { kind: 'back', x: 20, y: 10 } };
  const { outcome } = play(towards({ points, kinds: { back, send }, placements }));
  expect([outcome.ended.how, outcome.perPlacement['back']?.uses]).toEqual(['won', 0]);
});

test('what gives again and again is come back to ever more seldom, and all else is looked for', () => {
  const well = kind(circle(1), { setOffBy: { type: 'arriving' }, effects: meterEffect('score', 'add', 15), becomes: { type: 'stays' } });
  const placements = {
    well: { kind: 'well', x: 6, y: 10 },
    other: { kind: 'well', x: 10, y: 10 },
    prize: { kind: 'shard', x: 55, y: 10 },
  };
  const { outcome } = play(level({ kinds: { well, shard }, placements }), { sight: 6, curiosity: 10 }, 1, 120);
  expect(outcome.perPlacement['prize']?.uses).toBe(1);
  for (const id of ['well', 'other']) expect(outcome.perPlacement[id]?.uses).toBeGreaterThan(2);
});

test.each([
  ['who comes for what gives three times steps out and in again', 1, 150],
  ['who comes in vain stands, tries it again, and lets it be', 1e-9, 0],
])('%s, and does not turn about over it again and again', (_, value, score) => {
  const lucky = kind(circle(0.5), {
    setOffBy: { type: 'arriving' },
    provided: { chance: { type: 'chance', value } },
    effects: meterEffect('score', 'add', 50),
    uses: 3,
  });
  const body = { radius: 0.4, speed: 6, acceleration: 40, braking: 40 };
  const document = level({ body, kinds: { lucky }, placements: { a: { kind: 'lucky', x: 12, y: 10 } } });
  const compiled = compile(document);
  for (const [name, persona] of Object.entries(document.personas)) {
    const { recording, outcome, endings } = playPersonas(compiled, [persona], { records: true, seconds: 120 });
    expect([name, outcome.players[0]!.meters['score'], endings]).toEqual([name, score, ['nothing left to do']]);
    const { x, y } = recording!;
    /** Whether the way turns about at a step, a tenth of a second before and after it. */
    const turnsAt = (at: number): boolean => {
      const [ax, ay, bx, by] = [x[at]! - x[at - 6]!, y[at]! - y[at - 6]!, x[at + 6]! - x[at]!, y[at + 6]! - y[at]!];
      return ax * bx + ay * by < -0.5 * Math.sqrt((ax * ax + ay * ay) * (bx * bx + by * by)) && ax * ax + ay * ay > 0.0025;
    };
    const turns = Array.from({ length: Math.floor(x.length / 6) - 2 }, (_, at) => turnsAt(6 * (at + 1)));
    const most = Math.max(...turns.map((_, at) => turns.slice(at, at + 15).filter(Boolean).length));
    expect([name, most <= 3]).toEqual([name, true]);
  }
});

test('who steps out of a thing to come anew steps into no harm', () => {
  const well = kind(circle(0.5), { setOffBy: { type: 'arriving' }, effects: meterEffect('score', 'add', 50), uses: 3 });
  // From (2, 10) the nearest way out of the well leads to the left, into the vent.
  const placements = { well: { kind: 'well', x: 2.4, y: 10 }, vent: { kind: 'vent', x: 0.6, y: 10 } };
  const { outcome } = play(level({ kinds: { well, vent: hazard(1, 2, 10) }, placements }));
  expect(outcome.players[0]!.meters).toMatchObject({ score: 150, health: 100 });
});

test('a hazard across the only corridor costs every persona its rate × (width + body) ÷ speed', () => {
  const corridor = towards({
    solids: { over: { x: 0, y: 11, width: 60, height: 9 }, under: { x: 0, y: 0, width: 60, height: 9 } },
    kinds: { vent: hazard(3, 6, 10) },
    placements: { vent: { kind: 'vent', x: 20, y: 10 } },
  });
  for (const [name, shipped] of Object.entries(SHIPPED_PERSONAS)) {
    const persona = corridor.personas[name]!;
    const { outcome } = play(corridor, { ...persona, aimError: 0 });
    expect(outcome.ended.how).toBe('won');
    // 3 u wide, a body 1 u across, at a share of 4 u a second; rounding of keys is a hundredth of that.
    const wanted = (10 * 4) / (4 * (shipped.haste ?? 0.95));
    expect(Math.abs(100 - outcome.players[0]!.meters['health']! - wanted)).toBeLessThan(wanted * 0.02 + 0.2);
  }
});

/** A short way through a hazard along y = 10, 4 u long, and one round it over the top of a wall: longer by so much, as its ends lie. */
const fork = (perSecond: number): Level =>
  towards({
    solids: { middle: { x: 14, y: 11, width: 12, height: 4 }, low: { x: 14, y: 0, width: 12, height: 9 } },
    kinds: { vent: hazard(3, 2, perSecond) },
    placements: { vent: { kind: 'vent', x: 20, y: 10 } },
  });

test('a fork is taken by what caution says of it: loss × caution against the longer way', () => {
  // Straight on: 38 u, and 4 u in the vent at 4 u/s: 1 s. Over the wall, whose corners lie half a body off: (13.5, 15.5) and (26.5, 15.5).
  const detour = 2 * Math.hypot(11.5, 5.5) + 13 + (Math.hypot(13.5, 5.5) - Math.hypot(11.5, 5.5)) - 38;
  const worth = (loss: number): number => detour / loss;
  for (const loss of [10, 30]) {
    const through = play(fork(loss), { caution: worth(loss) * 0.97 });
    const round = play(fork(loss), { caution: worth(loss) * 1.03 });
    expect(through.outcome.players[0]!.meters['health']).toBeLessThan(100);
    expect(round.outcome.players[0]!.meters['health']).toBe(100);
    expect([through.outcome.ended.how, round.outcome.ended.how]).toEqual(['won', 'won']);
  }
});

const pad = (rests: number): Level =>
  level({
    meters: {
      health: { name: 'health', lower: 0, upper: 100, start: 30 },
      score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
    },
    kinds: {
      pad: kind(circle(1), {
        setOffBy: { type: 'arriving' },
        provided: { hurt: { type: 'below limit', meter: 'health' } },
        effects: meterEffect('health', 'add', 18),
        becomes: { type: 'rests', seconds: 20 },
      }),
      shard,
    },
    // Where it waits from the first moment on.
    placements: { pad: { kind: 'pad', x: 3, y: 10, starts: { type: 'resting', seconds: rests } }, shard: { kind: 'shard', x: 50, y: 10 } },
  });

test('a pad that rests longer than its patience is left, a shorter rest is waited for', () => {
  // 10 s: time to wait, or to go most of the way to the shard, not to come back from there.
  const left = play(pad(5), { healsBelow: 0.4, patience: 3 }, 1, 10);
  const waited = play(pad(5), { healsBelow: 0.4, patience: 6 }, 1, 10);
  expect(left.outcome.perPlacement['pad']!.uses).toBe(0);
  expect(left.outcome.players[0]!.distance).toBeGreaterThan(35);
  expect(waited.outcome.players[0]!.meters['health']).toBe(48);
  expect(waited.decisions.map(({ what }) => what)).toContain('heal');
});

const clocked = towards({
  solids: { over: { x: 0, y: 11, width: 60, height: 9 }, under: { x: 0, y: 0, width: 60, height: 9 } },
  kinds: { vent: hazard(1, 6, 30, { cycle: { on: 1, off: 2 } }) },
  placements: { vent: { kind: 'vent', x: 20, y: 10 } },
});

test('a cycle, 1 s on and 2 s off, is crossed unharmed by who reacts in 0.1 s, not by who takes 3 s', () => {
  const health = (reaction: number, offset: number): number => {
    const { kinds } = clocked;
    const vent = { ...kinds['vent']!, cycle: { on: 1, off: 2, offset } };
    const { outcome } = play({ ...clocked, kinds: { vent } }, { reaction, caution: 1 });
    expect(outcome.ended.how).toBe('won');
    return outcome.players[0]!.meters['health']!;
  };
  const offsets = [0, 0.5, 1, 1.5, 2, 2.5];
  expect(offsets.map((offset) => health(0.1, offset))).toEqual(offsets.map(() => 100));
  expect(Math.min(...offsets.map((offset) => health(3, offset)))).toBeLessThan(90);
});

/** The shortest way through some places from a first one, in any order: all orders are tried. */
function shortest(from: readonly [number, number], places: readonly (readonly [number, number])[]): number {
  if (places.length === 0) return 0;
  return Math.min(
    ...places.map(
      (place, index) =>
        Math.hypot(place[0] - from[0], place[1] - from[1]) +
        shortest(
          place,
          places.filter((_, at) => at !== index),
        ),
    ),
  );
}

test('a patrol is read: who reacts soon crosses its lane unharmed, also just before it turns back', () => {
  const cart = kind(circle(0.8), { setOffBy: { type: 'arriving' }, effects: meterEffect('health', 'take', 10) });
  const hits = (startOffset: number, reaction: number): number =>
    play(
      towards({
        kinds: { cart },
        paths: {
          lane: {
            name: 'lane',
            speed: 4,
            round: 'back and forth',
            wayPoints: [
              { x: 20, y: 4 },
              { x: 20, y: 11.2 },
            ],
          },
        },
        placements: { cart: { kind: 'cart', x: 20, y: 4, travel: { path: 'lane', startOffset } } },
      }),
      { caution: 1, reaction },
    ).outcome.players[0]!.damageByKind['cart'] ?? 0;
  const offsets = Array.from({ length: 18 }, (_, nth) => nth / 5);
  const met = (reaction: number): number => offsets.filter((offset) => hits(offset, reaction) > 0).length;
  expect([met(0.1), met(0.6)]).toEqual([0, 0]);
  expect(met(1.5)).toBeGreaterThan(2);
});

test('in an empty room all is taken by a way within 5 % of the shortest', () => {
  for (let seed = 1; seed <= 12; seed += 1) {
    const places = Array.from({ length: 7 }, (_, index): [number, number] => [
      3 + ((seed * 37 + index * 53 + seed * index * 11) % 54),
      2 + ((seed * 29 + index * 31 + seed * seed * index * 7) % 17),
    ]);
    const room = level({
      kinds: { shard },
      placements: Object.fromEntries(places.map(([x, y], index) => [`s${String(index)}`, { kind: 'shard', x, y }])),
    });
    const { outcome, endings } = play(room);
    expect(outcome.players[0]!.meters['score']).toBe(15 * places.length);
    expect(endings).toEqual(['nothing left to do']);
    expect(outcome.players[0]!.distance).toBeLessThan(1.05 * shortest([2, 10], places));
  }
});

/** A maze of 8 by 5 places, 4 u apart, with walls 0.4 u thick: each place is open to the right or upwards, so that there is one way to each. */
function maze(opensRight: readonly boolean[]): Level {
  const solids: Record<string, object> = {};
  opensRight.forEach((right, index) => {
    const [x, y] = [index % 8, Math.floor(index / 8)];
    const [east, north] = y === 4 ? [true, false] : x === 7 ? [false, true] : [right, !right];
    if (!east) solids[`e${String(index)}`] = { x: 4 * x + 3.8, y: 4 * y - 0.2, width: 0.4, height: 4.4 };
    if (!north) solids[`n${String(index)}`] = { x: 4 * x - 0.2, y: 4 * y + 3.8, width: 4.4, height: 0.4 };
  });
  return level({
    size: { width: 32, height: 20 },
    body: { radius: 0.35, speed: 4.5, acceleration: 40, braking: 60 },
    start: { x: 2, y: 2 },
    solids,
    points: { end: { name: 'end', x: 30, y: 2 } },
    ends: { goals: { end: { type: 'reach', point: 'end', within: 0.3 } } },
  });
}

test('a maze is walked within 5 % of the shortest way', () => {
  fc.assert(
    fc.property(fc.array(fc.boolean(), { minLength: 40, maxLength: 40 }), (opensRight) => {
      const document = maze(opensRight);
      const { outcome } = play(document);
      // A wall keeps the middle of a body, a circle, out of itself grown by the circle: by every box that has its corners on it.
      const { radius } = document.body;
      const grown = [0, 1, 2, 3, 4].flatMap((eighth) => {
        const [w, h] = [radius * Math.cos((eighth * Math.PI) / 8), radius * Math.sin((eighth * Math.PI) / 8)];
        return Object.values(document.solids).map(({ x, y, width, height }) => ({
          left: x - w,
          bottom: y - h,
          right: x + width + w,
          top: y + height + h,
        }));
      });
      const area = { left: radius, bottom: radius, right: 32 - radius, top: 20 - radius };
      const least = findWay(createMesh(area, grown, []), { x: 2, y: 2 }, { x: 30, y: 2 })!.length - 0.3;
      expect(outcome.ended.how).toBe('won');
      expect(outcome.players[0]!.distance).toBeLessThan(1.05 * least);
    }),
    { numRuns: runs(25) },
  );
});

/** Seen from the side: a staircase of ledges, each higher than the one before by a share of what the body can jump: v² ÷ 2g = 2 u. */
function stairs(shares: readonly number[]): Level {
  let top = 1;
  const solids: Record<string, object> = { floor: { x: 0, y: 0, width: 60, height: 1 } };
  shares.forEach((share, index) => {
    top += 2 * share;
    solids[`ledge${String(index)}`] = { x: 8 + 5 * index, y: top - 0.4, width: 4, height: 0.4, sides: ['top'] };
  });
  return level({
    view: 'side',
    body: { radius: 0.35, width: 0.7, height: 1.3, speed: 5, acceleration: 45, braking: 60, gravity: 36, jumpSpeed: 12 },
    start: { x: 2, y: 1.65 },
    size: { width: 60, height: 20 },
    solids,
    points: { up: { name: 'up', x: 10 + 5 * (shares.length - 1), y: top + 0.65 } },
    ends: { goals: { up: { type: 'reach', point: 'up', within: 1 } } },
  });
}

test('ledges at 80 to 95 % of what the body can jump are all climbed, one at 105 % is left', () => {
  const { outcome } = play(stairs([0.8, 0.85, 0.88, 0.92, 0.95]));
  expect(outcome.ended.how).toBe('won');
  const high = play(stairs([0.8, 1.05]));
  expect(high.endings).toEqual(['nothing left to do']);
  expect(high.seconds).toBeLessThan(1);
});

test('seen from the side a harm on the ground is leapt over where it can be; nobody dies again and again for what one may do without', () => {
  const steps = stairs([]);
  const floor = (width: number, parts: object): Level => {
    const lethal = kind(box(width, 0.8), { setOffBy: { type: 'arriving' }, effects: { die: { type: 'kill' } } }, { role: 'lethal' });
    const placements = { one: { kind: 'lethal', x: 12, y: 1.4 }, shard: { kind: 'shard', x: 20, y: 1.6, order: 2 } };
    return level({ ...steps, kinds: { lethal, shard }, placements, ends: { goals: {} }, ...parts });
  };
  // 0.8 u higher for 0.52 s at 5 u a second: 2.6 u, of which the body and a berth take 1.
  const leapt = play(floor(1, {}));
  expect([leapt.outcome.players[0]!.meters['score'], leapt.outcome.players[0]!.deaths]).toEqual([15, 0]);
  const barred = play(floor(4, {}));
  expect([barred.endings, barred.outcome.players[0]!.deaths]).toEqual([['nothing left to do'], 0]);
  const reach = { points: { end: { name: 'end', x: 22, y: 1.65 } }, ends: { goals: { end: { type: 'reach', point: 'end', within: 1 } } } };
  // For what the level asks for it is dared; there is one life.
  expect(play(floor(4, reach)).outcome).toMatchObject({ ended: { how: 'lost' }, players: [{ deaths: 1 }] });
});

test('what hangs over a solid is not jumped for from beneath; beside that it is, and what stays out of reach not for ever', () => {
  const steps = stairs([1.2]);
  const ledge0 = { ...steps.solids['ledge0']!, sides: ['top', 'bottom', 'left', 'right'] };
  const over = (x: number, y: number, one: object = shard): Level =>
    level({
      ...steps,
      ends: { goals: {} },
      solids: { ...steps.solids, ledge0 },
      kinds: { one },
      placements: { one: { kind: 'one', x, y } },
    });
  // The ledge reaches from 8 to 12, its top at 3.4; heads are at 2.3 and rise to 4.3.
  const beneath = play(over(10, 4.2));
  expect([beneath.endings, beneath.outcome.players[0]!.meters['score']]).toEqual([['nothing left to do'], 0]);
  expect(beneath.seconds).toBeLessThan(1);
  expect(play(over(12.1, 3.7), { curiosity: 100 }).outcome.players[0]!.meters['score']).toBe(15);
  // One that says it can be touched, but takes nobody: after some jumps it is left.
  const refuses = kind(circle(0.5), {
    setOffBy: { type: 'arriving' },
    provided: { never: { type: 'chance', value: 0 } },
    effects: meterEffect('score', 'add', 15),
  });
  const vain = play(over(5, 3.7, refuses));
  expect([vain.endings, vain.seconds < 30]).toEqual([['nothing left to do'], true]);
});

const demo = (name: string): Level => {
  const parsed = parseLevel(JSON.parse(readFileSync(join(process.cwd(), 'demo', name, 'level.json'), 'utf8')));
  if (!parsed.ok) throw new Error(`the demo ${name} is not valid`);
  return parsed.value;
};

test.each(['night-firing', 'chimney-climb', 'proving-yard'])(
  '%s goes on from any moment, session and mind, as if nothing had been',
  (name) => {
    const compiled = compile(demo(name));
    const world = worldOf(compiled);
    const persona = compiled.level.personas['newcomer']!;
    const digestFrom = (
      saved: { session: Uint8Array; mind: Mind } | null,
      steps: number,
    ): [string, { session: Uint8Array; mind: Mind }] => {
      const session = createSession(compiled, null, { seed: 7 });
      const mind = saved === null ? createMind(world) : copyMind(saved.mind);
      if (saved !== null) restore(session, saved.session);
      const inputs = new Int8Array(compiled.playerCount * 4);
      while (stepOf(session) < steps && !hasEnded(session)) {
        pressKeys({ world, session, persona, mind, player: 0, route: null, note: null }, inputs);
        step(session, inputs);
      }
      const digest = createDigest();
      digest.addIntegers(snapshot(session));
      return [digest.text(), { session: snapshot(session), mind }];
    };
    const [whole] = digestFrom(null, 1500);
    for (const at of [1, 137, 600, 1111]) expect(digestFrom(digestFrom(null, at)[1], 1500)[0]).toBe(whole);
  },
);

test('what is read off plays is what they were played with, as far as it can be told', () => {
  const firing = demo('night-firing');
  const compiled = compile(firing);
  for (const [id, aim] of [
    ['wary', 4],
    ['newcomer', 13],
  ] as const) {
    const persona = firing.personas[id]!;
    const runs = [1, 2, 3, 4].map((seed) => playPersonas(compiled, [persona], { seed }).run);
    const fit = fitPersona(compiled, runs);
    expect(fit.haste.value).toBeCloseTo(persona.haste, 1);
    expect(Math.abs(fit.aimError.value! - aim)).toBeLessThan(0.5 * aim);
    expect(fit.aimError.observations).toBeGreaterThan(40);
  }
  const nothing = fitPersona(compiled, []);
  expect(nothing.reaction).toEqual({ value: null, observations: 0 });
  expect(fittedPersona(PLAIN, 'fitted', nothing)).toEqual({ ...PLAIN, name: 'fitted' });
});

test('how far a player goes round harm is read off what it went round, and what it went through', () => {
  // Each costs 10 health to go through, and 0.5 to 3.5 u to go round.
  const heights = [3, 4, 5, 6, 7, 8, 9];
  const row = level({
    size: { width: 120, height: 20 },
    kinds: {
      shard,
      ...Object.fromEntries(heights.map((height) => [`vent${String(height)}`, hazard(3, height, 10)])),
      pad: kind(circle(1), { setOffBy: { type: 'arriving' }, effects: meterEffect('health', 'add', 100) }),
    },
    placements: Object.fromEntries(
      heights.flatMap((height, at) => [
        [`vent${String(height)}`, { kind: `vent${String(height)}`, x: 10 + 14 * at, y: 10 }],
        [`shard${String(height)}`, { kind: 'shard', x: 17 + 14 * at, y: 10 }],
      ]),
    ),
  });
  const compiled = compile(row);
  for (const caution of [0.08, 0.15, 0.25]) {
    const fit = fitPersona(compiled, [playPersonas(compiled, [{ ...PLAIN, caution }], { seed: 1 }).run]);
    expect([caution, fit.caution]).toEqual([caution, { value: expect.any(Number) as number, observations: heights.length }]);
    expect(fit.caution.value! / caution).toBeGreaterThan(0.5);
    expect(fit.caution.value! / caution).toBeLessThan(2);
  }
});

test('absurd numbers bring no session to a halt', () => {
  const odd: Partial<Persona>[] = [
    { sight: 0 },
    { haste: 0 },
    { reaction: 10, reactionSpread: 10 },
    { decisions: 1000 },
    { decisions: 0.1 },
    { aimError: 90, timingError: 5 },
    { memory: 0, curiosity: 10000 },
    { caution: 10000, greed: 10000 },
    { givesUpSeconds: 0, patience: 7200 },
  ];
  for (const persona of odd) {
    const { outcome, seconds } = play(clocked, persona, 3, 20);
    expect(seconds).toBeLessThanOrEqual(20);
    expect(Object.values(outcome.players[0]!.meters).every(Number.isFinite)).toBe(true);
  }
});

test('nobody can reach anything: the session ends', () => {
  const walled = towards({
    solids: {
      a: { x: 0, y: 7, width: 5, height: 1 },
      b: { x: 0, y: 12, width: 5, height: 1 },
      c: { x: 5, y: 7, width: 1, height: 6 },
    },
    kinds: { shard },
    placements: { shard: { kind: 'shard', x: 30, y: 10 } },
  });
  expect(play(walled, { curiosity: 10 }).endings).toEqual(['nothing left to do']);
});

test('a level without personas of its own has those that come with Dial, and limits are stated', () => {
  expect(Object.keys(level().personas)).toEqual(Object.keys(SHIPPED_PERSONAS));
  const parsed = parseLevel({ ...level(), personas: { odd: { name: 'odd', reaction: 11, haste: 2 } } });
  expect(parsed.ok ? [] : parsed.problems.map(({ path }) => path)).toEqual(['/personas/odd/reaction', '/personas/odd/haste']);
});

test('what a persona plays is a run: simulated from its keys alone, it comes to the same digest, and its numbers stay in limits', () => {
  for (const name of ['night-firing', 'chimney-climb', 'proving-yard']) {
    const level = demo(name);
    const compiled = compile(level);
    for (const id of ['hasty', 'newcomer']) {
      const persona = level.personas[id]!;
      const { run, outcome, recording } = playPersonas(compiled, [persona], { seed: 11, seconds: 30, records: true });
      const again = simulate(compiled, JSON.parse(JSON.stringify(run)) as typeof run);
      expect([id, again.steps]).toEqual([id, run.steps]);
      // What is recorded while it plays is what its keys come to, to the last line; so is the outcome of who is not recorded.
      expect(recording).toEqual(again);
      expect(playPersonas(compile(level), [persona], { seed: 11, seconds: 30 })).toMatchObject({ run, outcome, recording: null });
      for (const [meter, { lower, upper }] of Object.entries(level.meters)) {
        const values = again.meters[meter]!;
        expect(values.every((value) => value >= lower && (upper === null || value <= upper))).toBe(true);
      }
    }
  }
});

/** Health lost in the mean, a death as all of it, seconds played in the median, and the share that won, of so many seeds. */
function crowd(document: Level, id: string, seeds: number, longest = 300): { lost: number; seconds: number; won: number } {
  const compiled = compile(document);
  const seconds: number[] = [];
  let [lost, won] = [0, 0];
  for (let seed = 1; seed <= seeds; seed += 1) {
    const { run } = playPersonas(compiled, [document.personas[id]!], { seed, seconds: longest });
    const outcome = outcomeOfRun(compiled, run);
    lost += Object.values(outcome.players[0]!.damageByKind).reduce((sum, one) => sum + one, 0) + 100 * outcome.players[0]!.deaths;
    seconds.push(run.steps / compiled.rate);
    won += outcome.ended.how === 'won' ? 1 : 0;
  }
  return { lost: lost / seeds, seconds: seconds.sort((a, b) => a - b)[seeds >> 1]!, won: won / seeds };
}

test('the characters are as their names say: the wary lose less and take longer than the hasty, the steady win', () => {
  const firing = demo('night-firing');
  const climb = demo('chimney-climb');
  for (const [level, margin] of [
    [firing, 1.5],
    [climb, 1],
  ] as const) {
    const [wary, hasty, steady] = ['wary', 'hasty', 'steady'].map((id) => crowd(level, id, 25));
    expect(hasty!.lost).toBeGreaterThan(wary!.lost * margin);
    expect(wary!.seconds).toBeGreaterThan(hasty!.seconds * 1.1);
    expect(steady!.won).toBeGreaterThanOrEqual(0.75);
  }
  // A yard of a thousand things is not won in a minute: there it is by what they lose.
  const [wary, hasty] = ['wary', 'hasty'].map((id) => crowd(demo('proving-yard'), id, 6, 60));
  expect(hasty!.lost).toBeGreaterThan(wary!.lost * 3);
});

/** A level of three vents, each on the way or not, over a few boxes; one life. */
const hazards = fc.record({
  vents: fc.array(
    fc.record({ x: fc.integer({ min: 6, max: 36 }), y: fc.integer({ min: 4, max: 16 }), loss: fc.integer({ min: 15, max: 300 }) }),
    {
      minLength: 3,
      maxLength: 3,
    },
  ),
  boxes: fc.array(fc.record({ x: fc.integer({ min: 5, max: 34 }), y: fc.integer({ min: 0, max: 19 }) }), { maxLength: 5 }),
  which: fc.nat(2),
});

test('without caution, a harm that is made worse lets nobody win who did not', () => {
  fc.assert(
    fc.property(hazards, ({ vents, boxes, which }) => {
      const won = (worse: number): boolean => {
        const kinds = vents.map(({ loss }, at): [string, object] => [`v${String(at)}`, hazard(4, 8, at === which ? loss * worse : loss)]);
        const document = towards({
          size: { width: 44, height: 20 },
          body: { radius: 0.5, speed: 12, acceleration: 60, braking: 60 },
          kinds: Object.fromEntries(kinds),
          placements: Object.fromEntries(vents.map(({ x, y }, at) => [`v${String(at)}`, { kind: `v${String(at)}`, x, y }])),
          solids: Object.fromEntries(boxes.map(({ x, y }, at) => [`b${String(at)}`, { x, y, width: 3, height: 3 }])),
          death: { returns: 'never' },
        });
        return play(document, {}, 1, 40).outcome.ended.how === 'won';
      };
      const [mild, worse] = [won(1), won(3)];
      expect(worse && !mild).toBe(false);
    }),
    { numRuns: runs(200) },
  );
});
