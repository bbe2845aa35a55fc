import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { begin, dragFrom, makeKind, pressAt, spot, value } from './planning.ts';
import { choose, chooseIn, dial, expect, expectNoSeriousProblem, openBench, outcome, saved, test, tray, type } from './fixture.ts';

const card = (page: Page, name: string) => page.getByRole('listitem', { name, exact: true });

test('a level is begun, renamed, duplicated and deleted, and deleting is undone', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New level' }).click();
  await page.getByLabel('Width, u').fill('wide');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('alert')).toContainText('Nothing was begun yet');
  await begin(page, 'Drying loft');
  await page.goto('/');
  await expect(card(page, 'Drying loft').getByRole('img', { name: 'Plan of Drying loft' })).toBeVisible();
  // What is copied is the level as it is by then, not as its card got it last: that comes late here.
  await page.route('**/api/levels/*', async (route) => {
    if (route.request().method() === 'GET') await new Promise((resolve) => setTimeout(resolve, 1000));
    await route.continue();
  });
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

  await page.getByRole('radio', { name: 'Solid' }).click();
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
  await expect(outcome(page)).toContainText('score 180');
  await tray(page, 'tile shard').click();
  const at = await spot(page, 2.5, 15.3);
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  const away = await spot(page, 2.5, 1.5);
  await page.mouse.move(away.x, away.y, { steps: 3 });
  await expect(outcome(page)).not.toContainText('score 180 was');
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
  await page.getByRole('button', { name: /values? off|same as/ }).click();
  await versions.getByLabel('Name of this state').fill('cool basins');
  await versions.getByRole('button', { name: 'Keep' }).click();
  await expect(versions).toContainText('Nothing has changed since.');
  await page.keyboard.press('Escape');
  await basin.click();
  await type(page, 'rests for', '9');
  await page.getByRole('button', { name: '1 value off “cool basins”' }).click();
  await expect(versions.getByRole('list', { name: 'Changed since' })).toHaveText('cooling basin: rests for 6.5 → 9 s');
  await expectNoSeriousProblem(page);
  await versions.getByRole('button', { name: 'Show on the Plan' }).click();
  await expect(page.getByRole('status', { name: 'Differences' })).toHaveText('2 with other values');
  await versions.getByRole('button', { name: 'Delete as copied' }).click();
  await expect(versions.getByRole('listitem', { name: 'as copied' })).toBeHidden();
  await versions.getByRole('button', { name: 'Undo' }).click();
  await expect(versions.getByRole('listitem', { name: 'as copied' })).toBeVisible();
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
  await page.keyboard.type('align');
  await expect(list.getByRole('option', { name: /^Put the chosen things in a row/ })).toBeDisabled();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('strip ledger');
  await expect(list.getByRole('option')).toHaveText(['Show the Ledger or the StripL']);
  await page.keyboard.press('Enter');
  await expect(list).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Ledger' })).toBeVisible();
  await page.keyboard.press('l');
  await page.keyboard.press('Control+a');
  await expect(page.getByRole('complementary', { name: 'Dials' })).toContainText('36 things');
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

test('a point, a path and the start are moved by keys and deleted; what followed the path stays where it began', async ({ page }) => {
  await begin(page, 'Rail yard');
  await makeKind(page, 'harm');
  await page.keyboard.press('b');
  await pressAt(page, 10, 5);
  await page.keyboard.press('a');
  await pressAt(page, 10, 5);
  await pressAt(page, 14, 5);
  await page.keyboard.press('Enter');
  await page.keyboard.press('v');
  await pressAt(page, 14, 5);
  await page.keyboard.press('Shift+ArrowUp');
  await expect(value(page, 'up')).toHaveValue('6');
  await type(page, 'pause here', '1.5');
  await page.getByRole('button', { name: 'Add a way-point after' }).click();
  await expect(page.getByRole('heading', { name: 'Way-point 3 of path' })).toBeVisible();
  await page.keyboard.press('Delete');
  await pressAt(page, 10, 5);
  await page.getByRole('button', { name: 'To its path' }).click();
  await page.getByRole('button', { name: 'Delete the path' }).click();
  await pressAt(page, 10, 5);
  await expect(value(page, 'right')).toHaveValue('10');
  await pressAt(page, 2, 9);
  await page.keyboard.press('ArrowRight');
  await expect(value(page, 'right')).toHaveValue('2.25');
  await page.keyboard.press('Delete');
  await expect(page.getByRole('alert')).toContainText('The start cannot be deleted');
});

