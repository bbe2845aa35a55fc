import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { choose, chooseIn, digestOf, expect, expectNoSeriousProblem, openBench, outcome, test } from './fixture.ts';

test('taken over from a moment of a run, a basin says why it refuses; the play becomes a run', async ({ page }) => {
  await openBench(page);
  const needle = page.getByRole('slider', { name: 'Needle' });
  await needle.focus();
  for (let press = 0; press < 3; press += 1) await page.keyboard.press('PageUp');
  await page.getByRole('link', { name: /Take over at 0:15/ }).click();
  const ledger = page.getByRole('complementary', { name: 'Live ledger' });
  await expect(ledger).toContainText('cooling basin 1: health +18');
  await expectNoSeriousProblem(page);

  // Out of the basin to the right and back in, while it rests.
  const seconds = async (): Promise<number> =>
    Number(/0:(\d+\.\d)/.exec((await page.getByRole('group', { name: 'Readouts' }).textContent()) ?? '')?.[1]);
  // Slowly: it rests for seconds of the session, and a machine may stand still for seconds of the clock.
  for (let press = 0; press < 2; press += 1) await page.keyboard.press('[');
  await expect(page.getByRole('radio', { name: '0.25' })).toBeChecked();
  const begun = await seconds();
  await page.keyboard.down('ArrowRight');
  await expect.poll(seconds, { intervals: [100] }).toBeGreaterThan(begun + 0.7);
  await page.keyboard.up('ArrowRight');
  await page.keyboard.down('a');
  await expect(ledger).toContainText(/cooling basin 1 refused player 1: resting, \d(\.\d)? s left/);
  await page.keyboard.up('a');

  await page.keyboard.press('p');
  await expect(page.getByRole('status')).toContainText('Paused');
  const halted = await seconds();
  // One step at a time, each a sixtieth of a second; a thing is read about without leaving.
  for (let press = 0; press < 6; press += 1) await page.keyboard.press('n');
  expect(await seconds()).toBeCloseTo(halted + 0.1, 5);
  await chooseIn(page.getByLabel('Watch a value'), 'cooling basin 1');
  await expect(page.getByRole('region', { name: 'Watched' })).toContainText(/cooling basin 1resting, \d(\.\d)? s left/);
  await page.getByRole('button', { name: 'Stop watching cooling basin 1' }).click();
  for (let press = 0; press < 3; press += 1) await page.keyboard.press(']');
  await expect(page.getByRole('radio', { name: '2', exact: true })).toBeChecked();
  await page.keyboard.press('p');
  await expect.poll(seconds).toBeGreaterThan(halted + 0.2);
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(/levels\/night-firing\?run=/);
  await expect(page.getByLabel('Run on the Strip')).toContainText('careful walk from 0:15');
  await expect(outcome(page)).toHaveText(/final health/);
  await expect(page.getByRole('button', { name: 'cooling basin 1' })).toBeVisible();
});

test('to try a cure nobody must get hurt first: played, and the run tried, from a stated state', async ({ page }) => {
  await openBench(page);
  const final = await outcome(page).textContent();
  await choose(page.getByLabel('Starting state'), 'from hurt');
  await expect(outcome(page)).not.toHaveText(final ?? '');
  await page.getByRole('link', { name: 'Play', exact: true }).click();
  await expect(page).toHaveURL(/play\?from=hurt/);
  const readouts = page.getByRole('group', { name: 'Readouts' });
  await expect(readouts).toContainText('health30');
  await choose(page.getByLabel('start from'), 'the level’s start');
  await expect(readouts).toContainText('health100');
});

test('played from the start: shards are taken, and health and score are read off; the command line comes to the same', async ({
  page,
  request,
}) => {
  await page.goto('/levels/night-firing/play');
  await expect(page.getByRole('group', { name: 'Readouts' })).toContainText('000000');
  await page.keyboard.down('w');
  await expect(page.getByRole('complementary', { name: 'Live ledger' })).toContainText('tile shard 1: score +15, 0 → 15');
  await page.keyboard.up('w');
  await expect(page.getByRole('group', { name: 'Readouts' })).toContainText('000015');
  await page.keyboard.press('Escape');
  await expect(page.getByText(/simulated in/)).toBeVisible();
  const id = new URL(page.url()).searchParams.get('run') ?? '';
  const folder = mkdtempSync(join(tmpdir(), 'dial-played-'));
  const keep = async (file: string, path: string, part: string): Promise<string> => {
    const whole = (await (await request.get(`/api/levels/night-firing${path}`)).json()) as Record<string, unknown>;
    writeFileSync(join(folder, file), JSON.stringify(whole[part]));
    return join(folder, file);
  };
  const files = [await keep('level.json', '', 'document'), '--run', await keep('run.json', `/runs/${id}`, 'run')];
  const told = execFileSync(process.execPath, ['cli/dist/main.js', 'run', ...files, '--json'], { encoding: 'utf8' });
  expect(JSON.parse(told)).toMatchObject({ digest: await digestOf(page) });

  // Out of sight, nothing is played; back in sight, it waits.
  const hide = (hidden: boolean): Promise<void> =>
    page.evaluate((value) => {
      Object.defineProperty(document, 'hidden', { configurable: true, value });
      document.dispatchEvent(new Event('visibilitychange'));
    }, hidden);
  await page.goto('/levels/night-firing/play');
  await expect(page.getByRole('group', { name: 'Readouts' })).toBeVisible();
  await hide(true);
  await hide(false);
  await expect(page.getByRole('status').filter({ hasText: 'Paused' })).toBeVisible();
  await page.keyboard.press('r');
  await expect(page.getByRole('group', { name: 'Readouts' })).toContainText('000000');
  await page.getByRole('button', { name: 'End and see the run' }).click();
  await expect(page.getByRole('region', { name: 'Strip' })).toBeVisible();
});

