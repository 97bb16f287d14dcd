import { defineConfig } from '@playwright/test';
import { chromiumLaunch } from './e2e/support/chromium';
import { filesOfRun, group } from './e2e/support/groups';

export default defineConfig({
  testDir: 'e2e',
  ...filesOfRun(),
  ...(group && { outputDir: `test-results/${group}` }),
  // Machines that are shared have slow minutes: a test that is right must not be red for them.
  timeout: 360_000,
  expect: { timeout: 45_000 },
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
    // A trace of every step takes a sixth of the time; whoever mends a red test asks for one: --trace on.
    trace: 'off',
    screenshot: 'only-on-failure',
    actionTimeout: 30_000,
    launchOptions: chromiumLaunch,
  },
});
