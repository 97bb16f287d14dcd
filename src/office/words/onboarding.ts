import type { Said } from './said';

/** What the office says: onboarding. */

/** onboarding/screens.tsx */
export const screens = {
  greenStall: 'Green Stall',
  slip: 'Slip',
  thatWasTooManyTriesWait: 'That was too many tries. Wait a minute, then try again.',
  eMailAndPasswordDoNot: 'E-mail and password do not fit together. Try again.',
  theOfficeDoesNotAnswerCheck: 'The office does not answer. Check that Green Stall is running.',
  comeIn: 'Sign in',
  theOfficeIsWhereYouPlace:
    'The office is where you place widgets on your pages, keep your goods and see your orders.',
  buyButtonAdded: 'Buy button added',
  everyPage: 'Every page',
  cartAddedToTheHeader: 'Cart added to the header',
  berryTrug: 'Berry trug',
  priceChanged: 'Price changed',
  eMail: 'E-mail',
  password: 'Password',
  opening: 'Opening',
  signIn: 'Sign in',
  thisIsTheDemoItsOwner: 'This is the demo. Its owner is ',
  withThePassword: ', with the password ',
  theOfficeIsYours: 'The office is yours',
  thisLinkWorksOnceSayWho:
    'This link works once. Say who you are; after this you sign in with e-mail and password.',
  next: 'Next',
  connectTheWebsiteYouHave: 'Connect the website you have',
  andThen: 'Then',
  addWhatYouSell: 'Add what you sell',
  putAButtonOnAPage: 'Put a button on a page',
  yourName: 'Your name',
  atLeast10CharactersFourWords:
    'At least 10 characters; four words that nobody would guess are easy to keep.',
  openTheOffice: 'Open the office',
} as const;

/** onboarding/connect.tsx */
export const connect = {
  chooseTheZipOfYourSite: 'Choose the ZIP of your site first.',
  enterWhereTheFolderIs: 'Enter where the folder is.',
  sendingTheZip: 'Sending the ZIP',
  openingTheFolder: 'Opening the folder',
  thatDidNotWorkNothingWas: 'That did not work. Nothing was kept; please try again.',
  stoppedNothingWasKept: 'Stopped. Nothing was kept.',
  theOfficeDoesNotAnswerCheck: 'The office does not answer. Check that Green Stall is running.',
  connectYourWebsite: 'Connect your website',
  yourPagesAreReadNotChanged:
    'Your pages are read, not changed. Nothing goes live until you press Publish, and everything can be taken out again, byte for byte.',
  yourSite: 'Your site',
  readPageByPage: 'read, page by page',
  yourMenu: 'Your menu',
  keptInItsOrder: 'kept in its order',
  yourFiles: 'Your files',
  untouched: 'untouched',
  whereTheSiteIs: 'Where the site is',
  aZipOfIt: 'A ZIP of it',
  uploadedHere: 'uploaded here',
  aFolder: 'A folder',
  onThisMachineWrittenInPlace: 'on this machine, written in place',
  theZip: 'The ZIP',
  theFoldersWholePath: "The folder's whole path",
  mySite: (a: Said) => `${a}/my-site`,
  itLiesIn: (a: string | number) => `It lies in ${a}.`,
  pricesAreIn: 'Prices are in',
  asYourPagesSay: (usual: string) => `What your pages say, else ${usual}`,
  theSitesAddressNow: "The site's address now",
  emptyTheMakeBelieveHostOf: 'empty: the make-believe host of this demo',
  stop: 'Stop',
  readTheSite: 'Read the site',
} as const;
