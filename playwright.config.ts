import { availableParallelism } from 'node:os';
import { defineConfig } from '@playwright/test';

const server = (port: number, demo: boolean) => ({
  command: `node scripts/start.mjs ${demo ? '--demo' : ''}`,
  url: `http://127.0.0.1:${port}/`,
  env: { PORT: String(port) },
  timeout: 300_000,
  reuseExistingServer: false,
  gracefulShutdown: { signal: 'SIGTERM' as const, timeout: 3000 },
});

/** Started by scripts/e2e.mjs, which finds the browser and builds first. */
export default defineConfig({
  testDir: 'e2e',
  // Files side by side; the tests of one file one after the other, since they share ports.
  workers: Math.min(availableParallelism(), 4),
  // A machine that others use, too, can be ten times slower for minutes. What needs a second try is listed as such.
  timeout: 600_000,
  expect: { timeout: 120_000 },
  retries: 1,
  reporter: 'list',
  use: {
    baseURL: 'http://127.0.0.1:4650',
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    // What is not there after so long never comes; a second try costs less than waiting for the test's own end.
    actionTimeout: 180_000,
    // What was on the page is kept as it was, not as pictures of each moment; of the second try, since keeping it takes
    // a third of the time.
    trace: { mode: 'on-first-retry', screenshots: false },
    launchOptions: {
      ...(process.env.CHROMIUM ? { executablePath: process.env.CHROMIUM } : {}),
      args: [
        '--no-sandbox',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
  webServer: [server(4650, true), server(4651, false)],
});
