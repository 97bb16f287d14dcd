import type { Said } from './said';

/** What the office says: goods. */

/** goods/ways.tsx */
export const ways = {
  oneByOne: 'One by one',
  table: 'Table',
  categories: 'Categories',
  reviews: 'Reviews',
  waysOfLookingAtGoods: 'Ways of looking at goods',
  toRead: (a: number) => `${a} to read`,
} as const;

/** goods/categories-view.tsx */
export const categoriesView = {
  fetchingTheCategories: 'Loading the categories…',
  categories: 'Categories',
  shoppersSeeThoseThatHoldSomething:
    'Shoppers see those that hold something, in this order. A renamed one keeps its address.',
  noneYetMakeOneHereOr: 'None yet. Make one here, or name it in the sheet of a product.',
  aNewCategory: 'A new category',
  add: 'Add',
  nameOf: (a: Said) => `Name of ${a}`,
  altAndAnArrowMovesIt: 'Alt and an arrow moves it',
  earlier: 'Earlier',
  later: 'Later',
  intoTheOneAbove: 'Nest under the one above',
  outOfTheOneItIs: 'Move out one level',
  removeItsProductsStay: (a: Said) => `Remove ${a}; its products stay`,
  removeItsProductsStay2: 'Remove; its products stay',
} as const;

/** goods/choices.ts */
export const choices = {
  inTheShop: 'In the shop',
  byLinkOnly: 'By link only',
  nobody: 'Nobody',
  standard: 'Standard',
  reduced: 'Reduced',
  zero: 'Zero',
  books: 'Books',
  digital: 'Digital',
} as const;

/** goods/bulk-bar.tsx */
export const bulkBar = {
  changePrices: 'Change prices',
  putOnOffer: 'Put on offer',
  endTheOffer: 'End the offer',
  putIntoACategory: 'Add to a category',
  takeOutOfACategory: 'Remove from a category',
  giveATag: 'Add a tag',
  takeATagAway: 'Remove a tag',
  whoSeesThem: 'Who sees them',
  badge: 'Badge',
  taxClass: 'Tax class',
  remove: 'Remove',
  changedAndLiveTheSlipHas: (a: number) => `${a} changed, and live. The slip has the undo.`,
  changeThoseTicked: 'Change those ticked',
  ticked: (a: number) => `${a} ticked`,
  whatToChange: 'What to change',
  how: 'How',
  byPerCent: 'by per cent',
  byAnAmount: 'by an amount',
  toAPrice: 'to a price',
  howMuch: 'How much',
  category: 'Category',
  tag: 'Tag',
  emptyTakesItAway: 'empty takes it away',
  endingIn: 'Ending in',
  endingAsItComes: 'not rounded',
  endingIn2: (a: string | number) => `ending in ${a}`,
  changing: 'Changing',
  change: 'Change',
  untick: 'Untick',
  itChangesNothing: 'It changes nothing.',
  wouldChange: (a: number, b: Said) => `${a} would change${b}.`,
  stayAsTheyAre: (a: number) => `, ${a} stay as they are`,
} as const;

/** goods/csv-panel.tsx */
export const csvPanel = {
  asItIs: 'as it is',
  takenInNewChangedTheSlip: (a: number, b: number) =>
    `Imported: ${a} new, ${b} changed. The slip has the undo.`,
  csvInAndOut: 'Import or export CSV',
  goodsAsCsv: 'Goods as CSV',
  withPicturesAsZip: 'with pictures, as ZIP',
  bringATableIn: 'Import a table',
  readingTheTable: 'Reading the table…',
  close: 'Close',
  column: (a: number) => `column ${a}`,
  leftAlone: 'ignored',
  newChangedAsTheyAre: (a: number, b: number, c: number) => `${a} new, ${b} changed, ${c} as they are`,
  refused: (a: number) => `, ${a} refused`,
  nothingIsTakenInYet: 'Nothing is imported yet.',
  line: 'line ',
  withoutAName: 'without a name',
  leaveTheRefusedOnesOut: 'Leave the refused ones out',
  takingIn: 'Importing',
  takeIn: (a: number) => `Import ${a}`,
} as const;

