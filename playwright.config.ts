import { defineConfig } from '@playwright/test';

/** Tests of our own sites and of strangers' need different installations: bin/test runs them side by side. */
const only = process.env.STALL_E2E;

export default defineConfig({
  testDir: only === 'strangers' ? 'e2e/strangers' : 'e2e',
  ...(only === 'ours' && { testIgnore: '**/strangers/**' }),
  ...(only && { outputDir: `test-results/${only}` }),
  // Machines that are shared have slow minutes: a test that is right must not be red for them.
  timeout: 240_000,
  expect: { timeout: 20_000 },
  workers: 1,
  retries: 0,
  globalSetup: './e2e/support/start.ts',
  reporter: process.env.STALL_REPORT
    ? [['list'], ['json', { outputFile: process.env.STALL_REPORT }]]
    : [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    trace: 'retain-on-failure',
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
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
