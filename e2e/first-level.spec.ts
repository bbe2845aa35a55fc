import { patrol, route, wallAndCollectibles, zones } from './firstLevel.ts';
import { dial, expect, expectNoSeriousProblem, outcome, test, tray } from './fixture.ts';
import { begin, plan } from './planning.ts';

test('from an empty level to a playable one: a wall, three collectibles, a pad, a hazard, a kill zone with its return point, a patrol', async ({
  page,
}) => {
  await begin(page, 'First round');
  await wallAndCollectibles(page);
  await zones(page);
  await patrol(page);
  await route(page);
  await expect(outcome(page)).toContainText('score 85');
  // The zone kills whoever follows the route, and sends it to its own point, until the walker gives up.
  await expect(page.getByRole('alert')).toContainText('killed three times by kill zone');
  await page.keyboard.press('l');
  await expect(page.getByRole('button', { name: /comes back/ })).toHaveCount(3);
  await expect(page.getByRole('button', { name: /hot ash/ }).first()).toBeVisible();
  await page.keyboard.press('l');
  await page.keyboard.press('0');
  await expectNoSeriousProblem(page);
  await page.getByRole('link', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'First round' })).toBeVisible();
  await page.goBack();
  await expect(plan(page)).toBeVisible();
});

test('a level is found by its name, and opened by Enter', async ({ page }) => {
  // One of its own: the other levels are copied and named anew by whatever ran before.
  await begin(page, 'Sought after');
  await page.goto('/');
  const field = page.getByLabel('Find a level');
  await field.fill('no such');
  await expect(page.getByText('No level is called that')).toBeVisible();
  await field.fill('SOUGHT');
  await expect(page.getByRole('listitem')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Sought after' })).toBeVisible();
});

test('one who comes first is told what Dial is for, and led through it in acts', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Take the tour' }).click();
  const tour = page.getByRole('region', { name: 'Tour' });
  await expect(tour).toContainText('1 of 6');
  await tray(page, 'ember vent').click();
  await expect(tour).toContainText('2 of 6');
  await dial(page, 'health').press('ArrowUp');
  await expect(tour).toContainText('3 of 6');
  await page.getByRole('slider', { name: 'Needle' }).press('PageUp');
  await page.getByRole('slider', { name: 'Needle' }).press('PageUp');
  await expect(tour).toContainText('4 of 6');
  await page.keyboard.press('l');
  await expect(tour).toContainText('5 of 6');
  await page.keyboard.press('Control+z');
  await expect(tour).toContainText('6 of 6');
  await tour.getByRole('button', { name: 'Leave the tour' }).click();
  await expect(tour).toHaveCount(0);
});
