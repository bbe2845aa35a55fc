import { compile } from '../session/index.ts';
import { digestSessions, keptDigests } from '../testing/sessions.ts';
import { simulate } from './index.ts';

test('sessions come to the digests on file', () => {
  const found = Object.fromEntries(digestSessions().map(({ name, level, run }) => [name, simulate(compile(level), run).digest]));
  expect(found).toEqual(keptDigests());
});
