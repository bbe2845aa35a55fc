import { readFileSync } from 'node:fs';
import { levelText } from '../core/formats/index.ts';
import { parseLevelText, type Level } from '../core/level/index.ts';
import { playPersonas, simulate } from '../core/players/index.ts';
import { compile } from '../core/session/index.ts';
import { choose, digestOf, expect, expectNoSeriousProblem, openBench, outcome, ownLevel, test, type } from './fixture.ts';

function demo(name: string): Level {
  const parsed = parseLevelText(readFileSync(`demo/${name}/level.json`, 'utf8'));
  if (!parsed.ok) throw new Error(`the demo ${name} is not valid`);
  return parsed.value;
}

for (const [name, persona] of [
  ['night-firing', 'wary'],
  ['chimney-climb', 'newcomer'],
  ['proving-yard', 'greedy'],
] as const) {
  test(`in Chromium, ${persona} plays ${name} as in Node`, async ({ page, request }) => {
    const level = demo(name);
    const compiled = compile(level);
    const { run } = playPersonas(compiled, [level.personas[persona]!], { seed: 1 });
    // A level of its own: other tests turn dials of the demo.
    const headers = { 'content-type': 'application/json' };
    const { id } = (await (await request.post('/api/levels', { data: levelText(level), headers })).json()) as { id: string };
    await page.goto(`/levels/${id}?run=persona:${persona}`);
    await expect(page.getByText(/simulated in/)).toBeAttached();
    expect(await digestOf(page)).toBe(simulate(compiled, run).digest);
  });
}

test('two players are played by two personas, chosen one by one, in Chromium as in Node', async ({ page, request }) => {
  const yard = demo('proving-yard');
  const level = { ...yard, players: { ...yard.players, count: 2 } };
  const compiled = compile(level);
  const headers = { 'content-type': 'application/json' };
  const { id } = (await (await request.post('/api/levels', { data: levelText(level), headers })).json()) as { id: string };
  await page.goto(`/levels/${id}?run=persona:steady`);
  await choose(page.getByRole('combobox', { name: 'Who plays player 2' }), 'hasty');
  await expect(page.getByRole('combobox', { name: 'Run on the Strip' })).toContainText('steady and hasty, seed 1');
  await expect(page.getByRole('button', { name: 'hasty, who plays this run' })).toBeVisible();
  const { run } = playPersonas(compiled, [level.personas['steady']!, level.personas['hasty']!], { seed: 1 });
  const { digest } = simulate(compiled, run);
  await expect.poll(async () => await digestOf(page)).toBe(digest);
  await page.getByRole('tab', { name: 'Ledger' }).click();
  await choose(page.getByRole('combobox', { name: 'show' }), 'everything, with decisions');
  await page.getByRole('searchbox', { name: 'Find lines' }).fill('hasty goes to');
  await expect(page.getByRole('button', { name: /hasty goes to/ }).first()).toBeVisible();
});

test('a persona is put on the Strip, says why it goes where it goes, and is tuned', async ({ page }) => {
  await openBench(page);
  await choose(page.getByRole('combobox', { name: 'Run on the Strip' }), 'steady, seed 1');
  const meant = page.getByRole('status', { name: 'What the persona means' });
  await expect(meant).toHaveText('steady goes to master tile, for the score: worth a detour of 25.6 u');
  await expectNoSeriousProblem(page);
  const before = await digestOf(page);
  await page.getByRole('spinbutton', { name: 'seed' }).fill('2');
  await expect.poll(async () => await digestOf(page)).not.toBe(before);
  await page.getByRole('button', { name: 'steady, who plays this run' }).click();
  const seeded = await digestOf(page);
  await type(page, 'haste', '0.6');
  await expect.poll(async () => await digestOf(page)).not.toBe(seeded);
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();

  await page.getByRole('tab', { name: 'Ledger' }).click();
  await choose(page.getByRole('combobox', { name: 'show' }), 'everything, with decisions');
  await page.getByRole('searchbox', { name: 'Find lines' }).fill('goes to glaze jar');
  await expect(page.getByRole('button', { name: /steady goes to glaze jar/ }).first()).toBeVisible();

  // Kept, it is a run like any other.
  await page.getByRole('tab', { name: 'Strip' }).click();
  await page.keyboard.press('Shift+K');
  await expect(page.getByRole('combobox', { name: 'Run on the Strip' })).toContainText(/^steady/);
});

test('a persona is read off plays, kept, and let play', async ({ page, request }) => {
  const id = await ownLevel(request, 'Read off');
  for (const name of ['careful-walk', 'whole-round']) {
    const data = readFileSync(`demo/night-firing/runs/${name}.json`, 'utf8');
    const put = await request.put(`/api/levels/${id}/runs/read-off-${name}`, { data, headers: { 'content-type': 'application/json' } });
    expect(put.ok()).toBe(true);
  }
  await page.goto(`/levels/${id}/runs`);
  const fit = page.getByRole('region', { name: 'Fit a persona' });
  await fit.getByRole('button', { name: 'Read it off the runs' }).click();
  await expect(fit.getByRole('row', { name: /^share of full speed kept/ })).toBeVisible();
  await fit.getByRole('button', { name: 'Keep as a persona' }).click();
  await fit.getByRole('link', { name: 'Let it play' }).click();
  await expect(page.getByRole('combobox', { name: 'Run on the Strip' })).toContainText('fitted, seed 1');
  await expect(outcome(page)).toContainText('final health');
});

test('an empty level has a run at once', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New level' }).click();
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('combobox', { name: 'Run on the Strip' })).toContainText('steady, seed 1');
  await expect(page.getByRole('status', { name: 'Outcome' })).toContainText('nothing left to do');
});

test('in Play a persona takes over, and is taken over from', async ({ page }) => {
  await page.goto('/levels/night-firing/play');
  const who = page.getByRole('combobox', { name: 'Who plays player 1' });
  const stage = page.getByRole('img', { name: /Night Firing/ });
  await expect(stage).toBeVisible();
  await choose(who, 'steady plays');
  const jars = page.getByText('glaze jar: player 1’s').or(page.getByText(/glaze jar 1: .*glaze jar \+1/));
  await expect(jars.first()).toBeVisible();
  await choose(who, 'you play');
  await expect(who).toContainText('you play');
});
