import { createHash } from 'node:crypto';
import { caller, demoLevel, demoRun, LEVEL, REST } from './testing/calls.ts';
import { progress } from './testing/progress.ts';
import { command, newFolder, serve, type Served } from './testing/serve.ts';

jest.setTimeout(Number(process.env['DIAL_TEST_MINUTES'] ?? 5) * 60_000);

let served: Served;
const call = caller(() => served.url);

const restPatch = (seconds: unknown, path = REST) => [{ op: 'replace', path, value: seconds }];
const patch = (revision: number, operations: unknown, headers: Record<string, string> = {}) =>
  call('PATCH', LEVEL, operations, { 'if-match': `"${revision}"`, ...headers });

async function current(): Promise<{ revision: number; rest: number; document: unknown }> {
  const { body } = await call('GET', '/api/levels/night-firing');
  const document = (body as unknown as { document: typeof demoLevel }).document as never as {
    kinds: Record<string, { rules: Record<string, { becomes: { seconds: number } }> }>;
  };
  return { revision: body.revision, rest: document.kinds['cooling-basin']!.rules['cool']!.becomes.seconds, document };
}

beforeAll(async () => {
  served = await serve(newFolder());
});
afterAll(async () => {
  await served.end('SIGTERM');
});

test('an empty folder is given the demo, and a level says its revision', async () => {
  const { status, headers, body } = await call('GET', '/api/levels/night-firing');
  expect([status, headers.get('etag')]).toEqual([200, `"${body.revision}"`]);
  expect((await current()).document).toEqual(demoLevel);
  const { body: api } = await call('GET', '/api/openapi.json');
  expect(api).toMatchObject({ openapi: '3.1.0', paths: { '/api/levels/{level}': { patch: { summary: expect.any(String) as string } } } });
});

test('a patch made on the present revision is saved once, however often it is sent', async () => {
  const { revision } = await current();
  const key = { 'idempotency-key': 'sent-twice-1' };
  expect((await patch(revision, restPatch(7), key)).body).toEqual({ id: 'night-firing', revision: revision + 1 });
  expect((await patch(revision, restPatch(7), key)).body).toEqual({ id: 'night-firing', revision: revision + 1 });
  expect(await current()).toMatchObject({ revision: revision + 1, rest: 7 });
  const late = await patch(revision, restPatch(8));
  expect(late).toMatchObject({ status: 409, body: { revision: revision + 1 } });
  expect((await current()).rest).toBe(7);
});

test('a level that is deleted can be brought back, and a state of it kept under a name', async () => {
  const { body: added } = await call('POST', '/api/levels?as=begun', demoLevel);
  const path = `/api/levels/${added.id}`;
  expect((await call('DELETE', path)).status).toBe(204);
  expect((await call('GET', path)).status).toBe(404);
  expect((await call('POST', `${path}/restore`)).status).toBe(204);
  expect((await call('GET', path)).body.revision).toBe(1);
  const kept = await call('POST', `${path}/versions`, JSON.stringify({ name: 'before the hot vents' }), {
    'content-type': 'application/json',
  });
  expect(kept).toMatchObject({ status: 201, body: { name: 'before the hot vents' } });
  const { body: versions } = await call('GET', `${path}/versions`);
  expect((versions as unknown as { name: string }[]).map(({ name }) => name)).toEqual(['as begun', 'before the hot vents']);
  expect((await call('DELETE', '/api/levels/no-such-level')).status).toBe(404);
});

test('whoever follows a level is told its revision and then of each saved change', async () => {
  const { revision, rest } = await current();
  const stopped = new AbortController();
  const response = await fetch(`${served.url}/api/levels/night-firing/changes`, { signal: stopped.signal });
  expect(response.headers.get('content-type')).toBe('text/event-stream');
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let told = '';
  const until = async (words: string): Promise<void> => {
    while (!told.includes(words)) told += (await reader.read()).value ?? '';
  };
  await until(`event: at\ndata: {"revision":${revision}}`);
  await patch(revision, restPatch(rest + 1), { 'idempotency-key': 'followed-1' });
  await until('event: saved');
  await until('}\n\n');
  const operations = JSON.stringify(restPatch(rest + 1));
  await until(`{"revision":${revision + 1},"key":"followed-1","operations":${operations}}`);
  stopped.abort();
  await patch(revision + 1, restPatch(rest));
  expect((await call('GET', '/api/levels/no-such/changes')).status).toBe(404);
});

