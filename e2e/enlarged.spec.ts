import { dragOnto, spot, value } from './planning.ts';
import { choose, dial, expect, expectNoSeriousProblem, openBench, outcome, test, tray } from './fixture.ts';

// 1280 × 800 at 200 %: the same window has half as many CSS pixels each way.
test.describe('enlarged to 200 %', () => {
  test.use({ viewport: { width: 640, height: 400 } });

  test('the Bench is one column, nothing lies over anything, and a dial is turned', async ({ page }) => {
    await openBench(page);
    const sideways = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
    expect(sideways).toBeLessThanOrEqual(0);
    await tray(page, 'cooling basin').click();
    const before = await outcome(page).textContent();
    await dial(page, 'health').press('PageDown');
    await expect(outcome(page)).not.toHaveText(before ?? '');
    await page.getByRole('button', { name: 'Undo' }).click();
    for (const name of ['Plan', 'Strip']) {
      const box = await page.getByRole('region', { name, exact: true }).boundingBox();
      expect(box?.height).toBeGreaterThan(150);
      expect(box?.width).toBeGreaterThan(500);
    }
    await expectNoSeriousProblem(page);
    await page.getByRole('link', { name: 'Sheet' }).click();
    await page.getByRole('grid').focus();
    await page.keyboard.press('Control+End');
    await expect(page.getByRole('gridcell', { selected: true })).toBeInViewport();
  });
});

test('in the dark, and on the page of keys, nothing is hard to read', async ({ page }) => {
  await openBench(page);
  await page.getByRole('button', { name: 'Dark' }).click();
  await page.keyboard.press('i');
  await tray(page, 'tile shard').click();
  await expectNoSeriousProblem(page);
  await page.keyboard.press('Shift+T');
  await expect(page.getByRole('grid')).toBeVisible();
  await expectNoSeriousProblem(page);
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('heading', { name: 'Commands', exact: true })).toBeVisible();
  await expectNoSeriousProblem(page);
  await page.getByRole('button', { name: 'Light' }).click();
  await page.getByRole('button', { name: 'Back' }).click();
  await expect(page.getByRole('grid')).toBeVisible();
});

test('kinds go elsewhere in the Tray, and several things of different kinds are turned, added to and multiplied', async ({ page }) => {
  await openBench(page);
  const first = page.getByRole('toolbar', { name: 'Tray' }).getByRole('radio').first();
  await expect(first).toContainText('tile shard');
  await tray(page, 'cooling basin').press('Alt+ArrowLeft');
  await expect(first).toContainText('cooling basin');
  await page.keyboard.press('Control+z');
  await dragOnto(page, tray(page, 'ember vent'), first, 'tile shard');
  await expect(first).toContainText('ember vent');
  await page.keyboard.press('Control+z');
  await expect(first).toContainText('tile shard');
  // Out of the Tray onto the Plan; Escape takes a drag back, and nothing else.
  await expect(first).toContainText('· 12');
  await dragOnto(page, first, await spot(page, 20, 3), 'the Plan');
  await expect(first).toContainText('· 13');
  await page.keyboard.press('ArrowRight');
  await expect(value(page, 'right')).toHaveValue('20.25');
  const held = (await first.boundingBox())!;
  await page.mouse.move(held.x + 20, held.y + 20);
  await page.mouse.down();
  await page.mouse.move(400, 300, { steps: 3 });
  await page.keyboard.press('Delete');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(first).toContainText('· 13');
  await expect(value(page, 'right')).toHaveValue('20.25');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(first).toContainText('· 12');

  await page.keyboard.press('i');
  const list = page.getByRole('listbox', { name: 'On the Plan' });
  await list.getByRole('option', { name: /cooling basin 1/ }).click();
  await page.getByLabel('Find on the Plan').fill('salve');
  await list.getByRole('option', { name: /salve tin/ }).click({ modifiers: ['Control'] });
  await expect(page.getByText('18 to 35 in 2; turning sets all.')).toBeVisible();
  const both = page.getByRole('form', { name: 'health of all' });
  await choose(both.getByRole('combobox'), 'multiply by');
  await both.getByRole('textbox').fill('2');
  await both.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByText('36 to 70 in 2; turning sets all.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('18 to 35 in 2; turning sets all.')).toBeVisible();
});
