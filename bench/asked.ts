import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PERSONAS } from './crowds.ts';
import { addLevel, endServer, startServer } from './saving.ts';
import type { Figure } from './figures.ts';

/** Each is asked so often: the first time as whoever has just come to the page does, then again. */
const TIMES = 3;
/** Whoever has come to the page reads it for so long before asking. */
const READS_MILLISECONDS = 6000;

const crowd = (sessions: number, seconds: number): object => ({
  personas: PERSONAS.map((persona) => ({ persona, sessions: sessions / PERSONAS.length })),
  seconds,
  seed: 1,
  start: null,
});

const even = (from: number, to: number, count: number): number[] =>
  Array.from({ length: count }, (_, at) => Math.round(1000 * (from + ((to - from) * at) / (count - 1))) / 1000);

const SWEEP = {
  kind: 'sweep',
  of: {
    dials: [
      { paths: ['/kinds/cart/rules/run/effects/health/amount'], values: even(2, 42, 11) },
      { paths: ['/body/speed'], values: even(3.5, 5.5, 11) },
    ],
    figures: [{ outcome: { type: 'final', meter: 'health' }, statistic: { type: 'mean' } }],
    crowd: crowd(100, 60),
  },
};

/** Sessions of the first, coarse map: four by four cells, twenty sessions in each. */
const COARSE_SESSIONS = 4 * 4 * 20;

interface Entry {
  readonly id: string;
  readonly state: string;
  readonly done: number;
}

/** Seconds from asking for a study until the server has all of it, and until it has so many sessions. */
async function secondsOf(url: string, level: string, settings: object, some = Infinity): Promise<{ all: number; first: number }> {
  const studies = `${url}/api/levels/${level}/studies`;
  const id = crypto.randomUUID();
  const began = performance.now();
  const headers = { 'content-type': 'application/json' };
  const reply = await fetch(`${studies}/${id}`, { method: 'PUT', headers, body: JSON.stringify({ name: 'asked', settings }) });
  if (!reply.ok) throw new Error(`a study was answered with ${String(reply.status)}: ${await reply.text()}`);
  let first = NaN;
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, 50));
    const list = (await (await fetch(studies)).json()) as Entry[];
    const { state, done = 0 } = list.find((study) => study.id === id) ?? {};
    const now = (performance.now() - began) / 1000;
    if (Number.isNaN(first) && done >= some) first = now;
    if (state === 'done') return { all: now, first };
    if (state !== 'waiting' && state !== 'running') throw new Error(`a study came to be ${state ?? 'lost'}`);
  }
}

/** What studies take that are asked of the server, as the pages Crowd and Sweep do: its threads warm up as the page is opened, and are kept. */
export async function askedFigures(): Promise<Figure[]> {
  const server = await startServer('server/dist/main.js', mkdtempSync(join(tmpdir(), 'dial-bench-')));
  const level = await addLevel(server.url, JSON.parse(readFileSync('demo/night-firing/level.json', 'utf8')) as object);
  await fetch(`${server.url}/api/levels/${level}/studies`);
  await new Promise((resolve) => setTimeout(resolve, READS_MILLISECONDS));
  const figures: Figure[] = [];
  for (let time = 0; time < TIMES; time += 1) {
    const again = time === 0 ? '' : ', again';
    figures.push({
      name: `a crowd of 1,000 two-minute sessions of Night Firing, asked of the server${again}`,
      value: (await secondsOf(server.url, level, crowd(1000, 120))).all,
      unit: 's',
    });
  }
  const { all, first } = await secondsOf(server.url, level, SWEEP, COARSE_SESSIONS);
  const name = 'a sweep of 11 × 11 values × 100 one-minute sessions of Night Firing, asked of the server';
  figures.push({ name, value: all, unit: 's' }, { name: `${name}: its first coarse map`, value: first, unit: 's' });
  await endServer(server, 'SIGTERM');
  return figures;
}
