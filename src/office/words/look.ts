import type { Said } from './said';

/** What the office says: look. Names of colours, tokens and pairs stand in core/look/labels.ts, for the slip and the command line say them, too. */

const many = (n: number, one: string, more = `${one}s`): string => `${n} ${n === 1 ? one : more}`;

/** look/look.tsx */
export const look = {
  readingTheLook: 'Reading the look of your pages …',
  foundOnTheSite: 'Found on the site',
  wornByTheShop: 'Worn by the shop',
  parts: 'Parts of the look',
  coloursAndLetters: 'Colours and letters',
  shapeOfTheShop: 'Shape of the shop',
  ownCss: 'Own CSS',
  measuring: (done: number, all: number, page: Said) =>
    done === 0 ? `Measuring ${many(all, 'page')} …` : `Measured ${done} of ${all}: ${page}`,
  readFrom: (pages: number, isMeasured: boolean) =>
    isMeasured ? `${many(pages, 'page')} measured` : `${many(pages, 'page')}, from style sheets`,
  stop: 'Stop',
  measureAgain: 'Measure again',
  threads: (n: number) => `${many(n, 'thread')}`,
  toMend: (n: number) => `, ${n} to mend`,
  toMendByNight: (n: number) => `, ${n} by night`,
} as const;

/** look/use-look.ts */
export const useLook = {
  noPageCouldBeMeasured:
    'No page could be measured in this browser. What stands here was read from your style sheets.',
} as const;

/** look/found-list.tsx */
export const found = {
  foundOnTheSite: 'Found on the site',
  fonts: 'Fonts',
  shape: 'Shape',
  where: (what: string) => `Where it is: ${what}`,
  underThePointer: 'under the pointer only',
  specimen: 'Woven',
  headings: 'headings',
  notInFrames: (fonts: string) =>
    `Frames wear the next font of the list in place of ${fonts}: it says of itself that it may not be embedded.`,
  couldNotBeSeen: (what: string) => `Could not be seen: ${what}.`,
  shapes: {
    'button-corner': 'Button corners',
    'field-corner': 'Field corners',
    'card-corner': 'Card corners',
    'picture-corner': 'Picture corners',
    space: 'Spacing step',
    width: 'Content width',
  },
} as const;

/** look/worn-list.tsx */
export const worn = {
  wornByTheShop: 'Worn by the shop',
  more: (n: number) => `${n} more`,
  fewer: 'Fewer',
} as const;

/** look/token-row.tsx */
export const tokenRow = {
  onTheSlip: 'Waits on the slip',
  letters: 'Aa',
  isGone: (what: string) => `It was tied to the ${what} of your site, which it no longer has.`,
  yourOwn: 'your own',
  madeOfTheOthers: 'made of the others',
  takes: (what: string) => `takes ${what}`,
  ratio: (n: string) => `${n} : 1`,
  on: (what: string) => `on ${what}`,
  passes: 'passes',
  fails: 'fails',
  apart: (n: string) => `ΔE ${n}`,
  from: (what: string) => `from ${what}`,
  needs: (is: string, what: string, need: string) => `On your site, ${what}: ${is} : 1. Needs ${need}.`,
  moved: (ratio: string, by: string) => `${ratio} : 1, ΔE ${by}`,
  use: (colour: string) => `Use ${colour}`,
  asTheSiteHasIt: 'As the site has it',
} as const;

/** look/tie-editor.tsx */
export const tieEditor = {
  asFound: 'As found on the site',
  tieTo: (what: string) => `${what} takes`,
  takes: 'Takes',
  aColourOfYourOwn: 'Your own',
  ownColourFor: (what: string) => `Your own colour: ${what}`,
  asFigures: 'As figures, like #79491B',
  aValueOfItsOwn: 'a value of its own',
  madeOfTheOthers: 'made of the others',
  choice: (what: string, value: string) => `${what} (${value})`,
  or: 'or',
  orPx: 'or, in px',
  ownValueFor: (what: string) => `Your own value: ${what}`,
} as const;

/** look/sample.tsx */
export const sample = {
  liveSample: 'Live sample',
  asShoppersSeeIt: 'As shoppers see it',
  whatIsShown: 'What is shown',
  cards: 'Cards',
  product: 'Product',
  cart: 'Cart',
  checkout: 'Checkout',
  on: 'On ',
  pageGround: 'the page',
  band: (colour: string) => `a band, ${colour}`,
  dark: ' Dark',
  larger: 'Larger',
  smaller: 'Smaller',
  inMyPages: 'In my pages',
  comes: 'The sample comes …',
  notYourOwnGoods: 'These stand in for your goods until you have some.',
  px: (n: number) => `${n} px`,
} as const;

/** look/shape-panel.tsx */
export const shapePanel = {
  shapeOfTheShop: 'Shape of the shop',
  cardsAndRows: 'Cards and rows',
  pictures: 'Pictures',
  badges: 'Badges',
  productPage: 'Product page',
  signOfTheCart: 'Sign of the cart',
  departs: (n: number) => `${many(n, 'widget')} with a shape of ${n === 1 ? 'its' : 'their'} own`,
  on: (page: string) => `on ${page}`,
} as const;

/** look/own-css.tsx */
export const ownCss = {
  ownCss: 'Own CSS',
  writtenForParts:
    'Rules for parts of the shop, like ::part(button) { text-transform: uppercase }. The sample wears them while you type. Nothing outside the shop is reached, and nothing is fetched from elsewhere.',
  noFaults: 'No faults.',
  line: (n: number) => `Line ${n}`,
  allParts: (n: number) => `All ${n} parts`,
} as const;

/** look/drift-list.tsx */
export const driftList = {
  theSiteLooksDifferent: (n: number) => `Your site looks different: ${many(n, 'value')} changed`,
  theShopWearsItAsItWas: 'The shop still wears what was there before. Follow what is meant to be new.',
  follow: 'Follow',
  keep: 'Keep',
  followAll: 'Follow all',
  keepAll: 'Keep all as it was',
  contrast: (what: string, was: string, is: string, needs: string) => `${what} ${was} → ${is} : 1${needs}`,
  needs: (n: string) => `, needs ${n}`,
  none: 'none',
} as const;

/** look/places-panel.tsx */
export const placesPanel = {
  whereItIs: (what: string) => `Where it is: ${what}`,
  backToTheSample: 'Back to the sample',
  page: 'Page ',
  pageWithRings: (page: Said) => `${page}, with rings around it`,
  nowhereAtRest: 'It is on no page at rest: it shows under the pointer.',
} as const;
