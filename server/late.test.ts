import Fastify from 'fastify';
import { serializerCompiler, validatorCompiler } from 'fastify-type-provider-zod';
import type { Database } from './db/database.ts';
import { DatabaseLate, within } from './db/deadline.ts';
import type { Queries } from './db/queries.ts';
import { HttpProblem, installProblems } from './problems.ts';
import { serviceRoutes } from './routes/service.ts';

/** The service's routes over a database that answers, or fails, as it is told. */
async function service(ping: () => Promise<unknown>) {
  const app = Fastify();
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  installProblems(app);
  await app.register(serviceRoutes({ ping } as unknown as Queries, {} as Database, process.cwd()));
  return app.inject('/api/health');
}

const failing = (code: string) => () => Promise.reject(Object.assign(new Error('from PostgreSQL'), { code }));

test.each([
  ['never answers', () => within(new Promise(() => undefined), 30), 503, /does not answer.*is not known/],
  ['has no room left', failing('53100'), 507, /no room left.*Nothing was changed/],
  ['cannot be read', failing('XX001'), 500, /cannot be read.*backup/],
  ['fails in a way nobody foresaw', failing('42601'), 500, /is not known/],
])('health tells of a database that %s', async (_, ping, status, words) => {
  const answer = await service(ping);
  expect([answer.statusCode, answer.headers['content-type']]).toEqual([status, 'application/problem+json']);
  expect(answer.json<{ detail: string }>().detail).toMatch(words);
  expect(answer.body).not.toContain('PostgreSQL');
});

test('a database that answers in time is heard, and a late one is told as late', async () => {
  expect((await service(() => within(Promise.resolve([]), 1000))).json()).toMatchObject({ ok: true, database: 'answers' });
  await expect(within(new Promise(() => undefined), 5)).rejects.toThrow(DatabaseLate);
  await expect(within(Promise.reject(new HttpProblem(404, 'x', 'gone')), 1000)).rejects.toThrow('gone');
});