/** goods/use-goods.ts */
export const useGoods = {
  all: 'All',
  soldOut: 'Sold out',
  fewLeft: 'Few left',
  onOffer: 'On offer',
  byLinkOnly: 'By link only',
  hidden: 'Hidden',
  samples: 'Samples',
  byHand: 'By hand',
  name: 'Name',
  price: 'Price',
  stock: 'Stock',
  newest: 'Newest',
} as const;

/** goods/stock-list.tsx */
export const stockList = {
  stock: 'Stock',
  number: 'Number',
  whatYouTypeIsLiveAtOnce: 'What you type is live at once. Leave a field empty for what is not counted.',
  nothingIsCounted: 'There is nothing to count like that.',
  named: (product: string, variant: string) => `${product}, ${variant}`,
} as const;

/** goods/goods-table.tsx */
export const goodsTable = {
  goods: 'Goods',
  of: (a: number, b: number) => `${a} of ${b}`,
  csvInAndOut: 'Import or export CSV',
  tickAllThatAreShown: 'Tick all that are shown',
  name: 'Name',
  price: 'Price',
  priceBefore: 'Price before',
  stock: 'Stock',
  categories: 'Categories',
  whoSeesIt: 'Who sees it',
  aPriceIsNotBelowNought: 'Enter a price of 0 or more.',
  tick: (a: Said) => `Tick ${a}`,
  sample: 'sample',
  priceOf: (a: Said) => `Price of ${a}`,
  priceBeforeOf: (a: Said) => `Price before of ${a}`,
  none: 'none',
  stockOf: (a: Said) => `Stock of ${a}`,
  any: 'any',
  enterAWholeNumberOrLeave: 'Enter a whole number, or leave it empty if stock is not counted.',
  byItsParts: 'by its parts',
  in: (a: Said, b: number) => `${a} in ${b}`,
  whoSees: (a: Said) => `Who sees ${a}`,
  inTheShop: 'In the shop',
  byLinkOnly: 'By link only',
  nobody: 'Nobody',
  theSamplesAreGoneTheSlip: 'The samples are gone. The slip has the undo.',
  remove: (a: number, b: string | number) => `Remove ${a} ${b}`,
  samples: 'samples',
} as const;

/** goods/preview.tsx */
export const preview = {
  onTheSite: 'On the site',
  phone390: (a: string | number) => `${a}phone 390`,
  unsaved: 'unsaved, ',
  asAShopperMeetsIt: (a: Said) => `${a}, as a shopper meets it`,
  theNewProduct: 'The new product',
  nobodySeesItWhileItIs: 'Nobody sees it while it is hidden.',
  theProductStandsHereInYour:
    'The product stands here in your site’s own style as soon as it has a name and a price.',
  beingDrawn: (a: Said) => `${a}, being drawn`,
} as const;

/** goods/reviews-view.tsx */
export const reviewsView = {
  toRead: 'To read',
  shown: 'Shown',
  hidden: 'Hidden',
  fetchingTheReviews: 'Loading the reviews…',
  reviews: 'Reviews',
  whichReviews: 'Which reviews',
  nobodyHasWrittenYetBuyersFind:
    'Nobody has written yet. Buyers find the way to a review beside their order; only they can write one.',
  allAreRead: 'All are read.',
  noneAreHere: 'None are here.',
  yourAnswerStandsBeneathIt: 'Your answer stands beneath it.',
  shownAndLive: 'Shown, and live.',
  hiddenNobodySeesIt: 'Hidden: nobody sees it.',
  itWaitsToBeReadAgain: 'It waits to be read again.',
  undo: 'Undo',
  of5Stars: (a: number) => `${a} of 5 stars`,
  ofOrder: (a: string | number) => `of ${a}, order `,
  youAnswer: 'You answer',
  yourAnswerForAllToRead: 'Your answer, for all to read',
  showIt: 'Show it',
  hideIt: 'Hide it',
  changeTheAnswer: 'Change the answer',
  answer: 'Answer',
  putItBeneath: 'Publish the answer',
  takeTheAnswerAway: 'Remove the answer',
  leaveIt: 'Not now',
} as const;

