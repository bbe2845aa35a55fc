import { choose, expect, expectNoSeriousProblem, ownLevel, saveSlowly, test, type } from './fixture.ts';

test('a dial is swept from the Bench, its value taken as one edit, and a session opened', async ({ page, request }) => {
  const id = await ownLevel(request, 'Swept');
  await page.goto(`/levels/${id}`);
  const dial = page.getByRole('slider', { name: 'walk speed' });
  await dial.click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Sweep this' }).click();
  await expect(page.getByRole('combobox', { name: 'Dial 1' })).toContainText('player: walk speed');
  await page.getByLabel('from of dial 1').fill('3');
  await page.getByLabel('to of dial 1').fill('6');
  await page.getByLabel('step of dial 1').fill('0');
  await expect(page.getByRole('alert').filter({ hasText: 'the step must be more than nought' })).toBeVisible();
  await page.getByLabel('step of dial 1').fill('1.5');
  await choose(page.getByRole('combobox', { name: 'Outcome 1', exact: true }), 'time');
  for (const persona of ['wary', 'greedy', 'newcomer', 'steady']) await page.getByRole('button', { name: `Without ${persona}` }).click();
  await page.getByLabel('Seconds at most').fill('30');
  // Pressed twice it is begun once, and what was asked stands there still.
  await page.getByRole('button', { name: 'Ask: 3 values × 20 sessions' }).dblclick();
  await expect(page.getByRole('status', { name: 'What median time comes to' })).toContainText(/Median time is .* at the least/);
  await expect(page.getByRole('img', { name: 'median time over player: walk speed' })).toBeVisible();
  for (const [field, value] of [
    ['from', '3'],
    ['to', '6'],
    ['step', '1.5'],
  ]) {
    await expect(page.getByLabel(`${field ?? ''} of dial 1`)).toHaveValue(value ?? '');
  }
  await page.getByRole('combobox', { name: 'Study shown' }).click();
  await expect(page.getByRole('option')).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expectNoSeriousProblem(page);

  await page.getByRole('button', { name: /3 of 3 values/ }).click();
  await page.getByRole('group', { name: 'Values, a row each' }).getByRole('button', { name: 'player: walk speed 6 u/s' }).press('Enter');
  await page.getByRole('button', { name: 'Take 6', exact: true }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Taken: player: walk speed 6.' })).toBeVisible();
  await expect(page.getByText('the level is at 2 by now.')).toBeVisible();
  // In a field that was typed into, what was typed is taken back first, not the edit of the level.
  const seconds = page.getByLabel('Seconds at most');
  await seconds.press('End');
  await page.keyboard.type('5');
  await page.keyboard.press('Control+z');
  await expect(seconds).toHaveValue('30');
  await expect(page.getByText('the level is at 2 by now.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('the level is at 3 by now, and plays as it did.')).toBeVisible();
  // Asked again it is another study, and both are kept.
  await page.getByRole('button', { name: 'Take and open a session' }).click();
  await expect(page).toHaveURL(/run=persona%3Ahasty%3A\d+%3A30/);
  await expect(page.getByRole('slider', { name: 'walk speed' })).toHaveAttribute('aria-valuenow', '6');
  await expect(page.getByRole('combobox', { name: 'Run on the Strip' })).toContainText('hasty, seed');
  // Its ruler has the curve for as long as nothing else is changed.
  const swept = page.getByText('swept: median time, 20 sessions a value');
  await page.getByRole('slider', { name: 'walk speed' }).press('ArrowRight');
  await expect(swept).toBeVisible();
  await page.getByRole('slider', { name: 'braking' }).press('ArrowRight');
  await page.getByRole('slider', { name: 'walk speed' }).focus();
  await expect(page.getByRole('status').filter({ hasText: 'saved' })).toBeVisible();
  await expect(swept).toBeHidden();
});

test('seek, begun by keyboard from the dial in hand, finds a value or says that there is none', async ({ page, request }) => {
  const id = await ownLevel(request, 'Sought');
  await page.goto(`/levels/${id}`);
  await page.getByRole('slider', { name: 'walk speed' }).focus();
  await page.keyboard.press('x');
  await choose(page.getByRole('combobox', { name: 'Outcome 1', exact: true }), 'time');
  await page.getByLabel('from of dial 1').fill('2');
  await page.getByLabel('to of dial 1').fill('8');
  await page.getByLabel('Wished').fill('3000');
  for (const persona of ['wary', 'greedy', 'newcomer', 'hasty']) await page.getByRole('button', { name: `Without ${persona}` }).click();
  await page.getByLabel('Sessions of steady').fill('8');
  await page.getByRole('button', { name: /^Ask: up to/ }).click();
  const answer = page.getByRole('status', { name: 'What median time comes to' });
  await expect(answer).toContainText('None: from 2 to 8 u/s, median time goes no higher than');
  await page.getByLabel('Wished').fill('25');
  await page.getByRole('button', { name: /^Ask: up to/ }).click();
  await expect(answer).toContainText(/Player: walk speed at .* u\/s .* gives median time 25 s/);
  await page.getByRole('button', { name: /^Take / }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Taken: player: walk speed' })).toBeVisible();
});

test('a target is stated as a sentence with dials, judged by the crowd, and checked in full', async ({ page, request }) => {
  const id = await ownLevel(request, 'Held to something');
  await page.goto(`/levels/${id}`);
  const line = page.getByRole('status', { name: 'How the targets stand' });
  await expect(line).toContainText('3 targets');
  await page.keyboard.press('q');
  await expect(line).toContainText('full check', { timeout: 60_000 });
  await expect(line).toContainText('targets 2 of 3 met');
  await choose(page.getByRole('combobox', { name: 'Crowd beside the run' }), 'crowd 30');

  const settings = page.getByRole('region', { name: 'Level settings' });
  await settings.getByRole('button', { name: 'targets', exact: true }).click();
  await settings.getByRole('button', { name: 'New target' }).click();
  await expect(settings).toContainText('Of 200 players, at least 80 of 100 finish');
  await settings.getByRole('button', { name: 'change it' }).last().click();
  // What is asked becomes a number: what is judged of it goes along.
  await choose(settings.getByRole('combobox', { name: 'outcome' }).last(), 'deaths');
  await expect(settings).toContainText('the mean of deaths is at least 80');
  await expect(line).toContainText(/from 30 sessions/);
  await expect(line).toContainText('missed mean deaths ≥ 80');
  await type(page, 'at least', '0');
  await settings.getByRole('button', { name: 'ends', exact: true }).click();
  await expectNoSeriousProblem(page);
  // However long the dials are, the page itself does not scroll.
  expect(await page.evaluate(() => document.documentElement.scrollHeight - innerHeight)).toBe(0);
  await page.goto('/');
  const card = page.getByRole('listitem', { name: 'Held to something' });
  await expect(card).toContainText('targets: 2 of 3 met, 1 missed (of revision 1)');
  // The full check that is asked for next is of all that is stated by then, also of what was stated in words.
  await card.getByRole('link', { name: 'Open Held to something' }).click();
  await settings.getByLabel('A target in words').fill('at least 50 % of steady players finish');
  await page.keyboard.press('Enter');
  await expect(line).toContainText('5 targets');
  await line.getByRole('button', { name: 'Check' }).click();
  await expect(line).toContainText('full check');
  await expect(line).toContainText('met steady: ≥ 50 of 100 finish');
  await expect(settings).toContainText('Of 200 steady players, at least 50 of 100 finish');
  await expect(settings).not.toContainText('not judged');
});

test('what matters ranks the dials, and a bar leads to its dial', async ({ page, request }) => {
  await page.goto(`/levels/${await ownLevel(request, 'Ranked')}/sweep`);
  await page.getByRole('radio', { name: 'what matters' }).click();
  await choose(page.getByRole('combobox', { name: 'Outcome 1', exact: true }), 'time');
  for (const persona of ['wary', 'greedy', 'newcomer', 'hasty']) await page.getByRole('button', { name: `Without ${persona}` }).click();
  await page.getByLabel('Sessions of steady').fill('6');
  await page.getByLabel('Seconds at most').fill('20');
  await page.getByRole('button', { name: /^Ask: \d+ settings × 6 sessions/ }).click();
  await expect(page.getByRole('group', { name: 'Progress' })).toHaveCount(0, { timeout: 90_000 });
  const bars = page.getByRole('table', { name: 'What matters, most first' });
  await bars.getByRole('button', { name: 'player: walk speed' }).click();
  await expect(page.getByRole('slider', { name: 'walk speed' })).toBeFocused();
});

test('several dials are tuned to the targets, stopped and gone on with, and a setting is taken', async ({ page, request }) => {
  const id = await ownLevel(request, 'Tuned');
  await page.goto(`/levels/${id}/sweep`);
  await page.getByRole('radio', { name: 'tune' }).click();
  await choose(page.getByRole('combobox', { name: 'Dial 1' }), 'ember vent: health');
  await page.getByLabel('from of dial 1').fill('10');
  await page.getByLabel('to of dial 1').fill('5');
  await expect(page.getByRole('alert').filter({ hasText: 'the range is empty' })).toBeVisible();
  await page.getByLabel('to of dial 1').fill('60');
  await choose(page.getByRole('combobox', { name: 'One more dial' }), 'player: walk speed');
  // What is asked at once is asked of the level as it is here, however slowly it is saved.
  await saveSlowly(page);
  // Targets in words: what is not understood is said and stays; what is becomes one of the level, and the others can be left aside.
  const words = page.getByLabel('A target in words');
  await words.fill('30 to 50 % of jumpy players lose a life');
  await words.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: '“jumpy” is not understood' })).toBeVisible();
  await words.fill('hasty: median final health 20 to 80; steady: median time at most 15 s');
  await words.press('Enter');
  await expect(words).toHaveValue('');
  const held = page.getByRole('group', { name: 'Tuned to' });
  const isHeld = held.getByRole('button', { pressed: true });
  await expect(isHeld).toHaveCount(5);
  await held.getByRole('button', { name: 'none', exact: true }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'choose a target' })).toBeVisible();
  for (const one of [/20–80/, /≤ 15/]) await held.getByRole('button', { name: one }).click();
  await expect(isHeld).toHaveText(['hasty: median final health 20–80', 'steady: median time ≤ 15']);
  await page.getByLabel('Sessions that it may cost').fill('600');
  await page.getByRole('button', { name: /^Ask: up to/ }).click();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText(/Stopped after \d+ of/)).toBeVisible();
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByRole('status', { name: 'What tuning comes to' })).toContainText('judged by fresh sessions', { timeout: 90_000 });
  // One that is stopped once something is known, and another that is not: what is said of the one goes with it.
  await page.getByRole('button', { name: 'Ask with another seed' }).click();
  await expect(page.getByText('found so far').first()).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText(/Stopped after \d+ of/)).toBeVisible();
  await page.getByRole('button', { name: /^Ask: up to/ }).click();
  await expect(page.getByText(/Stopped after \d+ of/)).toHaveCount(0);
  await expect(page.getByRole('status', { name: 'What tuning comes to' })).toContainText('judged by fresh sessions', { timeout: 90_000 });
  // How a session differs with the setting that is pointed at, on a Strip.
  await expect(page.getByRole('region', { name: /^One session of .*dashed: as the level is$/ })).toContainText('speed');
  await expectNoSeriousProblem(page);
  await page
    .getByRole('button', { name: /^Take “/ })
    .first()
    .click();
  await expect(page.getByRole('status').filter({ hasText: 'Taken: ember vent: health' })).toBeVisible();
});
