import type { ShownRun } from '../state/simulation/protocol.ts';
import { shownOf, works } from '../testing/shown.ts';
import { alignedAt, alignments, comparedLanes } from './aligned.ts';

const shown = shownOf(works, 7);
const palette = { role: { mend: 'm', score: 's', carry: 'c', movement: 'v' } } as never;

test('runs are laid over each other by what all of them come to', () => {
  const of = (run: ShownRun, id: string) => ({ id, name: id, run: {} as never, shown: run });
  const runs = [of(shown, 'a'), of(shownOf(works, 7, 2), 'b'), of(shownOf(works, 3), 'short')];
  expect(alignments(works, runs.slice(0, 2)).map(([by]) => by)).toEqual(['start', 'kind basin', 'kind shard', 'kind vent']);
  expect(alignments(works, runs).map(([by]) => by)).toEqual(['start', 'kind vent']);
  const [a = null, b = null] = runs.map((run) => alignedAt(run, 'kind basin'));
  expect((b ?? 0) - (a ?? 0)).toBeCloseTo(2, 6);
  const { lanes, zero, duration } = comparedLanes(works, runs.slice(0, 2), 'kind basin', palette);
  expect(lanes[0]?.lines.map(({ beginsAt }) => beginsAt.toFixed(2))).toEqual(['2.00', '0.00']);
  expect([zero.toFixed(2), duration.toFixed(2)]).toEqual([(b ?? 0).toFixed(2), '9.00']);
});
