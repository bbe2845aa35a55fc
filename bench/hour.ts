import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { medianOf, quantileOf, type Figure } from './figures.ts';

const HOUR = 3600;
const FRAMES = 120;
const SEEKS = 60;

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

/** Night Firing in which death is never the end, things that were taken come back, and some go on and off: an hour of it has many lines. */
function endless(): object {
  const level = JSON.parse(readFileSync('demo/night-firing/level.json', 'utf8')) as {
    death: { returns: string };
    ends: object;
    kinds: Record<string, { rules: Record<string, { becomes: object }>; cycle?: object }>;
  };
  level.death.returns = 'always';
  level.ends = {};
  for (const kind of Object.values(level.kinds)) {
    for (const rule of Object.values(kind.rules)) {
      if ('type' in rule.becomes && rule.becomes.type === 'spent') rule.becomes = { type: 'rests', seconds: 1 };
    }
  }
  const tile = level.kinds['glazed-tile'];
  if (tile !== undefined) tile.cycle = { on: 0.6, off: 0.6 };
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

/** Milliseconds from a press on the Strip, at moments all over the run, until the Plan tells of that moment. */
async function seekTimes(page: Page): Promise<number[]> {
  return page.evaluate(
    (count) =>
      new Promise<number[]>((resolve) => {
        const plan = document.querySelector('[aria-label^="Plan of"]');
        const surface = document.querySelector('[aria-label="Needle"]')?.parentElement;
        const box = surface?.getBoundingClientRect();
        const times: number[] = [];
        let began = 0;
        const seek = (): void => {
          // Far apart, in no order: each from another snapshot.
          const clientX = (box?.left ?? 0) + (((times.length + 1) * 387) % 761) + 10;
          const init = { clientX, clientY: (box?.top ?? 0) + 20, button: 0, buttons: 1, pointerId: 1, bubbles: true };
          began = performance.now();
          surface?.dispatchEvent(new PointerEvent('pointerdown', init));
          surface?.dispatchEvent(new PointerEvent('pointerup', { ...init, buttons: 0 }));
        };
        const observer = new MutationObserver(() => {
          times.push(performance.now() - began);
          if (times.length < count) setTimeout(seek, 50);
          else {
            observer.disconnect();
            resolve(times);
          }
        });
        if (plan !== null) observer.observe(plan, { attributes: true, attributeFilter: ['aria-label'] });
        if (surface instanceof HTMLElement) surface.setPointerCapture = () => undefined;
        seek();
      }),
    SEEKS,
  );
}

/** What the process of the page holds in memory of its own, workers and pictures with it. Megabytes. */
async function tabMegabytes(page: Page): Promise<number> {
  const client = await page.context().browser()?.newBrowserCDPSession();
  const { processInfo } = (await client?.send('SystemInfo.getProcessInfo')) ?? { processInfo: [] };
  const sizes = processInfo
    .filter(({ type }) => type === 'renderer')
    .map(({ id }) => Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${String(id)}/smaps_rollup`, 'utf8'))?.[1]) / 1000);
  return Math.max(...sizes);
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
  const seek = await seekTimes(page);
  await page.keyboard.press('l');
  const lines = Number(/\d+/.exec((await page.getByText(/^\d+ lines$/).textContent()) ?? '')?.[0]);
  const scroll = await frames(page, 'scroll');
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
    { name: 'an hour: seeking anywhere until the Plan shows it, median', value: medianOf([...seek]), unit: 'ms' },
    { name: 'an hour: seeking anywhere until the Plan shows it, p95', value: quantileOf([...seek], 0.95), unit: 'ms' },
    { name: '… memory of the tab, its workers with it', value: await tabMegabytes(page), unit: 'MB' },
  ];
}
