import { spawn } from 'node:child_process';
import { once } from 'node:events';
import type { Figure } from './figures.ts';

export const PERSONAS = ['steady', 'wary', 'hasty', 'greedy', 'newcomer'];

const shared = (sessions: number): string => PERSONAS.map((name) => `${name}=${String(sessions / PERSONAS.length)}`).join(',');

/** Seconds that the command line takes for a study of a demo level, from its start to its end, on two threads. */
async function secondsOf(study: string, level: string, options: readonly string[]): Promise<number> {
  const began = performance.now();
  const given = ['cli/dist/main.js', study, `demo/${level}/level.json`, ...options, '--threads', '2', '--json'];
  const played = spawn(process.execPath, given, { stdio: ['ignore', 'ignore', 'inherit'] });
  const [code] = (await once(played, 'exit')) as [number | null];
  if (code !== 0) throw new Error(`the ${study} ended with ${String(code)}`);
  return (performance.now() - began) / 1000;
}

/** Seconds for so many two-minute sessions. */
const secondsFor = (level: string, sessions: number): Promise<number> => secondsOf('crowd', level, ['--personas', shared(sessions)]);

const ONE_MINUTE = ['--personas', shared(100), '--seconds', '60'];
/** Eleven values each: what a cart takes, and how fast the player walks. */
const ELEVEN = ['--dial', '/kinds/cart/rules/run/effects/health/amount=2:42:4', '--dial', '/body/speed=3.5:5.5:0.2'];

/** What studies of values take, played by the command line. */
export async function judgingFigures(): Promise<Figure[]> {
  return [
    {
      name: 'a sweep of 11 × 11 values × 100 one-minute sessions of Night Firing, two threads',
      value: await secondsOf('sweep', 'night-firing', [...ELEVEN, ...ONE_MINUTE]),
      unit: 's',
    },
    {
      name: 'what matters: all its dials, 30 sessions each',
      value: await secondsOf('sensitivity', 'night-firing', ['--personas', shared(30), '--seconds', '60']),
      unit: 's',
    },
  ];
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