/** goods/form.ts */
export const form = {
  aPriceIsNotBelowNought: 'Enter a price of 0 or more.',
  enterAWeightLike3501: 'Enter a weight like 350, 1.2 kg, 12 oz or 2 lb.',
  giveItANameShoppersSearch: 'Give it a name; shoppers search by it.',
  enterWhatItCostsThereOr: 'Enter what it costs there, or 0.',
  writeThePriceInFiguresLike: (a: Said) => `Enter a price, like ${a}.`,
  thePriceBeforeIsMoreThan:
    'The price before is more than the price now; leave it empty where there is none.',
  enterHowManyLettersFit: 'Enter how many characters fit.',
  sayWhomThePriceIsFor: 'Say whom the price is for, like Members.',
  enterThePriceForThisLink: 'Enter the price for this link.',
  enterAWholeNumberOrLeave: 'Enter a whole number, or leave it empty if stock is not counted.',
  enterAWholeNumber: 'Enter a whole number.',
  enterWholeMonths: 'Enter whole months.',
  enterAWholeNumberOrNothing: 'Enter a whole number, or nothing.',
  enterWholeDaysOrNothing: 'Enter whole days, or nothing.',
  thisCannotBeKept: 'This cannot be saved. Look at the fields again.',
  enterANumberFrom1To: 'Enter a number from 1 to 100.',
  enterHowMuchOnePieceHolds: 'Enter how much one piece holds, in figures.',
} as const;

/** goods/rich-editor.tsx */
export const richEditor = {
  bold: 'Bold',
  italic: 'Italic',
  heading: 'Heading',
  list: 'List',
  numberedList: 'Numbered list',
  link: 'Link',
  formOfTheText: 'Formatting',
  addressTheLinkLeadsToEnter: 'Address the link leads to; Enter sets it',
} as const;

/** goods/files-field.tsx */
export const filesField = {
  files: 'Files',
  buyersGetThemAtOnceEach: 'Buyers get them at once; each address works in their browser alone.',
  eachFileAtMost: 'Each file, at most',
  times: 'times',
  asOftenAsWished: 'as often as wished',
  within: 'Within',
  days: 'days',
  forEver: 'for ever',
  whoeverBuysItNowGetsNothing: 'Whoever buys it now gets nothing:',
  thereIsNoFileYet: ' there is no file yet.',
  aNewerRelease: 'Add a newer release',
  aFirstRelease: 'Add a release',
  unnamed: 'unnamed',
  n1File: '1 file',
  files2: (a: number) => `${a} files`,
  theOneBuyersMeetFirst: ', the one buyers meet first',
  release: 'Release',
  cameOut: 'Came out',
  whoGets: (a: Said) => `Who gets ${a}`,
  everyBuyer: 'every buyer',
  only: (a: string | number) => `only ${a}`,
  takeOut: (a: Said) => `Remove ${a}`,
  filesUpToGbEach: (a: number) => `Files, up to ${a} GB each`,
  whatIsNewInItShoppers: 'What is new in it; shoppers read it in the release notes',
  opening: 'Opening…',
  whatIsNewIn: (a: Said) => `What is new in ${a}`,
  thisRelease: 'this release',
  takeReleaseAway: (a: string | number) => `Remove release ${a}`,
  sentSoFar: (a: Said) => `${a}, sent so far`,
  of: (a: string | number, b: string | number) => `${a} of ${b}`,
  stop: 'Stop',
} as const;

/** goods/kind-fields.tsx */
export const kindFields = {
  begins: 'Begins',
  ends: 'Ends',
  place: 'Place',
  theWillowShed: 'The willow shed',
  address: 'Address',
  whereItIsSold: 'Where it is sold',
  https: 'https://',
  whoSellsIt: 'Who sells it',
  chargedEvery: 'Charged every',
  of: 'Of',
  weeks: 'weeks',
  months: 'months',
  years: 'years',
  holds: 'Holds',
  forEver: 'for ever',
  aPart: 'A part',
  inIt: 'What is in it',
  howManyOf: (a: Said) => `How many of ${a}`,
  noLongerAmongTheGoods: 'no longer among the goods',
  hidden: 'hidden',
  inStock: (a: string | number) => `${a} in stock`,
  any: 'any',
  takeOut: (a: Said) => `Remove ${a}`,
  putIntoTheBundle: 'Add to the bundle',
  putSomethingIntoIt: 'Add a product…',
  notSoldNowSoNobodyCan: (a: string | number, b: string | number, c: string | number, d: string | number) =>
    `${a} ${b} not sold now, so nobody can buy this bundle: shoppers read that it is not available at the moment. Show ${c} again, or remove ${d} from the bundle.`,
  is: 'is',
  are: 'are',
  it: 'it',
  them: 'them',
  itsPartsAreNotCountedSo: 'Its parts are not counted, so it never sells out.',
  canBeMadeOfWhatThere: (a: number, b: Said) =>
    `${a} ${b} can be made of what there is: its stock follows its parts.`,
} as const;

