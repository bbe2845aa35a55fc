import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseLevel, type Level } from '../../level/index.ts';
import { compile } from '../../session/index.ts';
import { outcomeOfRun, playPersonas } from '../index.ts';

/** A demo level with numbers of it turned, by their pointers. */
function turned(name: string, values: Readonly<Record<string, number>>): Level {
  const document = JSON.parse(readFileSync(join(process.cwd(), 'demo', name, 'level.json'), 'utf8')) as Record<string, unknown>;
  for (const [pointer, value] of Object.entries(values)) {
    const segments = pointer.slice(1).split('/');
    const last = segments.pop()!;
    const within = segments.reduce((at, segment) => at[segment] as Record<string, unknown>, document);
    expect(typeof within[last]).toBe('number');
    within[last] = value;
  }
  const parsed = parseLevel(document);
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems[0]));
  return parsed.value;
}

const quick = (speed: number) => ({ '/body/speed': speed, '/body/acceleration': 9 * speed, '/body/braking': 13 * speed });

test.each([
  ['night-firing', 'is twice as fast', quick(9)],
  ['night-firing', 'is three times as fast', quick(13.5)],
  ['night-firing', 'meets a door that takes three jars and states no condition', { '/kinds/kiln-door/rules/open/provided/three/value': 0 }],
  ['chimney-climb', 'is stepped 30 times a second', { '/rate': 30 }],
  ['chimney-climb', 'is twice as fast', quick(10)],
  ['chimney-climb', 'is three times as fast', quick(15)],
  ['chimney-climb', 'jumps over the gate that a chain opens', { '/body/jumpSpeed': 15.6 }],
  ['chimney-climb', 'is light', { '/body/gravity': 25 }],
  ['chimney-climb', 'is hurled as it comes', { '/kinds/tipping-hod/rules/tip/windUp/seconds': 0 }],
  ['chimney-climb', 'hurries over what gives way', { '/kinds/drying-rack/rules/give/windUp/seconds': 1 }, ['wary', 'hasty']],
])('%s is won by a body that %s', (name, _body, values, ids = ['steady', 'hasty']) => {
  const level = turned(name, values);
  const compiled = compile(level);
  const ends = ids.flatMap((id) =>
    [1, 2, 3, 4, 5, 6, 7, 8].map(
      (seed) => outcomeOfRun(compiled, playPersonas(compiled, [level.personas[id]!], { seed, seconds: 60 }).run).ended.how,
    ),
  );
  expect(ends.filter((how) => how !== 'won').length).toBeLessThanOrEqual(1);
});

test('where what wins cannot be come to, what can be is taken', () => {
  const level = turned('chimney-climb', { '/body/jumpSpeed': 11 });
  const compiled = compile(level);
  const { run, endings } = playPersonas(compiled, [level.personas['greedy']!], { seed: 1, seconds: 60 });
  expect([endings, outcomeOfRun(compiled, run).players[0]!.meters['score']]).toEqual([['nothing left to do'], 15]);
});
