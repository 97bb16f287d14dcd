import { existsSync } from 'node:fs';
import type { LaunchOptions } from 'playwright-core';

/**
 * Switches for Debian's Chromium. It draws its own window even without a screen: an address field whose list is a page of its own costs
 * more time for each new tab than most of our pages do. Only the last list of features counts, so the test runner's own is said again
 * (as of the pinned version).
 */
const runnersOwn = [
  'AvoidUnnecessaryBeforeUnloadCheckSync',
  'DestroyProfileOnBrowserClose',
  'HttpsUpgrades',
  'HttpsFirstBalancedModeAutoEnable',
  'LensOverlay',
  'MediaRouter',
  'PaintHolding',
  'ThirdPartyStoragePartitioning',
  'AvoidCorsURLLoaderRestartOnRedirect',
  'OptimizationHints',
  'NetworkTimeServiceQuerying',
  'AimEnabled',
  'PreconnectToSearch',
];
const ownWindow = [
  'PreloadTopChromeWebUI',
  'WebUIOmniboxPopup',
  'WebUIOmniboxFullPopup',
  'WebUIOmniboxAimPopup',
  'WebUIOmniboxSimplification',
];

const chromiumSwitches: readonly string[] = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--no-first-run',
  `--disable-features=${[...runnersOwn, ...ownWindow].join(',')}`,
];

/**
 * Which browser: what the environment says, else Debian's Chromium without a window of its own, else the one with it. Both are one build
 * of one version; without the window, tests take two thirds of the time.
 */
const windowless = '/usr/bin/chromium-headless-shell';
const executablePath = process.env.CHROMIUM ?? (existsSync(windowless) ? windowless : '/usr/bin/chromium');

/** How browser tests, measurements and pictures start their browser. */
export const chromiumLaunch: Pick<LaunchOptions, 'executablePath' | 'args'> = {
  executablePath,
  args: [...chromiumSwitches],
};