test('a run is kept under its maker’s id, twice is once', async () => {
  for (let time = 0; time < 2; time += 1) await call('PUT', '/api/levels/night-firing/runs/my-run-1', demoRun);
  const { body } = await call('GET', '/api/levels/night-firing/runs');
  expect((body as unknown as { id: string }[]).filter(({ id }) => id === 'my-run-1')).toHaveLength(1);
  const { body: kept } = await call('GET', '/api/levels/night-firing/runs/my-run-1');
  expect((kept as unknown as { run: unknown }).run).toEqual(demoRun);
});

test('a run is named, starred, deleted and brought back; so is a version deleted', async () => {
  const at = '/api/levels/night-firing/runs/night-firing-careful-walk';
  const json = { 'content-type': 'application/json' };
  const listed = async (path: string): Promise<{ id: unknown; name: string; starred?: boolean }[]> =>
    (await call('GET', path)).body as unknown as { id: unknown; name: string }[];
  expect((await call('PATCH', at, { name: 'slow and sure', starred: true }, json)).body).toMatchObject({
    name: 'slow and sure',
    starred: true,
  });
  expect((await listed('/api/levels/night-firing/runs'))[0]).toMatchObject({ name: 'slow and sure', starred: true, seconds: 2899 / 60 });
  expect((await call('GET', at)).body).toMatchObject({ run: { name: 'slow and sure', seed: demoRun['seed'] } });
  expect((await call('PATCH', at, { deleted: true }, json)).status).toBe(200);
  expect((await listed('/api/levels/night-firing/runs')).map(({ id }) => id)).not.toContain('night-firing-careful-walk');
  expect((await call('PATCH', at, { deleted: false, starred: false, name: 'careful walk' }, json)).body).toMatchObject({ starred: false });
  const events = [{ what: 'meter', step: 60, player: 1, meter: 'health', by: -25 }];
  await call('PATCH', at, { events }, json);
  expect((await call('GET', at)).body).toMatchObject({ name: 'careful walk', run: { events, marks: [] } });
  expect((await call('PATCH', at, { events: [{ what: 'rain', step: 1 }] }, json)).status).toBe(422);
  await call('PATCH', at, { events: [] }, json);
  expect((await call('PATCH', at, { colour: 1 }, json)).status).toBe(422);
  expect((await call('PATCH', at.replace('careful', 'careless'), { starred: true }, json)).status).toBe(404);

  const versions = '/api/levels/night-firing/versions';
  const [first] = await listed(versions);
  const version = `${versions}/${String(first?.id)}`;
  expect([(await call('DELETE', version)).status, (await listed(versions)).map(({ id }) => id)]).toEqual([
    204,
    expect.not.arrayContaining([first?.id]),
  ]);
  expect((await call('POST', `${version}/restore`)).status).toBe(204);
  expect((await listed(versions))[0]?.id).toBe(first?.id);
});

test('a picture is kept under the hash of its bytes; what is none, or another, is refused', async () => {
  const png = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64');
  const hash = createHash('sha256').update(png).digest('hex');
  const put = async (of: string, bytes: Buffer, type = 'image/png'): Promise<number> =>
    (await fetch(`${served.url}/api/pictures/${of}`, { method: 'PUT', body: new Uint8Array(bytes), headers: { 'content-type': type } }))
      .status;
  expect([await put(hash, png), await put(hash, png)]).toEqual([200, 200]);
  const fetched = await fetch(`${served.url}/api/pictures/${hash}`);
  expect([fetched.headers.get('content-type'), Buffer.from(await fetched.arrayBuffer()).equals(png)]).toEqual(['image/png', true]);
  const script = Buffer.from('<svg onload="alert(1)"/>');
  const refusals = [
    put(hash, Buffer.concat([png, png])),
    put(createHash('sha256').update(script).digest('hex'), script),
    put(hash, script, 'image/svg+xml'),
    put('nonsense', png),
  ];
  expect(await Promise.all(refusals)).toEqual([422, 422, 415, 422]);
  expect((await call('GET', `/api/pictures/${'0'.repeat(64)}`)).status).toBe(404);
});

