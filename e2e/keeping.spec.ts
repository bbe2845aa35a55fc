/** Saving where it is not easy: a token wanted, nothing kept by the browser, an edit that is never taken. */
import { chromium } from '@playwright/test';
import { newFolder, serve } from '../server/testing/serve.ts';
import { dial, expect, expectNoSeriousProblem, openBench, ownLevel, saved, test, tray, type } from './fixture.ts';

const TOKEN = 'a-token-for-the-kiln-door';

test('a server with a token asks for it once, also under a name that the browser does not call secure', async ({ launchOptions }) => {
  const served = await serve(newFolder(), { env: { DIAL_TOKEN: TOKEN } });
  const browser = await chromium.launch({
    ...launchOptions,
    args: [...(launchOptions.args ?? []), '--host-resolver-rules=MAP dial.test 127.0.0.1'],
  });
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    await page.goto(`http://dial.test:${new URL(served.url).port}/levels/night-firing`);
    await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
    await expectNoSeriousProblem(page);
    await page.getByLabel('Token').fill('the wrong token');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('alert')).toContainText('not the token of this server');
    await page.getByLabel('Token').fill(TOKEN);
    await page.keyboard.press('Enter');
    await expect(page.getByText(/simulated in/)).toBeVisible();
    await tray(page, 'cooling basin').click();
    await type(page, 'rests for', '5.5');
    await expect(saved(page)).toHaveText('saved');
    await page.reload();
    await tray(page, 'cooling basin').click();
    await expect(dial(page, 'rests for')).toHaveAttribute('aria-valuenow', '5.5');
    expect([errors, page.url().includes(TOKEN), await page.evaluate(() => document.cookie)]).toEqual([[], false, '']);
  } finally {
    await browser.close();
    await served.end('SIGTERM');
  }
});

test('where the browser keeps nothing, Dial works and says what is not kept', async ({ page }) => {
  await page.addInitScript(() => {
    for (const name of ['localStorage', 'sessionStorage']) {
      Object.defineProperty(window, name, {
        get() {
          throw new DOMException('denied', 'SecurityError');
        },
      });
    }
  });
  await openBench(page);
  await tray(page, 'cooling basin').click();
  await type(page, 'rests for', '5.5');
  await expect(page.getByRole('alert')).toContainText('cannot keep edits while they are on their way');
  await expect(saved(page)).toHaveText('saved');
  await page.getByRole('button', { name: 'Dark' }).click();
  await type(page, 'rests for', '6.5');
  await expect(saved(page)).toHaveText('saved');
});

test.describe('refused for good', () => {
  test.use({ allowed: [/status of 4\d\d/] });

  test('an edit says what was refused, can be exported and taken back, and the next one is saved', async ({ page }) => {
    await openBench(page);
    await tray(page, 'cooling basin').click();
    const details = {
      type: 'about:blank',
      title: 'Too large',
      status: 413,
      detail: 'What was sent is larger than allowed. Nothing was changed.',
    };
    await page.route('**/api/levels/night-firing', (route) =>
      route.request().method() === 'PATCH'
        ? route.fulfill({ status: 413, json: details, contentType: 'application/problem+json' })
        : route.fallback(),
    );
    await type(page, 'rests for', '5.5');
    await expect(saved(page)).toHaveText('not taken');
    await expect(page.getByRole('alert')).toContainText('larger than allowed');
    await type(page, 'health', '20');
    await page.unroute('**/api/levels/night-firing');
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Export the level' }).click();
    expect((await download).suggestedFilename()).toBe('night-firing.json');
    await page.getByRole('button', { name: 'Take it back' }).click();
    await expect(saved(page)).toHaveText('saved');
    await expect(dial(page, 'rests for')).toHaveAttribute('aria-valuenow', '6.5');
    await expect(dial(page, 'health')).toHaveAttribute('aria-valuenow', '20');
    await type(page, 'health', '18');
    await expect(saved(page)).toHaveText('saved');
  });
});

test.describe('with a server that is away for a moment', () => {
  test.use({ allowed: [/Failed to load resource/] });

  test('a part of the page that cannot be fetched says so, and is fetched when asked for again', async ({ page }) => {
    await page.route(/assets\/Ledger-/, (route) => route.abort());
    await openBench(page);
    await page.keyboard.press('l');
    const said = page.getByRole('alert').filter({ hasText: 'could not be fetched' });
    await expect(said).toBeVisible();
    await page.unrouteAll();
    await said.getByRole('button', { name: 'Try again' }).click();
    await expect(page.getByRole('region', { name: 'Ledger' })).toBeVisible();
    await expect(said).toHaveCount(0);
  });
});

test('a level whose edits are on their way still is copied and renamed as it is', async ({ page, request }) => {
  const id = await ownLevel(request, 'Slowly kept');
  await page.goto(`/levels/${id}`);
  // The edit is let through once the copy is asked for, and the copy once the edit is saved.
  const asked = page.waitForRequest((sent) => sent.method() === 'POST');
  const saved = page.waitForResponse((reply) => reply.request().method() === 'PATCH');
  await page.route(/api\/levels/, async (route) => {
    const method = route.request().method();
    if (method === 'PATCH') await asked;
    if (method === 'POST') await saved;
    await route.continue();
  });
  await type(page, 'walk speed', '6.5');
  await page.getByRole('link', { name: 'Dial, all levels' }).click();
  const card = page.getByRole('listitem', { name: 'Slowly kept', exact: true });
  await card.getByRole('button', { name: 'Duplicate' }).click();
  await card.getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('Name of the level').fill('Kept at last');
  // The name that is being typed stays, also when the copy and the next revision arrive meanwhile.
  await expect(page.getByRole('listitem', { name: 'Slowly kept copy' })).toBeVisible();
  await expect(page.getByLabel('Name of the level')).toHaveValue('Kept at last');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('listitem', { name: 'Kept at last' })).toBeVisible();
  await page.getByRole('link', { name: 'Open Slowly kept copy' }).click();
  await expect(dial(page, 'walk speed')).toHaveAttribute('aria-valuenow', '6.5');
});
