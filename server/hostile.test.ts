/** What is sent by mistake or with ill will: nothing stalls, nothing falls over, every answer is as it is described. */
import { Validator } from '@seriousme/openapi-schema-validator';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { caller, demoLevel, demoRun, LEVEL, raw, REST, type Answer } from './testing/calls.ts';
import { progress } from './testing/progress.ts';
import { newFolder, serve, type Served } from './testing/serve.ts';

jest.setTimeout(Number(process.env['DIAL_TEST_MINUTES'] ?? 5) * 60_000);

let served: Served;
const call = caller(() => served.url);
const restPatch = (seconds: unknown, path = REST) => [{ op: 'replace', path, value: seconds }];
const patch = (revision: number, operations: unknown) => call('PATCH', LEVEL, operations, { 'if-match': `"${String(revision)}"` });
const current = async () => (await call('GET', LEVEL)).text;
const revision = async (): Promise<number> => (await call('GET', LEVEL)).body.revision;

beforeAll(async () => {
  served = await serve(newFolder(), { env: { DIAL_CALLS: '10000000' } });
});
afterAll(() => served.end('SIGTERM'));

/** How long the server's own thread let a small request wait, at most, while something was under way. */
async function longestWait(work: Promise<unknown>): Promise<number> {
  let longest = 0;
  let done = false;
  const finished = work.finally(() => {
    done = true;
  });
  while (!done) {
    const began = performance.now();
    await (await fetch(`${served.url}/favicon.svg`)).arrayBuffer();
    longest = Math.max(longest, performance.now() - began);
    await new Promise((resolve) => setImmediate(resolve));
  }
  await finished;
  return longest;
}

const big = {
  ...demoLevel,
  solids: Object.fromEntries(Array.from({ length: 4000 }, (_, at) => [`s${String(at)}`, { x: 1, y: 1, width: 1, height: 1 }])),
};
const heavy: [string, number, () => Promise<Answer>][] = [
  ['eighteen copies of the whole into itself', 422, async () => patch(await revision(), copies(18))],
  ['forty copies', 422, async () => patch(await revision(), copies(40))],
  ['a run of 10 MB', 200, () => call('PUT', `${LEVEL}/runs/long-run`, longRun(600_000))],
  [
    'a run of 10 MB with a fault near its end',
    422,
    () => call('PUT', `${LEVEL}/runs/bad-run`, longRun(600_000).replace(/,127\]\]/, ',500]]')),
  ],
  ['6 MB of nested lists', 422, () => call('POST', '/api/levels', '['.repeat(3_000_000) + ']'.repeat(3_000_000))],
  ['6 MB of lists side by side', 422, () => call('POST', '/api/levels', `{"format":1,"kinds":[${'[],'.repeat(2_000_000)}1]}`)],
  ['700,000 unknown names', 422, () => call('POST', '/api/levels', `{"format":1,${names(700_000)}}`)],
  ['15,000 unknown kinds', 422, () => call('POST', '/api/levels', `{"format":1,"kinds":{${names(15_000)}}}`)],
  [
    'values nested 3,000 deep',
    422,
    async () => patch(await revision(), `[{"op":"add","path":"/name","value":${'['.repeat(3000)}${']'.repeat(3000)}}]`),
  ],
  ['a level of 4,000 solids', 201, () => call('POST', '/api/levels', big)],
];
const copies = (count: number) => Array.from({ length: count }, (_, at) => ({ op: 'copy', from: '', path: `/kinds/k${String(at)}` }));
const names = (count: number) => Array.from({ length: count }, (_, at) => `"n${String(at)}":0`).join(',');
const longRun = (changes: number): string => {
  const list = Array.from({ length: changes }, (_, at) => `[${String(at + 1)},-127,127,127]`).join(',');
  return `{"format":1,"name":"long","simulation":1,"level":"","rate":240,"steps":1700000,"players":[{"changes":[${list}]}]}`;
};

test.each(heavy)('%s is answered with %s, while others are served and nothing is lost', async (_, status, send) => {
  const before = await current();
  let answer: Answer | undefined;
  const waited = await longestWait(
    send().then((one) => {
      answer = one;
    }),
  );
  expect([answer?.status, answer?.text.slice(0, 300)]).toEqual([status, expect.any(String)]);
  if (status >= 400) expect(Buffer.byteLength(answer?.text ?? '')).toBeLessThanOrEqual(16 * 1024);
  // The thread itself is held for far less; what is measured here includes the machine's other work.
  expect(waited).toBeLessThan(1500);
  expect(await current()).toBe(before);
});

