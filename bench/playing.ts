import type { Page } from '@playwright/test';
import { medianOf, quantileOf, type Figure } from './figures.ts';

const FRAMES = 300;

/** Milliseconds between so many frames. */
export function framesOf(page: Page, frames: number): Promise<number[]> {
  return page.evaluate(
    (count) =>
      new Promise<number[]>((resolve) => {
        const times: number[] = [];
        const frame = (time: number): void => {
          times.push(time);
          if (times.length > count) resolve(times.slice(1).map((one, index) => one - (times[index] ?? one)));
          else requestAnimationFrame(frame);
        };
        requestAnimationFrame(frame);
      }),
    frames,
  );
}

/** Night Firing played by hand, walking to and fro: how many pictures of it there are in a second. */
export async function playingFigures(page: Page, url: string): Promise<Figure[]> {
  await page.goto(`${url}/levels/night-firing/play`);
  await page.getByRole('group', { name: 'Readouts' }).waitFor();
  await page.keyboard.down('w');
  await page.getByRole('complementary', { name: 'Live ledger' }).getByText('tile shard 1: score +15').waitFor();
  await page.keyboard.up('w');
  await page.keyboard.down('d');
  const frames = await framesOf(page, FRAMES);
  await page.keyboard.up('d');
  return [
    { name: 'Night Firing played, median', value: 1000 / medianOf(frames), unit: 'frames/s' },
    { name: 'Night Firing played, slowest 5 %', value: 1000 / quantileOf(frames, 0.95), unit: 'frames/s' },
  ];
}
