import { SIMULATION_VERSION } from '@dial/core/session';
import type { Page } from '@playwright/test';
import { medianOf, quantileOf, type Figure } from './figures.ts';
import { growthLevel } from './growth.ts';
import { framesOf } from './playing.ts';
import { turned } from './turned.ts';

const TWO_MINUTES = 120;
const RATE = 60;
const FRAMES = 300;

/** Puts a level into Dial. Answers its id. */
async function put(url: string, level: object): Promise<string> {
  const reply = await fetch(`${url}/api/levels`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(level),
  });
  return ((await reply.json()) as { readonly id: string }).id;
}

/** A run to and fro over a level, up and down on the way: its keys change every second and a half. */
function toAndFro(): object {
  const steps = TWO_MINUTES * RATE;
  const changes = Array.from({ length: steps / 90 }, (_, k) => [
    1 + k * 90,
    Math.floor(k / 24) % 2 === 0 ? 127 : -127,
    ((k * 53) % 255) - 127,
    0,
    0,
  ]);
  return {
    format: 1,
    name: 'to and fro',
    level: '0000000000000000',
    simulation: SIMULATION_VERSION,
    rate: RATE,
    seed: 1,
    steps,
    players: [{ changes }],
  };
}

/** Large levels in the browser: a dial turned among carts and magnets, and wanderers drawn while they are played among. */
export async function crowdedFigures(page: Page, url: string): Promise<Figure[]> {
  const large = await put(url, growthLevel({ still: 400, magnets: 100, carts: 40 }));
  await fetch(`${url}/api/levels/${large}/runs/to-and-fro`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(toAndFro()),
  });
  await page.goto(`${url}/levels/${large}?run=to-and-fro`);
  await page.getByRole('toolbar', { name: 'Tray' }).getByRole('radio', { name: 'arrows' }).click();
  const { turns, simulations } = await turned(page, page.getByRole('slider', { name: 'health', exact: true }));
  const wandered = await put(url, growthLevel({ drifting: 200 }));
  await page.goto(`${url}/levels/${wandered}/play`);
  await page.getByRole('group', { name: 'Readouts' }).waitFor();
  await page.keyboard.down('d');
  await framesOf(page, FRAMES / 5);
  const frames = await framesOf(page, FRAMES);
  await page.keyboard.up('d');
  return [
    { name: '540 things, 40 carts, 100 magnets: turn to redraw of two minutes, p95', value: quantileOf(turns, 0.95), unit: 'ms' },
    { name: '… median', value: medianOf(turns), unit: 'ms' },
    { name: '… of which simulation, median', value: medianOf(simulations), unit: 'ms' },
    { name: '200 wanderers, played among, median', value: 1000 / medianOf(frames), unit: 'frames/s' },
    { name: '200 wanderers, played among, slowest 5 %', value: 1000 / quantileOf(frames, 0.95), unit: 'frames/s' },
  ];
}
