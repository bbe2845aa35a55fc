import { choose, expect, expectNoSeriousProblem, openBench, test, type } from './fixture.ts';

test('a crowd beside the run follows a dial, and is dropped again', async ({ page }) => {
  await openBench(page);
  const crowd = page.getByRole('status', { name: 'What the crowd comes to' });
  await expect(crowd).toHaveCount(0);
  await choose(page.getByRole('combobox', { name: 'Crowd beside the run' }), 'crowd 30');
  await expect(crowd).toContainText('30 of 30 sessions in');
  await expect(crowd).toContainText('lose a life 0');
  await expectNoSeriousProblem(page);

  // A vent that nobody survives: the crowd says so at once.
  await page.getByRole('toolbar', { name: 'Tray' }).getByRole('radio', { name: 'ember vent' }).click();
  await type(page, 'health', '900');
  await expect(crowd).not.toContainText('lose a life 0');
  await expect(crowd).toContainText('30 of 30 sessions in');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(crowd).toContainText('lose a life 0');

  // It is there again after a reload, until it is not wanted any more.
  await page.reload();
  await expect(crowd).toContainText('30 of 30 sessions in');
  await choose(page.getByRole('combobox', { name: 'Crowd beside the run' }), 'no crowd');
  await expect(crowd).toHaveCount(0);
});
