/** A key handled by what has focus goes no further; nothing keeps the keys once it has been used. */
import { dial, expect, openBench, test, tray } from './fixture.ts';

test('Delete on a dial goes back to the compared value, and never deletes the thing that is chosen', async ({ page }) => {
  await openBench(page);
  await page
    .getByRole('button', { name: /^cooling basin 1/ })
    .first()
    .click();
  await expect(tray(page, 'cooling basin')).toContainText('2');
  const rests = dial(page, 'rests for');
  await rests.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Delete');
  await expect(rests).toHaveAttribute('aria-valuenow', '9');
  await expect(tray(page, 'cooling basin')).toContainText('2');
  await page.keyboard.press('Control+z');
});

test('Enter commits a field and leaves it, Escape leaves without; the next key is a command', async ({ page }) => {
  await openBench(page);
  await tray(page, 'cart').click();
  await page.getByText('look, shapes and life').click();
  const tags = page.getByLabel('tags', { exact: true }).first();
  await tags.fill('sledge');
  await page.keyboard.press('Enter');
  await expect(tags).not.toBeFocused();
  await page.keyboard.press('b');
  await expect(page.getByRole('button', { name: 'Place', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByText('sledgeb')).toHaveCount(0);
  await page.keyboard.press('v');
  await page.keyboard.press('Control+z');
});

test('in Play the keys are the player’s again after a speed, the volume or a tick box', async ({ page }) => {
  await page.goto('/levels/night-firing/play');
  await expect(page.getByText('from the start')).toBeVisible();
  const volume = page.getByRole('slider', { name: /volume/i });
  await volume.click();
  await expect(volume).not.toBeFocused();
  const slow = page.getByRole('radio', { name: '0.5', exact: true });
  await page.locator('label').filter({ has: slow }).click();
  await expect(slow).toBeChecked();
  await expect(slow).not.toBeFocused();
  await page.getByRole('button', { name: 'Restart' }).click();
  await page.keyboard.down('w');
  await expect(page.getByRole('complementary', { name: 'Live ledger' })).toContainText('tile shard 1: score +15, 0 → 15');
  await page.keyboard.up('w');
});
