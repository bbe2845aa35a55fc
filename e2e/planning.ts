import type { Locator, Page } from '@playwright/test';
import { expect } from './fixture.ts';

export const plan = (page: Page) => page.getByRole('img', { name: /^Plan of/ });
export const value = (page: Page, name: string) => page.getByRole('textbox', { name, exact: true });

/** The place on the page of a place in a level of so many units. */
export async function spot(page: Page, x: number, y: number, width = 40, height = 18): Promise<{ x: number; y: number }> {
  const box = (await plan(page).boundingBox())!;
  // Around the level there is room of 18 pixels.
  const unit = Math.min((box.width - 36) / width, (box.height - 36) / height);
  return { x: box.x + (box.width - width * unit) / 2 + x * unit, y: box.y + (box.height + height * unit) / 2 - y * unit };
}

export async function dragFrom(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  const [start, end] = [await spot(page, ...from), await spot(page, ...to)];
  await page.mouse.move(start.x, start.y);
  await page.mouse.down();
  await page.mouse.move(end.x, end.y, { steps: 4 });
  await page.mouse.up();
}

export async function pressAt(page: Page, x: number, y: number): Promise<void> {
  const at = await spot(page, x, y);
  await page.mouse.click(at.x, at.y);
}

export async function makeKind(page: Page, role: string): Promise<void> {
  await page.getByRole('button', { name: 'New kind' }).click();
  await page.getByRole('menuitem', { name: new RegExp(`^${role}`) }).click();
}

export async function begin(page: Page, name: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New level' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  // The Plan keeps its size once a run is there.
  await expect(page.getByText(/simulated in/)).toBeVisible();
}

/** Drags something onto something else, whose name is said once it is over it. */
export async function dragOnto(page: Page, from: Locator, to: Locator | { x: number; y: number }, name: string): Promise<void> {
  const box = (await from.boundingBox())!;
  const end = 'x' in to ? to : await to.boundingBox().then((at) => ({ x: at!.x + at!.width / 2, y: at!.y + at!.height / 2 }));
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 8, box.y + box.height / 2, { steps: 2 });
  await expect(page.getByText(/^Over /)).toHaveCount(1);
  await page.mouse.move(end.x, end.y, { steps: 4 });
  await expect(page.getByText(`Over ${name}.`)).toHaveCount(1);
  await page.mouse.up();
}
