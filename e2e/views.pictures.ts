import type { Page } from '@playwright/test';
import { faulty } from './faulty.ts';
import { patrol, route, wallAndCollectibles, zones } from './firstLevel.ts';
import { choose, expect, openBench, test, tray, type } from './fixture.ts';
import { begin } from './planning.ts';

/** The wary persona on the Strip, at a moment at which it heads for something. */
async function choosePersona(page: Page): Promise<void> {
  await page.goto('/levels/night-firing?run=persona:wary');
  await page.getByRole('button', { name: 'wary, who plays this run' }).click();
  await page.getByRole('slider', { name: 'Needle' }).focus();
  for (let press = 0; press < 3; press += 1) await page.keyboard.press('PageUp');
  await expect(page.getByRole('status', { name: 'What the persona means' })).toContainText('wary');
  await page.waitForTimeout(300);
}

const picture = (name: string): { path: string } => ({ path: `docs/screenshots/${name}.png` });

test('levels', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByText(/last run: health/)).toHaveCount(3);
  await page.screenshot(picture('levels'));
});

test('bench', async ({ page }) => {
  await openBench(page);
  await tray(page, 'cooling basin').click();
  const needle = page.getByRole('slider', { name: 'Needle' });
  await needle.focus();
  for (let press = 0; press < 3; press += 1) await page.keyboard.press('PageUp');
  for (let press = 0; press < 4; press += 1) await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('img', { name: /\+18 → 64\.5/ })).toBeVisible();
  await page.getByRole('slider', { name: 'health' }).hover();
  await expect(page.locator('[data-dial=health] polyline')).toBeVisible();
  await page.screenshot(picture('bench'));
  await page.getByRole('button', { name: 'Dark' }).click();
  await choosePersona(page);
  await page.screenshot(picture('bench-dark'));
  await openBench(page);
  await page.getByRole('button', { name: 'Light' }).click();
  await page.keyboard.press('l');
  await page.getByLabel('Find lines').fill('cooling basin 1');
  await page.getByRole('button', { name: /cooling basin 1 refused player 1/ }).click();
  await expect(page.getByRole('img', { name: /resting, 3\.4 s left/ })).toBeVisible();
  await page.getByRole('region', { name: 'What brought it about' }).waitFor();
  await page.screenshot(picture('ledger'));
});

test('crowds', async ({ page }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await page.goto('/levels/night-firing/crowd');
  await page.getByRole('radio', { name: 'hurt' }).click();
  await expect(page.getByRole('img', { name: 'final health, a dot a session' })).toHaveAttribute('aria-busy', 'false');
  await page.waitForTimeout(300);
  await page.screenshot(picture('crowd'));
  await openBench(page);
  await choose(page.getByRole('combobox', { name: 'Crowd beside the run' }), 'crowd 100');
  await expect(page.getByRole('status', { name: 'What the crowd comes to' })).toContainText('100 of 100 sessions in');
  await tray(page, 'ember vent').click();
  await type(page, 'health', '40');
  await expect(page.locator('[data-crowd=done]')).toBeVisible();
  await page.getByRole('slider', { name: 'health' }).hover();
  await expect(page.locator('[data-dial=health] polygon')).toBeVisible({ timeout: 30_000 });
  await page.screenshot(picture('bench-crowd'));
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
});

test('a sweep', async ({ page }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await page.goto(`/levels/night-firing/sweep?dial=${encodeURIComponent('/body/speed')}`);
  await choose(page.getByRole('combobox', { name: 'Outcome 1', exact: true }), 'time');
  await page.getByLabel('from of dial 1').fill('2');
  await page.getByLabel('to of dial 1').fill('8');
  await page.getByLabel('step of dial 1').fill('0.5');
  await page.getByRole('button', { name: /^Ask:/ }).click();
  await expect(page.getByRole('button', { name: '13 of 13 values, a row each' })).toBeVisible({ timeout: 120_000 });
  await page.screenshot(picture('sweep'));
});

