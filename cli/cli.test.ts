import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const folder = mkdtempSync(join(tmpdir(), 'dial-cli-'));
const level = join(__dirname, '../demo/night-firing/level.json');
const run = join(__dirname, '../demo/night-firing/runs/careful-walk.json');

function dial(...args: string[]): { code: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(__dirname, 'dist/main.js'), ...args], { encoding: 'utf8' });
  return { code: status, out: stdout, err: stderr };
}

test('run prints the outcome as JSON and writes a ledger whose sums are the change of each meter', () => {
  const ledger = join(folder, 'ledger.ndjson');
  const { code, out } = dial('run', level, '--run', run, '--ledger', ledger, '--json');
  expect(code).toBe(0);
  const outcome = JSON.parse(out) as {
    players: [{ meters: { health: number; score: number } }];
    perKind: Record<string, { scored: number }>;
    digest: string;
    simulation: number;
  };
  expect(outcome.digest).toMatch(/^[0-9a-f]{16}$/);
  expect(outcome.simulation).toBe(16);
  const lines = readFileSync(ledger, 'utf8')
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as { meter?: string; applied?: number; reason?: string });
  const sum = (meter: string): number =>
    lines.filter((line) => line.meter === meter).reduce((total, { applied = 0 }) => total + applied, 0);
  expect(100 + sum('health')).toBeCloseTo(outcome.players[0].meters.health, 9);
  expect(sum('score')).toBe(outcome.players[0].meters.score);
  expect(outcome.perKind['tile-shard']?.scored).toBe(180);
  expect(lines.some(({ reason }) => reason === 'wrong tag')).toBe(true);
});

test('walking the route gives the run that comes with the demo', () => {
  const saved = join(folder, 'walked.json');
  expect(dial('run', level, '--route', 'careful walk', '--save-run', saved).code).toBe(0);
  expect(JSON.parse(readFileSync(saved, 'utf8'))).toEqual(JSON.parse(readFileSync(run, 'utf8')));
});

test('compare says where two levels part, and migrate gives a level that is the same', () => {
  const moved = join(folder, 'moved.json');
  const document = JSON.parse(readFileSync(level, 'utf8')) as {
    kinds: Record<string, { rules: { cool: { becomes: { seconds: number } } } }>;
  };
  document.kinds['cooling-basin']!.rules.cool.becomes.seconds = 9;
  writeFileSync(moved, JSON.stringify(document));
  const { code, out } = dial('compare', level, moved, '--run', run, '--json');
  const told = JSON.parse(out) as { parts: { step: number; field: string }; differences: { what: string; a: number; b: number }[] };
  expect(code).toBe(0);
  expect(told.parts.field).toMatch(/secondsLeft/);
  expect(told.differences.find(({ what }) => what === 'perKind/cooling-basin/uses')).toEqual({
    what: expect.any(String) as string,
    a: 4,
    b: 2,
  });
  expect(dial('compare', level, level, '--run', run).out).toBe('the sessions are the same\n');
  const migrated = join(folder, 'migrated.json');
  writeFileSync(migrated, dial('migrate', level).out);
  expect(dial('compare', level, migrated, '--run', run).out).toBe('the sessions are the same\n');
  expect(dial('run', moved, '--run', run).out).toContain('parts from the recording at 0:');
});

test('a seed and a starting state replace those of the run; one that does not fit is refused', () => {
  const state = join(folder, 'state.json');
  writeFileSync(state, JSON.stringify({ meters: { health: 30 }, items: { jar: 2 } }));
  const { out } = dial('run', level, '--run', run, '--from-state', state, '--seed', '7', '--json');
  expect((JSON.parse(out) as { players: [{ items: object; lowestHealth: number }] }).players[0]).toMatchObject({ items: { jar: 2 } });
  writeFileSync(state, JSON.stringify({ meters: { health: 300 } }));
  expect(dial('run', level, '--from-state', state)).toMatchObject({ code: 2, err: expect.stringContaining('/meters/health') as string });
  expect(dial('run', level, '--seed', 'x').code).toBe(2);
});

