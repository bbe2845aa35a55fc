import { readFileSync } from 'node:fs';
import { parseLevel, parseLevelText, type Level } from '@dial/core/level';
import { outcomeOfRun, playPersonas, worldOf } from '@dial/core/players';
import { compile } from '@dial/core/session';
import { medianOf, type Figure } from './figures.ts';

const SEEDS = 24;
const SECONDS = 120;

function demo(name: string): Level {
  const parsed = parseLevelText(readFileSync(`demo/${name}/level.json`, 'utf8'));
  if (!parsed.ok) throw new Error(`the demo ${name} is not valid`);
  return parsed.value;
}

/** What a step costs more since a persona presses the keys: its sessions, against the same simulated from their keys. Microseconds. */
function shareOf(level: Level): { step: number; share: number } {
  const compiled = compile(level);
  const steps: number[] = [];
  const shares: number[] = [];
  for (let seed = 1; seed <= SEEDS; seed += 1) {
    let [played, replayed, count] = [0, 0, 0];
    for (const persona of Object.values(level.personas)) {
      const begun = performance.now();
      const { run } = playPersonas(compiled, [persona], { seed, seconds: SECONDS });
      const done = performance.now();
      outcomeOfRun(compiled, run);
      played += done - begun;
      replayed += performance.now() - done;
      count += run.steps;
    }
    // The first rounds warm the engine up.
    if (seed <= SEEDS / 3) continue;
    steps.push((1000 * replayed) / count);
    shares.push((1000 * (played - replayed)) / count);
  }
  return { step: medianOf(steps), share: medianOf(shares) };
}

/** A level of 1,000 placements among 200 walls. */
function wide(harm: number): Level {
  const kind = (meter: string, change: string, amount: number): object => ({
    name: meter,
    role: 'score',
    mark: 'ring',
    shapes: { body: { type: 'circle', radius: 0.5 } },
    rules: { act: { setOffBy: { type: 'inside' }, effects: { effect: { type: 'meter', meter, change, amount } } } },
  });
  const at = (k: number): { x: number; y: number } => ({ x: 2 + (k % 50) * 3.9, y: 2 + Math.floor(k / 50) * 4.3 });
  const parsed = parseLevel({
    ...demo('night-firing'),
    size: { width: 200, height: 90 },
    kinds: { shard: kind('score', 'add', 5), vent: kind('health', 'take', harm) },
    placements: Object.fromEntries(Array.from({ length: 1000 }, (_, k) => [`t${k}`, { kind: k % 5 === 0 ? 'vent' : 'shard', ...at(k) }])),
    solids: Object.fromEntries(
      Array.from({ length: 200 }, (_, k) => [`s${k}`, { x: 4 + (k % 20) * 9.5, y: 4 + Math.floor(k / 20) * 8.5, width: 1.4, height: 3 }]),
    ),
    ends: {},
    death: {},
    routes: {},
    items: {},
    tries: {},
    readouts: {},
    tagRules: {},
    variants: {},
    paths: {},
  });
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
  return parsed.value;
}

/** Milliseconds it takes to make what personas find their ways by: at first, and after a turned dial. */
function navigation(): { first: number; turned: number } {
  const [first, turned]: [number[], number[]] = [[], []];
  for (let round = 0; round < 8; round += 1) {
    // Elsewhere by a hair: nothing of the round before is kept.
    const level = wide(10);
    const moved = { ...level, body: { ...level.body, radius: 0.35 + round * 1e-4 } };
    for (const [times, of] of [
      [first, moved],
      [turned, { ...moved, kinds: { ...moved.kinds, ...wide(20).kinds } }],
    ] as const) {
      const compiled = compile(of);
      const begun = performance.now();
      worldOf(compiled);
      times.push(performance.now() - begun);
    }
  }
  return { first: medianOf(first.slice(2)), turned: medianOf(turned.slice(2)) };
}

/** What personas cost. */
export function personaFigures(): Figure[] {
  const top = shareOf(demo('night-firing'));
  const side = shareOf(demo('chimney-climb'));
  const made = navigation();
  return [
    { name: 'Night Firing, a step of what personas played', value: top.step, unit: 'µs' },
    { name: 'Night Firing, a persona’s share of a step', value: top.share, unit: 'µs' },
    { name: 'Chimney Climb, a step of what personas played', value: side.step, unit: 'µs' },
    { name: 'Chimney Climb, a persona’s share of a step', value: side.share, unit: 'µs' },
    { name: 'navigation of 1,000 placements, made', value: made.first, unit: 'ms' },
    { name: 'navigation of 1,000 placements, after a turned dial', value: made.turned, unit: 'ms' },
  ];
}
