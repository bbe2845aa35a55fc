/** Who gets in: by every way an address can be written, from other pages, and into which folder. */
import { execFileSync } from 'node:child_process';
import { cpSync, existsSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { caller, LEVEL, raw, REST } from './testing/calls.ts';
import { command, newFolder, serve, type Served } from './testing/serve.ts';

jest.setTimeout(180_000);

const TOKEN = 'a-token-for-the-kiln-door';

describe('with a token', () => {
  let served: Served;
  const call = caller(() => served.url);
  beforeAll(async () => {
    served = await serve(newFolder(), { env: { DIAL_TOKEN: TOKEN } });
  });
  afterAll(() => served.end('SIGTERM'));

  const ways = [
    '/api/levels',
    '/%61pi/levels',
    '/ap%69/levels',
    '/api/%6cevels',
    '//api/levels',
    '/./api/levels',
    '/x/../api/levels',
    '/x/%2e%2e/api/levels',
    '/api//levels',
    '/api/levels/',
    '/api/levels?x=/assets/',
    '/api/levels#x',
    '/api;x/levels',
    '/API/levels',
    '/api\\levels',
    'http://127.0.0.1/api/levels',
    'http://127.0.0.1/%61pi/levels',
    'http://elsewhere.example/api/levels',
    'https://x@127.0.0.1/api/levels',
    '/assets/../api/levels',
    '/api/health',
    '/api/backup',
    '/api/openapi.json',
    '/api/levels/night-firing/changes',
  ];
  test.each(ways)('%s shows nothing without it', async (way) => {
    for (const method of ['GET', 'HEAD']) {
      const { status, text } = await raw(served.url, `${method} ${way} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n`);
      expect(text).not.toContain('night-firing');
      // What is no address of the API is a page, which holds nothing; all else is refused.
      if (status === 200) expect(method === 'HEAD' || text.includes('<div id="root">')).toBe(true);
      else expect([400, 401, 404]).toContain(status);
    }
  });

  test.each(ways.slice(0, 2))('nothing is written by %s', async (way) => {
    const body = JSON.stringify([{ op: 'replace', path: REST, value: 1 }]);
    const head = [`PATCH ${way}/night-firing HTTP/1.1`, 'Host: 127.0.0.1', 'Connection: close', 'If-Match: "1"'];
    const sent = [...head, 'Content-Type: application/json-patch+json', `Content-Length: ${body.length}`, '', body].join('\r\n');
    expect((await raw(served.url, sent)).status).toBe(401);
  });

  test('it opens as a header in any case, or as a cookie that is not the token and that no script reads', async () => {
    expect((await call('GET', LEVEL, undefined, { authorization: `bearer ${TOKEN}` })).status).toBe(200);
    const refused = await call('GET', LEVEL, undefined, { authorization: `Bearer ${TOKEN}x` });
    expect([refused.status, refused.headers.get('www-authenticate')]).toEqual([401, 'Bearer realm="Dial"']);
    expect((await call('POST', '/api/session', { token: 'not-the-token-at-all' })).status).toBe(401);
    const cookie = (await call('POST', '/api/session', { token: TOKEN })).headers.get('set-cookie') ?? '';
    expect(cookie).toMatch(/^dial-session=[\w-]+; Path=\/; HttpOnly; SameSite=Strict$/);
    expect(cookie).not.toContain(TOKEN);
    expect((await call('GET', LEVEL, undefined, { cookie: cookie.split(';')[0] ?? '' })).status).toBe(200);
    expect((await call('GET', LEVEL, undefined, { cookie: `dial-session=${TOKEN}` })).status).toBe(401);
    expect((await call('GET', '/levels/night-firing')).text).toContain('<div id="root">');
    expect(served.said()).not.toContain(TOKEN);
  });
});

describe('without a token', () => {
  let served: Served;
  const call = caller(() => served.url);
  beforeAll(async () => {
    served = await serve(newFolder());
  });
  afterAll(() => served.end('SIGTERM'));

  test.each([
    ['another origin', { origin: 'http://elsewhere.example' }, 403],
    ['no origin, but from another site', { 'sec-fetch-site': 'cross-site' }, 403],
    ['another port of this machine', { 'sec-fetch-site': 'same-site' }, 403],
    ['a form’s body', { 'content-type': 'text/plain' }, 415],
    ['the page itself', { 'sec-fetch-site': 'same-origin' }, 201],
  ])('a page sends from %s', async (_, headers, status) => {
    const answer = await call('POST', `${LEVEL}/versions`, { name: 'from a page' }, headers);
    expect(answer.status).toBe(status);
    if (status !== 201) expect(answer.headers.get('content-type')).toMatch(/^application\/problem\+json/);
  });

  test('another name for this machine, as a page elsewhere could claim it, is refused', async () => {
    for (const line of ['GET /api/levels', 'GET http://elsewhere.example/api/levels']) {
      const host = line.includes('http') ? '127.0.0.1' : 'elsewhere.example';
      const { status } = await raw(served.url, `${line} HTTP/1.1\r\nHost: ${host}\r\nConnection: close\r\n\r\n`);
      expect(status).toBe(403);
    }
    await expect(serve(newFolder(), { env: { DIAL_HOST: '0.0.0.0' } })).rejects.toThrow(/DIAL_TOKEN/);
  });

  test('pages are asked for anew each time, their files kept for ever', async () => {
    const page = await call('GET', '/levels/night-firing');
    const script = /src="(\/assets\/[^"]+)"/.exec(page.text)?.[1] ?? '';
    const caching = async (path: string) => (await call('GET', path)).headers.get('cache-control');
    expect([page.headers.get('cache-control'), await caching(script), await caching('/favicon.svg')]).toEqual([
      'no-store',
      'public, max-age=31536000, immutable',
      'no-cache',
    ]);
  });
});

