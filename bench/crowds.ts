import { spawn } from 'node:child_process';
import { once } from 'node:events';
import type { Figure } from './figures.ts';

const PERSONAS = ['steady', 'wary', 'hasty', 'greedy', 'newcomer'];

/** Seconds that the command line takes for so many two-minute sessions of a demo level, from its start to its end, on two threads. */
async function secondsFor(level: string, sessions: number): Promise<number> {
  const personas = PERSONAS.map((name) => `${name}=${String(sessions / PERSONAS.length)}`).join(',');
  const began = performance.now();
  const played = spawn(
    process.execPath,
    ['cli/dist/main.js', 'crowd', `demo/${level}/level.json`, '--personas', personas, '--threads', '2', '--json'],
    {
      stdio: ['ignore', 'ignore', 'inherit'],
    },
  );
  const [code] = (await once(played, 'exit')) as [number | null];
  if (code !== 0) throw new Error(`the crowd ended with ${String(code)}`);
  return (performance.now() - began) / 1000;
}

/** What crowds take, played by the command line; `large` adds ten thousand sessions. */
export async function crowdFigures(large: boolean): Promise<Figure[]> {
  const figures: Figure[] = [
    { name: 'a crowd of 1,000 two-minute sessions of Night Firing, two threads', value: await secondsFor('night-firing', 1000), unit: 's' },
    { name: 'a crowd of 100 two-minute sessions of Chimney Climb, two threads', value: await secondsFor('chimney-climb', 100), unit: 's' },
  ];
  if (large) figures.push({ name: 'a crowd of 10,000 of Night Firing', value: await secondsFor('night-firing', 10_000), unit: 's' });
  return figures;
}
