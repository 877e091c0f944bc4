import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  globalSetup: './database.ts',
  // Each worker has a world of its own: a database, a server and the stand-ins. Most of a test is waiting, so three share two cores well.
  workers: 3,
  // A machine that shares its processors may be a fifth as fast for minutes: what is slow is no failure, and what stands still is found all the same.
  timeout: 600_000,
  expect: { timeout: 30_000 },
  reporter: [['list'], ['json']],
  use: {
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    locale: 'en-IE',
    timezoneId: 'Europe/Dublin',
    // A trace costs a fifth of the time: SEXTON_TEST_TRACE=on keeps those of failures.
    trace: process.env.SEXTON_TEST_TRACE ? 'retain-on-failure' : 'off',
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  projects: [
    { name: 'tests', testMatch: '*.spec.ts' },
    { name: 'shots', testMatch: 'shots.ts' },
    { name: 'bench', testMatch: '*.bench.ts' },
  ],
});
