import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { parseLevelText, type Level } from '../level/index.ts';
import { outcomeOfRun, playPersonas } from '../players/index.ts';
import { compile, keyedDraw } from '../session/index.ts';
import { box, circle, corridorWith, kind, meterEffect, PLAIN } from '../testing/levels.ts';
import { runs } from '../testing/runs.ts';
import {
  bandsOf,
  crowdProblems,
  crowdReport,
  crowdTouches,
  CrowdSettings,
  heatGrid,
  measuresOf,
  mergeSummaries,
  pairedOf,
  playShard,
  quantileOf,
  sessionAt,
  sessionCount,
  shareOf,
  studyJsonSchema,
  Summary,
  survivalOf,
} from './index.ts';

function demo(name: string): Level {
  const parsed = parseLevelText(readFileSync(`demo/${name}/level.json`, 'utf8'));
  if (!parsed.ok) throw new Error(`the demo ${name} is not valid`);
  return parsed.value;
}

/** A corridor with a vent across it, which takes so much with a chance, to a goal at its end. */
const corridor = (amount: number, chance = 1): Level => {
  const provided = { chance: { type: 'chance', value: chance } };
  const vent = kind(
    box(2, 4),
    { setOffBy: { type: 'arriving' }, provided, effects: meterEffect('health', 'take', amount) },
    { role: 'harm' },
  );
  return corridorWith(vent, {
    kinds: { vent, idle: { ...kind(circle(0.3), {}), rules: {} } },
    placements: { vent: { kind: 'vent', x: 5, y: 1 }, idle: { kind: 'idle', x: 3, y: 0.1, order: 2 } },
    personas: { plain: PLAIN, late: { ...PLAIN, name: 'late', haste: 0.5 } },
  });
};

const settings = (given: object): CrowdSettings => CrowdSettings.parse(given);

test('a crowd of a corridor comes to what the rules say, session by session', () => {
  const document = corridor(30);
  const wanted = settings({
    personas: [
      { persona: 'plain', sessions: 3 },
      { persona: 'late', sessions: 1 },
    ],
    seconds: 30,
    seed: 7,
  });
  const { rows } = playShard(document, wanted, { from: 0, to: 4 }, { tracks: true });
  expect(rows.map(({ persona, seed }) => [persona, seed])).toEqual([
    [0, 7],
    [1, 7],
    [0, 8],
    [0, 9],
  ]);
  for (const row of rows) {
    expect(row).toMatchObject({ ended: 'won', final: [70, 0], lowest: [70, 0], deathCount: 0 });
    expect(row.touched).toEqual([expect.objectContaining({ thing: 0, uses: 1, hurt: 30, refused: [] })]);
    // 7.5 u at 4 u a second, or at half that; the health of each second is in the track.
    expect(row.seconds).toBeCloseTo(row.persona === 0 ? 7.5 / 4 : 7.5 / 2, 0);
    expect(row.track).toHaveLength(2 * (Math.floor(row.seconds) + 1));
  }
  // After a second those who hurry have passed the vent's edge; who goes at half their speed has not: 70 + 0.7 × 30.
  const { players, alive, finals } = bandsOf(document, rows);
  const { tenth, median, ninetieth } = players[0]!['health']!;
  expect([tenth[0], tenth[1], median[1], ninetieth[1], ninetieth.at(-1), alive.at(-1)]).toEqual([100, 70, 70, 91, 70, 100]);
  expect(finals['health']).toEqual({ tenth: 70, median: 70, ninetieth: 70 });
  // Through the vent at 4 u a second from 0.63 s to 1.38 s; at half that from 1.24 s to 2.74 s.
  expect([...bandsOf(document, rows).inside['vent']!].slice(0, 4)).toEqual([75, 100, 25, 0]);
  const report = crowdReport(document, wanted, rows);
  expect(report.all.finishes).toMatchObject({ value: 1, sessions: 4 });
  expect(report.things.map(({ placement, touched, health }) => [placement, touched.value, health])).toEqual([
    ['idle', 0, 0],
    ['vent', 1, -30],
  ]);
});

