import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { newFolder, NotStarted, serve, type Served } from './testing/serve.ts';

jest.setTimeout(120_000);

const REST = '/kinds/cooling-basin/rules/cool/becomes/seconds';
const demoLevel = JSON.parse(readFileSync(join(__dirname, '../demo/night-firing/level.json'), 'utf8')) as Record<string, unknown>;
const demoRun = JSON.parse(readFileSync(join(__dirname, '../demo/night-firing/runs/careful-walk.json'), 'utf8')) as Record<string, unknown>;

let served: Served;

interface Answer {
  readonly status: number;
  readonly headers: Headers;
  readonly body: Record<string, never> & { readonly revision: number; readonly detail: string; readonly id: string };
}

async function call(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Answer> {
  const text = body === undefined || typeof body === 'string' ? body : JSON.stringify(body);
  const type = text === undefined ? {} : { 'content-type': method === 'PATCH' ? 'application/json-patch+json' : 'application/json' };
  const response = await fetch(served.url + path, {
    method,
    headers: { ...type, ...headers },
    ...(text === undefined ? {} : { body: text }),
  });
  const answer = await response.text();
  return { status: response.status, headers: response.headers, body: JSON.parse(answer === '' ? '{}' : answer) as Answer['body'] };
}

const restPatch = (seconds: unknown, path = REST) => [{ op: 'replace', path, value: seconds }];
const patch = (revision: number, operations: unknown, headers: Record<string, string> = {}) =>
  call('PATCH', '/api/levels/night-firing', operations, { 'if-match': `"${revision}"`, ...headers });

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

const refusals: [string, number, RegExp, (revision: number) => Promise<Answer>][] = [
  ['text that is not JSON', 400, /not valid JSON/, (revision) => patch(revision, '[{"op":')],
  ['something that is no patch', 422, /not valid/, (revision) => patch(revision, [{ op: 'turn', path: REST }])],
  ['a place the level does not have', 422, /no such place/, (revision) => patch(revision, restPatch(3, '/kinds/nothing/rules'))],
  ['a value out of its limits', 422, /becomes\/seconds/, (revision) => patch(revision, restPatch(-1))],
  ['a text for a number', 422, /becomes\/seconds/, (revision) => patch(revision, restPatch('long'))],
  ['a kind that is still placed taken out', 422, /no kind "cart"/, (revision) => patch(revision, [{ op: 'remove', path: '/kinds/cart' }])],
  ['a guard that does not hold', 409, /no longer/, (revision) => patch(revision, [{ op: 'test', path: REST, value: 1 }, ...restPatch(3)])],
  ['a path into the prototype', 422, /not valid/, (revision) => patch(revision, restPatch(1, '/kinds/__proto__/x'))],
  ['no revision', 428, /If-Match/, () => call('PATCH', '/api/levels/night-firing', restPatch(3))],
  ['a body too large', 413, /larger than allowed/, (revision) => patch(revision, restPatch('x'.repeat(3_000_000)))],
  ['another page’s origin', 403, /own pages/, (revision) => patch(revision, restPatch(3), { origin: 'http://elsewhere.example' })],
  ['a level of no known format', 422, /format 99/, () => call('POST', '/api/levels', { ...demoLevel, format: 99 })],
  ['a level with a dangling id', 422, /no kind/, () => call('POST', '/api/levels', { ...demoLevel, kinds: {} })],
  ['a level with a number that is none', 400, /not valid JSON/, () => call('POST', '/api/levels', '{"format": NaN}')],
  [
    'a level that states an id twice',
    422,
    /\/kinds\/a\/mark stands twice/,
    () => call('POST', '/api/levels', '{"kinds":{"a":{"mark":1,"mark":2}}}'),
  ],
  ['a level nested without end', 422, /.*/, () => call('POST', '/api/levels', `${'{"a":'.repeat(20_000)}1${'}'.repeat(20_000)}`)],
  [
    'a run out of order',
    422,
    /not valid/,
    () =>
      call('PUT', '/api/levels/night-firing/runs/bad-run', {
        ...demoRun,
        players: [
          {
            changes: [
              [5, 0, 0, 0],
              [2, 0, 0, 0],
            ],
          },
        ],
      }),
  ],
  [
    'another run under an id that is taken',
    409,
    /kept as/,
    () => call('PUT', '/api/levels/night-firing/runs/night-firing-careful-walk', { ...demoRun, steps: 3 }),
  ],
  ['a level that is not there', 404, /no such level/, () => call('GET', '/api/levels/nowhere')],
];

test.each(refusals)('%s is refused clearly and nothing changes', async (_, status, message, send) => {
  const before = await current();
  const { body: levels } = await call('GET', '/api/levels');
  const answer = await send(before.revision);
  expect(answer.headers.get('content-type')).toMatch(/^application\/problem\+json/);
  expect({ status: answer.status, detail: answer.body.detail }).toEqual({ status, detail: expect.stringMatching(message) as string });
  expect(await current()).toEqual(before);
  expect((await call('GET', '/api/levels')).body).toEqual(levels);
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
  expect(kept).toMatchObject({ status: 201, body: { name: 'before the hot vents', document: demoLevel } });
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

test('a second server on the folder is refused, and the first goes on', async () => {
  const second = serve(served.folder);
  await expect(second).rejects.toThrow(/already running/);
  await expect(second).rejects.toMatchObject({ code: 2 } satisfies Partial<NotStarted>);
  expect((await call('GET', '/api/health')).status).toBe(200);
});

test('other machines are let in only with a token', async () => {
  await expect(serve(newFolder(), { DIAL_HOST: '0.0.0.0' })).rejects.toThrow(/DIAL_TOKEN/);
  const { status } = await new Promise<{ status: number }>((resolve, reject) => {
    // fetch sets Host itself; a plain request can claim another one.
    const url = new URL(served.url);
    import('node:http').then(({ request }) => {
      const asked = request(
        { host: url.hostname, port: url.port, path: '/api/levels', headers: { host: 'elsewhere.example' } },
        (reply) => {
          reply.resume();
          resolve({ status: reply.statusCode ?? 0 });
        },
      );
      asked.on('error', reject);
      asked.end();
    }, reject);
  });
  expect(status).toBe(403);
});

test('killed in the middle of a burst of edits: what was acknowledged is there, and nothing twice', async () => {
  let { revision } = await current();
  const first = revision;
  const acknowledged: number[] = [];
  let killed = Promise.resolve();
  for (let edit = 1; edit <= 400; edit += 1) {
    try {
      const answer = await patch(revision, restPatch(edit / 100), { 'idempotency-key': `burst-edit-${edit}` });
      expect(answer.status).toBe(200);
      revision = answer.body.revision;
      acknowledged.push(edit);
    } catch (error) {
      if ((error as Error).name !== 'TypeError') throw error;
      break; // The server is gone; what it had not acknowledged may or may not be there.
    }
    if (edit === 60) {
      setTimeout(() => {
        killed = served.end('SIGKILL');
      }, 3);
    }
  }
  await killed;
  expect(acknowledged.length).toBeGreaterThanOrEqual(60);
  expect(acknowledged.length).toBeLessThan(400);
  served = await serve(served.folder);
  const after = await current();
  const done = after.revision - first;
  expect([acknowledged.length, acknowledged.length + 1]).toContain(done);
  expect(after.rest).toBe(done / 100);
});
