import type { Said } from './said';

/** What the office says: site. */

/** site/menu-frame.tsx */
export const menuFrame = {
  theMenuAt: (a: number) => `The menu at ${a}`,
  measuring: 'measuring…',
  behindAButton: 'behind a button',
  rowsPx: (a: number, b: string | number) => `${a} rows, ${b} px`,
  needsOfPx: (a: Said, b: Said, c: Said) => `Needs ${a} of ${b} px${c}`,
  fitsFree: (a: string | number, b: string | number) => `${a}: fits, ${b} free`,
  overItWraps: (a: string | number, b: string | number) => `${a}: ${b} over, it wraps`,
  withItWouldBreakIntoA: (a: Said) => `With ${a} it would break into a second line.`,
  itBreaksIntoASecondLine: 'It breaks into a second line.',
  nestPx: (a: string | number, b: string | number) => `Nest ${a}: ${b} px.`,
  orShortenLabelsByPxThe: (a: string | number, b: string | number, c: string | number) =>
    `Or shorten labels by ${a} px; the longest is ${b}, ${c}.`,
} as const;

/** site/add-selling.tsx */
export const addSelling = {
  thingsThatShip: 'Things that ship',
  downloads: 'Downloads',
  placesAtAnEvent: 'Places at an event',
  services: 'Services',
  allYourGoodsWithEachProduct: 'all your goods, with each product inside',
  whatAShopperHasChosen: 'what a shopper has chosen',
  whereItGoesAndHowIt: 'where it goes, and how it is paid',
  afterPaying: 'after paying',
  aSecondTryWhenAPayment: 'a second try, when a payment fails',
  forBuyersWithoutAnAccount: 'for buyers without an account',
  pastOrdersByALetterWith: 'past orders, by a letter with a link',
  readingWhatTheSiteSaysOf: 'Reading what the site says of itself…',
  sellingIsAddedAllOfIt: 'Selling is added. All of it waits on the slip; nothing is live yet.',
  addSelling: 'Add selling',
  shortAnswersMostOfThemRead:
    'Short answers, most of them read from your pages: change what is wrong. All of them can be changed later in the till.',
  whereTheBusinessIs: 'Where the business is',
  because: (a: string | number) => `Because ${a}.`,
  pricesAreIn: 'Prices are in',
  whatYouSell: 'What you sell',
  howYouArePaidTaxAnd: 'How you are paid, tax and weights are set in the',
  till: 'till',
  alreadyAndStayAsTheyAre: ' already, and stay as they are.',
  howYouArePaid: 'How you are paid',
  accountThatTransfersGoTo: 'Account that transfers go to',
  anIbanOrAsYourBank: 'an IBAN, or as your bank writes it',
  buyersAreToldItWithTheir: 'Buyers are told it with their order. Without it, bank transfer is not offered.',
  taxOnPrices: 'Tax on prices',
  included: 'included',
  added: 'added',
  noTax: 'no tax',
  forABusinessBelowTheThreshold: 'For a business below the threshold, or exempt.',
  ratesForAreFilledInFrom: (a: Said) =>
    `Rates for ${a} are filled in, from memory: look them over in the till.`,
  noRatesForAreKnownHere: (a: Said) => `No rates for ${a} are known here: add yours in the till.`,
  weightsAreIn: 'Weights are in',
  kilograms: 'kilograms',
  pounds: 'pounds',
  whatOnePressDoes: 'What one press does',
  theShopIsCalled: 'The shop is called',
  partsOfTheShop: 'Parts of the shop',
  theyStandInsideOnePage:
    'They stand inside one page of yours, which you name when all is published; without one, on plain pages in your header and footer.',
  pagesItBuildsInYourOwn: 'Pages it builds, in your own header and footer',
  itWaitsOnTheSlipIs:
    'It waits on the slip, is seen in your own pages first, and is taken back with one press.',
  adding: 'Adding',
  lookingForRoom: 'Looking for room for the cart, at three widths…',
  notNow: 'Not now',
  howItFits: 'How it fits',
  atPxTheHeaderHasNo: (a: number) =>
    `At ${a} px the header has no room for a cart: there it stands in the corner of the window.`,
} as const;

