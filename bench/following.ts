import type { Page } from '@playwright/test';
import { medianOf, quantileOf, type Figure } from './figures.ts';
import { STANDS } from './turned.ts';

/** The first turns, of a page that was just opened, are not counted. */
const FIRST_TURNS = 10;
const TURNS = 40;

/** How long after the last turn of a dial the hundred beside the run have all played again. */
export async function followingFigures(page: Page, url: string): Promise<Figure[]> {
  await page.goto(`${url}/levels/night-firing?run=night-firing-careful-walk`);
  await page.getByText(/simulated in/).waitFor();
  await page.getByRole('combobox', { name: 'Crowd beside the run' }).click();
  await page.getByRole('option', { name: 'crowd 100' }).click();
  const told = page.getByRole('status', { name: 'What the crowd comes to' });
  await told.getByText(/100 of 100 sessions in/).waitFor();
  await page.waitForTimeout(STANDS);
  await page.getByRole('toolbar', { name: 'Tray' }).getByRole('radio', { name: 'ember vent' }).click();
  const tape = page.getByRole('slider', { name: 'health', exact: true });
  const follows: number[] = [];
  for (let turn = 0; turn < FIRST_TURNS + TURNS; turn += 1) {
    const before = await told.textContent();
    const began = performance.now();
    await tape.press(turn % 2 === 0 ? 'ArrowRight' : 'ArrowLeft');
    await page.waitForFunction(
      (text) => {
        const now = document.querySelector('[aria-label="What the crowd comes to"]')?.textContent ?? '';
        return now !== text && now.includes('100 of 100 sessions in');
      },
      before,
      { polling: 10 },
    );
    if (turn >= FIRST_TURNS) follows.push(performance.now() - began);
  }
  await page.getByRole('combobox', { name: 'Crowd beside the run' }).click();
  await page.getByRole('option', { name: 'no crowd' }).click();
  return [
    { name: 'a crowd of 100 beside the run: last turn to its last session, p95', value: quantileOf(follows, 0.95), unit: 'ms' },
    { name: '… median', value: medianOf(follows), unit: 'ms' },
  ];
}
