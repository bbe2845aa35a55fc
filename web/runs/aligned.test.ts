import type { ShownRun } from '../state/simulation/protocol.ts';
import { shownOf, works } from '../testing/shown.ts';
import { tableOf } from '../charts/spec.ts';
import { alignedAt, alignments, comparedChart } from './aligned.ts';

const shown = shownOf(works, 7);

test('runs are laid over each other by what all of them come to', () => {
  const of = (run: ShownRun, id: string) => ({ id, name: id, run: {} as never, shown: run });
  const runs = [of(shown, 'a'), of(shownOf(works, 7, 2), 'b'), of(shownOf(works, 3), 'short')];
  expect(alignments(works, runs.slice(0, 2)).map(([by]) => by)).toEqual(['start', 'kind basin', 'kind shard', 'kind vent']);
  expect(alignments(works, runs).map(([by]) => by)).toEqual(['start', 'kind vent']);
  const [a = null, b = null] = runs.map((run) => alignedAt(run, 'kind basin'));
  expect((b ?? 0) - (a ?? 0)).toBeCloseTo(2, 6);
  const chart = comparedChart(works, runs.slice(0, 2), 'kind basin');
  const first = chart.panels[0]?.lines.map(({ points }) => points[0]?.[0]);
  expect(first).toEqual([-(a ?? 0), -(b ?? 0)]);
  expect([chart.x.low.toFixed(2), (chart.x.high - chart.x.low).toFixed(2)]).toEqual([(-(b ?? 0)).toFixed(2), '9.00']);
  const { heads, rows } = tableOf(chart);
  expect(heads.slice(0, 3)).toEqual(['time from there', 'health: a', 'health: b']);
  const twins = comparedChart(works, [of(shown, 'a'), of(shown, 'a'), of(shown, 'b')], 'start');
  expect(twins.panels[0]?.lines.map(({ name }) => name)).toEqual(['a', 'a (2)', 'b']);
  // The second run begins two seconds earlier: until then the first has no value.
  expect([rows[0]?.slice(1, 3), rows.at(-1)?.slice(1, 3)]).toEqual([
    ['—', String(shown.meters['health']?.[0])],
    ['97', '97'],
  ]);
});