/** site/coverage-lens.tsx */
export const coverageLens = {
  page: 'Page',
  shopInMenu: 'Shop in menu',
  cart: 'Cart',
  sameHeader: 'Same header',
  showsGoods: 'Shows goods',
  clicksToCheckout: 'Clicks to checkout',
  walkingTheLinksOfEveryPage: 'Walking the links of every page…',
  pages: ' pages',
  carryTheCart: ' carry the cart',
  noWayToACheckout: (a: string | number) => `${a} no way to a checkout`,
  has: 'has',
  have: 'have',
  everyPageReachesCheckoutInAt: 'every page reaches checkout in at most ',
  clicks: ' clicks',
  coverage: 'Coverage',
  add: 'Add',
  putItThere: (a: number) => `Add it there, ${a}`,
  noWay: 'no way',
  showMoreOf: (a: number) => `Show more of ${a}`,
  clicksAreCountedAlongTheLinks:
    'Clicks are counted along the links of your own pages to the nearest page that sells, then three: add, see the cart, go to checkout.',
  yes: 'yes',
  no: 'no',
  everyPageCarriesTheCart: 'Every page carries the cart.',
  noHeaderWasSurelyFoundOn:
    'No header was surely found on the first of these pages. Place a cart there on the bench.',
  aCartStandsInTheHeader: (a: number) => `A cart stands in the header of ${a} pages; it waits on the slip.`,
  thereIsNoShopPageYet: 'There is no shop page yet. Add selling first.',
  theShopStandsInTheMenu: 'The shop stands in the menu; it waits on the slip.',
} as const;

/** site/menu-tree.tsx */
export const menuTree = {
  altAndArrowsMoveItF2: 'Alt and arrows move it, F2 renames, Delete removes it',
  newNameOf: (a: Said) => `New name of ${a}`,
  nested: 'nested',
  rename: (a: Said) => `Rename ${a}`,
  renameF2: 'Rename (F2)',
  takeOutOfTheMenu: (a: Said) => `Remove ${a} from the menu`,
  takeOutDelete: 'Remove (Delete)',
} as const;

/** site/shop-address-form.tsx */
export const shopAddressForm = {
  whereTheShopLives: 'Where the shop lives',
  thereIsNoShopPageYet: 'There is no shop page yet.',
  addSelling: 'Add selling',
  address: 'Address',
  moveTheShopThere: 'Move the shop there',
  oldAddressesThatLeadToIt: (a: string | number) => `Old addresses that lead to it: ${a}.`,
  changeItAndTheOldAddress: 'Change it, and the old address still leads here.',
  itIsTheFrontPage: 'It is the front page',
  yourOwnFrontPageStandsAt: 'Your own front page stands at /home, all its links as they were.',
  yourOwnFrontPageWouldMove: 'Your own front page would move to /home; nothing of it is lost.',
} as const;

/** site/menus-lens.tsx */
export const menusLens = {
  readingEveryCopyOfTheMenu: 'Reading every copy of the menu…',
  mainMenu: 'Main menu: ',
  items: ' items',
  on: 'on ',
  ofPages: (a: number) => ` of ${a} pages`,
  standsOnOneLineAt: 'stands on one line at ',
  theSiteAsksForAndDoes: (a: string | number) =>
    `The site asks for ${a} and does not bring it: widths are those of a stand-in.`,
  theTree: 'Menu items',
  dragToMoveDragRightTo: 'drag to move, drag right to nest',
  undo: 'Undo',
  undoCtrlZ: 'Undo (Ctrl+Z)',
  redo: 'Redo',
  redoCtrlShiftZ: 'Redo (Ctrl+Shift+Z)',
  addToMenu: 'Add to menu',
  widthInTheRealFont: 'width in the real font',
  shopCartAndCategoriesComeWith: 'Shop, cart and categories come with selling.',
  addSelling: 'Add selling',
  inIt: 'in the menu',
  putItThere: 'add it',
  tryingItIsNotOnThe: (a: string | number) =>
    `Trying ${a}: it is not on the slip. Press it once more to add it.`,
  carriedBy: 'Pages with this menu',
  ofPages2: (a: number, b: number) => `${a} of ${b} pages`,
  like: (a: number, b: string | number, c: string | number) => `${a} ${b} like ${c}`,
  page: 'page',
  pages: 'pages',
  theSame: 'the same',
  differs: (a: string | number) => `differs: ${a}`,
  noMenuWasFound: 'No menu was found',
  yourPagesShareNoListOf:
    'Your pages share no list of links that is surely a menu. The shop can still be reached: place a cart, a search field or a category list on the bench',
  or: ', or',
  addSelling2: 'add selling',
  first: 'first.',
} as const;