test('a level, a version and a run are made once for each key, however often they are asked for', async () => {
  const key = { 'idempotency-key': 'made-once-please' };
  const ids = await Promise.all([1, 2, 3].map(async () => (await call('POST', '/api/levels?as=begun', demoLevel, key)).body.id));
  expect(new Set(ids).size).toBe(1);
  const path = `/api/levels/${ids[0] ?? ''}`;
  const kept = await Promise.all([1, 2, 3].map(async () => (await call('POST', `${path}/versions`, { name: 'once' }, key)).body.id));
  expect(new Set(kept).size).toBe(1);
  const names = ((await call('GET', `${path}/versions`)).body as unknown as { name: string }[]).map(({ name }) => name);
  expect(names).toEqual(['as begun', 'once']);
  // A run that was named anew in between is still the same run when its maker sends it again.
  expect((await call('PUT', `${path}/runs/my-run`, demoRun)).status).toBe(200);
  await call('PATCH', `${path}/runs/my-run`, { name: 'another name' }, { 'content-type': 'application/json' });
  expect((await call('PUT', `${path}/runs/my-run`, demoRun)).status).toBe(200);
  expect((await call('GET', `${path}/runs/my-run`)).body).toMatchObject({ name: 'another name', run: { name: 'another name', seed: 1 } });
});

test('lists hold no documents, and a version is fetched by itself', async () => {
  for (const path of ['/api/levels', `${LEVEL}/versions`]) expect((await call('GET', path)).text).not.toContain('placements');
  const [first] = (await call('GET', `${LEVEL}/versions`)).body as unknown as { id: number }[];
  expect((await call('GET', `${LEVEL}/versions/${String(first?.id)}`)).body).toMatchObject({ document: { format: 1 } });
});

test('asked to stop with a body half sent and a follower listening, it stops, and starts again sound', async () => {
  const { connect } = await import('node:net');
  const other = await serve(newFolder());
  const { hostname, port } = new URL(other.url);
  const follower = connect(Number(port), hostname, () => follower.write(`GET ${LEVEL}/changes HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n`));
  const half = connect(Number(port), hostname, () =>
    half.write('POST /api/levels HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 900\r\n\r\n{'),
  );
  for (const socket of [follower, half]) socket.on('error', () => undefined);
  await new Promise((resolve) => follower.once('data', resolve));
  await other.end('SIGTERM');
  expect(other.process.exitCode).toBe(0);
  expect((await command(other.folder, ['check'])).said).toMatch(/Sound: 3 levels/);
});

interface Acknowledged {
  readonly revision: number;
  readonly key: string;
}

/** Edits as fast as it can, as one window does, until the server is gone. Tells of each edit that was acknowledged. */
async function write(name: string, tell: (edit: Acknowledged) => void): Promise<void> {
  try {
    let { revision } = await current();
    for (let edit = 1; ; edit += 1) {
      const key = `${name}-${String(edit)}`;
      const answer = await patch(revision, restPatch(1 + edit / 1000), { 'idempotency-key': key });
      if (answer.status === 200) tell({ revision: answer.body.revision, key });
      else if (answer.status !== 409) throw new Error(`${String(answer.status)} ${answer.text}`);
      revision = answer.body.revision;
    }
  } catch (error) {
    // The server is gone; what it had not acknowledged may or may not be there.
    if ((error as Error).name !== 'TypeError') throw error;
  }
}

const ROUNDS = Number(process.env['DIAL_KILLS'] ?? 15);

test(`killed ${String(ROUNDS)} times under writers: nothing acknowledged is lost, nothing is there twice, the log leads to the level`, async () => {
  const folder = newFolder();
  await served.end('SIGTERM');
  let acknowledged: Acknowledged[] = [];
  for (let round = 0; round <= ROUNDS; round += 1) {
    served = await serve(folder);
    const newest = Math.max(1, ...acknowledged.map(({ revision }) => revision));
    const { revision } = await current();
    // At most one edit of each writer was under way when the server was killed.
    expect([revision >= newest, revision <= newest + 3]).toEqual([true, true]);
    // Sent again under its key, an edit is answered with the revision it led to.
    for (const { key, revision: led } of acknowledged.slice(-3)) {
      expect((await patch(1, restPatch(9), { 'idempotency-key': key })).body.revision).toBe(led);
    }
    acknowledged = [];
    const wanted = 3 + ((round * 7) % 40);
    await new Promise<void>((resolve, reject) => {
      const tell = (edit: Acknowledged): void => {
        acknowledged.push(edit);
        if (acknowledged.length === wanted) void served.end('SIGKILL');
      };
      const writers = [0, 1, 2].map((at) => write(`round-${String(round)}-${String(at)}`, tell));
      Promise.all(writers).then(() => resolve(), reject);
    });
    expect(acknowledged.length).toBeGreaterThanOrEqual(wanted);
    if (round % 50 === 0) progress(round, ROUNDS, 'kills');
    if (round % 8 === 7)
      expect(await command(folder, ['check'])).toMatchObject({ code: 0, said: expect.stringContaining('Sound') as string });
  }
});
