import { arriving, box, circle, keys, kind, level, meter, movement, scene, told } from '../testing/scenes.ts';
import { momentAt, simulate } from '../players/index.ts';
import { play, runOf, short } from '../testing/levels.ts';
import { compile } from './index.ts';

const SIDE = {
  view: 'side',
  body: {
    radius: 0.5,
    width: 1,
    height: 1,
    speed: 4,
    acceleration: 8,
    braking: 8,
    airControl: 1,
    gravity: 20,
    jumpSpeed: 10,
    lateJump: 0.1,
    shortJump: 0.5,
    fallLimit: 30,
  },
};
const ground = { floor: { x: 0, y: 0, width: 60, height: 1 } };
const JUMP = 1;

describe.each([30, 60, 120, 240])('at %i steps a second', (r) => {
  const run = (seconds: number, changes = keys(r, [seconds, 0])) => runOf(r, Math.round(seconds * r), [changes]);

  test('a jump is as high and as long as v²/2g and 2v/g; let go early, it is short; falling has a limit', () => {
    const document = level({ ...SIDE, start: { x: 5, y: 1.5 }, solids: ground });
    const { recording } = play(document, run(2, keys(r, [0.5, 0], [1.5, 0, 0, JUMP])), r);
    const height = Math.max(...recording.y) - 1.5;
    // Seen at whole steps, the top is missed by at most ½·g·(½ step)².
    expect(height).toBeGreaterThan(2.5 - 10 * (0.5 / r) ** 2 - 1e-5);
    expect(height).toBeLessThan(2.5 + 1e-5);
    const air = [...recording.y].filter((y) => y > 1.5 + 1e-4).length / r;
    expect(Math.abs(air - 1)).toBeLessThanOrEqual(1.01 / r);
    // On the way: y = v·t − ½·g·t² at every step.
    for (const t of [0.2, 0.5, 0.8]) expect(recording.y[Math.round((0.5 + t) * r)]! - 1.5).toBeCloseTo(10 * t - 10 * t * t, 4);
    const short = play(document, run(2, keys(r, [0.5, 0], [0.1, 0, 0, JUMP], [1.4, 0])), r).recording;
    // Let go after 0.1 s at 8 u/s: 0.9 u up, then 4 u/s more: 0.4 u.
    expect(Math.max(...short.y) - 1.5).toBeCloseTo(1.3, 1);
    const fall = play(level({ ...SIDE, size: { width: 60, height: 200 }, start: { x: 5, y: 190 }, solids: ground }), run(4), r).recording;
    // 30 u/s after 1.5 s and 22.5 u, then even.
    expect(fall.y[4 * r]).toBeCloseTo(190 - 22.5 - 30 * 2.5, 3);
  });

  test('a late jump works just past the edge, and not later; one-way platforms are landed on from above only', () => {
    const ledge = { ledge: { x: 0, y: 5, width: 5, height: 1 } };
    const walk = (wait: number) => {
      // 4 u/s from x = 2 on: the body (1 u wide) is past the edge when x > 5.5, after 0.5 s + 2.5 ÷ 4 s.
      const past = 1.125 + wait;
      const { recording } = play(
        level({ ...SIDE, start: { x: 2, y: 6.5 }, solids: ledge }),
        run(2, keys(r, [past, 1], [2 - past, 1, 0, JUMP])),
        r,
      );
      return Math.max(...recording.y);
    };
    expect(walk(0.05)).toBeGreaterThan(8);
    expect(walk(0.2)).toBeLessThan(6.6);
    const shelf = { ...ground, shelf: { x: 0, y: 2.2, width: 20, height: 0.4, sides: ['top'] } };
    const { recording } = play(level({ ...SIDE, start: { x: 5, y: 1.5 }, solids: shelf }), run(2, keys(r, [1, 0, 0, JUMP], [1, 0])), r);
    expect(Math.max(...recording.y)).toBeGreaterThan(3.9);
    expect(recording.y[2 * r]).toBeCloseTo(3.1, 4);
  });

  test('bellows throw up whoever comes from above, and refuse the side', () => {
    const bellows = {
      ...kind(box(2, 1), arriving({ up: { type: 'launch', direction: { type: 'fixed', degrees: 90 }, strength: 15 } }, { side: ['top'] })),
      solid: { width: 2, height: 1 },
    };
    const document = (x: number, y: number) =>
      level({ ...SIDE, start: { x, y }, solids: ground, kinds: { bellows }, placements: { b: { kind: 'bellows', x: 10, y: 1.5 } } });
    const thrown = play(document(10, 5), run(2), r);
    // Lands on its top at y = 2.5, having fallen 2.5 u: at √(2·20·2.5) = 10 u/s, after half a second.
    const line = short(thrown.lines)[0]!;
    expect(line).toMatch(/launched b /);
    expect(Math.abs(Number(line.split(' ')[0]) - 0.5 * r)).toBeLessThanOrEqual(1);
    expect(Math.max(...thrown.recording.y) - 2.5).toBeCloseTo(15 ** 2 / 40, 1);
    const blocked = play(document(6, 1.5), run(2, keys(r, [2, 1])), r);
    expect(short(blocked.lines)[0]).toMatch(/refused player 1 b wrong side/);
    expect(blocked.recording.x[2 * r]).toBeCloseTo(8.5, 4);
  });

  test('a rack holds for a moment, gives way, and comes back; whoever stands in it then is moved out', () => {
    const rack = {
      ...kind(box(3, 1), arriving({}, { side: ['top'], windUp: { seconds: 0.5 }, becomes: { type: 'rests', seconds: 1 } })),
      solid: { width: 3, height: 1 },
      phases: { resting: { shown: 'faint', solid: false, sensing: false } },
    };
    const placements = { rack: { kind: 'rack', x: 5, y: 5.5 } };
    const document = level({ ...SIDE, start: { x: 5, y: 6.6 }, solids: ground, kinds: { rack }, placements });
    const { recording, lines } = play(document, run(3), r);
    const phases = short(lines).filter((line) => line.includes('phase'));
    // 0.1 u down at 20 u/s² is 0.1 s.
    const met = Math.floor(0.1 * r) + 1;
    const step = parseInt(phases[0]!);
    expect(Math.abs(step - met)).toBeLessThanOrEqual(1);
    expect(phases).toEqual([`${step} phase rack winding up`, `${step + 0.5 * r} phase rack resting`, `${step + 1.5 * r} phase rack ready`]);
    expect(recording.y[Math.round(0.5 * r)]).toBeCloseTo(6.5, 5);
    expect(recording.y[3 * r]).toBeCloseTo(1.5, 4);
    // From above: a gate that turns solid with the player half inside puts it out by the shortest way.
    const gate = {
      ...kind({}, { setOffBy: { type: 'notice', notice: 'shut' }, effects: {}, becomes: { type: 'ready' } }),
      solid: { width: 2, height: 6 },
    };
    const shut = scene(
      { gate, bell: { setOffBy: { type: 'every', seconds: 1 }, effects: { a: { type: 'notice', notice: 'shut' } }, uses: 1 } },
      { placements: { gate: { kind: 'gate', x: 2.6, y: 10, starts: { type: 'off' } }, bell: { kind: 'bell', x: 40, y: 5 } } },
    );
    const moved = play(shut, run(1.5), r);
    expect(
      short(moved.lines)
        .slice(0, 4)
        .map((line) => line.split(' ').slice(0, 3).join(' ')),
    ).toEqual([`${r} notice bell`, `${r} phase bell`, `${r} phase gate`, `${r + 1} moved gate`]);
    expect(moved.recording.x[r + 1]).toBeCloseTo(1.1, 5);
  });

  test('hidden but still solid stops; carried by what moves under one; a belt and a cart that carries, from above', () => {
    const ghost = { ...kind({}, arriving({})), solid: { width: 1, height: 4 }, phases: { ready: { shown: 'hidden', sensing: true } } };
    const stopped = play(scene({ ghost }, { placements: { g: { kind: 'ghost', x: 6, y: 10 } } }), run(3, keys(r, [3, 1])), r).recording;
    expect(stopped.x[3 * r]).toBeCloseTo(5, 5);
    const paths = {
      rail: {
        name: 'rail',
        speed: 2,
        round: 'loop',
        wayPoints: [
          { x: 10, y: 5.5 },
          { x: 30, y: 5.5 },
        ],
      },
    };
    const lift = { ...kind(box(4, 1), arriving({})), solid: { width: 4, height: 1 }, carries: true };
    const riding = level({
      ...SIDE,
      start: { x: 10, y: 6.5 },
      solids: ground,
      paths,
      kinds: { lift },
      placements: { l: { kind: 'lift', x: 0, y: 0, travel: { path: 'rail' } } },
    });
    const ridden = play(riding, run(3), r);
    expect(ridden.recording.x[3 * r]).toBeCloseTo(16, 3);
    expect(ridden.recording.y[3 * r]).toBeCloseTo(6.5, 4);
    // Touched once, not again and again.
    expect(ridden.lines.filter(({ type }) => type === 'refused')).toHaveLength(0);
    const cart = { ...kind(box(4, 3), arriving({})), carries: true };
    const above = level({
      start: { x: 10, y: 5 },
      paths,
      kinds: { cart },
      placements: { c: { kind: 'cart', x: 0, y: 0, travel: { path: 'rail' } } },
    });
    expect(play(above, run(3), r).recording.x[3 * r]).toBeCloseTo(16 - 2 / r, 3);
    const belt = kind(box(8, 2), {
      setOffBy: { type: 'inside' },
      effects: { a: { type: 'push', as: 'velocity', degrees: 0, strength: 1.5 } },
    });
    const pushed = play(scene({ belt }, { placements: { b: { kind: 'belt', x: 4, y: 10 } } }), run(2), r).recording;
    // Inside from the first step on; pushed from the second.
    expect(pushed.x[2 * r]).toBeCloseTo(2 + 1.5 * (2 - 1 / r), 5);
  });

  test('a hod winds up, turns about its pivot and hurls the harder the nearer its tip', () => {
    const hod = kind(
      { arm: { type: 'box', width: 4, height: 1, x: 2 } },
      arriving(
        {
          hurl: {
            type: 'launch',
            direction: { type: 'fixed', degrees: 90 },
            strength: {
              by: 'distance',
              points: [
                [0, 2],
                [4, 10],
              ],
            },
          },
        },
        { windUp: { seconds: 0.5, turn: { x: 0, y: 0, degrees: -30 } }, active: { type: 'for', seconds: 1 } },
      ),
    );
    const hurled = (x: number): string[] =>
      told(scene({ hod }, { start: { x, y: 10 }, placements: { h: { kind: 'hod', x: 2, y: 10 } } }), r, 1);
    // 1 u from the centre: 2 + 8 ÷ 4 = 4 u/s; 3 u: 8 u/s. Armed once: no second throw while active.
    expect(hurled(3).filter((line) => !line.includes('refused'))).toEqual([
      '1 phase h winding up',
      `${1 + 0.5 * r} launched h 0 → 4`,
      `${1 + 0.5 * r} phase h active`,
    ]);
    expect(hurled(5)).toContain(`${1 + 0.5 * r} launched h 0 → 8`);
  });

  test('a shard is drawn in: by its speed curve, latched, giving up, and only to whom it would be accepted by', () => {
    const shard = (more: object, rule = {}) => ({
      ...kind(circle(0.3), arriving({ a: meter('score', 'add', 15) }, { becomes: { type: 'spent' }, ...rule })),
      magnet: {
        reach: 3,
        giveUp: 5,
        speed: [
          [0, 0],
          [1, 6],
        ],
        ...more,
      },
    });
    const at = (x: number) => ({ placements: { s: { kind: 'shard', x, y: 10 } } });
    // ½·6·t² = 2.5 − 0.8 u: taken when its shape touches the body, after √(1.7 ÷ 3) s; or where stated, 0.2 u apart.
    const taken = (magnet: object): number =>
      Number(
        told(scene({ shard: shard(magnet) }, at(4.5)), r, 2)
          .find((line) => line.includes('changed'))!
          .split(' ')[0],
      ) / r;
    expect(Math.abs(taken({}) - Math.sqrt(1.7 / 3))).toBeLessThan(1.01 / r);
    expect(Math.abs(taken({ takenAt: 0.2 }) - Math.sqrt(2.3 / 3))).toBeLessThan(1.01 / r);
    const full = told(scene({ shard: shard({}, { provided: { hurt: { type: 'below limit', meter: 'health' } } }) }, at(4.5)), r, 2);
    expect(full).toEqual([]);
    // Fleeing at 4 u/s from 2.5 u: 2.5 + 4t − 1 − … is more than 5 u before the shard is as fast.
    const fled = told(
      scene({ shard: shard({ speed: [[0, 1]], then: 'goes home' }) }, { ...at(4.5), start: { x: 6.9, y: 10 } }),
      r,
      4,
      keys(r, [4, 1]),
    );
    expect(fled.map((line) => line.slice(line.indexOf(' ') + 1))).toEqual(['drawn s to player 1', 'drawn s no more']);
  });

  test('drawn only while in reach, and stopped by a wall, where the magnet says so', () => {
    const shard = (more: object) => ({
      ...kind(circle(0.3), arriving({ a: meter('score', 'add', 15) })),
      magnet: { reach: 3, giveUp: 30, speed: [[0, 2]], ...more },
    });
    const flee = (latched: boolean): string[] =>
      told(
        scene({ shard: shard({ latched }) }, { placements: { s: { kind: 'shard', x: 4.5, y: 10 } }, start: { x: 6.9, y: 10 } }),
        r,
        4,
        keys(r, [4, 1]),
      );
    // Walking away at 4 u/s from 2.4 u: out of reach long before 30 u.
    expect(flee(true)).toEqual(['1 drawn s to player 1']);
    expect(flee(false).map((line) => line.slice(line.indexOf(' ') + 1))).toEqual(['drawn s to player 1', 'drawn s no more']);
    const walled = (passesSolids: boolean): string[] =>
      told(
        scene(
          { shard: shard({ passesSolids }) },
          { placements: { s: { kind: 'shard', x: 4.9, y: 10 } }, solids: { wall: { x: 3.3, y: 5, width: 0.4, height: 10 } } },
        ),
        r,
        4,
      );
    expect(walled(true).some((line) => line.includes('changed s score 15/15'))).toBe(true);
    expect(walled(false)).toEqual(['1 drawn s to player 1']);
  });

  test('squeezed between a wall and a press that travels: killed, left in, or the press is not solid until clear', () => {
    const press = { ...kind({}, arriving({})), solid: { width: 3, height: 6 } };
    const squeezed = (mode: string) =>
      play(
        level({
          start: { x: 5.4, y: 10 },
          death: { squeezed: mode },
          solids: { wall: { x: 6, y: 0, width: 1, height: 20 } },
          paths: {
            way: {
              name: 'way',
              speed: 2,
              round: 'back and forth',
              wayPoints: [
                { x: 1.5, y: 10 },
                { x: 20, y: 10 },
              ],
            },
          },
          kinds: { press },
          placements: { p: { kind: 'press', x: 0, y: 0, travel: { path: 'way' } } },
        }),
        run(3),
        r,
      );
    // The face meets the body (x = 4.9) after 0.95 s and has it at the wall (x = 5.5) after 1 s: every way out is over 2 u.
    const killed = short(squeezed('killed').lines);
    expect(killed[0]).toMatch(/died p$/);
    expect(Math.abs(parseInt(killed[0]!) - r)).toBeLessThanOrEqual(2);
    // Waiting, it gives way: after 2 s it has gone on to x = 5.5, and the way out on its left is 2 u, two body widths.
    const waiting = squeezed('waits');
    expect(short(waiting.lines, 3)).toEqual([`${2 * r} moved p 3.5,10`, `${3 * r} ended running`]);
    expect(waiting.recording.x.every((x) => x < 5.5 + 1e-5)).toBe(true);
    const leftIn = squeezed('left in');
    expect(short(leftIn.lines)).toEqual([`${3 * r} ended running`]);
    expect(leftIn.recording.x.every((x) => x < 5.5 + 1e-5)).toBe(true);
  });

  test('a fire-mouth on a cycle kills only while it is on, and whoever is inside when it comes on', () => {
    const mouth = { ...kind(circle(1), arriving({ kill: { type: 'kill' } })), cycle: { on: 1, off: 1.5, offset: 1 } };
    const left = Number((1.5 - 1 / r).toFixed(9));
    expect(told(scene({ mouth }), r, 3)).toEqual([
      `1 refused player 1 mouth off ${left}`,
      `${1.5 * r} phase mouth ready`,
      `${1.5 * r + 1} died mouth`,
      `${1.5 * r + 1} ended lost`,
    ]);
  });

  test('a coat slows for as long as it is carried; coming back, one is put down higher and lands', () => {
    const items = {
      coat: { name: 'coat', rules: { weigh: { setOffBy: 'carried', effects: { a: movement('speed', 'multiply', 0.5, 'while') } } } },
    };
    const give = (count: number) => arriving({ a: { type: 'item', item: 'coat', count } });
    expect(told(scene({ peg: give(1), hook: give(-1) }, { items }), r, 0.5)).toEqual([
      '1 item peg coat 1/1 → 1',
      '1 movement coat speed 4 → 2',
      '1 item hook coat -1/-1 → 0',
      '1 movement coat speed ends 2 → 4',
    ]);
    const death = { returns: 'always', pause: 0.5, dropHeight: 2, returnTo: { type: 'point', point: 'back' } };
    const pit = kind(box(2, 2), arriving({ kill: { type: 'kill' } }));
    const document = level({
      ...SIDE,
      death,
      start: { x: 5, y: 1.5 },
      solids: ground,
      points: { back: { name: 'back', x: 20, y: 1.5 } },
      kinds: { pit },
      placements: { p: { kind: 'pit', x: 5, y: 2 } },
    });
    const { lines, recording } = play(document, run(2), r);
    expect(short(lines).slice(0, 2)).toEqual(['1 died p', `${1 + 0.5 * r} returned 20,3.5`]);
    expect(recording.y[2 * r]).toBeCloseTo(1.5, 4);
  });

  test('soot drifts straight on and rebounds from walls at its speed', () => {
    const soot = { ...kind(circle(0.5), arriving({})), drift: { speed: 5, degrees: 0 } };
    const document = scene({ soot }, { placements: { s: { kind: 'soot', x: 50, y: 5 } } });
    const compiled = compile(document, r);
    const still = run(4);
    // The wall at x = 60 is met at 59.5 after 1.9 s; then 10.5 u back.
    const { x, y } = momentAt(compiled, still, simulate(compiled, still), 4 * r).placements['s']!;
    expect([x, y]).toEqual([expect.closeTo(49, 4) as number, 5]);
  });
});

test('movement values are never below nought', () => {
  const mire = arriving({ a: movement('speed', 'add', -50, 9) });
  expect(told(scene({ mire }), 60, 0.1)).toEqual(['1 movement mire speed 4 → 0']);
});
