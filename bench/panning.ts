import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { medianOf, quantileOf, type Figure } from './figures.ts';

const PLACEMENTS = 1000;
const FRAMES = 120;

/** Night Firing with a thousand placements of its kinds, strewn over it evenly. */
function strewn(): object {
  const level = JSON.parse(readFileSync('demo/night-firing/level.json', 'utf8')) as {
    name: string;
    kinds: Record<string, unknown>;
    placements: Record<string, unknown>;
    size: { width: number; height: number };
  };
  const kinds = Object.keys(level.kinds);
  const columns = 50;
  for (let index = 0; index < PLACEMENTS; index += 1) {
    level.placements[`strewn-${String(index)}`] = {
      kind: kinds[index % kinds.length],
      order: 1000 + index,
      x: ((index % columns) + 0.5) * (level.size.width / columns),
      y: (Math.floor(index / columns) + 0.5) * (level.size.height / (PLACEMENTS / columns)),
    };
  }
  return { ...level, name: 'Strewn works' };
}

/** The Plan of a level of a thousand placements, shifted with the pointer by a few pixels in each frame. */
export async function panningFigures(page: Page, url: string): Promise<Figure[]> {
  const reply = await fetch(`${url}/api/levels`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(strewn()),
  });
  const { id } = (await reply.json()) as { readonly id: string };
  await page.goto(`${url}/levels/${id}`);
  const plan = page.getByRole('img', { name: /^Plan of Strewn works/ });
  await plan.locator('canvas').first().waitFor();
  await page.getByText(/simulated in/).waitFor();
  const box = await plan.boundingBox();
  if (box === null) throw new Error('the Plan is not shown');
  const frames = await plan.evaluate(
    (element, { x, y, count }) =>
      new Promise<number[]>((resolve) => {
        const target = element.querySelector('canvas:last-of-type') ?? element;
        const at = (step: number) => ({
          clientX: x + 60 * Math.sin(step / 9),
          clientY: y + 40 * Math.cos(step / 9),
          button: 1,
          buttons: 4,
          bubbles: true,
          cancelable: true,
        });
        target.dispatchEvent(new MouseEvent('mousedown', at(0)));
        const times: number[] = [];
        const frame = (time: number): void => {
          times.push(time);
          if (times.length > count) {
            window.dispatchEvent(new PointerEvent('pointerup', at(times.length)));
            resolve(times.slice(1).map((one, index) => one - (times[index] ?? one)));
            return;
          }
          window.dispatchEvent(new PointerEvent('pointermove', at(times.length)));
          requestAnimationFrame(frame);
        };
        requestAnimationFrame(frame);
      }),
    { x: box.x + box.width / 2, y: box.y + box.height / 2, count: FRAMES },
  );
  return [
    { name: 'Plan with 1,000 placements, panned, median', value: 1000 / medianOf(frames), unit: 'frames/s' },
    { name: 'Plan with 1,000 placements, panned, slowest 5 %', value: 1000 / quantileOf(frames, 0.95), unit: 'frames/s' },
  ];
}