test('bad input ends with 2 and says where', () => {
  const broken = join(folder, 'broken.json');
  const document = JSON.parse(readFileSync(level, 'utf8')) as { body: { speed: unknown } };
  document.body.speed = 'fast';
  writeFileSync(broken, JSON.stringify(document));
  expect(dial('validate', broken)).toMatchObject({ code: 2, err: expect.stringContaining('/body/speed') as string });
  expect(dial('validate', run)).toMatchObject({ code: 2, err: expect.stringContaining('/view') as string });
  expect(dial('validate', join(folder, 'none.json'))).toMatchObject({ code: 2, err: expect.stringContaining('cannot be read') as string });
  expect(dial('run', level, '--route', 'nowhere')).toMatchObject({ code: 2, err: expect.stringContaining('careful walk') as string });
  expect(dial('run', level, '--rate', '7').code).toBe(2);
  expect(dial('dance').code).toBe(2);
  expect(dial('run', level, '--run', run, '--seed', '0x10')).toMatchObject({ code: 2, err: expect.stringContaining('--seed') as string });
  for (const [option, to] of [
    ['--ledger', folder],
    ['--save-run', join(folder, 'no/such/folder.json')],
  ] as const) {
    expect(dial('run', level, '--run', run, option, to)).toMatchObject({
      code: 2,
      err: expect.stringContaining('cannot be written') as string,
    });
  }
  const deep = join(folder, 'deep.json');
  writeFileSync(
    deep,
    JSON.stringify({ ...document, own: 0 }).replace('"own":0', `"own":${'{"a":'.repeat(100_000)}1${'}'.repeat(100_000)}`),
  );
  for (const command of ['validate', 'run']) {
    expect(dial(command, deep)).toMatchObject({ code: 2, err: expect.stringMatching(/nested more than 64 deep\n$/) as string });
  }
});

test('a byte-order mark is read; what a run says of players the level has not is left out and said', () => {
  const marked = join(folder, 'marked.json');
  writeFileSync(marked, `\ufeff${readFileSync(level, 'utf8')}`);
  expect(dial('validate', marked).code).toBe(0);
  const other = join(folder, 'other-run.json');
  const recorded = JSON.parse(readFileSync(run, 'utf8')) as { players: object[] };
  const start = { meters: { health: 30, wind: 3 } };
  const events = [{ what: 'join', step: 5, player: 3 }];
  writeFileSync(
    other,
    JSON.stringify({ ...recorded, players: [...recorded.players, { changes: [] }], events, start, simulation: 99, marks: [] }),
  );
  const { code, err, out } = dial('run', level, '--run', other, '--json');
  expect([code, err.trim().split('\n')]).toEqual([
    0,
    [
      'left out: /start/meters/wind there is no meter "wind"',
      'left out: /players the level has 1 of the 2 players',
      'left out: /events/0 the level has no player 3',
      expect.stringContaining('recorded with simulation 99'),
    ],
  ]);
  // Only the unknown part of the start is left out.
  expect((JSON.parse(out) as { players: [{ lowestHealth: number }] }).players[0].lowestHealth).toBeLessThanOrEqual(30);
});

test('schemas of a run and a starting state, and the version, are printed', () => {
  for (const one of ['run', 'state']) expect((JSON.parse(dial('schema', one).out) as { $schema: string }).$schema).toContain('2020-12');
  expect(dial('schema', 'kiln').code).toBe(2);
  expect(dial('--version')).toMatchObject({ code: 0, out: expect.stringMatching(/simulation 16/) as string });
});

test('schema is a JSON Schema with a unit for its numbers', () => {
  const schema = JSON.parse(dial('schema').out) as { $schema: string; properties: { body: { properties: { speed: object } } } };
  expect(schema.$schema).toContain('2020-12');
  expect(schema.properties.body.properties.speed).toMatchObject({ unit: 'u/s', minimum: 0, description: expect.any(String) as string });
});

