import type { Said } from './said';

/** What the office says: slip. */

/** slip/slip.tsx */
export const slip = {
  slip: 'Slip',
  openTheSlipWaiting: (a: Said) => `Open the slip, ${a} waiting`,
  slip2: ' Slip ',
  waitsForPublish: 'waits for Publish',
  nothingWaiting: 'nothing waiting',
  foldTheSlip: 'Fold the slip',
  earlierSlips: 'Earlier slips',
  written: (a: string | number) => `${a} written`,
  readyToPutUpNothingIs: (a: Said) =>
    `Ready to put up: ${a}. Nothing is live before you have uploaded the ZIP to your host.`,
  whatToPaste: 'What to paste',
  liveNowPasteIt: (a: Said) =>
    `Published: ${a}. Paste what is new on your host; the list looks whether it has arrived.`,
  downloadTheZip: 'Download the ZIP',
  publishedWrittenIntoTheFolderOf: (a: Said) => `Published: ${a}, written into the folder of the site.`,
  publishedAt: (a: Said, b: Said) => `Published: ${a}, at ${b}.`,
  leftOutBecause: (a: Said, b: Said) => `${a}: left out, because ${b}.`,
  theSiteAndTheShopAgree: 'The site and the shop agree. Whatever you change next lands here as a line.',
  withItInYourOwnHeader: (a: Said, b: Said) => `With it ${a} in your own header and footer: ${b}.`,
  comesOnePage: 'comes one page',
  comePages: (a: number) => `come ${a} pages`,
  withItBuiltForTheShop: (a: Said, b: Said) => `With it ${a} built for the shop: ${b}.`,
  goesThePageThatWas: 'goes the page that was',
  goThePagesThatWere: (a: number) => `go the ${a} pages that were`,
  publishing: 'Publishing',
  publish: (a: Said) => `Publish ${a}`,
  nothingToPublish: 'Nothing to publish',
  alreadyLive: 'Already live ',
  n7DaysToUndo: '7 days to undo',
  published: 'Published',
  undo: (a: Said) => `Undo ${a}`,
  undo2: 'Undo',
} as const;
