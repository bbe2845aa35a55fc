import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { openFindings } from '../findings/index.ts';
import { nearestInRun, sessionAt, simulate } from '../players/index.ts';
import { compile, readLines, whyNot } from '../session/index.ts';
import { level, pressed } from '../testing/levels.ts';
import { clockTime, lineWords, plainNumber, whyWords } from './index.ts';

interface Mistake {
  readonly kind: Record<string, unknown>;
  readonly shows: string;
  /** A test that must have failed, at the end of the walk; else a line of the ledger. */
  readonly failed?: boolean;
  readonly rover?: boolean;
  readonly second?: boolean;
  readonly back?: boolean;
  readonly y?: number;
  readonly start?: object;
  /** What else the kind has, and the level, worked into those of the examples. */
  readonly thing?: object;
  readonly level?: object;
  /** Pieces `[seconds, right, up]` walked; else 4.75 s to the right. */
  readonly walk?: [number, number, number][];
}

type Parts = Readonly<Record<string, unknown>>;
const isParts = (value: unknown): value is Parts => typeof value === 'object' && value !== null && !Array.isArray(value);

/** One object with another worked into it, part by part. */
const merged = (a: Parts, b: Parts): Parts => ({
  ...a,
  ...Object.fromEntries(
    Object.entries(b).map(([key, value]) => {
      const before = a[key];
      return [key, isParts(before) && isParts(value) && !('type' in value) ? merged(before, value) : value];
    }),
  ),
});

const text = readFileSync(join(process.cwd(), 'docs/finding-out-why.md'), 'utf8');
const mistakes = [...text.matchAll(/```json mistake\n([\s\S]*?)```/g)].map((fence) => {
  const heads = [...text.slice(0, fence.index).matchAll(/^\*\*(.+?)\*\*/gm)];
  return [heads.at(-1)?.[1] ?? '', JSON.parse(fence[1] ?? '') as Mistake] as const;
});

function shownBy({
  kind,
  rover,
  second,
  back,
  y = 10,
  start,
  thing = {},
  level: more = {},
  walk,
}: Mistake): readonly { readonly text: string; readonly failed: boolean }[] {
  const look = { role: 'score', mark: 'ring', shapes: { body: { type: 'circle', radius: 0.5 } } };
  const act = { setOffBy: { type: 'arriving' }, ...kind };
  const parts: Parts = {
    items: { jar: { name: 'glaze jar', most: 3 } },
    kinds: {
      thing: { ...look, name: 'thing', rules: { act }, ...thing },
      rover: { ...look, name: 'rover', tags: ['rover'] },
    },
    placements: {
      thing: { kind: 'thing', x: 8, y, order: 1 },
      ...(second === true ? { other: { kind: 'thing', x: 12, y, order: 2 } } : {}),
      ...(rover === true ? { rover: { kind: 'rover', x: 8, y: 14, travel: { path: 'round' } } } : {}),
    },
    paths: {
      round: {
        name: 'round',
        speed: 2,
        round: 'loop',
        wayPoints: [
          { x: 8, y: 14 },
          { x: 8, y: 6 },
        ],
      },
    },
  };
  const made = level(merged(parts, more as Parts));
  const ways: [number, number, number][] =
    walk ??
    (back === true
      ? [
          [2.5, 1, 0],
          [3, -1, 0],
        ]
      : [[4.75, 1, 0]]);
  const states = { meters: {}, items: {}, held: null, at: null, checkpoint: null, shieldSeconds: 0 };
  const run = { ...pressed(60, ...ways), start: start === undefined ? null : { ...states, ...start } };
  const compiled = compile(made);
  const recording = simulate(compiled, run);
  const nearest = nearestInRun(compiled, run, 'thing');
  const tests = whyNot(sessionAt(compiled, run, recording, recording.steps), 0, 'thing').flatMap(
    (rule) => whyWords(made, 'thing', rule).tests,
  );
  return [
    ...readLines(compiled, recording.lines).map((line) => ({ text: lineWords(made, line), failed: false })),
    { text: `speed ${plainNumber(recording.speed.at(-1) ?? NaN)}`, failed: false },
    ...openFindings(made).map(({ what }) => ({ text: what, failed: false })),
    ...tests.map(({ asks, saw, passed }) => ({ text: `${asks} · ${saw}`, failed: !passed })),
    ...(nearest === null
      ? []
      : [{ text: `Never touched: nearest ${plainNumber(nearest.distance)} u at ${clockTime(nearest.seconds)}`, failed: false }]),
  ];
}

test.each(mistakes)('%s', (_, mistake) => {
  const shown = shownBy(mistake);
  const texts = shown.filter(({ failed }) => failed === (mistake.failed ?? false)).map(({ text: one }) => one);
  expect(texts).toContain(mistake.shows);
});