/** site/pages-lens.tsx */
export const pagesLens = {
  page: 'page',
  pages: 'pages',
  findAPage: 'Find a page',
  whichPages: 'Which pages',
  allPages: 'All pages',
  thatSell: 'That sell',
  withoutACart: 'Without a cart',
  onTheSlip: 'On the slip',
  noPageFitsTakeSomeLetters: 'No page matches. Change the search, or show all pages.',
  builtByGreenStall: ' Built by Green Stall',
  onTheSlip2: ' On the slip',
  nothingSellsYetOpenAPage: 'nothing sells yet: open a page and place a buy button',
  carryTheCart: ' carry the cart',
  sells: 'sells',
  sell: 'sell',
  readWithANote: (a: string | number) => `${a} read with a note`,
  oneFileWas: 'One file was',
  filesWere: (a: number) => `${a} files were`,
  more: (a: number) => `${a} more`,
  builtForTheShopSeeIt: (a: Said) => `${a}, built for the shop; see it as a shopper`,
  openOnTheBench: (a: Said) => `${a}: open on the bench`,
  noWayToTheCart: 'no way to the cart',
} as const;

/** site/hand-out.tsx */
export const handOut = {
  whatYouPaste: 'What you paste on your host',
  publishFirst: 'Publish what waits on the slip: then all that is to be pasted is listed here.',
  nothingIsToBePasted: 'Nothing is sold on the live site, so nothing is to be pasted.',
  allOfItIsThere: 'all of it was seen there',
  ofAreThere: (a: number, b: number) => `${a} of ${b} seen there`,
  haveAllArrived: 'Have all arrived?',
  lookAgain: 'Are they gone?',
  hasItArrived: 'Has it arrived?',
  hasArrived: (a: string) => `Has “${a}” arrived?`,
  looking: 'Looking',
  yourHostTakes: 'Your host lets you paste',
  codeForTheFoot: 'code for the foot of every page',
  oftenUnderSettings: 'Often in the settings of the whole site: code for head, foot or body.',
  aBlockOfCode: 'a block of code within a page',
  aPartOfThePageEditor: 'A part of the page editor for code, HTML or embeds.',
  thenTextDoes: 'Then widgets are written as text, which the script in the foot turns into what they are.',
  thenALinkDoes: 'Then widgets are links: to plain pages of the shop, in your site’s look.',
  yourShopPage: 'Your shop page',
  makeAnEmptyPage:
    'Make an empty page called Shop on your host, and say its address here. Products, cart and checkout then stand on it. Without one, shoppers go to plain pages of the shop, in your header and footer.',
  itIsThere: 'It is there',
  thereIsNone: 'There is none',
  copy: 'Copy',
  copyTheAddress: 'Copy the address',
  inTheFootOfEveryPage: 'Goes into the foot of every page, once for the whole site.',
  inYourMenu: 'Add it in the menu settings of your host; it leads to:',
  onThePage: (a: string) => `On “${a}”,`,
  onPages: (a: string, b: number) => `On “${a}” and ${b} more,`,
  whereItsContentGoes: 'where its content goes.',
  asTheTargetOfALink: 'as the target of a link or a button.',
  asText: 'as text',
  takeTheseOut: 'Take these out on your host',
  theyStandThereAndSellNothing:
    'They were pasted, still stand there, and do nothing any more. Each is listed until it was seen to be gone.',
} as const;

/** site/handed-out-list.tsx */
export const handedOutList = {
  pastedElsewhere: 'Pasted elsewhere',
  ofNotSeenThere: (a: number, b: number) => `${a} of ${b} not seen there`,
  allOfItWasSeenThere: 'all of it was seen there',
  looking: 'Looking',
  lookAtAllOfThem: 'Look at all of them',
  asOn: (a: string | number) => `as ${a}, on`,
  forgetOn: (a: Said, b: Said) => `Forget ${a} on ${b}`,
  forget: 'Forget',
} as const;

/** site/file-diff.tsx */
export const fileDiff = {
  asItIsLive: (a: Said) => `${a}, as it is live`,
  asItWouldBe: (a: Said) => `${a}, as it would be`,
  asItIsLive2: 'As it is live',
  asItWouldBe2: 'As it would be',
  fetchingBoth: 'Loading both…',
} as const;

/** site/publishing-lens.tsx */
export const liveAddressForm = {
  whereTheSiteLives: 'Where the site lives',
  address: 'Its address',
  shoppersComeBackThere:
    'Shoppers come back there after paying, and letters lead there. Pages follow when you publish.',
  itLivesThere: 'It lives there',
  livesAt: (a: string) => `The site lives at ${a}`,
  itWas: (a: string) => `It was ${a}.`,
  undo: 'Undo',
} as const;

