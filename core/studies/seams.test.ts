import { box, circle, kind, level, meterEffect, PLAIN } from '../testing/levels.ts';
import { compile } from '../session/index.ts';
import { playPersonas, outcomeOfRun } from '../players/index.ts';
import type { Level } from '../level/index.ts';
import {
  bandsOf,
  crowdReport,
  CrowdSettings,
  finishes,
  measuresOf,
  mergeSummaries,
  playShard,
  sessionAt,
  smallCrowd,
  usualCrowd,
} from './index.ts';

/** A room with a shard to the right of the start, and what else is said. */
const room = (parts: object): Level =>
  level({
    size: { width: 12, height: 6 },
    start: { x: 2, y: 3 },
    body: { radius: 0.5, speed: 4, acceleration: 1e4, braking: 1e4 },
    kinds: {
      shard: kind(circle(0.5), { setOffBy: { type: 'arriving' }, effects: meterEffect('score', 'add', 15), becomes: { type: 'spent' } }),
    },
    placements: { shard: { kind: 'shard', x: 8, y: 3 } },
    personas: { plain: PLAIN },
    ...parts,
  });

const crowd = (given: object = {}): CrowdSettings =>
  CrowdSettings.parse({ personas: [{ persona: 'plain', sessions: 4 }], seconds: 30, ...given });
const measure = (document: Level, name: string) => measuresOf(document).find((one) => one.name === name)!;

test('where nothing wins, whoever has done all there is to do has finished', () => {
  const document = room({});
  const { rows } = playShard(document, crowd(), { from: 0, to: 4 });
  expect(rows.map(({ ended }) => ended)).toEqual(['nothing left to do', 'nothing left to do', 'nothing left to do', 'nothing left to do']);
  expect(rows.every(finishes(document))).toBe(true);
  // With a goal that cannot be met it has not.
  const closed = room({
    points: { far: { name: 'far', x: 11, y: 3 } },
    ends: { goals: { far: { type: 'reach', point: 'far', within: 0.3 } } },
    solids: { wall: { x: 9, y: 0, width: 1, height: 6 } },
  });
  expect(playShard(closed, crowd({ seconds: 5 }), { from: 0, to: 1 }).rows.some(finishes(closed))).toBe(false);
});

test('two players: a row has both, what is asked of a session is their mean, and a life of either is a life', () => {
  const document = room({
    players: { count: 2, starts: ['one', 'two'] },
    points: { one: { name: 'one', x: 2, y: 3 }, two: { name: 'two', x: 10, y: 5 } },
    kinds: {
      ...room({}).kinds,
      // Whoever starts at the second point is in it at once.
      pit: kind(box(1, 1), { setOffBy: { type: 'arriving' }, effects: meterEffect('health', 'take', 200) }, { role: 'lethal' }),
    },
    placements: { shard: { kind: 'shard', x: 6, y: 3 }, pit: { kind: 'pit', x: 10, y: 5, order: 2 } },
    death: { returns: 'never' },
  });
  const [row] = playShard(document, crowd(), { from: 0, to: 1 }).rows;
  expect(row).toMatchObject({ final: [100, 15, 0, 0], deathCount: 1, deaths: [{ player: 2, thing: 1, x: 10, y: 5 }] });
  expect([
    measure(document, 'final health').of(row!),
    measure(document, 'lowest health').of(row!),
    measure(document, 'loses a life').of(row!),
  ]).toEqual([50, 0, 1]);
  const { players } = bandsOf(document, playShard(document, crowd(), { from: 0, to: 2 }, { tracks: true }).rows);
  expect(players.map(({ health }) => health?.median.at(-1))).toEqual([100, 0]);
});

