import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { medianOf, quantileOf, type Figure } from './figures.ts';

const HOUR = 3600;
const FRAMES = 120;

interface DemoRun {
  rate: number;
  steps: number;
  players: { changes: number[][] }[];
}

/** The demo run, over and over, for so many seconds. */
export function longRun(seconds: number): object {
  const run = JSON.parse(readFileSync('demo/night-firing/runs/careful-walk.json', 'utf8')) as DemoRun;
  const steps = seconds * run.rate;
  const once = run.players[0]?.changes ?? [];
  const changes = Array.from({ length: Math.ceil(steps / run.steps) }, (_, round) =>
    once.map(([at = 1, ...rest]) => [at + round * run.steps, ...rest]),
  ).flat();
  return { ...run, steps, marks: [], players: [{ changes: changes.filter(([at = 0]) => at <= steps) }] };
}

/** Night Firing in which death is never the end, and things that were taken come back: an hour of it has many lines. */
function endless(): object {
  const level = JSON.parse(readFileSync('demo/night-firing/level.json', 'utf8')) as {
    death: { returns: string };
    ends: object;
    kinds: Record<string, { rules: Record<string, { becomes: object }> }>;
  };
  level.death.returns = 'always';
  level.ends = {};
  for (const kind of Object.values(level.kinds)) {
    for (const rule of Object.values(kind.rules)) {
      if ('type' in rule.becomes && rule.becomes.type === 'spent') rule.becomes = { type: 'rests', seconds: 1 };
    }
  }
  return { ...level, name: 'Endless night' };
}

const json = (method: string, body: object): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
});

/** Milliseconds between frames while something is done in each of them. */
async function frames(page: Page, what: 'zoom' | 'scrub' | 'scroll'): Promise<number[]> {
  return page.evaluate(
    ({ doing, count }) =>
      new Promise<number[]>((resolve) => {
        const strip = document.querySelector('[aria-label="Strip"]');
        const needle = document.querySelector('[aria-label="Needle"]');
        const lines = document.querySelector('[aria-label="Ledger"] [aria-label="lines"]');
        const box = strip?.getBoundingClientRect();
        const times: number[] = [];
        const frame = (time: number): void => {
          times.push(time);
          const at = times.length;
          if (at > count) {
            resolve(times.slice(1).map((one, index) => one - (times[index] ?? one)));
            return;
          }
          if (doing === 'zoom') {
            const init = {
              ctrlKey: true,
              deltaY: at < count / 2 ? -60 : 60,
              clientX: (box?.left ?? 0) + 500,
              bubbles: true,
              cancelable: true,
            };
            strip?.dispatchEvent(new WheelEvent('wheel', init));
          } else if (doing === 'scrub') {
            needle?.dispatchEvent(new KeyboardEvent('keydown', { key: at % 7 === 0 ? 'Home' : 'PageUp', bubbles: true, cancelable: true }));
          } else if (lines !== null) lines.scrollTop = ((at * 37) % count) * (lines.scrollHeight / count);
          requestAnimationFrame(frame);
        };
        requestAnimationFrame(frame);
      }),
    { doing: what, count: FRAMES },
  );
}

/** A run of an hour on the Bench: how long it takes to open, and how smoothly it is zoomed, scrubbed and scrolled. */
export async function hourFigures(page: Page, url: string): Promise<Figure[]> {
  const reply = await fetch(`${url}/api/levels`, json('POST', endless()));
  const { id } = (await reply.json()) as { readonly id: string };
  await fetch(`${url}/api/levels/${id}/runs/an-hour`, json('PUT', longRun(HOUR)));
  const began = performance.now();
  await page.goto(`${url}/levels/${id}?run=an-hour`);
  await page.getByText(/simulated in/).waitFor({ timeout: 60_000 });
  const opened = performance.now() - began;
  const zoom = await frames(page, 'zoom');
  const scrub = await frames(page, 'scrub');
  await page.keyboard.press('l');
  const lines = Number(/\d+/.exec((await page.getByText(/^\d+ lines$/).textContent()) ?? '')?.[0]);
  const scroll = await frames(page, 'scroll');
  const client = await page.context().newCDPSession(page);
  await client.send('Performance.enable');
  const { metrics } = await client.send('Performance.getMetrics');
  const heap = metrics.find(({ name }) => name === 'JSHeapUsedSize')?.value ?? NaN;
  const smooth = (name: string, times: readonly number[]): Figure[] => [
    { name: `an hour, ${name}: frame, median`, value: medianOf([...times]), unit: 'ms' },
    { name: `an hour, ${name}: frame, p95`, value: quantileOf([...times], 0.95), unit: 'ms' },
  ];
  return [
    { name: 'a run of an hour opened, simulated and drawn', value: opened, unit: 'ms' },
    { name: '… its ledger', value: lines, unit: 'lines' },
    ...smooth('Strip zoomed', zoom),
    ...smooth('needle moved by seconds', scrub),
    ...smooth('Ledger scrolled', scroll),
    { name: '… memory of the page', value: heap / 1e6, unit: 'MB' },
  ];
}