/** goods/ledger.tsx */
export const ledger = {
  cameIn: 'delivered',
  putRight: 'corrected',
  cameBack: 'returned',
  whyTheCountIsWhatIt: 'Stock history',
  nothingHasBeenCountedOrSold: 'Nothing has been counted or sold yet.',
  when: 'When',
  what: 'What',
  choice: 'Choice',
  by: 'By',
  left: 'Left',
  noLongerSold: 'no longer sold',
  cameIn2: 'Delivered',
  cameBack2: 'Returned',
  damagedOrLost: 'Damaged or lost',
  putRight2: 'Corrected',
  bookedAndLiveTheSlipHas: 'Recorded, and live. The slip has the undo.',
  which: 'Which choice',
  whatHappened: 'What happened',
  pieces: 'Pieces',
  note: 'Note',
  forYourself: 'for yourself',
  bookIt: 'Record it',
  thereAreNotSoMany: 'There are not that many in stock.',
  leaves: (a: number) => `Leaves ${a}.`,
} as const;

/** goods/film-field.tsx */
export const filmField = {
  takeOut: (a: Said) => `Remove ${a}`,
  addressOfTheFilmNothingIs: 'Address of the film; nothing is asked of it before the shopper presses',
  https: 'https://',
  orAFilmOfYourOwn: 'Or a film of your own: MP4 or WebM',
} as const;

/** goods/link-prices.tsx */
export const linkPrices = {
  pricesByLink: 'Prices by link',
  whoeverOpensTheLinkBuysThis:
    'Whoever opens the link buys this product at its price, from the same stock. Offers do not come on top. Variants keep their difference; those with a price of their own change by the same per cent.',
  for: 'For',
  members: 'Members',
  price: 'Price',
  theLinkForIsCopied: (a: Said) => `The link for ${a} is copied.`,
  copyLink: 'Copy link',
  itsLinkIsThereOnceThis: 'Its link is there once this is saved.',
  removeThePriceFor: (a: Said) => `Remove the price for ${a}`,
  thisLink: 'this link',
  addAPriceByLink: 'Add a price by link',
} as const;

/** goods/use-site-font.ts */
export const useSiteFont = {
  ofTheSite: (a: Said) => `of the site: ${a}`,
} as const;

/** goods/more-fields.tsx */
export const moreFields = {
  soldOutAndFewLeft: 'Sold out and few left',
  shoppersReadSoldOut: 'shoppers read “sold out”',
  soldOnAllTheSame: 'sold all the same',
  toBeOrderedAheadExpected: (a: Said) => `pre-order, expected ${a}`,
  toBeOrderedAhead: 'pre-order',
  atNought: 'When stock is 0',
  soldOut: 'Sold out',
  sellOn: 'Keep selling',
  orderAhead: 'Pre-order',
  expected: 'Expected on',
  fewAre: 'Low stock is',
  orFewer: 'or fewer',
  whatTheBuyerWrites: 'Texts the buyer writes',
  asksFor: 'Asks for',
  initialsOnTheTag: 'Initials on the tag',
  upTo: 'Up to',
  letters: 'characters',
  costs: 'Costs',
  nothing: 'nothing',
  mustBeWritten: 'Required',
  takeOut: (a: Said) => `Remove ${a}`,
  thisText: 'this text',
  aTextLikeInitials: 'Add a text, like initials',
  sections: 'Sections',
  titleOfTheSection: 'Title of the section',
  care: 'Care',
  takeOutTheSection: (a: Said) => `Remove the section ${a}`,
  opening: 'Opening…',
  textOf: (a: Said) => `Text of ${a}`,
  theSection: 'the section',
  sizes: 'Sizes',
  delivery: 'Delivery',
  returns: 'Returns',
  howItIsFound: 'How it is found',
  categoriesWithCommasBetweenOneInside:
    'Categories, with commas between; one inside another as Baskets / Trugs',
  tagsWithCommasBetween: 'Tags, with commas between',
  otherWordsItIsSearchedBy: 'Other words to find it by',
  addressTheFormerOneLeadsOn: 'Address; the old one redirects',
  madeFromTheName: 'made from the name',
  goesWellWithIt: 'Related products',
  chosenByHand: (a: number) => `${a} chosen by hand`,
  thoseThatShareItsCategories: 'those that share its categories',
  addARelatedProduct: 'Add a related product',
  chooseByHand: 'Choose by hand…',
  film: 'Film',
  loadedOnlyWhenTheShopperAsks: 'loaded only when the shopper asks',
  badge: 'Badge',
  noneAnOfferShowsItsPer: 'none; an offer shows its per cent',
  needsOfPxInFitsThe: (a: number, b: number, c: Said) =>
    `Needs ${a} of ${b} px in ${c}: fits the narrowest card.`,
  aUsualFont: 'a usual font',
  needsPxInAndTheNarrowest: (a: number, b: Said, c: number) =>
    `Needs ${a} px in ${b}, and the narrowest card has ${c}: shorten it.`,
} as const;

