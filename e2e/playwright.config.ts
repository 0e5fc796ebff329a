import { defineConfig } from '@playwright/test';

import { shortOrLong } from '../testing/long.ts';

/** The address comes from the test runner, which starts a server on a database of its own for every lane. */
const lane = process.env.BAUMKIN_LANE ?? '0';

export default defineConfig({
  testDir: '.',
  outputDir: `../test-results/${lane}`,
  workers: 1,
  // A machine that does other work beside is five times as slow: what is told wrong fails all the same, later.
  timeout: shortOrLong(480_000, 900_000),
  expect: { timeout: 60_000 },
  reporter: [['list'], ['json', { outputFile: `../.baumkin/e2e-${lane}.json` }]],
  use: {
    baseURL: process.env.BAUMKIN_URL,
    viewport: { width: 1280, height: 800 },
    // Units follow the clock's place where nothing was chosen.
    timezoneId: 'UTC',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync'
      ]
    },
    // Nothing is caught half faded in.
    contextOptions: { reducedMotion: 'reduce' },
    screenshot: 'only-on-failure'
  }
});
