import { basin, kind, circle, level, meterEffect, play, pressed, vent } from '../testing/levels.ts';
import { parseRunText, runText } from './files.ts';
import { ledgerCsv, ledgerNdjson } from './ledgerFile.ts';
import { outcomesBeside, outcomesCsv } from './outcomeRows.ts';
import { planSvgText } from './planSvg.ts';
import { stripSvgText } from './stripSvg.ts';

const works = level({
  kinds: {
    vent: { ...vent, name: 'ember vent' },
    basin: { ...basin, name: 'cooling basin' },
    pit: kind(circle(1), { setOffBy: { type: 'arriving' }, effects: meterEffect('health', 'take', 500) }),
  },
  placements: { vent: { kind: 'vent', x: 8, y: 10 }, basin: { kind: 'basin', x: 16, y: 10 }, pit: { kind: 'pit', x: 24, y: 10 } },
});
const run = pressed(60, [8, 1, 0]);
const { lines, recording } = play(works, run);

test('the ledger as NDJSON is the very lines; as CSV a row each, with words', () => {
  expect(
    ledgerNdjson(lines)
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line) as unknown),
  ).toEqual(lines);
  const [heads = '', ...rows] = ledgerCsv(works, lines).trimEnd().split('\r\n');
  expect(heads.split(',').slice(0, 6)).toEqual(['line', 'seconds', 'step', 'type', 'who', 'thing']);
  expect(rows).toHaveLength(lines.length);
  expect(rows.find((row) => row.includes('cooling basin: health'))).toMatch(
    /,changed,player 1,cooling basin,cooling basin,act,health,18,18,79,97,,/,
  );
});

test('a run goes out and comes back the same; one that is cut off is refused with its place', () => {
  const read = parseRunText(runText(run));
  expect(read.ok && read.value).toEqual(run);
  expect(parseRunText(runText(run).slice(0, -20)).ok).toBe(false);
  expect(parseRunText(JSON.stringify({ ...run, steps: -1 }))).toMatchObject({ ok: false, problems: [{ path: '/steps' }] });
});

test('outcomes beside each other: every figure that one of them has; as CSV with units in the headings and no formulas', () => {
  const other = play(works, pressed(60, [1, 1, 0])).recording;
  const beside = outcomesBeside([
    { level: works, outcome: recording.outcome },
    { level: works, outcome: other.outcome },
  ]);
  const texts = Object.fromEntries(beside.map(({ name, cells }) => [name, cells.map((cell) => cell?.text ?? null)]));
  expect(texts).toMatchObject({
    ended: ['lost at 0:05.4', 'the inputs end at 0:01.0'],
    'final health': ['0', '98.5'],
    healed: ['18', '0'],
    deaths: ['1', '0'],
    'damage by ember vent': ['21', '1.5'],
    'damage by thing': ['97', null],
  });
  // What only one of them has stands where that has it.
  expect(beside.map(({ name }) => name).filter((name) => name.startsWith('damage'))).toEqual(['damage by thing', 'damage by ember vent']);
  const after = outcomesBeside([
    { level: works, outcome: other.outcome },
    { level: works, outcome: recording.outcome },
  ]);
  expect(after.map(({ name }) => name)).toEqual(beside.map(({ name }) => name));
  const csv = outcomesCsv([{ name: '=1+1', level: works, outcome: recording.outcome }]);
  expect(csv.split('\r\n')[0]).toMatch(/^run,ended,lasted \(s\),final health,/);
  expect(csv.split('\r\n')[1]).toMatch(/^"?'=1\+1"?,lost at 0:05\.4,5\.3\d+,0,/);
});

test('drawings of a run: a lane for each meter and speed, a mark for the death, the way over the Plan', () => {
  const strip = stripSvgText(works, { lanes: recording, rate: 60, steps: recording.steps, lines });
  expect([...strip.matchAll(/font-weight="600">([^<]+)</g)].map(([, name]) => name)).toEqual(['health', 'score', 'speed']);
  expect(strip.match(/stroke-dasharray="4 3"/g)).toHaveLength(1);
  expect(planSvgText(works, recording)).toContain('<polyline class="run" points="64,320');
  expect(planSvgText(works)).not.toContain('class="run"');
});
