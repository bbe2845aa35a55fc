import { defineConfig } from '@playwright/test';

/** Browser tests: Debian's Chromium without a window, no retries, one after the other against a server of their own. */
export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  outputDir: '../test-results',
  // One at a time: games are played in real time here, and two browsers on two cores take it from each other.
  workers: 1,
  retries: 0,
  // A shared machine may stand still for seconds, and what a server plays beside the rest (studies) gets what is left over: what is awaited is
  // awaited longer, and asked no less.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  reporter: 'list',
  use: {
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
});
