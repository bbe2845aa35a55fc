import { readFileSync } from 'node:fs';
import { faulty, type Document } from './faulty.ts';
import { choose, expect, expectNoSeriousProblem, test } from './fixture.ts';

test('what is wrong is listed, shown on the Plan, mended with its effect shown first, and undone', async ({ page, request }) => {
  const headers = { 'content-type': 'application/json' };
  const made = await request.post('/api/levels', { headers, data: JSON.stringify({ ...faulty(), name: 'Faulty works' }) });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/levels/${id}`);
  const count = page.getByRole('button', { name: /^\d findings$/ });
  await expect(count).toHaveText('4');
  await page.keyboard.press('j');
  const list = page.getByRole('list', { name: 'What is found' });
  await expect(page.getByRole('status').filter({ hasText: '1 breaks it · 1 probably not meant · 2 worth a look' })).toBeVisible();
  const shards = list.getByRole('listitem', { name: /tile shard waits for “plaier”/ });
  await expect(shards).toContainText('whoever comes is refused “wrong tag”, always');
  await expectNoSeriousProblem(page);

  await shards.getByRole('button', { name: 'Mend …' }).press('Enter');
  const preview = shards.getByRole('group', { name: 'Mend, shown first' });
  await expect(preview).toContainText('who any plaier → player');
  await preview.getByRole('button', { name: 'Leave it' }).click();
  await expect(preview).toBeHidden();
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await shards.getByRole('button', { name: 'Mend …' }).click();
  await preview.getByRole('button', { name: 'Mend it' }).click();
  await expect(shards).toBeHidden();
  // The tag with the slip of a letter went with it.
  await expect(count).toHaveText('2');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(count).toHaveText('4');
  await page.getByRole('button', { name: 'Redo' }).click();

  const tin = list.getByRole('listitem', { name: /salve tin is used up at full health/ });
  await tin.getByRole('button', { name: /^salve tin is used up/ }).click();
  await expect(page.getByRole('heading', { name: 'salve tin' })).toBeVisible();
  await tin.getByRole('button', { name: 'Meant so …' }).click();
  await tin.getByLabel('because').fill('a gift for whoever is greedy');
  await tin.getByLabel('because').press('Enter');
  await expect(page.getByRole('button', { name: '1 finding', exact: true })).toBeVisible();
  await page.getByRole('button', { name: /2 set aside/ }).click();
  const aside = page.getByRole('list', { name: 'Set aside' }).getByRole('listitem', { name: /salve tin/ });
  await expect(aside).toContainText('Set aside: a gift for whoever is greedy.');

  // Its cause changes, and it comes back.
  await page.getByRole('slider', { name: 'health', exact: true }).press('ArrowRight');
  await expect(page.getByRole('button', { name: /^2 findings$/ })).toBeVisible();
  await expect(tin).toBeVisible();
});

test('a level in which nothing is wrong says so, and what is set aside can be taken back', async ({ page, request }) => {
  const headers = { 'content-type': 'application/json' };
  const level = JSON.parse(readFileSync('demo/night-firing/level.json', 'utf8')) as Document;
  const made = await request.post('/api/levels', { headers, data: JSON.stringify({ ...level, name: 'Sound works' }) });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/levels/${id}`);
  await expect(page.getByRole('slider', { name: 'walk speed' })).toBeVisible();
  await page.keyboard.press('j');
  await expect(page.getByText('Nothing is wrong that can be seen before anybody plays.')).toBeVisible();
  await page.getByRole('button', { name: /1 set aside/ }).click();
  await page.getByRole('button', { name: 'Take back' }).click();
  await expect(page.getByRole('list', { name: 'What is found' }).getByRole('listitem')).toHaveText(
    /The flourish “hiss” is used by nothing/,
  );
});

test('what the crowd beside the run shows is listed, and set aside like all else', async ({ page, request }) => {
  const headers = { 'content-type': 'application/json' };
  const level = JSON.parse(readFileSync('demo/night-firing/level.json', 'utf8')) as Document;
  const made = await request.post('/api/levels', { headers, data: JSON.stringify({ ...level, name: 'Crowded works' }) });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/levels/${id}`);
  await choose(page.getByRole('combobox', { name: 'Crowd beside the run' }), 'crowd 30');
  await page.keyboard.press('j');
  const list = page.getByRole('list', { name: 'What the crowd shows' });
  const bell = list.getByRole('listitem', { name: /^Nobody ever touched bell post/ });
  await expect(bell).toContainText('In 30 sessions no player came to it');
  await expectNoSeriousProblem(page);
  await bell.getByRole('button', { name: 'Meant so …' }).click();
  await bell.getByLabel('because').fill('for those who die');
  await bell.getByLabel('because').press('Enter');
  await expect(bell).toBeHidden();
  await page.getByRole('button', { name: /2 set aside/ }).click();
  await expect(page.getByRole('list', { name: 'Set aside' })).toContainText('Set aside: for those who die.');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(bell).toBeVisible();
});
