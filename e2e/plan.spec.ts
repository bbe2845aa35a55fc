import { readFile } from 'node:fs/promises';
import { begin, dragFrom, makeKind, pressAt, value } from './planning.ts';
import { choose, expect, expectNoSeriousProblem, saved, test, tray } from './fixture.ts';

test('things are stamped in rows and areas, measured, and shaped by their handles', async ({ page }) => {
  await begin(page, 'Stamping yard');
  await makeKind(page, 'mend');
  await page.keyboard.press('b');
  await page.getByLabel('Units apart').fill('4');
  await dragFrom(page, [10, 12], [18.5, 12]);
  await expect(tray(page, 'healing pad')).toContainText('3');
  await page.keyboard.down('Shift');
  await dragFrom(page, [22, 4], [26.5, 8.5]);
  await page.keyboard.up('Shift');
  await expect(tray(page, 'healing pad')).toContainText('7');
  await page.keyboard.press('Control+z');
  await expect(tray(page, 'healing pad')).toContainText('3');

  await page.keyboard.press('m');
  await dragFrom(page, [10, 4], [13, 8]);
  await expect(page.getByLabel('Measured')).toContainText(/^5 u · 3 right, 4 up · 53°/);

  // A handle changes all of the kind, or the one thing alone; one drag is one step to undo.
  await page.keyboard.press('v');
  await pressAt(page, 10, 12);
  // A handle is there once its thing is chosen.
  await expect(value(page, 'radius')).toHaveValue('1');
  await dragFrom(page, [11, 12], [13, 12]);
  await expect(value(page, 'radius')).toHaveValue('3');
  await page.getByText('only this one').click();
  await dragFrom(page, [13, 12], [12, 12]);
  await expect(value(page, 'radius')).toHaveValue('2');
  await expect(page.getByText('own value', { exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(value(page, 'radius')).toHaveValue('3');
  await page.keyboard.press('s');
  await dragFrom(page, [30, 4], [32, 9]);
  await expect(value(page, 'width')).toHaveValue('2');
  await page.keyboard.press('v');
  await dragFrom(page, [32, 6.5], [34, 6.5]);
  await expect(value(page, 'width')).toHaveValue('4');
  await expect(saved(page)).toHaveText('saved');
});

test('a stated number is stamped evenly; small things lie over large ones, and pressing again goes through the pile', async ({ page }) => {
  await begin(page, 'Piled yard');
  await makeKind(page, 'mend');
  await page.keyboard.press('b');
  await page.getByLabel('How many').fill('5');
  await page.keyboard.press('Enter');
  await dragFrom(page, [6, 12], [22, 12]);
  await expect(tray(page, 'healing pad')).toContainText('5');
  await page.getByLabel('How many').fill('');
  await page.keyboard.press('Enter');
  // Drawn from the very edge of the level on; then a pad over it, and a small thing under both, placed last and first.
  await page.keyboard.press('s');
  await dragFrom(page, [0, 0], [12, 6]);
  await makeKind(page, 'score');
  await page.keyboard.press('b');
  await pressAt(page, 8, 3);
  await tray(page, 'healing pad').click();
  await pressAt(page, 8, 3);
  await page.keyboard.press('v');
  await page.keyboard.press('Escape');
  const chosen = page.getByRole('complementary', { name: 'Dials' });
  await pressAt(page, 8, 3);
  await expect(value(page, 'Name of the kind')).toHaveValue('collectible');
  await pressAt(page, 8, 3);
  await expect(value(page, 'Name of the kind')).toHaveValue('healing pad');
  await pressAt(page, 8, 3);
  await expect(chosen).toContainText('Nobody walks through it');
  await expect(value(page, 'width')).toHaveValue('12');
  await pressAt(page, 8, 3);
  await expect(value(page, 'Name of the kind')).toHaveValue('collectible');
});

test('the list beside the Plan chooses, locks and hides by keyboard alone', async ({ page }) => {
  await begin(page, 'Listed yard');
  await makeKind(page, 'score');
  await page.keyboard.press('b');
  await dragFrom(page, [10, 12], [16, 12]);
  await page.keyboard.press('v');
  await page.keyboard.press('Escape');
  await page.keyboard.press('i');
  const list = page.getByRole('listbox', { name: 'On the Plan' });
  await list.focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+End');
  await expect(list.getByRole('option', { selected: true })).not.toHaveCount(1);
  await page.keyboard.press('Home');
  await expect(list.getByRole('option', { selected: true })).toHaveText(/collectible 1/);
  await expectNoSeriousProblem(page);

  await page.keyboard.press('k');
  await expect(list.getByRole('option', { name: /collectible 1/ })).toContainText('locked');
  await dragFrom(page, [10, 12], [10, 6]);
  await expect(page.getByRole('alert')).toContainText('locked');
  await expect(value(page, 'up')).toHaveValue('12');
  await page.keyboard.press('h');
  await page.keyboard.press('Escape');
  await pressAt(page, 10, 12);
  await expect(list.getByRole('option', { selected: true })).toHaveCount(0);
  // It is how one looks at the level, so it is still so after a reload; and the list is the way back.
  await expect(saved(page)).toHaveText('saved');
  await page.reload();
  await expect(tray(page, 'collectible')).toBeVisible();
  await page.keyboard.press('i');
  await expect(list.getByRole('option', { name: /collectible 1/ })).toContainText('locked, hidden');
  await page.getByRole('button', { name: 'Show 1' }).click();
  await pressAt(page, 10, 12);
  await page.keyboard.press('k');
  await page.keyboard.press('f');
  await expect(list.getByRole('option', { selected: true })).not.toHaveCount(1);
});

test('the Plan goes out as SVG and PNG, and shapes come in from a drawing, named by hand where they have to be', async ({ page }) => {
  await begin(page, 'Drawn yard');
  await makeKind(page, 'mend');
  const file = async (button: string) => {
    await page.getByRole('button', { name: 'Files' }).click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button }).click()]);
    return download;
  };
  const picture = await readFile(await (await file('Export Plan (PNG)')).path());
  expect([picture.subarray(1, 4).toString(), picture.readUInt32BE(16)]).toEqual(['PNG', 40 * 32]);
  const drawing = `<svg viewBox="0 0 400 180"><circle class="healing-pad" cx="100" cy="60" r="20"/>
    <rect class="wall" width="20" height="60"/><circle class="blob" cx="300" cy="60" r="10"/><script>document.title = 'x'</script></svg>`;
  await page.keyboard.press('e');
  await page
    .getByLabel('SVG to take shapes from')
    .setInputFiles({ name: 'yard.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(drawing) });
  await page.getByLabel('Pixels a unit').fill('10');
  await expect(page.getByRole('list', { name: 'Changes' }).getByRole('listitem')).toHaveCount(2);
  await choose(page.getByLabel('blob becomes'), 'healing pad');
  await expect(page.getByRole('list', { name: 'Changes' })).toContainText('new: healing pad at 30, 12');
  await expectNoSeriousProblem(page);
  await page.getByRole('button', { name: 'Make 3 changes' }).click();
  await expect(tray(page, 'healing pad')).toContainText('2');
  await pressAt(page, 10, 12);
  await expect(page.getByRole('radio', { name: 'only this one' })).toBeAttached();
  const out = await readFile(await (await file('Export Plan (SVG)')).path(), 'utf8');
  expect(out).toContain('class="healing-pad"><title>healing pad 1</title><circle cx="320" cy="192" r="64"');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(tray(page, 'healing pad')).toContainText('unused');
});
