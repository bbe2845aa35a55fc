import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base, expect, type APIRequestContext, type BrowserContext, type Locator, type Page } from '@playwright/test';
import { AxeBuilder } from '@axe-core/playwright';
import { newFolder, serve, type Served } from '../server/testing/serve.ts';

/** A server that a test may kill and start again; it keeps its folder and its address. */
export interface Server {
  readonly url: string;
  end(signal: NodeJS.Signals): Promise<void>;
  start(): Promise<void>;
}

interface Fixtures {
  /** Messages the console may show in this test: those of a server that is gone on purpose. */
  readonly allowed: RegExp[];
}

/** All that a page keeps in the browser, but for its compiled script. */
const KEPT = 'cookies,file_systems,indexeddb,local_storage,service_workers,cache_storage';

export const test = base.extend<Fixtures & { page: Page }, { server: Server; profile: BrowserContext }>({
  server: [
    async ({}, use) => {
      const folder = newFolder();
      let served: Served = await serve(folder);
      const { port } = new URL(served.url);
      await use({
        url: served.url,
        end: (signal) => served.end(signal),
        start: async () => {
          served = await serve(folder, { env: { DIAL_PORT: port } });
        },
      });
      await served.end('SIGTERM');
    },
    { scope: 'worker' },
  ],
  // One browser with a folder of its own, as people have: it keeps compiled script, which is half the work of opening a page.
  profile: [
    async ({ playwright, server, launchOptions }, use) => {
      const folder = mkdtempSync(join(tmpdir(), 'dial-browser-'));
      const context = await playwright.chromium.launchPersistentContext(folder, { ...launchOptions, baseURL: server.url });
      await use(context);
      await context.close();
      rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
    },
    { scope: 'worker' },
  ],
  context: async ({ profile, server }, use) => {
    const [blank] = profile.pages();
    await use(profile);
    const opened = profile.pages().filter((page) => page !== blank);
    // What was undone last is kept too, or the next test would find the level as it was before.
    for (const page of opened) await expect(saved(page).filter({ hasNotText: /^saved$/ })).toHaveCount(0);
    await Promise.all(opened.map((page) => page.close()));
    const session = await profile.newCDPSession(blank!);
    await session.send('Storage.clearDataForOrigin', { origin: new URL(server.url).origin, storageTypes: KEPT });
    await session.detach();
  },
  baseURL: async ({ server }, use) => use(server.url),
  allowed: async ({}, use) => use([]),
  page: async ({ page, viewport, allowed }, use) => {
    if (viewport !== null) await page.setViewportSize(viewport);
    const messages: string[] = [];
    page.on('console', (message) => {
      if (message.type() === 'error' || message.type() === 'warning') messages.push(message.text());
    });
    page.on('pageerror', (error) => messages.push(error.message));
    await use(page);
    expect(messages.filter((text) => !allowed.some((pattern) => pattern.test(text)))).toEqual([]);
  },
});

export { expect };

/** Night Firing as a level of one's own: what is changed here is nobody else's. Answers its id. */
export async function ownLevel(request: APIRequestContext, name: string): Promise<string> {
  const level = JSON.parse(readFileSync('demo/night-firing/level.json', 'utf8')) as object;
  const headers = { 'content-type': 'application/json' };
  const made = await request.post('/api/levels', { headers, data: JSON.stringify({ ...level, name }) });
  return ((await made.json()) as { id: string }).id;
}

/** From now on edits reach the server late. */
export const saveSlowly = (page: Page): Promise<unknown> =>
  page.route('**/api/levels/*', async (route) => {
    if (route.request().method() === 'PATCH') await new Promise((resolve) => setTimeout(resolve, 1500));
    await route.continue();
  });

export async function openBench(page: Page): Promise<void> {
  await page.goto('/levels/night-firing?run=night-firing-careful-walk');
  await expect(page.getByText(/simulated in/)).toBeVisible();
}

export const outcome = (page: Page): Locator => page.getByRole('status', { name: 'Outcome' });
export const saved = (page: Page): Locator => page.getByRole('status', { name: 'Saving' });
export const dial = (page: Page, name: string): Locator => page.getByRole('slider', { name });
export const tray = (page: Page, name: string): Locator => page.getByRole('toolbar', { name: 'Tray' }).getByRole('radio', { name });

export async function digestOf(page: Page): Promise<string> {
  return ((await page.locator('[data-digest]').getAttribute('data-digest')) ?? '').replace('digest ', '');
}

/** Types a value into the field of a dial. */
export async function type(page: Page, name: string, text: string): Promise<void> {
  const field = page.getByRole('textbox', { name, exact: true });
  await field.fill(text);
  await field.press('Enter');
}

export async function expectNoSeriousProblem(page: Page): Promise<void> {
  // Of what passes nothing is asked, which is most of the work.
  const { violations } = await new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).analyze();
  const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  expect(serious.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 120)).join(' | ')}`)).toEqual([]);
}

/** Chooses one of a list by what it is called. */
export async function choose(list: Locator, name: string | RegExp): Promise<void> {
  await list.click();
  await list.page().getByRole('option', { name, exact: true }).click();
}

/** Chooses one of a menu by what it is called. */
export async function chooseIn(button: Locator, name: string): Promise<void> {
  await button.click();
  await button.page().getByRole('menuitem', { name, exact: true }).click();
}
