import AxeBuilder from '@axe-core/playwright';
import { expect, test } from './fixture.ts';

test('the Sheet: find, type, scale, paste, bring in a file, and see the session change', async ({ page }) => {
  await page.goto('/');
  const card = page.getByRole('listitem').filter({ hasText: 'Night Firing' }).first();
  await card.getByRole('button', { name: /^Duplicate/ }).click();
  await page
    .getByRole('link', { name: /Night Firing.*copy/ })
    .first()
    .click();
  await page.getByRole('link', { name: 'Sheet' }).click();
  const grid = page.getByRole('grid', { name: 'Sheet' });
  const outcome = page.getByRole('status', { name: 'Outcome' });
  const cell = (row: string, nth: number) =>
    grid
      .getByRole('row', { name: new RegExp(`^${row}`) })
      .getByRole('gridcell')
      .nth(nth);
  await expect(outcome).toContainText('final health 78');
  expect(
    (await new AxeBuilder({ page }).analyze()).violations.filter(({ impact }) => impact === 'serious' || impact === 'critical'),
  ).toEqual([]);

  // By keyboard alone: down to the cooling basin, right to what it gives, a nonsense value, then a real one.
  await grid.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type('=2+2');
  await page.keyboard.press('Enter');
  await expect(grid.getByRole('alert')).toHaveText(/a formula/);
  await page.keyboard.press('Control+a');
  await page.keyboard.type('4');
  await page.keyboard.press('Enter');
  await expect(cell('cooling basin', 1)).toHaveText(/^4/);
  await expect(outcome).not.toContainText('final health 78');
  await page.keyboard.press('Control+z');
  await expect(outcome).toContainText('final health 78');

  // A column found, taken as a whole and scaled.
  await page.getByLabel('Find columns').fill('rests for');
  await grid.getByRole('columnheader', { name: /^rests for/ }).click({ position: { x: 6, y: 6 } });
  await page.getByRole('textbox', { name: 'By' }).fill('2');
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(cell('cooling basin', 0)).toHaveText(/^13/);

  // A block pasted over it.
  await cell('cooling basin', 0).click();
  await page.evaluate(() => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', '390f');
    document.activeElement?.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  });
  await expect(cell('cooling basin', 0)).toHaveText(/^6\.5/);

  // A file: what it would change is shown first, and what it would not.
  const text = 'kind,gives score,radius\ntile shard,20,0.5\nrover,1,1\nglazed tile,soon,=1+1\n';
  await page.getByLabel('CSV to import').setInputFiles({ name: 'values.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await expect(page.getByRole('list', { name: 'Changes' })).toContainText('tile shard: score 15 → 20');
  await expect(page.getByRole('list', { name: 'Not taken' })).toContainText('line 3 (rover): there is no kind of this name');
  await page.getByRole('button', { name: /^Make \d changes/ }).click();
  await page.getByLabel('Find columns').fill('gives score');
  await expect(cell('tile shard', 0)).toHaveText(/^20/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(cell('tile shard', 0)).toHaveText(/^15/);

  // What is exported reads back as it is; placements come in by their own table.
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Export CSV' }).click()]);
  expect(file.suggestedFilename()).toMatch(/kinds\.csv$/);
  await page.getByRole('tab', { name: 'all placements' }).click();
  const placed = 'kind;x (px);y\nsalve tin;320;4\nsalve tin;far;4\n';
  await page.getByLabel('CSV to import').setInputFiles({ name: 'placed.csv', mimeType: 'text/csv', buffer: Buffer.from(placed) });
  await expect(page.getByRole('list', { name: 'Changes' })).toContainText('new: salve tin at');
  await page.getByRole('button', { name: 'Make 1 change', exact: true }).click();
  await page.getByLabel('Find rows').fill('salve tin');
  await expect(grid.getByRole('row', { name: /^salve tin/ })).not.toHaveCount(0);
});
