import { compile, SIMULATION_VERSION } from '../session/index.ts';
import { digestSessions, keptDigests } from '../testing/sessions.ts';
import { outcomeOfRun, shareLanes, simulate } from './index.ts';

test('sessions come to the digests on file; simulated for their outcome alone, to the same outcome', () => {
  const found = digestSessions().map(({ name, level, run }): [string, string] => {
    const { digest, outcome } = simulate(compile(level), run);
    expect(outcomeOfRun(compile(level), run)).toEqual(outcome);
    return [name, digest];
  });
  // Sessions that come out otherwise are another simulation, and say so.
  expect({ simulation: SIMULATION_VERSION, digests: Object.fromEntries(found) }).toEqual(keptDigests());
});

test('lanes that hold the same numbers as before are the arrays of before, all others are not', () => {
  const lanes = (health: number) => ({
    x: Float32Array.of(1, 2, 3),
    y: Float32Array.of(4, 5, 6),
    speed: Float32Array.of(7, 8),
    meters: { health: Float32Array.of(100, health), score: Float32Array.of(0, 15) },
  });
  const before = lanes(80);
  const now = { ...lanes(70), speed: Float32Array.of(7, 8, 9) };
  const shared = shareLanes(before, now);
  expect(shared).toEqual(now);
  expect([shared.x === before.x, shared.y === before.y, shared.meters['score'] === before.meters.score]).toEqual([true, true, true]);
  expect([shared.speed === now.speed, shared.meters['health'] === now.meters.health]).toEqual([true, true]);
  expect(shareLanes(null, now)).toEqual(now);
});