/** goods/options-field.tsx */
export const optionsField = {
  size: 'Size',
  colour: 'Colour',
  material: 'Material',
  option: 'Option',
  one: 'One',
  anotherOption: 'Add an option',
  optionsLikeSizeOrColour: 'Add options, like size or colour',
  choice: 'choice',
  choices: 'choices',
  nameOfTheOption: 'Name of the option',
  colourOf: (a: Said) => `Colour of ${a}`,
  value: (a: Said, b: number) => `${a}: value ${b}`,
  takeOut: (a: Said, b: Said) => `Remove ${a} ${b}`,
  another: (a: Said) => `Another ${a}`,
  asColours: 'as colours',
  asWords: 'as words',
  takeOutTheOption: (a: Said) => `Remove the option ${a}`,
} as const;

/** goods/pictures-field.tsx */
export const picturesField = {
  pictures: 'Pictures',
  picture: (a: number, b: Said) => `Picture ${a}: ${b}`,
  noWordsYet: 'no alternative text yet',
  dropPicturesOrPressToChoose: 'Drop pictures, or press to choose',
  picture2: 'Picture',
  takingInPictureOf: (a: number, b: number) => `Uploading picture ${a} of ${b}`,
  inWordsForThoseWhoCannot: 'Alternative text, for those who cannot see it',
  pressThePictureOrMoveThe:
    'Press the picture, or move the point by arrow keys: it stays in view where the picture is cropped.',
  earlier: 'Earlier',
  later: 'Later',
  takeOut: 'Remove',
  pointThatStaysInViewFrom: (a: number, b: number) =>
    `Point that stays in view: ${a} % from the left, ${b} % from the top`,
} as const;

/** goods/price-box.tsx */
export const priceBox = {
  atLeast: 'At least',
  price: 'Price',
  priceBefore: 'Price before',
  none: 'none',
  cost: 'Cost',
  youKeep: 'You keep',
  tax: (a: number, b: Said) => `tax ${a}% ${b}`,
  noTaxInside: 'no tax inside',
  cost2: (a: string | number) => `cost ${a}`,
  enterWhatItCostsYouAnd: (a: string | number) =>
    `Enter what it costs you, and what you keep stands here${a}.`,
  afterTax: (a: number) => `, after ${a}% tax`,
  anOffer: (a: string | number) => `An offer${a}`,
  off: (a: Said, b: number) => `: ${a}, ${b} % off`,
  theBuyerNamesTheAmount: 'The buyer names the amount',
  pricePerUnit: (a: string | number) => `Price per unit${a}`,
  per: (a: Said, b: Said) => `: ${a} per ${b}`,
  perCentOff: 'Per cent off',
  amountOff: 'Amount off',
  takesOff: 'Takes off',
  perCent: 'Per cent',
  anAmount: 'An amount',
  from: 'From',
  until: 'Until',
  shoppersSeeTheLowestPriceOf:
    'Shoppers see the lowest price of the 30 days before beside it, and never a higher one struck through (Directive 98/6/EC, Article 6a).',
  onePieceHolds: 'One piece holds',
  of: 'Of',
  grams: 'grams',
  kilograms: 'kilograms',
  millilitres: 'millilitres',
  centilitres: 'centilitres',
  litres: 'litres',
  centimetres: 'centimetres',
  metres: 'metres',
  squareMetres: 'square metres',
  pieces: 'pieces',
  amountsOfferedForAPressWith: 'Suggested amounts, with spaces between',
} as const;