test('a crowd comes to the same with one thread as with two, a row a session; one of them is brought out as a run', () => {
  const asked = ['crowd', level, '--personas', 'wary=60,hasty=3', '--seconds', '15', '--seed', '5'];
  const one = dial(...asked, '--threads', '1', '--csv');
  expect(one.code).toBe(0);
  expect(dial(...asked, '--threads', '2', '--csv').out).toBe(one.out);
  const [heads, ...rows] = one.out.trim().split('\r\n');
  expect(heads).toContain('session,persona,seed,ended,seconds,finishes,loses a life,final health');
  expect(rows).toHaveLength(63);
  const { report } = JSON.parse(dial(...asked, '--json').out) as { report: { sessions: number; personas: { persona: string }[] } };
  expect([report.sessions, report.personas.map(({ persona }) => persona)]).toEqual([63, ['wary', 'hasty']]);

  const saved = join(folder, 'session.json');
  expect(dial(...asked, '--session', '1', '--save-run', saved).code).toBe(0);
  const outcome = JSON.parse(dial('run', level, '--run', saved, '--json').out) as { players: [{ meters: { health: number } }] };
  const row = rows[1]!.split(',');
  expect([row[1], row[2]]).toEqual(['hasty', '5']);
  expect(Number(row[7])).toBe(outcome.players[0].meters.health);

  expect(dial('crowd', level, '--personas', 'nobody=3').err).toContain('no persona “nobody”');
  expect(dial('crowd', level, '--personas', 'wary=1000000').err).toContain('at most 100000');
  expect(dial('crowd', level, '--personas', 'wary=0').code).toBe(2);
  expect(dial('crowd', level, '--seconds', 'soon').code).toBe(2);
});

/** The demo with other targets, as a file. */
function withTargets(name: string, targets: object): string {
  const file = join(folder, name);
  writeFileSync(file, JSON.stringify({ ...(JSON.parse(readFileSync(level, 'utf8')) as object), targets }));
  return file;
}
const FINISHES = {
  outcome: { type: 'finishes', within: null },
  statistic: { type: 'share', from: null, to: null },
  personas: ['hasty'],
  sessions: 50,
  seconds: 60,
};

test('check ends with 0, 1 or 2, and says why as text, JSON, JUnit XML and SARIF', () => {
  const [junit, sarif] = [join(folder, 'check.xml'), join(folder, 'check.sarif')];
  expect(dial('check', withTargets('met.json', { easy: { ...FINISHES, least: 10 } }))).toMatchObject({
    code: 0,
    out: expect.stringContaining('MET') as string,
  });
  const mixed = withTargets('mixed.json', {
    easy: { ...FINISHES, least: 10, order: 1 },
    never: { ...FINISHES, most: 5, order: 2 },
    lost: {
      ...FINISHES,
      outcome: { type: 'uses', of: { type: 'placement', placement: 'gone' } },
      statistic: { type: 'mean' },
      least: 1,
      order: 3,
    },
    same: { ...FINISHES, outcome: { type: 'final', meter: 'health' }, statistic: { type: 'mean' }, least: 0, than: 'as it is', order: 4 },
  });
  const { code, out } = dial('check', mixed, '--against', `as it is=${level}`, '--junit', junit, '--sarif', sarif);
  expect([code, [...out.matchAll(/^(MET|MISSED|UNDECIDED|NOT JUDGED) /gm)].map(([, state]) => state)]).toEqual([
    1,
    ['MET', 'MISSED', 'NOT JUDGED', 'MET'],
  ]);
  expect(out).toContain('missed by');
  const xml = readFileSync(junit, 'utf8');
  expect(xml).toContain('tests="4" failures="1" errors="1"');
  expect(xml.match(/<testcase /g)).toHaveLength(4);
  const { version, runs } = JSON.parse(readFileSync(sarif, 'utf8')) as {
    version: string;
    runs: [{ results: { ruleId: string; locations: unknown[] }[] }];
  };
  expect([version, runs[0].results.map(({ ruleId }) => ruleId)]).toEqual(['2.1.0', ['target/missed', 'target/not-judged']]);
  expect(JSON.stringify(runs[0].results[0]!.locations)).toContain('/targets/never');

  // A level that states no targets is looked through all the same.
  const document = JSON.parse(readFileSync(mixed, 'utf8')) as { points: object };
  const wrong = join(folder, 'wrong.json');
  const start = { x: -3, y: 5 };
  writeFileSync(
    wrong,
    JSON.stringify({ ...document, targets: {}, start, points: { ...document.points, lone: { name: 'lone', x: 3, y: 3 } } }),
  );
  const found = dial('check', wrong, '--sarif', sarif);
  expect([found.code, found.out]).toEqual([1, expect.stringMatching(/BREAKS IT: return-outside \/start\n.*lies outside/)]);
  expect(found.out).toContain('WORTH A LOOK: unused-point lone');
  expect(readFileSync(sarif, 'utf8')).toContain('"ruleId": "finding/return-outside"');

  // What its crowd shows is found, too, where that is asked for.
  const crowd = { personas: { hasty: 20 }, seconds: 20, seed: 1, start: null };
  const crowded = join(folder, 'crowded.json');
  writeFileSync(crowded, JSON.stringify({ ...document, targets: {}, crowd }));
  expect(dial('check', crowded, '--crowd').out).toMatch(/WORTH A LOOK: never-touched .*\n.*In 20 sessions/);
  expect(dial('check', crowded).out).not.toContain('never-touched');

  const none = withTargets('none.json', {});
  expect(dial('check', none)).toMatchObject({ code: 0, out: expect.stringContaining('nothing to judge') as string });
  expect(dial('check', withTargets('odd.json', { odd: { ...FINISHES, least: 80, most: 20 } }))).toMatchObject({
    code: 2,
    err: expect.stringContaining('contradicts itself') as string,
  });
  expect(dial('check', none, '--against', 'nothing').code).toBe(2);
});

