import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { dial, expect, expectNoSeriousProblem, openBench, outcome, saved, test, tray, type } from './fixture.ts';

const plan = (page: Page) => page.getByRole('img', { name: /^Plan of/ });
const card = (page: Page, name: string) => page.getByRole('listitem', { name, exact: true });
const value = (page: Page, name: string) => page.getByRole('textbox', { name, exact: true });

/** The place on the page of a place in a level of so many units. */
async function spot(page: Page, x: number, y: number, width = 40, height = 18): Promise<{ x: number; y: number }> {
  const box = (await plan(page).boundingBox())!;
  const unit = Math.min(box.width / width, box.height / height);
  return { x: box.x + (box.width - width * unit) / 2 + x * unit, y: box.y + (box.height + height * unit) / 2 - y * unit };
}

async function dragFrom(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  const [start, end] = [await spot(page, ...from), await spot(page, ...to)];
  await page.mouse.move(start.x, start.y);
  await page.mouse.down();
  await page.mouse.move(end.x, end.y, { steps: 4 });
  await page.mouse.up();
}

async function pressAt(page: Page, x: number, y: number): Promise<void> {
  const at = await spot(page, x, y);
  await page.mouse.click(at.x, at.y);
}

async function makeKind(page: Page, role: string): Promise<void> {
  await page.getByRole('button', { name: 'New kind' }).click();
  await page.getByRole('menuitem', { name: new RegExp(`^${role}`) }).click();
}

async function begin(page: Page, name: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New level' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
}

test('a level is begun, renamed, duplicated and deleted, and deleting is undone', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New level' }).click();
  await page.getByLabel('Width, u').fill('wide');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('alert')).toContainText('Nothing was begun yet');
  await begin(page, 'Drying loft');
  await page.goto('/');
  await card(page, 'Drying loft').getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('Name of the level').fill('Glaze loft');
  await page.getByLabel('Name of the level').press('Enter');
  await card(page, 'Glaze loft').getByRole('button', { name: 'Duplicate' }).click();
  await expect(card(page, 'Glaze loft copy')).toBeVisible();
  await card(page, 'Glaze loft').getByRole('button', { name: 'Delete' }).click();
  await expect(card(page, 'Glaze loft')).toHaveCount(0);
  await expectNoSeriousProblem(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(card(page, 'Glaze loft')).toBeVisible();
});