test('a rule is edited in its sentence, for one thing alone; what is refused says why and changes nothing', async ({ page }) => {
  await begin(page, 'Slip room');
  await makeKind(page, 'mend');
  await page.keyboard.press('b');
  for (const x of [10, 14]) await pressAt(page, x, 9);
  const column = page.getByRole('complementary', { name: 'Dials' });
  await column.getByText('only this one').click();
  await type(page, 'rests for', '2');
  await expect(column.getByText('own value')).toBeVisible();
  await chooseIn(column.getByRole('button', { name: '+ effect' }), 'push');
  await expect(page.getByRole('alert')).toContainText('a push needs a rate');
  await chooseIn(column.getByRole('button', { name: '+ effect' }), 'shield');
  await expect(column.getByRole('button', { name: 'shields for' })).toBeVisible();
  await column.getByText('every healing pad').click();
  await expect(column.getByRole('button', { name: 'shields for' })).toHaveCount(0);
  await expect(value(page, 'rests for')).toHaveValue('6');
  await column.getByRole('button', { name: 'Set off when' }).click();
  await choose(column.getByLabel('set off by'), 'use');
  await expect(column.getByText('Used by')).toBeVisible();
  await column.getByText('only this one').click();
  await column.getByRole('button', { name: 'back to healing pad' }).last().click();
  await expect(value(page, 'rests for')).toHaveValue('6');
  await expectNoSeriousProblem(page);
});

test('a meter is rescaled with all that touches it, shown first and undone in one step; a new item and meter are made', async ({
  page,
}) => {
  await begin(page, 'Scales');
  await makeKind(page, 'harm');
  await page.keyboard.press('Shift+S');
  const section = (name: string) => page.getByRole('button', { name, exact: true });
  await section('meters').click();
  await section('health').click();
  await page.getByLabel('rescale to').fill('3');
  await expect(page.getByRole('list', { name: 'What would change' })).toContainText('100 → 3');
  await page.getByRole('button', { name: 'Rescale 3 numbers' }).click();
  await expect(tray(page, 'hazard')).toContainText('−0.3/s');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(tray(page, 'hazard')).toContainText('−10/s');
  await page.getByRole('button', { name: 'Delete health' }).click();
  await expect(page.getByRole('alert')).toContainText('there is no meter "health"');
  await page.getByRole('button', { name: 'New meter' }).click();
  await expect(section('meter')).toBeVisible();
  await section('items').click();
  await page.getByRole('button', { name: 'New item' }).click();
  await expect(section('item')).toBeVisible();
  // What needs lives brings them with it, in one step; a meter that is given their name is theirs.
  await section('death and return').click();
  await choose(page.getByLabel('returns', { exact: true }), 'while lives last');
  await expect(page.getByRole('alert')).toContainText('a meter for them came with it, start 3');
  await expect(section('lives')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(section('lives')).toHaveCount(0);
  await section('meter').click();
  // The fold of “health” is open above it.
  await page.getByLabel('name', { exact: true }).nth(1).fill('lives');
  await page.keyboard.press('Enter');
  await choose(page.getByLabel('returns', { exact: true }), 'while lives last');
  await expect(section('lives')).toHaveCount(1);
  await expect(saved(page)).toHaveText('saved');
  await expectNoSeriousProblem(page);
});