test('at full health a basin refuses with "full", and says so to whoever plays', async ({ page, request }) => {
  const [, text = ''] = /```json level\n([\s\S]*?)```/.exec(readFileSync('docs/rules.md', 'utf8')) ?? [];
  const data = text.replace('"start": 60', '"start": 100');
  const imported = (await (await request.post('/api/levels', { data, headers: { 'content-type': 'application/json' } })).json()) as {
    id: string;
  };
  await page.goto(`/levels/${imported.id}/play`);
  await expect(page.getByRole('group', { name: 'Readouts' })).toContainText('health100');
  await page.keyboard.down('d');
  await expect(page.getByRole('complementary', { name: 'Live ledger' })).toContainText('cooling basin refused player 1: health is full');
  await page.keyboard.up('d');
});

test('every play is kept, however it ends: by two presses, a reload, a link, a closed tab; each once', async ({
  page,
  request,
  context,
}) => {
  const level = readFileSync(join(process.cwd(), 'demo/night-firing/level.json'), 'utf8');
  const made = await request.post('/api/levels', { data: JSON.parse(level) as object });
  const { id } = (await made.json()) as { id: string };
  const runs = async (): Promise<number> => ((await (await request.get(`/api/levels/${id}/runs`)).json()) as unknown[]).length;
  const goesOn = async (on = page): Promise<void> => await expect(on.getByRole('group', { name: 'Readouts' })).toContainText(/0:0[1-9]/);
  const play = async (on = page): Promise<void> => {
    await on.goto(`/levels/${id}/play`);
    await goesOn(on);
  };
  await play();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(/\?run=/);
  expect(await runs()).toBe(1);
  await play();
  await page.reload();
  await goesOn();
  await expect.poll(runs).toBe(2);
  await page.getByRole('link', { name: 'Dial, all levels' }).click();
  await expect.poll(runs).toBe(3);
  await play();
  await page.getByRole('button', { name: 'Restart' }).click();
  await expect.poll(runs).toBe(4);
  await page.goto('/keys');
  const other = await context.newPage();
  await play(other);
  await other.close({ runBeforeUnload: false });
  const now = await runs();
  // Over once it has not been written down for ten seconds.
  await page.clock.install();
  await page.goto('/');
  await page.clock.runFor(20_000);
  await expect.poll(runs).toBeGreaterThan(now);
});

test('three players with keys that are set, the third by a gamepad; a key lets a loss happen from outside, kept with the run', async ({
  page,
  request,
}) => {
  const level = JSON.parse(readFileSync('demo/night-firing/level.json', 'utf8')) as { players: object };
  const made = await request.post('/api/levels', { data: { ...level, players: { ...level.players, count: 3 } } });
  const { id } = (await made.json()) as { id: string };
  await page.addInitScript(() => {
    const pad = { axes: [0, 0], buttons: [] };
    navigator.getGamepads = () => [pad as unknown as Gamepad];
    addEventListener('pad pushed', () => (pad.axes[0] = 1));
  });
  await page.goto(`/levels/${id}/play`);
  await page.getByRole('button', { name: 'Keys' }).click();
  const keys = page.getByRole('dialog', { name: 'Keys' });
  const set = async (button: string, key: string): Promise<void> => {
    await keys.getByRole('button', { name: button }).click();
    await page.keyboard.press(key);
  };
  await choose(keys.getByLabel('gamepad 1 plays'), 'player 3');
  await set('player 1, right', 'r');
  await expect(keys.getByRole('alert')).toHaveText('R is the key that begins again: choose another.');
  await set('player 1, right', 'ArrowRight');
  await expect(keys.getByRole('button', { name: 'player 2, right: D' })).toBeVisible();
  await set('Add, by a key', 'z');
  await expect(keys.getByRole('listitem')).toContainText('player 1: health −25');
  await expectNoSeriousProblem(page);
  await page.reload();
  const ledger = page.getByRole('complementary', { name: 'Live ledger' });
  const place = (player: number) =>
    page
      .getByRole('region', { name: 'Watched' })
      .getByRole('listitem')
      .filter({ hasText: `player ${String(player)}` });
  for (const player of [1, 2, 3]) await chooseIn(page.getByLabel('Watch a value'), `player ${String(player)}: speed now`);
  // Only now: pushed from the beginning, it would stand at a wall by the time it is looked at.
  await page.evaluate(() => dispatchEvent(new Event('pad pushed')));
  await expect(place(3)).toContainText(/now[1-9]/);
  await page.keyboard.down('ArrowRight');
  await expect(place(1)).toContainText(/now[1-9]/);
  await expect(place(2)).toContainText(/now0 u/);
  await page.keyboard.up('ArrowRight');
  await page.keyboard.press('z');
  await expect(ledger).toContainText(/health .25/);
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(/\?run=/);
  await page.getByRole('button', { name: 'events 1' }).click();
  await expect(page.getByRole('dialog', { name: 'From outside' })).toContainText('player 1: health −25');
  // Simulated again it is the very session that was played.
  await expect(page.getByText(/parts from/)).toHaveCount(0);
});
