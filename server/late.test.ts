import Fastify from 'fastify';
import { serializerCompiler, validatorCompiler } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Database } from './db/database.ts';
import { DatabaseLate, within } from './db/deadline.ts';
import type { Queries } from './db/queries.ts';
import { startKeeping } from './keeping.ts';
import { HttpProblem, installProblems } from './problems.ts';
import { serviceRoutes } from './routes/service.ts';

/** The service's routes over a database that answers, or fails, as it is told. */
async function health(ping: () => Promise<unknown>) {
  const app = Fastify();
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  installProblems(app);
  await app.register(serviceRoutes({ ping } as unknown as Queries, {} as Database, process.cwd()));
  const address = await app.listen({ host: '127.0.0.1', port: 0 });
  const answer = await fetch(`${address}/api/health`);
  const told = { status: answer.status, type: answer.headers.get('content-type'), body: await answer.text() };
  await app.close();
  return told;
}

const failing = (code: string) => () => Promise.reject(Object.assign(new Error('from PostgreSQL'), { code }));

test.each([
  ['never answers', () => within(new Promise(() => undefined), 30), 503, /does not answer.*is not known/],
  ['has no room left', failing('53100'), 507, /no room left.*Nothing was changed/],
  ['cannot be read', failing('XX001'), 500, /cannot be read.*backup/],
  ['fails in a way nobody foresaw', failing('42601'), 500, /is not known/],
])('health tells of a database that %s', async (_, ping, status, words) => {
  const answer = await health(ping);
  expect([answer.status, answer.type]).toEqual([status, expect.stringContaining('application/problem+json')]);
  expect(answer.body).toMatch(words);
  expect(answer.body).not.toContain('PostgreSQL');
});

test('a database that answers in time is heard, and a late one is told as late', async () => {
  const { status, body } = await health(() => within(Promise.resolve([]), 1000));
  expect([status, JSON.parse(body)]).toMatchObject([200, { ok: true, database: 'answers' }]);
  await expect(within(new Promise(() => undefined), 5)).rejects.toThrow(DatabaseLate);
  await expect(within(Promise.reject(new HttpProblem(404, 'x', 'gone')), 1000)).rejects.toThrow('gone');
});

test('without room the log of the database is left alone, and cleared once there is some', async () => {
  jest.useFakeTimers();
  let room = 1024;
  const maintain = jest.fn(() => Promise.resolve());
  const warned = jest.fn();
  const database = { query: () => Promise.resolve([]), maintain, dump: () => Promise.resolve(new Uint8Array()) } as unknown as Database;
  const folder = process.cwd();
  const keeping = startKeeping({ database, folder, backups: folder, warn: warned, roomOf: () => Promise.resolve(room) });
  await keeping.database.query(z.unknown(), 'insert into runs');
  await jest.advanceTimersByTimeAsync(30_000);
  expect([maintain.mock.calls.length, warned.mock.calls]).toEqual([0, [[expect.stringContaining('nearly full')]]]);
  room = 1e9;
  await jest.advanceTimersByTimeAsync(30_000);
  expect(maintain).toHaveBeenCalledTimes(1);
  await keeping.stop();
  jest.useRealTimers();
});
