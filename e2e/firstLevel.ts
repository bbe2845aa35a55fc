import type { Page } from '@playwright/test';
import { choose, expect, tray, type } from './fixture.ts';
import { dragFrom, makeKind, pressAt } from './planning.ts';

const dials = (page: Page) => page.getByRole('complementary', { name: 'Dials' });

async function named(page: Page, name: string): Promise<void> {
  await page.getByRole('textbox', { name: 'Name of the kind' }).fill(name);
  await page.keyboard.press('Enter');
  await expect(tray(page, name)).toBeVisible();
}

/** A wall, and three kinds of collectible worth 10, 25 and 50. */
export async function wallAndCollectibles(page: Page): Promise<void> {
  await page.keyboard.press('s');
  await dragFrom(page, [8, 5], [9, 13]);
  for (const [name, worth, x] of [
    ['chip', 10, 12],
    ['tile', 25, 15],
    ['crest', 50, 18],
  ] as const) {
    await makeKind(page, 'score');
    await named(page, name);
    await type(page, 'score', String(worth));
    await page.keyboard.press('b');
    await pressAt(page, x, 14);
  }
}

/** A pad, a hazard, and a kill zone that sends whoever it kills to a point of its own. */
export async function zones(page: Page): Promise<void> {
  await makeKind(page, 'mend');
  await pressAt(page, 28, 14);
  await makeKind(page, 'harm');
  await named(page, 'hot ash');
  await pressAt(page, 23, 14);
  await page.keyboard.press('o');
  await pressAt(page, 30, 16);
  await makeKind(page, 'lethal');
  await page.keyboard.press('b');
  await pressAt(page, 34, 9);
  await dials(page).getByRole('button', { name: 'kills' }).click();
  await dials(page).getByLabel('return to', { exact: true }).click();
  await choose(dials(page).getByLabel('return to', { exact: true }), 'point');
  await expect(dials(page).getByRole('button', { name: 'kills, and one comes back at point' })).toBeVisible();
}

/** Another hazard, going to and fro along a path. */
export async function patrol(page: Page): Promise<void> {
  await makeKind(page, 'harm');
  await named(page, 'rover');
  await page.keyboard.press('b');
  await pressAt(page, 20, 5);
  await page.keyboard.press('a');
  for (const x of [20, 30]) await pressAt(page, x, 5);
  await page.keyboard.press('Enter');
  await expect(dials(page).getByLabel('path', { exact: true })).toContainText('path');
}

/** A route past everything, walked at once. */
export async function route(page: Page): Promise<void> {
  await page.keyboard.press('r');
  const wayPoints: [number, number][] = [
    [4, 15],
    [12, 14],
    [15, 14],
    [18, 14],
    [23, 14],
    [28, 14],
    [34, 9],
  ];
  for (const at of wayPoints) await pressAt(page, ...at);
  await page.keyboard.press('Enter');
  await expect(page.getByText(/simulated in/)).toBeVisible();
}
