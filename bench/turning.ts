import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { crowdedFigures } from './crowded.ts';
import { medianOf, quantileOf, type Figure } from './figures.ts';
import { followingFigures } from './following.ts';
import { hourFigures, longRun } from './hour.ts';
import { panningFigures } from './panning.ts';
import { playingFigures } from './playing.ts';
import { turned } from './turned.ts';

const THREE_MINUTES = 180;

/** The same where a persona plays: one of its own dials is turned, and all it did is played anew. */
async function personaTurns(page: Page, url: string): Promise<Figure[]> {
  const figures: Figure[] = [];
  for (const level of ['Night Firing', 'Chimney Climb', 'Proving Yard']) {
    await page.goto(`${url}/levels/${level.toLowerCase().replace(' ', '-')}?run=persona:wary`);
    const fold = page.getByRole('button', { name: 'wary, who plays this run' });
    await fold.waitFor();
    // A fold stays as it was left.
    if ((await fold.getAttribute('aria-expanded')) !== 'true') await fold.click();
    const { turns, simulations } = await turned(page, page.getByRole('slider', { name: 'haste' }));
    figures.push(
      { name: `${level}, turn to redraw of what wary plays, p95`, value: quantileOf(turns, 0.95), unit: 'ms' },
      { name: '… of which simulation, median', value: medianOf(simulations), unit: 'ms' },
    );
  }
  return figures;
}

/**
 * From a turned dial to the redrawn Strip in headless Chromium: from the key press until the browser has painted the
 * frame in which the Strip shows the new simulation.
 */
export async function turningFigures(): Promise<Figure[]> {
  const folder = mkdtempSync(join(tmpdir(), 'dial-bench-'));
  const server = spawn(process.execPath, ['server/dist/main.js'], {
    env: { ...process.env, DIAL_DATA: folder, DIAL_PORT: '0' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const [address] = (await once(server.stdout, 'data')) as [Buffer];
  const url = address.toString().trim();
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    await fetch(`${url}/api/levels/night-firing/runs/bench-long`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(longRun(THREE_MINUTES)),
    });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const began = performance.now();
    await page.goto(url);
    await page.getByRole('link', { name: 'Open Night Firing' }).waitFor();
    const firstPage = performance.now() - began;
    await page.goto(`${url}/levels/night-firing?run=bench-long`);
    await page.getByRole('toolbar', { name: 'Tray' }).getByRole('radio', { name: 'ember vent' }).click();
    const tape = page.getByRole('slider', { name: 'health', exact: true });
    const { turns, simulations } = await turned(page, tape);
    return [
      ...(await personaTurns(page, url)),
      { name: 'turn to redraw, three-minute run, p95', value: quantileOf(turns, 0.95), unit: 'ms' },
      { name: 'turn to redraw, three-minute run, median', value: medianOf(turns), unit: 'ms' },
      { name: '… of which simulation, median', value: medianOf(simulations), unit: 'ms' },
      { name: 'first page usable, warm server', value: firstPage, unit: 'ms' },
      ...(await panningFigures(page, url)),
      ...(await playingFigures(page, url)),
      ...(await hourFigures(page, url)),
      ...(await crowdedFigures(page, url)),
      ...(await followingFigures(page, url)),
    ];
  } finally {
    await browser.close();
    server.kill('SIGTERM');
    await once(server, 'exit');
  }
}
