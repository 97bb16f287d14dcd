import type { Said } from './said';

/** What the office says: frame. */

/** api.ts */
export const api = {
  theOfficeDoesNotAnswerCheck:
    'The office does not answer. Check that Green Stall is running; what you typed is kept.',
  thatDidNotWorkPleaseTry: 'That did not work. Please try again.',
} as const;

/** places.ts */
export const places = {
  site: 'Site',
  goods: 'Goods',
  look: 'Look',
  till: 'Till',
  orders: 'Orders',
  checks: 'Checks',
} as const;

/** alarm.tsx */
export const alarm = {
  toTheWaysToPay: 'Open ways to pay',
  tryingOutOrdersAreMarkedNobody:
    'Trying out: orders are marked, nobody is charged, and shoppers are told so.',
  sellForReal: 'Sell for real',
  toBeLookedIntoPaidTwice: (a: string | number) =>
    `${a} to be looked into: paid twice, or paid after its pieces, voucher or code had gone. `,
  anOrderWants: 'An order needs',
  ordersWant: (a: number) => `${a} orders need`,
  toTheOrders: 'Open the orders',
} as const;

/** keys.tsx */
export const keys = {
  siteGoodsLookTillOrdersChecks: 'Site, Goods, Look, Till, Orders, Checks',
  findOrDo: 'Find or do',
  previousAndNextPitchOnThe: 'Previous and next pitch on the bench',
  toTheShelfForTheChosen: 'To the shelf, for the chosen pitch',
  upDownEnter: 'Up, Down, Enter',
  chooseAWidgetOnTheShelf: 'Choose a widget on the shelf and place it',
  mThenAndEnter: 'M, then [ ] and Enter',
  moveTheChosenWidgetToAnother: 'Move the chosen widget to another pitch',
  takeTheChosenWidgetAway: 'Remove the chosen widget',
  undoAndRedoOnTheBench: 'Undo and redo on the bench',
  nextWidthOnTheBench: 'Next width on the bench',
  esc: 'Esc',
  letGoOfWhatIsChosen: 'Deselect what is chosen',
  thisList: 'This list',
  keys: 'Keys',
} as const;

/** upload.ts */
export const upload = {
  theFileDidNotArriveWhole: 'The file did not arrive whole. Please try again.',
  theConnectionBrokeOffNothingOf: 'The connection broke off. Nothing of the file was kept; please try again.',
  stoppedNothingOfTheFileWas: 'Stopped. Nothing of the file was kept.',
} as const;

/** office.tsx */
export const office = {
  skipToThePage: 'Skip to the page',
  greenStallToThePages: 'Green Stall, to the pages',
  greenStall: 'Green Stall',
  site: 'Site',
  connectAnother: 'Connect another…',
  places: 'Places',
  findOrDo: 'Find or do…',
  ctrlK: 'Ctrl K',
  account: (a: Said) => `Account: ${a}`,
  accountAndPeople: 'Account and people',
  keys: 'Keys',
  signOut: 'Sign out',
} as const;