test('what a crowd did at a kind: who touches two of it has touched it once, and each persona has its own count', () => {
  const one = corridor(30);
  const document = { ...one, placements: { ...one.placements, second: { ...one.placements['vent']!, x: 8, order: 3 } } };
  const personas = [
    { persona: 'plain', sessions: 2 },
    { persona: 'late', sessions: 2 },
  ];
  // Those who are late are cut off between the two.
  const { rows } = playShard(document, settings({ personas, seconds: 2 }), { from: 0, to: 4 });
  const { kinds, placements } = crowdTouches(document, rows);
  expect(kinds['vent']).toMatchObject({ touched: { value: 1, sessions: 4 }, uses: 1.5, usesBy: [2, 1], health: -45 });
  expect(placements['second']).toMatchObject({ touched: { value: 0.5 }, uses: 0.5, usesBy: [1, 0], health: -15 });
  expect(kinds['vent']?.firstUseSeconds).toBe(placements['vent']?.firstUseSeconds);
  expect(placements['idle']).toBeUndefined();
});

test('who dies, where, and when it was that all had lost a life', () => {
  const document = { ...corridor(200), death: { ...corridor(200).death, returns: 'never' as const } };
  const wanted = settings({ personas: [{ persona: 'plain', sessions: 5 }] });
  const { rows, heat } = playShard(document, wanted, { from: 0, to: 5 });
  expect(bandsOf(document, rows)).toMatchObject({ sessions: 5, finish: 0, loseALife: 1 });
  const { all, things, deaths } = crowdReport(document, wanted, rows);
  expect([all.losesALife.value, all.finishes.value, all.ended, deaths]).toEqual([1, 0, { lost: 5 }, 5]);
  expect(things.find(({ placement }) => placement === 'vent')).toMatchObject({ deaths: 5, thing: all.diesAt });
  expect(all.alive).toEqual([expect.objectContaining({ share: 0, left: 5, seconds: rows[0]?.seconds })]);
  // The edge of the vent, less the body, is at 3.5.
  const { cell, columns } = heatGrid(document);
  expect(heat.deaths).toEqual([Math.floor(1 / cell) * columns + Math.floor(3.5 / cell), 5]);
});

test.each(['night-firing', 'chimney-climb'])('sessions of %s come to the same in whatever parts they are played', (name) => {
  const document = demo(name);
  const wanted = settings({
    personas: [
      { persona: 'wary', sessions: 4 },
      { persona: 'hasty', sessions: 7 },
    ],
    seconds: 20,
  });
  const whole = playShard(document, wanted, { from: 0, to: 11 });
  expect(Summary.parse(JSON.parse(JSON.stringify(whole)))).toEqual(whole);
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 11 }), { maxLength: 4 }), fc.boolean(), (cuts, backwards) => {
      const at = [0, ...cuts.sort((a, b) => a - b), 11];
      const parts = at.slice(1).map((to, index) => playShard(document, wanted, { from: at[index]!, to }));
      expect(mergeSummaries(document, backwards ? parts.reverse() : parts)).toEqual(whole);
    }),
    { numRuns: runs(6) },
  );
  expect(() => mergeSummaries(document, [whole, whole])).toThrow('session 0 is there twice');
  // The run of a session comes to what its row says.
  const { persona, seed } = sessionAt(wanted, 10);
  const compiled = compile(document);
  const played = document.personas[wanted.personas[persona]!.persona]!;
  const outcome = outcomeOfRun(compiled, playPersonas(compiled, [played], { seed, seconds: 20 }).run);
  expect(whole.rows[10]).toMatchObject({ seconds: outcome.ended.seconds, final: Object.values(outcome.players[0]!.meters) });
  expect(whole.rows[10]!.deathCount).toBe(outcome.players[0]!.deaths);
});

test.each(['night-firing/crowds/every-persona', 'chimney-climb/crowds/every-persona', 'proving-yard/crowds/a-minute-each'])(
  'the crowd that ships as %s is what this level and simulation come to',
  (file) => {
    const { settings: asked, summary } = JSON.parse(readFileSync(`demo/${file}.json`, 'utf8')) as {
      settings: CrowdSettings;
      summary: Summary;
    };
    const document = demo(file.split('/')[0]!);
    const { rows, level: hash, simulation } = playShard(document, CrowdSettings.parse(asked), { from: 3, to: 6 });
    expect([summary.level, summary.simulation, summary.rows.length]).toEqual([hash, simulation, sessionCount(asked)]);
    expect(summary.rows.slice(3, 6)).toEqual(rows);
  },
);