test('the script of docs/in-ci.md works as it stands', () => {
  const script = /```sh\n([\s\S]*?)```/.exec(readFileSync(join(__dirname, '../docs/in-ci.md'), 'utf8'))?.[1] ?? '';
  const levels = mkdtempSync(join(tmpdir(), 'dial-ci-'));
  const [file, good] = [join(levels, 'check.sh'), withTargets('good.json', { easy: { ...FINISHES, least: 10 } })];
  writeFileSync(file, script);
  writeFileSync(join(levels, 'good.json'), readFileSync(good));
  // The command line itself stands in for `npm run dial`, which builds first.
  const npm = join(levels, 'npm');
  writeFileSync(npm, `#!/bin/sh\nshift 4\nexec ${process.execPath} ${join(__dirname, 'dist/main.js')} "$@"\n`, { mode: 0o755 });
  const run = () =>
    spawnSync('sh', [file, levels], { encoding: 'utf8', env: { ...process.env, PATH: `${levels}:${process.env['PATH'] ?? ''}` } });
  expect(run()).toMatchObject({ status: 0, stdout: expect.stringContaining('MET') as string });
  expect(readFileSync(join(levels, 'good.junit.xml'), 'utf8')).toContain('failures="0"');
  writeFileSync(join(levels, 'worse.json'), readFileSync(withTargets('worse.json', { never: { ...FINISHES, most: 5 } })));
  expect(run().status).toBe(1);
});

