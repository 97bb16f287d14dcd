import type { Said } from './said';

/** What the office says: bench. */

/** bench/overlay.tsx */
export const overlay = {
  header: 'Header',
  main: 'Main',
  sideColumn: 'Side column',
  secondSideColumn: 'Second side column',
  footer: 'Footer',
  page: 'Page',
  menu: 'Menu',
  pitch: (a: Said) => `Pitch ${a}`,
  thisPage: 'this page',
  pages: (a: number) => `${a} pages`,
} as const;

/** bench/page-frame.tsx */
export const pageFrame = {
  coming: (a: Said) => `${a}, coming`,
} as const;

/** bench/lost-list.tsx */
export const lostList = {
  aWidget: 'A widget',
  widgetsThatNeedYourWord: 'Widgets that need your decision',
  isLeftOutBecause: (a: string | number) => ` is left out, because ${a}.`,
  likeliestIs: 'Likeliest is ',
  in100: (a: number) => `, ${a} in 100.`,
  putItThere: 'Place it there',
  takeItAway: 'Remove it',
} as const;

/** bench/setting-fields.tsx */
export const settingFields = {
  allGoods: 'All goods',
  thereAreNoGoodsYet: 'There are no goods yet.',
  addTheFirst: 'Add the first',
  gone: (a: Said) => `${a} (gone)`,
  chooseOne: 'Choose one',
  isHiddenSoShoppersReadHere: (a: Said) =>
    `${a} is hidden: shoppers find a plain link here, and behind it that it is not for sale. Show it in Goods, or choose another.`,
  thisProductIsGoneSoShoppers:
    'This product is gone: shoppers find a plain link here, and behind it that it is not for sale. Choose another.',
  gone2: (a: string | number) => `${a} (gone)`,
  noLongerHasThisChoiceChoose: (a: string | number) => `${a} no longer has this choice. Choose another.`,
  theProduct: 'The product',
} as const;

/** bench/reach-field.tsx */
export const reachField = {
  frontPages: 'Front pages',
  listsOfPosts: 'Lists of posts',
  posts: 'Posts',
  contactPages: 'Contact pages',
  galleries: 'Galleries',
  legalPages: 'Legal pages',
  otherPages: 'Other pages',
  framePages: 'Frame pages',
  allOf: (a: Said) => `All of ${a}`,
  thisPage: 'This page',
  everyPage: 'Every page',
  pagesLikeThis: 'Pages like this',
  appearsOn: 'Appears on',
  onOfPages: (a: number, b: number) => `on ${a} of ${b} pages`,
  pages: 'Pages…',
  butNotOn: (a: number) => `But not on ${a}`,
  butNotOn2: 'But not on…',
  findAPage: 'Find a page',
  moreTypeToFindThem: (a: number) => `${a} more: type to find them`,
} as const;

/** bench/spellings.tsx */
export const spellings = {
  howItIsWritten: 'How it is written ',
  as: (a: string | number) => `as ${a}`,
  howItIsWritten2: 'How it is written',
  copy: 'Copy',
  writeItSoOnThePage: 'Use this on the page',
  copied: 'Copied',
  codeThatLeadsTo: (a: Said) => `Code that leads to ${a}`,
  saveTheCode: 'Save the code',
  toAPageThatGreenStall: 'Paste it into a page elsewhere',
  openThePageInItsEditor: 'Open the page in its editor and put the cursor on a line of its own.',
  letTheServerPassStallOn:
    'Let the server pass /stall/ on to the shop; docs/widgets.md has the four lines for nginx.',
  openTheMailOrPost: 'Open the mail or post.',
  openThePageInItsEditor2: 'Open the page in its editor, and there the view of its HTML.',
  pasteThisThere: 'Paste this there. ',
  copyIt: 'Copy it',
  whereThePageMayHaveA:
    'Where the page may have a script, paste this once too, and the frame grows as it needs.',
  pasteThisOnceOnThePage: 'Paste this once on the page, best into its head.',
  copyTheScript: 'Copy the script',
  copyItWithItsHash: 'Copy it with its hash',
  saveThePageThereThenHave: 'Save the page there, then have it looked at:',
  addressOfThePage: 'Address of the page',
  looking: 'Looking',
  hasItArrived: 'Has it arrived?',
} as const;

/** bench/settings-panel.tsx */
export const settingsPanel = {
  settings: (a: Said) => `${a}: settings`,
  closeTheSettings: 'Close the settings',
  chooseAPitch: 'Choose a pitch',
  moveIt: 'Move it',
  takeItAway: 'Remove it',
  unlikeTheShop: (what: string) =>
    `Unlike the rest of the shop: ${what}. “As the shop” lets it go with the others again.`,
} as const;

/** bench/shelf.tsx */
export const shelf = {
  shelf: 'Shelf',
  on: (a: number, b: Said) => `on ${a} ${b}`,
  notPlaced: 'not placed',
  pressOneToPlaceIt: 'Press one to place it ',
  dragAWidgetOntoThePage:
    'Drag a widget onto the page, or choose a pitch there first and then press a widget.',
} as const;

/** bench/bench.tsx */
export const bench = {
  phone: 'Phone',
  tablet: 'Tablet',
  desktop: 'Desktop',
  chooseAPitchOnThePage:
    'Choose a pitch on the page first: move over the page, or press ] to walk through them.',
  thereAreNoGoodsToSell: 'There are no goods to sell yet. Add the first under Goods, then come back.',
  goods: 'Goods',
  backToThePages: 'Back to the pages',
  fetchingThePage: 'Loading the page…',
  page: 'Page',
  pages: 'Pages',
  n1WidgetOnThisPage: '1 widget on this page',
  widgetsOnThisPage: (a: number) => `${a} widgets on this page`,
  lookingForPitches: 'Looking for pitches',
  chooseWhereItGoes: 'Choose where it goes ',
  esc: 'Esc',
  toLeaveIt: ' to leave it',
  dragging: 'Dragging ',
  toLetGo: ' to let go',
  undo: 'Undo',
  undoCtrlZ: 'Undo (Ctrl+Z)',
  redo: 'Redo',
  redoCtrlShiftZ: 'Redo (Ctrl+Shift+Z)',
  asTheDraftHasIt: (a: Said) => `${a}, as the draft has it`,
  asAShopper: 'As a shopper',
  pitch: (a: Said) => `Pitch ${a}`,
  chosen: (a: Said, b: Said) => `Chosen: ${a} ${b}`,
  width: 'Width',
  shownAt: (a: number) => `shown at ${a}%`,
  backToWork: 'Back to editing',
  sideBySide: 'Side by side',
  showAsShopper: 'Show as shopper',
  asAShopper2: (a: Said) => `${a}, as a shopper`,
} as const;
