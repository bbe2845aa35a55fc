import { readFileSync } from 'node:fs';
import { choose, expect, expectNoSeriousProblem, openBench, test, type } from './fixture.ts';

test('a crowd beside the run follows a dial, and is dropped again', async ({ page }) => {
  await openBench(page);
  const crowd = page.getByRole('status', { name: 'What the crowd comes to' });
  await expect(crowd).toHaveCount(0);
  await choose(page.getByRole('combobox', { name: 'Crowd beside the run' }), 'crowd 30');
  await expect(crowd).toContainText('30 of 30 sessions in');
  await expect(crowd).toContainText('lose a life 0');
  // Where it was lies over the Plan.
  await page.keyboard.press('u');
  await page.getByRole('radiogroup', { name: 'the crowd' }).getByRole('radio', { name: 'hurt' }).click();
  await expectNoSeriousProblem(page);
  await page.keyboard.press('u');
  await expect(page.getByRole('radiogroup', { name: 'the crowd' })).toHaveCount(0);

  // A vent that nobody survives: the crowd says so at once.
  await page.getByRole('toolbar', { name: 'Tray' }).getByRole('radio', { name: 'ember vent' }).click();
  const vent = page.getByRole('region', { name: 'in the crowd' });
  await expect(vent).toContainText(/of 100 players touch it\d+.*health taken\d/);
  await expect(vent).not.toContainText('deaths');
  await type(page, 'health', '900');
  await expect(crowd).not.toContainText('lose a life 0');
  await expect(vent).toContainText(/deaths in 100 sessions\d+(\.\d+)?was 0/);
  await expect(crowd).toContainText('30 of 30 sessions in');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(crowd).toContainText('lose a life 0');

  // It is there again after a reload, until it is not wanted any more.
  await page.reload();
  await expect(crowd).toContainText('30 of 30 sessions in');
  await choose(page.getByRole('combobox', { name: 'Crowd beside the run' }), 'no crowd');
  await expect(crowd).toHaveCount(0);
});

test('a crowd that is kept says what came of it, and opens any session at its moment', async ({ page }) => {
  // Whatever state one tries from on the Bench: a session starts as its crowd did.
  await openBench(page);
  const from = page.getByRole('combobox', { name: 'Starting state' });
  await from.click();
  await page.getByRole('option').nth(1).click();
  await expect(from).not.toContainText('from its start');
  await page.getByRole('link', { name: 'Crowd' }).click();
  await expect(page.getByRole('status', { name: 'What the crowd came to' })).toContainText('of 100 finish');
  await expect(page.getByRole('img', { name: 'Alive over time, of 100' })).toBeVisible();
  const things = page.getByRole('group', { name: 'Placements, a row each' });
  await expect(things).toContainText('never touched by anyone');
  await page.getByRole('button', { name: /findings from these sessions/ }).click();
  const shown = page.getByRole('list', { name: 'What the crowd shows' });
  await expect(shown).toContainText('Nobody ever touched bell post. In 150 sessions no player came to it');
  await page.getByRole('radio', { name: 'hurt' }).click();
  await expectNoSeriousProblem(page);
  // A death is seen at its moment: the run is that very session.
  await page
    .getByRole('button', { name: /^A death at/ })
    .first()
    .press('Enter');
  await expect(page).toHaveURL(/run=persona%3Anewcomer%3A\d+%3A120&at=/);
  await expect(page.getByRole('combobox', { name: 'Run on the Strip' })).toContainText('newcomer, seed');
  await expect(page.getByRole('slider', { name: 'Needle' })).not.toHaveAttribute('aria-valuenow', '0');
  await expect(from).toContainText('from its start');
});

test('a crowd is chosen, played on the server, named, laid beside another, deleted and brought back', async ({ page, request }) => {
  const headers = { 'content-type': 'application/json' };
  const data = readFileSync('demo/chimney-climb/level.json', 'utf8');
  const { id } = (await (await request.post('/api/levels', { data, headers })).json()) as { id: string };
  await page.goto(`/levels/${id}/crowd`);
  await expect(page.getByText('No crowd has played this level yet')).toBeVisible();
  for (const name of ['steady', 'wary', 'greedy']) await page.getByRole('button', { name: `Without ${name}` }).click();
  await page.getByRole('spinbutton', { name: 'Sessions of hasty' }).fill('12');
  await page.getByRole('spinbutton', { name: 'Sessions of newcomer' }).fill('1000000');
  await expect(page.getByRole('alert')).toContainText('1000012 sessions, up to 33334 hours of play');
  await page.getByRole('spinbutton', { name: 'Sessions of newcomer' }).fill('');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeDisabled();
  await page.getByRole('spinbutton', { name: 'Sessions of newcomer' }).fill('8');
  await page.getByRole('button', { name: 'Play 20 sessions' }).click();
  await expect(page.getByRole('status', { name: 'What the crowd came to' })).toContainText('of 100 finish');
  await expect(page.getByRole('table', { name: 'By persona' })).toContainText('all, 20');
  await page.getByRole('button', { name: /findings? from these sessions/ }).click();
  const shown = page.getByRole('list', { name: 'What the crowd shows' }).getByRole('listitem');
  const count = await shown.count();
  expect(count).toBeGreaterThan(0);
  await shown.first().getByRole('button', { name: 'Meant so …' }).click();
  await shown.first().getByLabel('because').press('Enter');
  await expect(shown).toHaveCount(count - 1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(shown).toHaveCount(count);
  await page.getByRole('textbox', { name: 'Name of the crowd' }).fill('first look');
  await page.getByRole('textbox', { name: 'Name of the crowd' }).press('Enter');
  await expect(page.getByRole('combobox', { name: 'Crowd shown' })).toContainText('first look');

  // The same seeds once more: pair by pair there is no difference.
  await page.getByRole('button', { name: 'Play 20 sessions' }).click();
  await expect(page.getByRole('combobox', { name: 'Crowd shown' })).toContainText('revision 3, 20 sessions');
  await choose(page.getByRole('combobox', { name: 'Crowd beside it' }), 'first look');
  await page.getByRole('button', { name: 'no difference seen in 20 pairs with the same seed' }).click();
  await expect(page.getByRole('table', { name: 'No difference seen' })).toContainText('0 (0)');
  await expect(page.getByRole('table', { name: 'The two crowds, pair by pair' })).toHaveCount(0);

  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByRole('combobox', { name: 'Crowd shown' })).toContainText('first look');
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.getByRole('combobox', { name: 'Crowd shown' })).toContainText('revision 3, 20 sessions');
});