test('a sweep, what matters and seek come to the same with any threads; nonsense is refused in words', () => {
  const who = ['--personas', 'hasty=12', '--seconds', '20'];
  const sweep = ['sweep', level, '--dial', '/body/speed=3:6:1.5', '--outcome', 'time', ...who];
  const csv = dial(...sweep, '--csv', '--threads', '1');
  expect(csv.out.split('\r\n').slice(0, 2)).toEqual([
    expect.stringContaining('player: walk speed,median time') as string,
    expect.stringMatching(/^3,/) as string,
  ]);
  expect(dial(...sweep, '--csv', '--threads', '2').out).toBe(csv.out);
  expect(dial(...sweep).out).toContain('Median time is');

  const sought = dial('seek', level, '--dial', '/body/speed=2:8', '--outcome', 'time', '--wish', '900', ...who);
  expect([sought.code, sought.out]).toEqual([0, expect.stringContaining('None: from 2 to 8 u/s') as string]);
  const matters = dial(
    'sensitivity',
    level,
    '--dial',
    '/body/speed',
    '--dial',
    '/kinds/cart/rules/run/effects/health/amount',
    '--outcome',
    'time',
    ...who,
    '--json',
  );
  const { result } = JSON.parse(matters.out) as { result: { effects: { dial: number }[] } };
  expect(result.effects[0]!.dial).toBe(0);

  for (const [words, ...args] of [
    ['the step must be more than nought', 'sweep', '--dial', '/body/speed=3:6:0'],
    ['the range is empty', 'sweep', '--dial', '/body/speed=6:3:1'],
    ['a step of 1 makes 601 values', 'sweep', '--dial', '/body/speed=0:600:1'],
    ['/body/speed is turned twice', 'sweep', '--dial', '/body/speed=3:6:1', '--dial', '/body/speed=3:6:1'],
    ['no session has an outcome “luck”', 'sweep', '--dial', '/body/speed=3:6:1', '--outcome', 'luck'],
    ['the level has no number at /body/luck', 'seek', '--dial', '/body/luck=3:6', '--wish', '1'],
    ['takes a JSON Pointer', 'seek', '--dial', 'speed', '--wish', '1'],
    ['is no number', 'seek', '--dial', '/body/speed=3:6', '--wish', 'much'],
    ['choose', 'sweep', '--dial', '/body/speed=3:6:1', '--statistic', 'best'],
  ] as const) {
    const { code, err } = dial(args[0], level, ...args.slice(1));
    expect([code, err]).toEqual([2, expect.stringContaining(words === 'choose' ? '--statistic takes' : words) as string]);
  }
});

test('tune offers settings that meet the targets, and says why it cannot be begun', () => {
  const held = withTargets('held.json', {
    brisk: {
      ...FINISHES,
      outcome: { type: 'time' },
      statistic: { type: 'quantile', below: 0.5 },
      least: 19,
      most: 25,
      personas: ['steady'],
    },
  });
  const asked = ['tune', held, '--dial', '/body/speed=2:9', '--sessions', '600'];
  const { code, out } = dial(...asked);
  expect([code, out]).toEqual([0, expect.stringContaining('smallest change: player: walk speed 4.5 → ') as string]);
  expect(out).not.toContain('missed');
  const csv = dial(...asked, '--csv', '--threads', '1').out;
  expect(csv).toContain('candidate,player: walk speed,brisk,brisk stands');
  expect(dial(...asked, '--csv', '--threads', '2').out).toBe(csv);
  expect(dial('tune', held, '--dial', '/body/speed=2:9', '--targets', 'none').err).toContain('the level has no target “none”');
  // In steps from where it stands, 4.5, and held to what is typed instead of what the level states.
  const typed = ['--target', 'median time of steady 19 to 25; steady: at least 90 % finish'];
  const stepped = dial('tune', held, '--dial', '/body/speed=2:9:0.75:5', ...typed, '--sessions', '600', '--json').out;
  const { settings, result } = JSON.parse(stepped) as {
    settings: { dials: object[] };
    result: { candidates: { values: number[]; verdicts: { target: string }[] }[] };
  };
  expect(settings.dials[0]).toMatchObject({ step: 0.75, weight: 5 });
  expect(result.candidates.every(({ values: [speed = 0] }) => (speed - 4.5) % 0.75 === 0)).toBe(true);
  expect(result.candidates[0]!.verdicts.map(({ target }) => target)).toEqual(['target-1', 'target-2']);
  expect(dial('check', held, '--target', 'at least 90 % enjoy it')).toMatchObject({
    code: 2,
    err: expect.stringContaining('say what is asked') as string,
  });
  expect(dial('tune', held, '--dial', '/body/speed=9:2').err).toContain('the range is empty');
  expect(dial('tune', withTargets('free.json', {}), '--dial', '/body/speed=2:9').err).toContain('there is no target to tune for');
});
