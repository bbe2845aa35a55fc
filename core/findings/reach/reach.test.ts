import fc from 'fast-check';
import { outcomeOfRun, playPersonas } from '../../players/index.ts';
import { compile } from '../../session/index.ts';
import type { Level } from '../../level/index.ts';
import { box, circle, kind, level, shard } from '../../testing/levels.ts';
import { runs } from '../../testing/runs.ts';
import { openFindings } from '../index.ts';
import { viewOf } from '../view.ts';
import { reachFromStart } from './reach.ts';

type Parts = Record<string, unknown>;

/** Things by id that players may come to from the start; null: that cannot be told. */
const comeTo = (document: Level): string[] | null => {
  const view = viewOf(document);
  const reach = reachFromStart(view);
  return reach === null
    ? null
    : view.things
        .filter((thing) => reach.setsOff(thing))
        .map(({ id }) => id)
        .sort();
};
const told = (document: Level, code: string): string[] => openFindings(document).flatMap((one) => (one.code === code ? [one.what] : []));
const at = (x: number, y: number, kindId = 'shard'): Parts => ({ kind: kindId, x, y });
/** Jumps of 12 u/s against 36 u/s² rise 2 u; the body is 1.3 u high. */
const JUMPER = { radius: 0.5, width: 0.7, height: 1.3, speed: 5, acceleration: 40, braking: 40, jumpSpeed: 12, gravity: 36 };
const climb = (parts: Parts): Level => level({ view: 'side', body: JUMPER, start: { x: 2, y: 0.65 }, kinds: { shard }, ...parts });

test('from the side a thing is out of reach that is higher than one jumps from wherever one comes to stand', () => {
  // Half a unit around: from the floor it is touched up to 2 + 1.3 + 0.5 u.
  const free = { low: at(20, 3.7), high: at(40, 4.1) };
  expect(comeTo(climb({ placements: free }))).toEqual(['low']);
  expect(told(climb({ placements: free }), 'out-of-reach')).toEqual(['No way leads to thing.']);
  // A ledge on the way leads up to it; what may lift one makes it untold.
  const ledge = { solids: { ledge: { x: 36, y: 1, width: 3, height: 0.5, sides: ['top'] } }, placements: free };
  expect(comeTo(climb(ledge))).toEqual(['high', 'low']);
  const spring = kind(box(1, 1), {
    setOffBy: { type: 'arriving' },
    effects: { up: { type: 'launch', direction: { type: 'fixed', degrees: 90 }, strength: 20 } },
  });
  expect(comeTo(climb({ kinds: { shard, spring }, placements: { ...free, spring: at(10, 0.5, 'spring') } }))).toBeNull();
  // And a gap that is wider than one jumps, over a floor from which nobody comes up again.
  const gap = (width: number): Level =>
    climb({
      start: { x: 2, y: 10.65 },
      solids: { near: { x: 0, y: 9, width: 4, height: 1 }, far: { x: 4 + width, y: 9, width: 4, height: 1 } },
      placements: { one: at(6 + width, 10.6) },
    });
  // In the air for 2/3 s, and 0.1 s of late jump: 3.8 u, beside the body.
  expect([comeTo(gap(4)), comeTo(gap(6))]).toEqual([['one'], []]);
});

test('what is behind walls is come to through what puts one there, and only if that is come to itself', () => {
  const door = (point: string): Parts =>
    kind(circle(0.5), { setOffBy: { type: 'arriving' }, effects: { go: { type: 'move', to: { type: 'point', point } } } });
  const walled = (doorX: number): Level =>
    level({
      kinds: { shard, door: door('cell') },
      solids: { wall: { x: 30, y: 0, width: 1, height: 20 } },
      points: { cell: { name: 'cell', x: 50, y: 10 } },
      placements: { inside: at(40, 10), door: at(doorX, 10, 'door') },
    });
  expect([comeTo(walled(20)), comeTo(walled(35))]).toEqual([['door', 'inside'], []]);
  // Coming back from death is a way too.
  const back = {
    ...walled(35),
    death: { ...walled(35).death, returns: 'always' as const, returnTo: { type: 'point' as const, point: 'cell' } },
  };
  expect(comeTo(back)).toEqual(['door', 'inside']);
});

const spot = fc.record({ x: fc.integer({ min: 1, max: 58 }), y: fc.integer({ min: 1, max: 18 }) });
const bar = fc.record({
  x: fc.integer({ min: 0, max: 55 }),
  y: fc.integer({ min: 2, max: 18 }),
  width: fc.integer({ min: 1, max: 20 }),
  height: fc.constantFrom(0.5, 1, 12),
});
const some = <Value>(values: readonly Value[]): Record<string, Value> =>
  Object.fromEntries(values.map((value, index) => [`n${String(index)}`, value]));

test('nobody who plays comes to what is said to be out of reach', () => {
  let claims = 0;
  fc.assert(
    fc.property(
      fc.constantFrom('top', 'side'),
      fc.array(bar, { maxLength: 12 }),
      fc.array(spot, { minLength: 4, maxLength: 12 }),
      (view, bars, spots) => {
        const placements = some(spots.map(({ x, y }) => at(x, y)));
        const document =
          view === 'side' ? climb({ solids: some(bars), placements }) : level({ kinds: { shard }, solids: some(bars), placements });
        const reached = comeTo(document);
        if (reached === null) return;
        const never = Object.keys(document.placements).filter((id) => !reached.includes(id));
        claims += never.length;
        const compiled = compile(document);
        for (const persona of Object.values(document.personas).slice(0, 2)) {
          const { perPlacement } = outcomeOfRun(compiled, playPersonas(compiled, [persona], { seed: 1, seconds: 10 }).run);
          expect(never.filter((id) => (perPlacement[id]?.uses ?? 0) > 0)).toEqual([]);
        }
      },
    ),
    { numRuns: runs(30) },
  );
  expect(claims).toBeGreaterThan(0);
});