test('what is spawned is counted by its kind, after the placements, also when it is gone', () => {
  const document = room({
    kinds: {
      ...room({}).kinds,
      chest: kind(circle(0.5), {
        setOffBy: { type: 'arriving' },
        effects: { out: { type: 'spawn', pool: { shard: 1 }, at: { type: 'point', point: 'there' }, most: 3 } },
        becomes: { type: 'spent' },
      }),
    },
    points: { there: { name: 'there', x: 9, y: 3 } },
    // One starts in it; what it brings lies on the way to another.
    placements: { chest: { kind: 'chest', x: 2, y: 3 }, last: { kind: 'shard', x: 11, y: 3, order: 2 } },
  });
  const asked = crowd({ seconds: 20 });
  const { rows } = playShard(document, asked, { from: 0, to: 4 });
  const compiled = compile(document);
  const outcome = outcomeOfRun(compiled, playPersonas(compiled, [document.personas['plain']!], { seed: 1, seconds: 20 }).run);
  const { things } = crowdReport(document, asked, rows);
  const spawned = things.find(({ placement }) => placement === null);
  expect([spawned?.kind, spawned?.uses, outcome.perKind['shard']?.uses]).toEqual(['shard', 1, 2]);
  expect(things.map(({ placement, uses }) => [placement, uses]).sort()).toEqual([
    [null, 1],
    ['chest', 1],
    ['last', 1],
  ]);
});

test('a starting state and a seed are those of the run that a session is opened as', () => {
  const document = room({ tries: { hurt: { name: 'hurt', meters: { health: 30 }, at: { x: 10, y: 3 } } } });
  const asked = crowd({ start: 'hurt', seed: 0xffffffff });
  const { rows } = playShard(document, asked, { from: 0, to: 2 });
  expect(rows.map(({ final, seed }) => [final[0], seed])).toEqual([
    [30, 0xffffffff],
    [30, 0],
  ]);
  expect([sessionAt(asked, 0).seed, sessionAt(asked, 1).seed]).toEqual([0xffffffff, 0]);
});

test('a hundred players are shared out evenly; any first part of a crowd has all its personas', () => {
  const document = room({ personas: { a: PLAIN, b: { ...PLAIN, order: 2 }, c: { ...PLAIN, order: 3 } } });
  expect(smallCrowd(document, 100, 60).personas.map(({ sessions }) => sessions)).toEqual([34, 33, 33]);
  expect(smallCrowd(document, 2, 60).personas.map(({ persona }) => persona)).toEqual(['a', 'b']);
  const usual = usualCrowd(document);
  expect([0, 1, 2, 3].map((index) => sessionAt(usual, index).persona)).toEqual([0, 1, 2, 0]);
  // Uneven ones go on with whoever is left.
  const uneven = CrowdSettings.parse({
    personas: [
      { persona: 'a', sessions: 1 },
      { persona: 'b', sessions: 3 },
    ],
  });
  expect([0, 1, 2, 3].map((index) => [sessionAt(uneven, index).persona, sessionAt(uneven, index).seed])).toEqual([
    [0, 1],
    [1, 1],
    [1, 2],
    [1, 3],
  ]);
});

test('sessions of another level, or by another simulation, are never put together', () => {
  const [one, other] = [room({}), room({ start: { x: 3, y: 3 } })];
  const [a, b] = [playShard(one, crowd(), { from: 0, to: 1 }), playShard(other, crowd(), { from: 1, to: 2 })];
  expect(() => mergeSummaries(one, [a, b])).toThrow('different levels');
  expect(() => mergeSummaries(one, [a, { ...b, level: a.level, simulation: a.simulation + 1 }])).toThrow('simulations');
  expect(mergeSummaries(one, []).rows).toEqual([]);
});

test('a session in the room of one that is over is as it is in its own: what has drifted away is seen again where it starts', () => {
  const collectible = { setOffBy: { type: 'arriving' }, effects: meterEffect('score', 'add', 15), becomes: { type: 'spent' } };
  const document = room({
    size: { width: 60, height: 6 },
    kinds: { shard: kind(circle(0.5), collectible), drifter: kind(circle(0.5), collectible, { drift: { speed: 3 } }) },
    placements: { shard: { kind: 'shard', x: 8, y: 3 }, drifter: { kind: 'drifter', x: 2, y: 1.2, order: 2 } },
    personas: { plain: { ...PLAIN, sight: 6 } },
  });
  const whole = playShard(document, crowd(), { from: 0, to: 4 });
  const alone = [0, 1, 2, 3].map((from) => playShard(document, crowd(), { from, to: from + 1 }));
  expect(whole).toEqual(mergeSummaries(document, alone));
  expect(whole.rows.every(({ touched }) => touched.some(({ thing, firstUseSeconds }) => thing === 1 && (firstUseSeconds ?? 9) < 1))).toBe(
    true,
  );
});
