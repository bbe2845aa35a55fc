import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { parseLevel } from '@dial/core/level';
import { answer, conduct, CrowdSettings, judging, mergeSummaries, playShard, replayed, usualFigure } from '@dial/core/studies';
import type { LevelEntry, StudyEntry, StudyReply } from '@dial/core/api';
import { caller, demoLevel, LEVEL } from './testing/calls.ts';
import { newFolder, serve, type Served } from './testing/serve.ts';

// Threads that play are nice to all else on the machine: beside other tests they take their time.
jest.setTimeout(240_000);

let served: Served;
const call = caller(() => served.url);

beforeAll(async () => {
  served = await serve(newFolder());
});
afterAll(() => served.end('SIGTERM'));

const asked = (sessions: number, seconds = 6) => ({
  name: 'a crowd',
  settings: CrowdSettings.parse({
    personas: [
      { persona: 'wary', sessions },
      { persona: 'hasty', sessions },
    ],
    seconds,
  }),
});

const entry = async (id: string): Promise<StudyEntry> => (await call('GET', `${LEVEL}/studies/${id}`)).body as unknown as StudyEntry;

/** The study once it has come so far. */
async function when(id: string, come: (study: StudyEntry) => boolean): Promise<StudyReply> {
  for (;;) {
    const study = await entry(id);
    if (come(study)) return study as unknown as StudyReply;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}

/** Runs statements on the database of a server that has ended. */
function inDatabase(folder: string, ...statements: readonly string[]): void {
  const script = `
    import { PGlite } from '@electric-sql/pglite';
    const database = await PGlite.create(${JSON.stringify(join(folder, 'database'))});
    for (const statement of ${JSON.stringify(statements)}) await database.query(statement);
    await database.close();`;
  execFileSync(process.execPath, ['--input-type=module', '--eval', script]);
}

/** What is sent to those who follow a level, until it is told of the end of a study. */
async function told(id: string): Promise<number[]> {
  const response = await fetch(`${served.url}${LEVEL}/changes`);
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  while (!text.includes(`"id":"${id}","state":"done"`)) text += (await reader.read()).value ?? '';
  await reader.cancel();
  return [...text.matchAll(new RegExp(`"id":"${id}","state":"\\w+","done":(\\d+)`, 'g'))].map(([, done]) => Number(done));
}

test('a crowd is played, told of as it comes, and killed and begun again comes to the same as in one piece', async () => {
  const steps = told('first');
  const body = asked(40);
  expect(await call('PUT', `${LEVEL}/studies/first`, body)).toMatchObject({ status: 200, body: { sessions: 80, done: 0, revision: 1 } });
  // Asked for once more, as after a lost reply, it is the same study.
  expect((await call('PUT', `${LEVEL}/studies/first`, body)).status).toBe(200);
  const done = await steps;
  expect(done.at(-1)).toBe(80);
  expect(done).toEqual([...done].sort((a, b) => a - b));

  await call('PUT', `${LEVEL}/studies/second`, body);
  const before = await when('second', (study) => study.done > 0);
  expect(before.done).toBeLessThan(80);
  await call('PUT', `${LEVEL}/studies/third`, body);
  await when('third', (study) => study.done > 0);
  await served.end('SIGKILL');
  // What an earlier Dial played of one is not gone on with: its sessions came out otherwise.
  inDatabase(
    served.folder,
    `update studies set simulation = simulation - 1 where id = 'third'`,
    `update shards set summary = 'of other players' where study_id = 'third'`,
  );
  served = await serve(served.folder);
  const first = await when('first', () => true);
  const isDone = ({ state }: StudyEntry): boolean => state === 'done';
  const [second, third] = [await when('second', isDone), await when('third', isDone)];
  const parsed = parseLevel(first.document);
  if (!parsed.ok) throw new Error('the level is not valid');
  const level = parsed.value;
  const whole = playShard(level, body.settings, { from: 0, to: 80 });
  for (const { parts, done: sessions } of [first, second, third]) {
    expect(sessions).toBe(80);
    expect(mergeSummaries(level, parts)).toEqual(whole);
  }
  const { body: list } = await call('GET', `${LEVEL}/studies`);
  expect((list as unknown as StudyEntry[]).map(({ id, state }) => [id, state])).toEqual([
    ['third', 'done'],
    ['second', 'done'],
    ['first', 'done'],
    // It came with the demo.
    ['night-firing-every-persona', 'done'],
  ]);
});

test('two at once share the threads, the server answers meanwhile, and what was played before a cancel stays', async () => {
  await call('PUT', `${LEVEL}/studies/long-a`, asked(2000, 120));
  await call('PUT', `${LEVEL}/studies/long-b`, asked(2000, 120));
  await when('long-a', ({ done }) => done > 0);
  await when('long-b', ({ done }) => done > 0);
  const waits: number[] = [];
  for (let nth = 0; nth < 20; nth += 1) {
    const began = performance.now();
    expect((await call('GET', '/api/health')).status).toBe(200);
    waits.push(performance.now() - began);
  }
  // Of a machine whose every core is at work.
  expect(waits.sort((a, b) => a - b)[10]).toBeLessThan(50);
  const [a, b] = [await entry('long-a'), await entry('long-b')];
  expect(Math.min(a.done, b.done)).toBeGreaterThan(Math.max(a.done, b.done) / 4);
  for (const id of ['long-a', 'long-b'])
    expect((await call('POST', `${LEVEL}/studies/${id}/cancel`)).body).toMatchObject({ state: 'cancelled' });
  const kept = await when('long-a', () => true);
  expect(kept.done).toBeGreaterThan(0);
  expect(kept.parts.flatMap((part) => part.rows)).toHaveLength(kept.done);
  // It is final: asked for again, nothing is begun anew.
  expect((await call('PUT', `${LEVEL}/studies/long-a`, asked(2000, 120))).body).toMatchObject({ state: 'cancelled' });
});

test('what makes no sense is refused; a study is named, deleted and brought back; it keeps its revision', async () => {
  const wrong = await call('PUT', `${LEVEL}/studies/wrong`, { ...asked(1), settings: { personas: [{ persona: 'nobody', sessions: 1 }] } });
  expect([wrong.status, wrong.body.detail]).toEqual([
    422,
    expect.stringContaining('/settings/personas/0/persona: the level has no persona “nobody”'),
  ]);
  const large = await call('PUT', `${LEVEL}/studies/large`, asked(1_000_000));
  expect([large.status, large.body.detail]).toEqual([422, expect.stringContaining('2000000 sessions')]);
  expect((await call('PUT', `${LEVEL}/studies/none`, { ...asked(1), settings: { personas: [] } })).status).toBe(422);
  expect((await call('PUT', '/api/levels/nowhere/studies/x', asked(1))).status).toBe(404);
  expect((await call('PUT', `${LEVEL}/studies/x`, { ...asked(1), version: 99 })).status).toBe(404);
  expect((await call('PUT', '/api/levels/chimney-climb/studies/first', asked(1))).status).toBe(409);
  expect((await call('GET', `${LEVEL}/studies/nothing`)).status).toBe(404);

  const change = (body: object) => call('PATCH', `${LEVEL}/studies/first`, JSON.stringify(body), { 'content-type': 'application/json' });
  expect((await change({ name: 'before the vent' })).body).toMatchObject({ name: 'before the vent', revision: 1 });
  const listed = async (): Promise<string[]> =>
    ((await call('GET', `${LEVEL}/studies`)).body as unknown as StudyEntry[]).map(({ id }) => id);
  await change({ deleted: true });
  expect(await listed()).not.toContain('first');
  await change({ deleted: false });
  expect(await listed()).toContain('first');

  const patch = [{ op: 'replace', path: '/kinds/ember-vent/rules/burn/effects/loss/amount', value: 13 }];
  const rule = Object.keys((demoLevel['kinds'] as Record<string, { rules: object }>)['ember-vent']!.rules)[0]!;
  patch[0]!.path = `/kinds/ember-vent/rules/${rule}/effects/${Object.keys((demoLevel['kinds'] as Record<string, { rules: Record<string, { effects: object }> }>)['ember-vent']!.rules[rule]!.effects)[0]!}/amount`;
  expect((await call('PATCH', LEVEL, patch, { 'if-match': '"1"' })).status).toBe(200);
  expect((await entry('first')).revision).toBe(1);
  const later = await call('PUT', `${LEVEL}/studies/later`, asked(1));
  expect(later.body).toMatchObject({ revision: 2 });
});

const sweepOf = (sessions: number) => ({
  name: 'a sweep',
  settings: {
    kind: 'sweep',
    of: {
      dials: [{ paths: ['/body/speed'], values: [2, 3, 4, 5, 6] }],
      figures: [usualFigure({ type: 'time' })],
      crowd: { ...asked(sessions).settings, personas: [{ persona: 'hasty', sessions }] },
    },
  },
});

test('a study of values is led by a thread, and killed and begun again comes to the same as in one piece', async () => {
  const body = sweepOf(40);
  expect(await call('PUT', `${LEVEL}/studies/swept`, body)).toMatchObject({ status: 200, body: { sessions: 200, done: 0 } });
  expect((await when('swept', (study) => study.done > 0)).done).toBeLessThan(200);
  await served.end('SIGKILL');
  served = await serve(served.folder);
  const { document, settings, answers, done } = await when('swept', ({ state }) => state === 'done');
  expect(done).toBe(200);
  const parsed = parseLevel(document);
  if (!parsed.ok || !('kind' in settings)) throw new Error('this is no sweep of a level');
  const levels = { level: parsed.value, versions: {} };
  const { result } = replayed(judging(levels, settings), new Map(answers.map(({ part, answer: one }) => [part, one])));
  const alone = await conduct(judging(levels, settings), { play: (ask) => Promise.resolve(answer(levels, ask)) });
  expect(result).toEqual(alone);
});

test('a check says how targets stand; what a study of values asks wrongly is refused in words', async () => {
  const check = { name: 'a check', settings: { kind: 'check' } };
  expect(await call('PUT', `${LEVEL}/studies/checked`, check)).toMatchObject({ status: 200 });
  const { outcome, state } = await when('checked', (study) => study.state !== 'waiting' && study.state !== 'running');
  expect([state, outcome]).toEqual(['done', { met: 2, missed: 1, undecided: 0, notJudged: 0 }]);
  // The card of the level has how they stood, and of which revision; a deleted check is no more.
  const card = async () => {
    const { body } = await call('GET', '/api/levels');
    return (body as unknown as LevelEntry[]).find(({ id }) => id === 'night-firing')!;
  };
  expect((await card()).check).toEqual({ outcome, revision: (await card()).revision });
  const removed = { 'content-type': 'application/json' };
  await call('PATCH', `${LEVEL}/studies/checked`, JSON.stringify({ deleted: true }), removed);
  expect((await card()).check).toBeNull();
  const refused = async (settings: object) => (await call('PUT', `${LEVEL}/studies/wrong`, { name: 'x', settings })).body;
  const { settings } = sweepOf(40);
  expect(await refused({ ...settings, of: { ...settings.of, dials: [{ paths: ['/kinds/gone/cycle/on'], values: [1] }] } })).toMatchObject({
    status: 422,
    problems: [{ path: '/settings/of/dials/0', message: 'the level has no number at /kinds/gone/cycle/on' }],
  });
  const many = { ...settings.of.crowd, personas: [{ persona: 'hasty', sessions: 100_000 }] };
  const costly = {
    ...settings.of,
    dials: [{ paths: ['/body/speed'], values: Array.from({ length: 11 }, (_, at) => at + 1) }],
    crowd: many,
  };
  expect(JSON.stringify(await refused({ ...settings, of: costly }))).toContain(
    '11 settings of the dials × 100000 sessions are 1100000 sessions',
  );
  expect(JSON.stringify(await refused({ kind: 'guess' }))).toContain('“kind” must be one of “check”, “sweep”');
});

test('what was stopped is gone on with from where it was, also at once, and comes to the same', async () => {
  const body = sweepOf(60);
  await call('PUT', `${LEVEL}/studies/paused`, body);
  const begun = await when('paused', ({ done }) => done > 0);
  await call('POST', `${LEVEL}/studies/paused/cancel`);
  expect(await call('POST', `${LEVEL}/studies/paused/resume`)).toMatchObject({ status: 200, body: { state: 'waiting' } });
  await call('POST', `${LEVEL}/studies/paused/cancel`);
  const stopped = await entry('paused');
  expect(stopped.state).toBe('cancelled');
  expect(stopped.done).toBeGreaterThanOrEqual(begun.done);
  await call('POST', `${LEVEL}/studies/paused/resume`);
  const { answers, done } = await when('paused', ({ state }) => state === 'done');
  expect(done).toBe(300);
  expect(new Set(answers.map(({ part }) => part)).size).toBe(answers.length);
  // One that is done stays so.
  expect((await call('POST', `${LEVEL}/studies/paused/resume`)).body).toMatchObject({ state: 'done' });
});

test('a target against a version is checked against that version as it was, also when it has gone since', async () => {
  const than = { outcome: { type: 'time' }, statistic: { type: 'mean' }, personas: ['hasty'], sessions: 50, seconds: 20 };
  const held = {
    ...demoLevel,
    targets: { slower: { ...than, least: -1, most: 1, than: 'as it was' }, lost: { ...than, least: 0, than: 'never' } },
  };
  const made = await call('POST', '/api/levels', { ...held, name: 'held against' });
  const path = `/api/levels/${made.body.id}`;
  const version = (await call('POST', `${path}/versions`, { name: 'as it was' })).body as unknown as { id: number };
  await call('PUT', `${path}/studies/against`, { name: 'a check', settings: { kind: 'check' } });
  await call('DELETE', `${path}/versions/${String(version.id)}`);
  for (;;) {
    const { body } = await call('GET', `${path}/studies/against`);
    const study = body as unknown as StudyReply;
    if (study.state === 'done') {
      // The same sessions of the same level: no difference. A version that never was cannot be judged.
      expect([study.outcome, Object.keys(study.versions)]).toEqual([{ met: 1, missed: 0, undecided: 0, notJudged: 1 }, ['as it was']]);
      break;
    }
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
});