test('evidence', async ({ page }) => {
  await page.goto('/levels/night-firing?run=night-firing-whole-round');
  await expect(page.getByText(/simulated in/)).toBeVisible();
  const strip = page.getByRole('region', { name: 'Strip' });
  const box = (await strip.boundingBox()) ?? { x: 0, y: 0 };
  await page.mouse.move(box.x + 500, box.y + 60);
  await page.keyboard.down('Control');
  for (let turn = 0; turn < 3; turn += 1) await page.mouse.wheel(0, -200);
  await page.keyboard.up('Control');
  await page.keyboard.down('Shift');
  await page.mouse.move(box.x + 260, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + 520, box.y + 60);
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await page.mouse.move(box.x + 330, box.y + 90);
  await expect(page.getByRole('region', { name: 'Chosen stretch' })).toBeVisible();
  await page.screenshot(picture('strip'));
  await page.goto('/levels/night-firing?run=night-firing-careful-walk');
  await expect(page.getByText(/simulated in/)).toBeVisible();
  await page.keyboard.press('c');
  await page.getByRole('button', { name: 'Try each change alone' }).click();
  await expect(page.getByRole('table', { name: 'What each change does alone' })).toContainText('+15.8');
  await expect(page.getByRole('img', { name: 'What each change alone does to health' }).getByText('+15.8')).toBeVisible();
  await page.screenshot(picture('ghost'));
});

test('runs and their report', async ({ page }) => {
  // Charts are drawn at once.
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await page.goto('/levels/night-firing/runs');
  await expect(page.getByRole('region', { name: 'Outcomes' })).toContainText('lowest health');
  await expect(page.getByRole('columnheader', { name: 'careful walk' })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'whole round' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'SVG' }).first()).toBeEnabled();
  await page.screenshot(picture('runs'));
  await page.goto('/levels/night-firing/report?run=night-firing-careful-walk');
  await expect(page.getByRole('article', { name: 'Report' })).toContainText('Never touched');
  await page.screenshot(picture('report'));
});

test('play', async ({ page }) => {
  await page.goto('/levels/night-firing/play?run=night-firing-careful-walk&at=1050');
  await expect(page.getByRole('complementary', { name: 'Live ledger' })).toContainText('resting, 3.4 s left');
  await page.keyboard.press('p');
  await page.screenshot(picture('play'));
});

test('play, seen from the side', async ({ page }) => {
  await page.goto('/levels/chimney-climb/play');
  const ledger = page.getByRole('complementary', { name: 'Live ledger' });
  await expect(page.getByRole('group', { name: 'Readouts' })).toContainText(/0:00\.[3-9]/);
  await page.keyboard.down('d');
  await expect(ledger).toContainText('checkpoint');
  await page.keyboard.down('w');
  await expect(page.getByRole('group', { name: 'Readouts' })).toContainText(/0:01\.[5-9]/);
  await page.keyboard.press('p');
  await page.screenshot(picture('play-side'));
});

test('a rule in its sentence', async ({ page }) => {
  await openBench(page);
  await tray(page, 'slip pit').click();
  await page.getByRole('button', { name: 'puts one at the last checkpoint' }).click();
  await page.screenshot(picture('rule'));
});

test('the Sheet', async ({ page }) => {
  await openBench(page);
  await page.getByRole('link', { name: 'Sheet' }).click();
  await page.getByLabel('Find columns').fill('what');
  await page.getByRole('gridcell', { name: /^18/ }).click();
  for (let press = 0; press < 5; press += 1) await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByRole('status', { name: 'Outcome' })).toContainText('final health');
  await page.screenshot(picture('sheet'));
});

test('settings', async ({ page }) => {
  await page.goto('/levels/chimney-climb');
  await expect(page.getByText(/simulated in/)).toBeVisible();
  const section = (name: string) => page.getByRole('button', { name, exact: true });
  await section('meters').click();
  await section('health').click();
  await page.getByLabel('rescale to').first().fill('3');
  await section('score').scrollIntoViewIfNeeded();
  await page.screenshot(picture('settings'));
});

test('the first level, step by step', async ({ page }) => {
  await begin(page, 'First round');
  await wallAndCollectibles(page);
  await page.screenshot(picture('first-level-1'));
  await zones(page);
  await patrol(page);
  await route(page);
  await page.screenshot(picture('first-level-3'));
});

test('findings', async ({ page, request }) => {
  const headers = { 'content-type': 'application/json' };
  const made = await request.post('/api/levels', { headers, data: JSON.stringify({ ...faulty(), name: 'Faulty works' }) });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/levels/${id}`);
  await page.getByRole('button', { name: /findings$/ }).click();
  await page.getByRole('button', { name: 'Mend …' }).first().click();
  await expect(page.getByRole('group', { name: 'Mend, shown first' })).toContainText('plaier → player');
  await expect(page.getByText(/simulated in|\d ms/).first()).toBeVisible();
  await page.screenshot(picture('findings'));
});
