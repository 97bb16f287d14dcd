import type { Said } from './said';

/** What the office says: checks. What was found says its own sentences (core/checks/rules). */

/** checks/checks.tsx */
export const checks = {
  readingEveryPage: 'Reading every page as it is written…',
  toMend: ' to mend before publishing',
  canWait: ' can wait',
  nothingFound: 'Nothing found',
  nothingFoundHint: 'Site and shop say the same on every page, and every page leads to a checkout.',
  byWeight: 'By weight',
  byPage: 'By page',
  order: 'Order',
  running: (done: number, all: number) => `Checking: ${done} of ${all} pages`,
  starting: 'Checking…',
  stop: 'Stop',
  stopped: 'You stopped the checks: what stands here is of before. “Run again” goes on.',
  notThrough: 'You stopped the checks before they were through: nothing is known yet. “Run again” goes on.',
  leftSo: (n: number) => (n === 1 ? 'Left so: 1' : `Left so: ${n}`),
  findings: 'Findings',
  showMore: (n: number) => `Show ${n} more`,
} as const;

/** checks/checks-count.tsx */
export const checksCount = {
  toMend: (n: number) => `, ${n} to mend`,
  onTheSlip: 'Checks',
  toMendShort: (n: number) => `${n} to mend`,
  losesTheSale: (n: number) => (n === 1 ? '1 loses the sale' : `${n} lose the sale`),
  allWell: 'nothing to mend',
  checking: 'checking…',
  notChecked: 'not checked yet',
} as const;

/** checks/mend-all.tsx */
export const mendAll = {
  mendAll: (n: number) => `Mend all ${n}`,
  willBeDone: 'This is what will be done',
  eachIsALine: 'Each of them is a line on the slip, and can be undone there.',
  mendThem: 'Mend them',
  notNow: 'Not now',
} as const;

/** checks/finding-row.tsx */
export const findingRow = {
  pages: (n: number) => `${n} pages`,
  things: (n: number) => `${n} places`,
  showMe: 'Show me',
  leaveItSo: 'Leave it so',
  takeBack: 'Look at it again',
  whyLeave: 'A word for later: why it stays so',
  leave: 'Leave it so',
  cancel: 'Cancel',
  isNew: 'new',
  back: (n: number) => (n === 1 ? 'came back' : `came back ${n} times`),
  andMore: (n: number) => `and ${n} more`,
  pictureOf: (a: Said) => `Picture of ${a}`,
  leftWith: (a: Said) => `Left so: ${a}`,
  leftWithout: 'Left so',
  line: (n: number) => `line ${n}`,
} as const;

/** checks/use-checks.ts */
export const useChecks = {
  mended: (a: Said) => `Mended: ${a}`,
  notMended: (a: Said) => `Not mended: ${a}`,
  undoOnTheSlip: 'It waits on the slip, or can be undone there.',
} as const;

/** checks/show-me.tsx */
export const showMe = {
  close: 'Close',
  pageWithRing: (a: Said) => `${a}, with the place ringed`,
  onTheBench: 'Open on the bench',
  thereInThePage: 'As a shopper meets it',
} as const;

/** checks/ways-table.tsx */
export const waysTable = {
  title: 'A shopper’s shortest ways',
  oneStone: 'One stone is one press, walked with the slip’s changes. The longest first.',
  from: 'From',
  aProduct: 'a product',
  theCart: 'the cart',
  paid: 'paid for',
  here: 'here',
  noWay: 'no way',
  was: (a: Said) => `was ${a}`,
  presses: (n: number) => (n === 1 ? '1 press' : `${n} presses`),
  showTheWay: (a: Said, b: Said) => `${a}, ${b}: show each press`,
  all: (n: number) => `All ${n} pages`,
  fewer: 'Fewer',
  oneLonger: (a: Said, n: number, was: number) => `${a} needs ${n} presses to paid; it was ${was} before.`,
  noWayFrom: (n: number) =>
    n === 1 ? 'From one page there is no way to paid.' : `From ${n} pages there is no way to paid.`,
  everyPage: (n: number) => `Every page comes to paid in at most ${n} presses.`,
} as const;

/** checks/runs.tsx */
export const runs = {
  title: 'Runs',
  never: 'The checks were not run yet; what stands here follows each change by itself.',
  last: (a: Said) => `last run ${a}`,
  mendedSince: (n: number) => `${n} mended since`,
  runAgain: 'Run again',
  found: (n: number) => `${n} found`,
  mended: (n: number) => `${n} mended`,
  back: (n: number) => `${n} back`,
  whenTheyRun:
    'They run after each change, before every publishing, and each night at three over the live site.',
  asked: 'you asked',
  publish: 'before publishing',
  night: 'by night',
  looking: (n: number) => `Looking at pages as a browser shows them: ${n} to go`,
} as const;
