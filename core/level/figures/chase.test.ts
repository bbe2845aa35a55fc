import { addKind, boostedSpeed, chaseOf, newLevel, type Kind, type Level, type Points } from '../index.ts';

/** A level with a magnet kind that begins to be drawn at 2 u, gives up at 4 and is taken at 0.5. */
function drawn(speed: Points, change: Partial<NonNullable<Kind['magnet']>> = {}): readonly [Level, Kind] {
  const level = newLevel({ name: 'yard', view: 'top', width: 20, height: 10, unitsPerPixel: 0.05, framesPerSecond: 60 });
  const kind = level.kinds[addKind(level, 'score')]!;
  kind.magnet = { reach: 2, latched: true, giveUp: 4, then: 'stays', speed, passesSolids: true, takenAt: 0.5, ...change };
  return [level, kind];
}

test('a thing faster than the fleeing player takes 1.5 u at 3 u/s more in half a second', () => {
  const chase = chaseOf(...drawn([[0, 5]]), 2);
  expect([chase?.ends, chase?.seconds, chase?.points[0]]).toEqual(['taken', expect.closeTo(0.5, 6), [0, 2]]);
});

test('one that gathers speed falls back first: 4 − t away after t seconds of rising by 2 u/s each second', () => {
  // d(t) = 2 + 3 t − t²: farthest at 1.5 s (4.25 u), so it gives up on the way, at d = 4 after 1 s; with more patience it is taken.
  const rising: Points = [[0, 0], [10, 20]]; // prettier-ignore
  expect(chaseOf(...drawn(rising), 3)).toMatchObject({ ends: 'gives up', seconds: expect.closeTo(1.05, 6) as number });
  const patient = chaseOf(...drawn(rising, { giveUp: 5 }), 3);
  expect([patient?.ends, Math.max(...patient!.points.map(([, distance]) => distance))]).toEqual(['taken', expect.closeTo(4.25, 3)]);
  // 2 + 3 t − t² = 0.5 at t = (3 + √15) / 2.
  expect(patient?.seconds).toBeCloseTo(3.45, 6);
});

test('out of reach one that is not latched gives up at once; as fast as the player it goes on', () => {
  expect(chaseOf(...drawn([[0, 1]], { latched: false }), 2)).toMatchObject({ ends: 'gives up', seconds: 0.05 });
  expect(chaseOf(...drawn([[0, 2]]), 2)?.ends).toBe('goes on');
  const [level] = drawn([[0, 2]]);
  expect(boostedSpeed(level)).toBe(level.body.speed);
  addKind(level, 'movement');
  expect(boostedSpeed(structuredClone(level))).toBeGreaterThan(level.body.speed);
});
