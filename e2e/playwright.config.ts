import { defineConfig } from '@playwright/test';

/** The address comes from the test runner, which starts the server on a database of its own. */
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  workers: 1,
  timeout: 120_000,
  expect: { timeout: 15_000 },
  reporter: [['list'], ['json', { outputFile: '../.baumkin/e2e.json' }]],
  use: {
    baseURL: process.env.BAUMKIN_URL,
    viewport: { width: 1280, height: 800 },
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
    screenshot: 'only-on-failure'
  }
});