test('a page’s own styles are known by a nonce, another for each answer; nothing else that stands in it is let in', async () => {
  const served = await serve(newFolder());
  const once = async (): Promise<{ policy: string; nonce: string | undefined }> => {
    const answer = await fetch(`${served.url}/levels/night-firing`);
    const [, nonce] = /<meta name="csp-nonce" nonce="([^"]+)">/.exec(await answer.text()) ?? [];
    return { policy: answer.headers.get('content-security-policy') ?? '', nonce };
  };
  const [first, second] = [await once(), await once()];
  await served.end('SIGTERM');
  expect(first.policy).toContain(`style-src 'self' 'nonce-${String(first.nonce)}';`);
  expect(second.policy).toContain(`style-src 'self' 'nonce-${String(second.nonce)}';`);
  expect(first.nonce).not.toBe(second.nonce);
  expect(first.policy).not.toMatch(/unsafe|\*/);
});

describe('the data folder', () => {
  let sound: string;
  beforeAll(async () => {
    sound = newFolder();
    await (await serve(sound)).end('SIGTERM');
  });

  const content = (folder: string): string[] => (existsSync(folder) ? (readdirSync(folder, { recursive: true }) as string[]).sort() : []);
  /** Notes of Dial's own and of PostgreSQL's, and the caches it makes anew: none holds anything that was kept. */
  const NOT_KEPT = /^dial\.|postmaster|pg_internal\.init$/;
  const damage: [string, RegExp, (folder: string) => void][] = [
    ['its version file missing', /PG_VERSION.* is missing/, (folder) => rmSync(join(folder, 'database/PG_VERSION'))],
    ['its tables missing', /base.* is missing/, (folder) => rmSync(join(folder, 'database/base'), { recursive: true })],
    ['the whole database missing', /“database” is missing/, (folder) => rmSync(join(folder, 'database'), { recursive: true })],
    ['a database that is empty', /is missing/, (folder) => emptied(join(folder, 'database'))],
    ['files of a newer version', /version 99/, (folder) => writeFileSync(join(folder, 'database/PG_VERSION'), '99\n')],
    ['its control file cut short', /cannot be used/, (folder) => writeFileSync(join(folder, 'database/global/pg_control'), 'x')],
    ['damaged pages', /cannot be used/, (folder) => damagePages(join(folder, 'database/base'))],
    ['nothing but backups', /there are backups/, (folder) => onlyBackups(folder)],
  ];
  const emptied = (folder: string): void => {
    for (const name of readdirSync(folder)) rmSync(join(folder, name), { recursive: true });
  };
  /** Overwrites a few bytes of every page of Dial's own tables, whose files have the higher numbers. */
  const damagePages = (folder: string): void => {
    for (const name of readdirSync(folder, { recursive: true }) as string[]) {
      if (!/\/\d+$/.test(name) || Number(name.split('/')[1]) < 16384) continue;
      const bytes = readFileSync(join(folder, name));
      for (let page = 0; page < bytes.length; page += 8192) bytes.fill(0xee, page + 3000, page + 3020);
      writeFileSync(join(folder, name), bytes);
    }
  };
  const onlyBackups = (folder: string): void => {
    emptied(folder);
    cpSync(join(__dirname, '../demo'), join(folder, 'backups'), { recursive: true });
  };
  test.each(damage)('with %s is refused with a sentence and left as it is', async (_, words, spoil) => {
    const folder = newFolder();
    cpSync(sound, folder, { recursive: true });
    spoil(folder);
    const before = content(folder).filter((name) => !NOT_KEPT.test(name));
    const refused = await serve(folder).then(
      () => ({ code: 0, message: 'it started' }),
      (error: unknown) => error as { code: number; message: string },
    );
    expect(refused.message).toMatch(words);
    expect(refused.message).toMatch(/restore/);
    expect(refused.message).not.toMatch(/^\s+at /m);
    expect(refused.code).toBe(2);
    expect(content(folder).filter((name) => !NOT_KEPT.test(name))).toEqual(before);
  });

  test('that was begun and never finished is begun anew', async () => {
    const folder = newFolder();
    cpSync(sound, folder, { recursive: true });
    rmSync(join(folder, 'database/base'), { recursive: true });
    writeFileSync(join(folder, 'dial.json'), '{"dial":1,"state":"beginning"}');
    const served = await serve(folder);
    expect((await caller(() => served.url)('GET', LEVEL)).status).toBe(200);
    await served.end('SIGTERM');
  });

  test.each([
    ['an empty name for it', { DIAL_DATA: '' }, /DIAL_DATA: is empty/],
    ['a file in its place', { DIAL_DATA: join(__dirname, '../README.md') }, /cannot write to its data folder/],
    ['an address that is not there', { DIAL_HOST: '192.0.2.1', DIAL_TOKEN: TOKEN }, /no address 192\.0\.2\.1/],
    ['a port that is none', { DIAL_PORT: '99999' }, /DIAL_PORT/],
  ])('%s is refused with a sentence', async (_, env, words) => {
    const refused = serve(newFolder(), { env });
    await expect(refused).rejects.toThrow(words);
    await expect(refused).rejects.toMatchObject({ code: 2, message: expect.not.stringMatching(/^\s+at /m) as string });
  });

  test('is one server’s: several starts at once over a stale lock, nonsense in it, another namespace', async () => {
    const folder = newFolder();
    cpSync(sound, folder, { recursive: true });
    for (const left of ['{"pid":1,"address":"http://127.0.0.1:1"}', 'nonsense\u0000', '']) {
      writeFileSync(join(folder, 'dial.lock'), left);
      const starts = await Promise.allSettled(Array.from({ length: 4 }, () => serve(folder)));
      const up = starts.flatMap((start) => (start.status === 'fulfilled' ? [start.value] : []));
      expect(starts.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected', 'rejected', 'rejected']);
      for (const start of starts) if (start.status === 'rejected') expect(String(start.reason)).toMatch(/already running/);
      await up[0]?.end('SIGKILL');
    }
    const first = await serve(folder);
    const within = namespaces();
    await expect(serve(folder, { within })).rejects.toThrow(/already running/);
    await first.end('SIGTERM');
  });

  /** A command that gives a process its own numbering of processes, where this machine lets us; nothing where not. */
  function namespaces(): string[] {
    const within = ['unshare', '--user', '--map-root-user', '--pid', '--fork', '--kill-child'];
    try {
      execFileSync(within[0] ?? '', [...within.slice(1), 'true'], { stdio: 'ignore' });
      return within;
    } catch {
      return [];
    }
  }

  test('that is taken away under a server ends it, and a new server on the name is left alone', async () => {
    const folder = newFolder();
    cpSync(sound, folder, { recursive: true });
    const old = await serve(folder);
    const call = caller(() => old.url);
    renameSync(folder, `${folder}-away`);
    const next = await serve(folder);
    const late = await call('POST', `${LEVEL}/versions`, { name: 'too late' }).catch(() => null);
    expect(late?.status).not.toBe(201);
    await expect(serve(folder)).rejects.toThrow(/already running/);
    expect(old.said()).toMatch(/was moved or deleted while Dial was running/);
    expect((await caller(() => next.url)('GET', LEVEL)).status).toBe(200);
    await next.end('SIGTERM');
  });
});

test('a backup made while the server runs is restored into an empty folder, and both are sound', async () => {
  const served = await serve(newFolder(), { env: { DIAL_TOKEN: TOKEN } });
  const call = caller(() => served.url);
  const auth = { authorization: `Bearer ${TOKEN}` };
  for (let edit = 1; edit <= 3; edit += 1) {
    const operations = [{ op: 'replace', path: REST, value: edit }];
    expect((await call('PATCH', LEVEL, operations, { ...auth, 'if-match': `"${edit}"` })).status).toBe(200);
  }
  const file = join(newFolder(), 'dial-backup.tar.gz');
  expect(await command(served.folder, ['backup', file])).toMatchObject({ code: 2, said: expect.stringContaining('DIAL_TOKEN') as string });
  expect(await command(served.folder, ['backup', file], { DIAL_TOKEN: TOKEN })).toMatchObject({ code: 0 });
  expect((await command(served.folder, ['restore', file])).said).toMatch(/not empty/);
  await served.end('SIGKILL');
  const other = newFolder();
  expect(await command(other, ['restore', file])).toEqual({
    code: 0,
    said: expect.stringMatching(/Sound: 3 levels, 3 logged changes/) as string,
  });
  expect(await command(served.folder, ['check'])).toMatchObject({ code: 0 });
  const again = await serve(other);
  const { body } = await caller(() => again.url)('GET', LEVEL);
  expect([body.revision, JSON.stringify(body).includes('"seconds":3')]).toEqual([4, true]);
  await again.end('SIGTERM');
  const garbage = join(newFolder(), 'garbage.tar.gz');
  writeFileSync(garbage, readFileSync(file).subarray(0, 1000));
  const spoilt = newFolder();
  expect(await command(spoilt, ['restore', garbage])).toMatchObject({ code: 2 });
  expect((await command(newFolder(), ['check', 'x'])).code).toBe(2);
});
