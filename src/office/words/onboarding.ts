import type { Said } from './said';

/** What the office says: onboarding. */

/** onboarding/: screen, sign-in, password-screens */
export const screens = {
  greenStall: 'Green Stall',
  slip: 'Slip',
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
  openTheOffice: 'Open the office',
  passwordForgotten: 'Password forgotten?',
  yourCode: 'Your code',
  yourTelephoneShowsSixDigits:
    'This account has a second factor. Enter the six digits that your telephone shows now.',
  code: 'Code',
  withoutTheTelephone: 'Without the telephone, one of the spare codes does as well. Each works once.',
  backToThePassword: 'Back to the password',
  lookIntoYourMail: 'Look into your mail',
  noLettersAreSent: 'No letters are sent here',
  ifThereIsAnAccount:
    'If there is an account with this address, a letter is on its way to it. Its link works for an hour.',
  whoRunsTheProgramCan:
    'No mail server is set, so no letter can come. Whoever runs the program can make a link with “bin/stall new-password ADDRESS”.',
  backToSignIn: 'Back to sign in',
  aNewPassword: 'A new password',
  sayYourAddress:
    'Say the address that you sign in with. A letter brings you a link, with which you choose a new password.',
  sendTheLetter: 'Send the letter',
  whoeverIsSignedInIsSignedOut:
    'Whoever is signed in with the old password, on whatever machine, is signed out.',
  newPassword: 'New password',
  setThePassword: 'Set the password',
  youAreAskedIn: 'You are asked in',
  youComeInAs: (email: string, role: string) =>
    `You come in with the address ${email}, as ${role}. This link works once.`,
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
  askingTheSite: 'Asking the site',
  enterTheAddress: 'Enter the address of your site.',
  itsAddress: 'Its address',
  readThereYouPaste: 'read there; you paste code',
  anAddress: 'https://www.example.org/',
  theSitesAddress: 'The site’s address',
  itsPagesAreReadAsVisitors:
    'For a site that only its own editor can change. Its pages are read as visitors get them, a few at a time and as its robots.txt asks. Nothing is written there: you get one list of code to paste, and each piece is looked for where it belongs.',
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
