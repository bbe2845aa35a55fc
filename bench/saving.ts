import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { medianOf, quantileOf, type Figure } from './figures.ts';

const REST = '/kinds/cooling-basin/rules/cool/becomes/seconds';
const BURST_MILLISECONDS = 8000;
/** Edits of one level whose room is measured; `DIAL_EDITS=100000` for a long run. */
const EDITS = Number(process.env['DIAL_EDITS'] ?? 10_000);

export interface Server {
  readonly url: string;
  readonly process: ChildProcess;
  readonly readyAfter: number;
}

export async function startServer(main: string, folder: string): Promise<Server> {
  const began = performance.now();
  const server = spawn(process.execPath, [main], {
    env: { ...process.env, DIAL_DATA: folder, DIAL_PORT: '0', DIAL_CALLS: '100000000' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const [address] = (await once(server.stdout, 'data')) as [Buffer];
  return { url: address.toString().trim(), process: server, readyAfter: performance.now() - began };
}

export async function endServer({ process: server }: Server, signal: NodeJS.Signals): Promise<void> {
  const ended = once(server, 'exit');
  server.kill(signal);
  await ended;
}

export async function addLevel(url: string, level: object): Promise<string> {
  const headers = { 'content-type': 'application/json' };
  const response = await fetch(`${url}/api/levels`, { method: 'POST', headers, body: JSON.stringify(level) });
  return ((await response.json()) as { id: string }).id;
}

/** Milliseconds that each save took, in one window that saves as fast as it is answered; ends when `more` says no. */
async function writer(url: string, level: string, more: () => boolean): Promise<number[]> {
  const took: number[] = [];
  for (let revision = 1; more();) {
    const began = performance.now();
    const response = await fetch(`${url}/api/levels/${level}`, {
      method: 'PATCH',
      headers: {
        'content-type': 'application/json-patch+json',
        'if-match': `"${String(revision)}"`,
        'idempotency-key': crypto.randomUUID(),
      },
      body: JSON.stringify([{ op: 'replace', path: REST, value: 1 + (revision % 90) / 10 }]),
    });
    const answer = (await response.json()) as { revision?: number };
    if (response.status !== 200 || answer.revision === undefined) throw new Error(`a save was answered with ${String(response.status)}`);
    revision = answer.revision;
    took.push(performance.now() - began);
  }
  return took;
}

/** How long a request that asks for nothing of the database waits, while something else is under way. */
async function waits(url: string, work: Promise<unknown>): Promise<number[]> {
  const took: number[] = [];
  const progress = { done: false };
  void work.finally(() => {
    progress.done = true;
  });
  while (!progress.done) {
    const began = performance.now();
    await (await fetch(`${url}/favicon.svg`)).arrayBuffer();
    took.push(performance.now() - began);
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  await work;
  return took;
}

async function burst(url: string, levels: readonly string[], name: string): Promise<Figure[]> {
  const until = performance.now() + BURST_MILLISECONDS;
  const writing = Promise.all(levels.map((level) => writer(url, level, () => performance.now() < until)));
  const stalls = await waits(url, writing);
  const took = (await writing).flat();
  return [
    { name: `saves a second, ${name}`, value: took.length / (BURST_MILLISECONDS / 1000), unit: '/s' },
    { name: '… a save, p99', value: quantileOf(took, 0.99), unit: 'ms' },
    { name: '… another small request meanwhile, p99', value: quantileOf(stalls, 0.99), unit: 'ms' },
    { name: '… the longest of them', value: Math.max(...stalls), unit: 'ms' },
  ];
}

function megabytes(folder: string): number {
  const files = readdirSync(folder, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
  return files.reduce((sum, { parentPath, name }) => sum + statSync(join(parentPath, name)).size, 0) / 1024 / 1024;
}

/** `npm run bench -- --saving [SERVER]`: what saving costs, of this build's server or of another's `main.js`. */
export async function savingFigures(main = 'server/dist/main.js'): Promise<Figure[]> {
  const folder = mkdtempSync(join(tmpdir(), 'dial-bench-'));
  const level = JSON.parse(readFileSync('demo/night-firing/level.json', 'utf8')) as Record<string, Record<string, unknown>>;
  const solid = { x: 1, y: 1, width: 1, height: 1 };
  const solids = Object.fromEntries(Array.from({ length: 4900 }, (_, at) => [`s${String(at)}`, solid]));
  const placements = Object.fromEntries(
    Array.from({ length: 4900 }, (_, at) => [`t${String(at)}`, { kind: 'tile-shard', x: 2 + (at % 70) / 2, y: 2 }]),
  );
  const large = { ...level, solids: { ...level['solids'], ...solids }, placements: { ...level['placements'], ...placements } };
  let server = await startServer(main, folder);
  const figures: Figure[] = [{ name: 'ready, first start', value: server.readyAfter, unit: 'ms' }];
  const small = await Promise.all(Array.from({ length: 16 }, () => addLevel(server.url, level)));
  figures.push(...(await burst(server.url, small, '16 writers')));
  const heavy = [
    await addLevel(server.url, large),
    await addLevel(server.url, large),
    await addLevel(server.url, large),
    await addLevel(server.url, large),
  ];
  figures.push(...(await burst(server.url, heavy, '4 writers of a level of 1.8 MB')));
  let edits = 0;
  const one = await addLevel(server.url, level);
  figures.push({ name: 'folder before the edits', value: megabytes(folder), unit: 'MB' });
  await writer(server.url, one, () => (edits += 1) <= EDITS);
  figures.push({ name: `folder after ${String(EDITS)} edits more`, value: megabytes(folder), unit: 'MB' });
  const ready: number[] = [];
  for (let time = 0; time < 5; time += 1) {
    await endServer(server, 'SIGKILL');
    server = await startServer(main, folder);
    ready.push(server.readyAfter);
  }
  figures.push({ name: 'ready after a kill, median of 5', value: medianOf(ready), unit: 'ms' });
  await endServer(server, 'SIGTERM');
  figures.push({ name: 'folder after stopping', value: megabytes(folder), unit: 'MB' });
  return figures;
}