const refusals: [string, number, RegExp, () => Promise<Answer>][] = [
  ['text that is not JSON', 400, /not JSON/, async () => patch(await revision(), '[{"op":')],
  ['something that is no patch', 422, /must be one of “add”/, async () => patch(await revision(), [{ op: 'turn', path: REST }])],
  ['a place the level does not have', 422, /no such place/, async () => patch(await revision(), restPatch(3, '/kinds/nothing/rules'))],
  ['a place below a number', 422, /no such place/, async () => patch(await revision(), [{ op: 'add', path: `${REST}/x`, value: 1 }])],
  ['the whole replaced', 422, /as a whole/, async () => patch(await revision(), [{ op: 'replace', path: '', value: {} }])],
  ['a value out of its limits', 422, /becomes\/seconds/, async () => patch(await revision(), restPatch(-1))],
  ['a text for a number', 422, /becomes\/seconds/, async () => patch(await revision(), restPatch('long'))],
  ['no value', 422, /is missing/, async () => patch(await revision(), [{ op: 'add', path: REST }])],
  [
    'a kind that is still placed taken out',
    422,
    /no kind "cart"/,
    async () => patch(await revision(), [{ op: 'remove', path: '/kinds/cart' }]),
  ],
  ['half an emoji', 422, /lone surrogate/, async () => patch(await revision(), '[{"op":"replace","path":"/name","value":"\\ud83d"}]')],
  ['a zero character', 422, /zero character/, async () => patch(await revision(), '[{"op":"replace","path":"/name","value":"a\\u0000"}]')],
  ['a zero character as a version’s name', 422, /zero character/, () => call('POST', `${LEVEL}/versions`, '{"name":"a\\u0000"}')],
  [
    'a guard that does not hold',
    409,
    /no longer/,
    async () => patch(await revision(), [{ op: 'test', path: REST, value: 1 }, ...restPatch(3)]),
  ],
  ['a path into the prototype', 422, /not allowed/, async () => patch(await revision(), restPatch(1, '/kinds/__proto__/x'))],
  ['no revision', 428, /If-Match/, () => call('PATCH', LEVEL, restPatch(3))],
  ['a body too large', 413, /larger than allowed/, () => call('POST', `${LEVEL}/versions`, { name: 'x'.repeat(20_000) })],
  ['a level of no known format', 422, /format 99/, () => call('POST', '/api/levels', { ...demoLevel, format: 99 })],
  ['a level with a dangling id', 422, /no kind/, () => call('POST', '/api/levels', { ...demoLevel, kinds: {} })],
  ['a level with a number that is none', 400, /not JSON/, () => call('POST', '/api/levels', '{"format": NaN}')],
  [
    'a level that states an id twice',
    422,
    /kinds\/a\/mark: this stands twice/,
    () => call('POST', '/api/levels', '{"kinds":{"a":{"mark":1,"mark":2}}}'),
  ],
  ['a simulation beyond counting', 422, /simulation/, () => call('PUT', `${LEVEL}/runs/bad-run`, { ...demoRun, simulation: 2 ** 40 })],
  [
    'a run out of order',
    422,
    /order of their steps/,
    () =>
      call('PUT', `${LEVEL}/runs/bad-run`, {
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
    () => call('PUT', `${LEVEL}/runs/night-firing-careful-walk`, { ...demoRun, steps: 3 }),
  ],
  ['a level that is not there', 404, /no such level/, () => call('GET', '/api/levels/nowhere')],
  ['an id with a zero byte', 422, /not valid/, () => call('GET', '/api/levels/a%00b')],
  ['an address that cannot be read', 400, /address/, () => call('GET', '/api/levels/%zz')],
  ['an address too long', 414, /address/, () => call('GET', `/api/levels/${'a'.repeat(300)}`)],
];

test.each(refusals)('%s is refused clearly and nothing changes', async (_, status, message, send) => {
  const before = await current();
  const { text: levels } = await call('GET', '/api/levels');
  const answer = await send();
  expect(answer.headers.get('content-type')).toMatch(/^application\/problem\+json/);
  expect({ status: answer.status, detail: answer.body.detail }).toEqual({ status, detail: expect.stringMatching(message) as string });
  expect([await current(), (await call('GET', '/api/levels')).text]).toEqual([before, levels]);
});

test.each([
  ['no request at all', 'HELLO\r\n\r\n', 400],
  ['headers without end', `GET /api/levels HTTP/1.1\r\nHost: 127.0.0.1\r\nX: ${'x'.repeat(40_000)}\r\n\r\n`, 431],
  ['an expectation', 'GET /api/levels HTTP/1.1\r\nHost: 127.0.0.1\r\nExpect: cake\r\nConnection: close\r\n\r\n', 417],
])('%s gets problem details too', async (_, request, status) => {
  const answer = await raw(served.url, request);
  expect([answer.status, /application\/problem\+json/.test(answer.text)]).toEqual([status, true]);
});

test('a follower who does not read is let go', async () => {
  const { connect } = await import('node:net');
  const { hostname, port } = new URL(served.url);
  const socket = connect(Number(port), hostname, () => {
    socket.write(`GET ${LEVEL}/changes HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n`);
    socket.pause();
  });
  const closed = new Promise<boolean>((resolve) => {
    socket.on('error', () => resolve(true));
    socket.on('close', () => resolve(true));
  });
  const filler = 'x'.repeat(200_000);
  let at = await revision();
  for (let edit = 0; edit < 60; edit += 1) {
    const operations = [{ op: 'test', path: '/nowhere', value: filler }];
    // A change whose guard speaks at length of what is not there clashes; one that stands beside it is told to followers.
    const changes = Array.from({ length: 1500 }, (_, one) => ({ op: 'replace', path: REST, value: 1 + (one % 7) / 10 }));
    expect((await patch(at, operations)).status).toBe(409);
    expect((await patch(at, changes)).status).toBe(200);
    at += 1;
  }
  socket.resume();
  expect(await closed).toBe(true);
});

interface Operation {
  readonly responses: Record<string, { readonly content?: Record<string, { readonly schema?: object }> }>;
}
interface Description {
  readonly openapi: string;
  readonly paths: Record<string, Record<string, Operation>>;
  readonly components: { readonly schemas: Record<string, object>; readonly securitySchemes: object };
}

describe('as it is described', () => {
  let description: Description;
  const known = new Map<string, ValidateFunction>();
  const ajv = new Ajv2020({ strict: false, validateFormats: false, allErrors: false });

  beforeAll(async () => {
    description = (await call('GET', '/api/openapi.json')).body as unknown as Description;
    ajv.addSchema({ $id: 'dial', components: description.components });
  });

  /** What of an answer is not as the description has it; null when all is. */
  function differs(method: string, path: string, { status, headers, text }: Answer): string | null {
    const operation = description.paths[path]?.[method.toLowerCase()];
    if (operation === undefined) return status === 404 ? null : `${method} ${path} is not described`;
    const response = operation.responses[String(status)];
    if (response === undefined) return `${method} ${path} does not say ${String(status)}: ${text.slice(0, 200)}`;
    const type = (headers.get('content-type') ?? '').split(';')[0] ?? '';
    if (status === 204 || !/json/.test(type)) return null;
    const schema = response.content?.[type]?.schema;
    if (schema === undefined) return `${method} ${path} ${String(status)} is not described as ${type}`;
    const key = `${method} ${path} ${String(status)}`;
    const validate = known.get(key) ?? ajv.compile(JSON.parse(JSON.stringify(schema).replaceAll('"#/', '"dial#/')) as object);
    known.set(key, validate);
    return validate(JSON.parse(text)) ? null : `${key}: ${ajv.errorsText(validate.errors)}`;
  }

  test('by a valid OpenAPI 3.1 document with errors, bodies and ways in', async () => {
    const { valid, errors } = await new Validator().validate(description as never);
    expect([errors, valid]).toEqual([undefined, true]);
    expect(description.openapi).toBe('3.1.0');
    expect(Object.keys(description.components.securitySchemes)).toEqual(['token', 'session']);
    const references = [...JSON.stringify(description).matchAll(/"\$ref":"#\/components\/schemas\/([^"/]+)/g)].map(
      ([, name]) => name ?? '',
    );
    expect(new Set(references.filter((name) => !(name in description.components.schemas)))).toEqual(new Set());
    for (const operations of Object.values(description.paths)) {
      for (const { responses } of Object.values(operations))
        expect(Object.keys(responses)).toEqual(expect.arrayContaining(['401', '422', '500']));
    }
  });

  test('every answer to five thousand mutated requests, none of which the server falls over', async () => {
    const known: [string, string, unknown][] = [
      ['GET', '/api/levels', undefined],
      ['POST', '/api/levels', demoLevel],
      ['GET', '/api/levels/{level}', undefined],
      ['PATCH', '/api/levels/{level}', [...restPatch(4), { op: 'test', path: REST, value: 4 }]],
      ['GET', '/api/levels/{level}/versions', undefined],
      ['POST', '/api/levels/{level}/versions', { name: 'kept' }],
      ['GET', '/api/levels/{level}/versions/{version}', undefined],
      ['DELETE', '/api/levels/{level}/versions/{version}', undefined],
      ['POST', '/api/levels/{level}/versions/{version}/restore', undefined],
      ['GET', '/api/levels/{level}/runs', undefined],
      ['GET', '/api/levels/{level}/runs/{run}', undefined],
      ['PUT', '/api/levels/{level}/runs/{run}', demoRun],
      ['PATCH', '/api/levels/{level}/runs/{run}', { starred: true }],
      ['GET', '/api/pictures/{hash}', undefined],
      ['POST', '/api/session', { token: 'x' }],
      ['GET', '/api/health', undefined],
    ];
    const words = fc.constantFrom(
      'night-firing',
      'night-firing-careful-walk',
      '1',
      '0',
      '-1',
      '1e9',
      'x',
      '%00',
      '%2e%2e',
      'a'.repeat(65),
      '🙂',
      "'",
      '{}',
    );
    const mutated = fc.tuple(fc.string({ unit: 'binary', maxLength: 4 }), fc.nat(), fc.nat({ max: 40 }));
    const request = fc.record({
      route: fc.constantFrom(...known),
      ids: fc.array(words, { minLength: 3, maxLength: 3 }),
      cuts: fc.option(fc.array(mutated, { minLength: 1, maxLength: 3 })),
      match: fc.constantFrom('"1"', '"2"', '*', '', '"99999999999999999"'),
      type: fc.constantFrom(null, null, null, 'application/json', 'application/json-patch+json', 'text/plain', 'image/png'),
      key: fc.constantFrom('', 'short', 'the-same-key-each-time', 'key with spaces'),
    });
    /** A request as it is sent, and the route it was made of. */
    const made = ({ route, ids, cuts, match, type, key }: typeof request extends fc.Arbitrary<infer One> ? One : never) => {
      const [method, path, body] = route;
      let at = 0;
      const url = path.replaceAll(/\{\w+\}/g, () => ids[at++] ?? 'x');
      let text = body === undefined ? undefined : JSON.stringify(body);
      for (const [put, where, gone] of text === undefined ? [] : (cuts ?? [])) {
        const from = where % ((text ?? '').length + 1);
        text = (text ?? '').slice(0, from) + put + (text ?? '').slice(from + gone);
      }
      const headers: Record<string, string> = { 'if-match': match };
      if (type !== null) headers['content-type'] = type;
      if (key !== '') headers['idempotency-key'] = key;
      return { path, url, method, body: text, headers };
    };
    const wrong = new Map<string, string>();
    const seed = Number(process.env['DIAL_SEED'] ?? 4711);
    const batches = Number(process.env['DIAL_MUTATION_BATCHES'] ?? 1);
    for (let batch = 0; batch < batches; batch += 1) {
      const next = fc.sample(request, { numRuns: 5000, seed: seed + batch }).values();
      const send = async (): Promise<void> => {
        for (const one of next) {
          const { path, url, method, body, headers } = made(one);
          const answer = await call(method, url, body, headers);
          const problem =
            answer.status >= 500
              ? `${String(answer.status)} ${method} ${url} ${(body ?? '').slice(0, 300)}`
              : differs(method, path, answer);
          if (problem !== null) wrong.set(problem.slice(0, 80), problem);
          const type = answer.headers.get('content-type') ?? '';
          if (answer.status >= 400 && !/^application\/problem\+json/.test(type)) wrong.set(url, `${url}: no problem details`);
        }
      };
      await Promise.all(Array.from({ length: 8 }, send));
      progress(batch + 1, batches, 'batches of 5,000 mutated requests');
    }
    expect([...wrong.values()].slice(0, 10)).toEqual([]);
    expect((await call('GET', '/api/health')).status).toBe(200);
  });
});