test('from nothing: kinds are made, placed, moved, copied and deleted, solids drawn; all of it is kept and can be undone', async ({
  page,
}) => {
  await begin(page, 'Clay store');
  await makeKind(page, 'score');
  await page.keyboard.press('b');
  for (const x of [10, 13, 16]) await pressAt(page, x, 12);
  await expect(tray(page, 'collectible')).toContainText('3');
  await makeKind(page, 'harm');
  await pressAt(page, 20, 5);
  await page.getByRole('textbox', { name: 'Name of the kind' }).fill('hot ash');
  await page.keyboard.press('Enter');
  await expect(tray(page, 'hot ash')).toContainText('−10/s');

  await page.getByRole('button', { name: 'Solid' }).click();
  await dragFrom(page, [25, 4], [27, 9]);
  await expect(value(page, 'height')).toHaveValue('5');
  await page.keyboard.press('v');
  await dragFrom(page, [26, 6], [29, 6]);
  await expect(value(page, 'right')).toHaveValue('28');

  // A box around all three collectibles, which then go together: by the pointer, by keys, and as copies.
  await dragFrom(page, [9, 14], [17, 10]);
  await expect(page.getByRole('complementary', { name: 'Dials' })).toContainText('3 things');
  await page.getByRole('button', { name: 'In a row' }).click();
  await dragFrom(page, [13, 12], [13, 14]);
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Control+d');
  await expect(tray(page, 'collectible')).toContainText('6');
  await page.keyboard.press('Delete');
  await expect(tray(page, 'collectible')).toContainText('3');
  await pressAt(page, 11, 14);
  await expect(value(page, 'right')).toHaveValue('11');
  await expect(value(page, 'up')).toHaveValue('14');
  await type(page, 'up', '900');
  await expect(value(page, 'up')).toHaveValue('900');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expectNoSeriousProblem(page);

  // Things of several kinds have no dials in common, but go together.
  await dragFrom(page, [9, 15], [22, 3]);
  await expect(page.getByRole('complementary', { name: 'Dials' })).toContainText('3 × collectible1 × hot ash');
  await page.keyboard.press('Escape');

  await expect(saved(page)).toHaveText('saved');
  await page.reload();
  await expect(tray(page, 'collectible')).toContainText('3');
  await tray(page, 'hot ash').click();
  await page.getByRole('button', { name: 'Delete hot ash' }).click();
  await expect(tray(page, 'hot ash')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(tray(page, 'hot ash')).toContainText('1');
});

test('a thing that is dragged changes the session as it moves', async ({ page }) => {
  await openBench(page);
  await expect(outcome(page)).toContainText('final score 180');
  await tray(page, 'tile shard').click();
  const at = await spot(page, 2.5, 15.3);
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  const away = await spot(page, 2.5, 1.5);
  await page.mouse.move(away.x, away.y, { steps: 3 });
  await expect(outcome(page)).not.toContainText('final score 180 was');
  await expect(outcome(page)).toContainText('was 180');
  await page.mouse.up();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(outcome(page)).not.toContainText('was 180');
  await expect(dial(page, 'score')).toBeVisible();
});

test('a state is kept under a name, compared with in words, restored, and branched off', async ({ page, request }) => {
  // On a level of its own: the version kept last is the one compared with when a level is opened.
  const data = (await readFile('demo/night-firing/level.json', 'utf8')).replace('Night Firing', 'Kiln Trials');
  const added = await request.post('/api/levels?as=copied', { data, headers: { 'content-type': 'application/json' } });
  await page.goto(`/levels/${((await added.json()) as { id: string }).id}`);
  const basin = tray(page, 'cooling basin');
  const versions = page.getByRole('dialog', { name: 'Versions' });
  await page.getByRole('button', { name: /numbers? off|same as/ }).click();
  await versions.getByLabel('Name of this state').fill('cool basins');
  await versions.getByRole('button', { name: 'Keep' }).click();
  await expect(versions).toContainText('Nothing has changed since.');
  await page.keyboard.press('Escape');
  await basin.click();
  await type(page, 'rests for', '9');
  await page.getByRole('button', { name: '1 number off “cool basins”' }).click();
  await expect(versions.getByRole('list', { name: 'Changed since' })).toHaveText('cooling basin: rests for 6.5 → 9 s');
  await expectNoSeriousProblem(page);
  await versions.getByRole('listitem', { name: 'cool basins' }).getByRole('button', { name: 'Restore' }).click();
  await expect(value(page, 'rests for')).toHaveValue('6.5');
  await versions.getByRole('listitem', { name: 'cool basins' }).getByRole('button', { name: 'Branch off' }).click();
  await expect(page.getByRole('heading', { name: 'Kiln Trials, cool basins' })).toBeVisible();
});

test('every command can be found by its name and given by its key', async ({ page }) => {
  await openBench(page);
  await page.keyboard.press('Control+k');
  const list = page.getByRole('dialog', { name: 'Commands' });
  await expect(list.getByRole('option', { name: 'Undo' })).toBeDisabled();
  await expectNoSeriousProblem(page);
  await page.keyboard.type('ledger');
  await expect(list.getByRole('option')).toHaveText(['Show the Ledger or the StripL']);
  await page.keyboard.press('Enter');
  await expect(list).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Ledger' })).toBeVisible();
  await page.keyboard.press('l');
  await page.keyboard.press('Control+a');
  await expect(page.getByRole('complementary', { name: 'Dials' })).toContainText('35 things');
  await page.keyboard.press('Delete');
  await expect(tray(page, 'tile shard')).toContainText('unused');
  await page.keyboard.press('Control+z');
  await expect(tray(page, 'tile shard')).toContainText('12');
  await page.keyboard.press('n');
  await expect(page.getByRole('menuitem', { name: /^mend/ })).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+P');
  await expect(page).toHaveURL(/play$/);
});