export const publishingLens = {
  computingEveryPage: 'Computing every page…',
  whatPublishingWrites: 'What publishing writes',
  theLiveSiteIsAsThe: 'The live site is as the draft has it',
  wouldBeWritten: (a: string | number) => `${a} would be written`,
  file: 'file',
  files: 'files',
  ofThemNew: ' of them new',
  files2: 'Files',
  layingBothSideBySide: 'Laying both side by side…',
  putItUp: 'Put it up',
  thisSiteCameAsAZip:
    'This site came as a ZIP, so Green Stall cannot write to where it lives. What you publish is live when you have uploaded it there.',
  downloadTheZip: 'Download the ZIP',
  looking: 'Looking',
  hasItArrived: 'Has it arrived?',
  itHasArrivedLookedAtLive: (a: Said, b: Said) => `It has arrived: ${a} looked at ${b} live as published.`,
  thePage: 'the page',
  notAllOfItOfPages: (a: number, b: number) =>
    `Not all of it: ${a} of ${b} pages looked at are live as published.`,
  backAsItWasWritten: (a: number, b: Said) => `Back as it was: ${a} ${b} written.`,
  history: 'History',
  nothingWasPublishedYet: 'Nothing was published yet.',
  by: (a: number, b: string | number, c: string, d: string | number) => `${a} ${b},${c} by ${d}`,
  change: 'change',
  changes: 'changes',
  withYourOwnPagesOfThen: '; with your own pages of then',
  liveNow: 'live now',
  goBackToIt: 'Go back to it',
  thatDidNotWorkNothingWas: 'That did not work. Nothing was changed.',
  aNewerVersionOfYourSite: 'A newer version of your site',
  changedYourOwnPagesBringThem:
    'Changed your own pages? Bring them in: every widget is looked for again, and nothing is live before you publish.',
  reading: 'Reading',
  readTheFolderAgain: 'Read the folder again',
  readTheSiteAgain: 'Read the site again',
  leavingEndsIt:
    'Takes the whole shop off the live site. What you pasted then does nothing, and is listed until it is gone from your host. Goods and orders stay here; History leads back.',
  takenOutHere:
    'Nothing of the shop is live any more. What you pasted does nothing now; above is listed what still stands on your host.',
  chooseAZipOfIt: 'Choose a ZIP of it',
  zipOfTheNewerVersion: 'ZIP of the newer version',
  page: 'page',
  pages: 'pages',
  andMore: (a: number) => ` and ${a} more`,
  isNow: (a: string | number, b: string | number) => `${a} is ${b} now`,
  foundAgain: (a: string | number) => `${a} found again`,
  widget: 'widget',
  widgets: 'widgets',
  besideSomethingElse: (a: number) => `, ${a} beside something else`,
  on: 'On',
  likeliestIs: (a: Said) => ` Likeliest is ${a}.`,
  theSlipHasTheUndo: (a: string | number) => `${a} The slip has the undo.`,
  openThesePagesOnTheBench: 'Open these pages on the bench and say where the widgets go, or remove them.',
  nothingNeedsYourWord: 'Nothing needs your decision.',
  leaveWithoutATrace: 'Leave without a trace',
  takesEveryWidgetShopPageAnd:
    'Takes every widget, shop page and menu item out of the live site, and shows the hash of each file beside the one it came with. Goods and orders stay here; History leads back.',
  takingOut: 'Taking out',
  takeItAllOutNow: 'Take it all out now',
  keepIt: 'Keep it',
  leave: 'Leave…',
  of: (a: number, b: number) => `${a} of ${b}`,
  filesAreByteForByteWhat: 'files are byte for byte what you gave',
  andTheWeHadAddedAre: (a: number) => `, and the ${a} we had added are gone`,
  proof: 'Proof',
  file2: 'File',
  asYouGaveItSha256: 'As you gave it, SHA-256',
  liveNow2: 'Live now',
  gone: 'gone',
} as const;

/** site/site-view.tsx */
export const siteView = {
  pages: 'Pages',
  menus: 'Menus',
  coverage: 'Coverage',
  publishing: 'Publishing',
  drawingThePages: 'Drawing the pages…',
  lens: 'Lens',
  asAShopper: 'As a shopper',
  liveSite: 'Live site',
  addSelling: 'Add selling',
} as const;