test('what is asked for is checked against the level, and what it costs is said', () => {
  const document = corridor(1);
  const problems = (given: object): string[] => crowdProblems(document, settings(given)).map(({ path, message }) => `${path} ${message}`);
  expect(problems({ personas: [{ persona: 'nobody', sessions: 1 }], start: 'hurt' })).toEqual([
    '/personas/0/persona the level has no persona “nobody”',
    '/start the level has no starting state “hurt”',
  ]);
  expect(
    problems({
      personas: [
        { persona: 'plain', sessions: 1 },
        { persona: 'plain', sessions: 1 },
      ],
    }),
  ).toHaveLength(1);
  expect(problems({ personas: [{ persona: 'plain', sessions: 1_000_000 }] })[0]).toContain('up to 33334 hours of play');
  expect(CrowdSettings.safeParse({ personas: [{ persona: 'plain', sessions: 0 }] }).success).toBe(false);
  expect(CrowdSettings.safeParse({ personas: [] }).success).toBe(false);
  expect(
    sessionCount(
      settings({
        personas: [
          { persona: 'plain', sessions: 3 },
          { persona: 'late', sessions: 2 },
        ],
      }),
    ),
  ).toBe(5);
  expect(JSON.stringify(studyJsonSchema())).toContain('Sessions of a crowd');
});

/** How often of 400 an interval held the truth. */
function held(truth: number, interval: (repetition: number) => { readonly low: number; readonly high: number }): number {
  let count = 0;
  for (let repetition = 0; repetition < 400; repetition += 1) {
    const { low, high } = interval(repetition);
    if (low <= truth && truth <= high) count += 1;
  }
  return count / 400;
}

const draws = (seed: number, count: number): number[] => Array.from({ length: count }, (_, nth) => keyedDraw({ seed }, 20, 0, nth));

test('an interval of 95 % holds the truth in 92 to 98 of 100: of shares, medians, pairs and over time', () => {
  const within = (share: number): void => {
    expect(share).toBeGreaterThanOrEqual(0.92);
    expect(share).toBeLessThanOrEqual(0.98);
  };
  within(held(0.3, (seed) => shareOf(draws(seed, 200).filter((one) => one < 0.3).length, 200)));
  within(held(0.5, (seed) => quantileOf(draws(seed, 41), 0.5, seed)));
  // The mean of x² less that of x ÷ 2, for x from 0 to 1, is a third less a quarter.
  within(
    held(1 / 12, (seed) =>
      pairedOf(
        draws(seed, 50).map((one) => one * one),
        draws(seed, 50).map((one) => one / 2),
      ),
    ),
  );
  // It happens evenly over ten seconds; each is lost from sight somewhere in twelve: at 5 s half are left.
  within(
    held(0.5, (seed) => {
      const [when, lost] = [draws(seed, 60), draws(seed + 5000, 60)];
      const seen = when.map((one, at) => ({ seconds: Math.min(10 * one, 12 * lost[at]!), happened: 10 * one < 12 * lost[at]! }));
      return survivalOf(seen).findLast(({ seconds }) => seconds <= 5)!;
    }),
  );
});

test('a chance of 0.3 in a level is found by its crowds: they hold it as often as they say', () => {
  const document = corridor(30, 0.3);
  const health = measuresOf(document).find(({ name }) => name === 'final health')!;
  const asked = settings({ personas: [{ persona: 'plain', sessions: 8000 }], seconds: 6 });
  const { rows } = playShard(document, asked, { from: 0, to: 8000 });
  const hurt = rows.map((row) => health.of(row) < 100);
  const share = held(0.3, (crowd) => shareOf(hurt.slice(crowd * 20, crowd * 20 + 20).filter(Boolean).length, 20));
  expect(share).toBeGreaterThanOrEqual(0.92);
  expect(share).toBeLessThanOrEqual(0.98);
});