/** goods/variant-grid.tsx */
export const variantGrid = {
  difference: 'Difference',
  price: 'Price',
  stock: 'Stock',
  grams: 'Grams',
  any: 'any',
  fillDown: (a: string | number) => `Fill ${a} down`,
  gtins: 'GTINs',
  soldOut: (a: string | number, b: string | number) => `${a} ${b} sold out.`,
  is: 'is',
  are: 'are',
  low: (a: string | number, b: string | number) => `${a} ${b} low.`,
  shoppersAreTold: 'Shoppers are told.',
  nobodyCanBuyThisEveryChoice: 'Nobody can buy this: stock is 0 for every choice.',
  shoppersReadSoldOutIfYou: ' Shoppers read “sold out”. If you did not mean that:',
  setAllToUncounted: 'Stop counting stock',
  countThem: 'Enter the counts',
  sellOnAnyway: 'Keep selling',
} as const;

/** goods/sheet.tsx */
export const sheet = {
  someFieldsNeedAnotherLook: 'Some fields need another look.',
  isSavedAndLive: (a: Said) => `${a} is saved, and live.`,
  name: 'Name',
  whatIsItCalled: 'What is it called?',
  aNewProduct: 'a new product',
  sample: 'sample',
  itsLinkIsCopied: 'Its link is copied.',
  copyLink: 'Copy link',
  whatItIs: 'What it is',
  whoSeesIt: 'Who sees it',
  taxClass: 'Tax class',
  description: 'Description',
  opening: 'Opening…',
  options: 'Options',
  saving: 'Saving',
  save: 'Save',
  addToTheGoods: 'Add to the goods',
  undo: 'Undo',
  backToWhatIsSaved: 'Reset',
  anotherLook: (a: Said) => `${a} another look.`,
  oneFieldNeeds: 'One field needs',
  fieldsNeed: (a: number) => `${a} fields need`,
  savedWhenTheFileIsHere: 'A file is on its way; it is saved when the file is here.',
  goesLiveWhenYouSave: 'Goes live when you save.',
  savedAndLive: 'Saved, and live.',
  copiedTheCopyIsHiddenUntil: 'Copied. The copy is hidden until you show it.',
  duplicate: 'Duplicate',
  removedTheSlipHasTheUndo: 'Removed. The slip has the undo.',
  remove: 'Remove',
  seatsLeft: 'Seats left',
  inStock: 'In stock',
  uncounted: 'not counted',
  sku: 'SKU',
  gtin: 'GTIN',
  weight: 'Weight',
  shoppersReadSoldOut: 'Shoppers read “sold out”.',
  emptyStockIsNotCountedAnd: 'Empty: stock is not counted, and it never sells out.',
  shoppersAreToldWhenOrFewer: (a: Said) => `Shoppers are told when ${a} or fewer are left.`,
} as const;

/** goods/goods.tsx */
export const goods = {
  fetchingTheGoods: 'Loading the goods…',
  goods: 'Goods',
  of: (a: number, b: number) => `${a} of ${b}`,
  add: 'Add',
  nothingYetNameTheFirstThing:
    'Nothing yet. Name the first thing you sell, and what it costs. Or look at the shop with a few samples first: they are marked, and go at one press.',
  noneOfTheGoodsIsLike: 'None of the goods is like that.',
  showAll: 'Show all',
  findGoods: 'Find goods',
  find: 'Find',
  showOnly: 'Show only',
  category: 'Category',
  order: 'Order',
  dragItOrMoveItWith: 'Drag it, or move it with Alt and an arrow key',
  byLinkOnly: 'by link only',
  aPartIsHidden: 'a part is hidden',
  soldOut: 'sold out',
  soldOut2: (a: number) => `, ${a} sold out`,
  fewLeft: ', few left',
  notCounted: 'not counted',
  seatsLeft: (a: number) => `${a} seats left`,
  inStock: (a: number) => `${a} in stock`,
  opening: (a: string | number) => `Opening ${a}…`,
  puttingThemIn: 'Adding them',
  putInFourSamples: 'Add four samples',
} as const;
