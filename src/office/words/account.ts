import type { ActivityDetail, RecordedRoute } from '../../contract/rights';
import type { Role } from '../../core/people/roles';

/** What the office says: accounts, people, and who did what. */

export const roleNames: Readonly<Record<Role, string>> = {
  owner: 'owner',
  helper: 'helper',
  bookkeeper: 'bookkeeper',
};

export const roleNotes: Readonly<Record<Role, string>> = {
  owner: 'Everything: pages, goods, till, money, people.',
  helper: 'Packs and sends orders, writes notes, counts stock. No prices, no pages, no money back.',
  bookkeeper: 'Reads orders, takings and papers. Changes nothing.',
};

/** account/account-page.tsx */
export const accountPage = {
  account: 'Account',
  greenStall: 'Green Stall',
  backToTheShop: 'Back to the shop',
  parts: 'Parts of the account',
  yourWayIn: 'Your way in',
  passwordCodesBrowsers: 'password, second factor',
  whereYouAre: 'Where you are',
  browsersThatAreSignedIn: 'browsers signed in',
  people: 'People',
  whoMayComeIn: 'who may come in',
  whoDidWhat: 'Who did what',
  thirteenMonths: 'for thirteen months',
  signOut: 'Sign out',
} as const;

/** account/password-form.tsx */
export const passwordForm = {
  password: 'Password',
  everybodyElseIsSignedOut: 'When it is changed, every other browser that is signed in as you is signed out.',
  today: 'Your password today',
  next: 'New password',
  change: 'Change the password',
  changed: 'The password is changed. Other browsers are signed out.',
} as const;

/** account/second-factor.tsx */
export const secondFactor = {
  secondFactor: 'Second factor',
  on: 'on',
  off: 'off',
  whatItIs:
    'Beside your password, signing in asks for six digits that your telephone shows. Whoever guesses or finds your password still stays outside.',
  anyApp: 'Any app for one-time codes does (RFC 6238).',
  yourPassword: 'Your password',
  setItUp: 'Set it up',
  scan: 'Scan this with the app on your telephone.',
  picture: 'The secret as a picture for the app',
  orType: 'Or type this secret into it:',
  spareCodes: 'Spare codes',
  keepThem:
    'Keep these where you do not keep your telephone. Each signs you in once. They are not shown again.',
  copy: 'Copy the codes',
  copied: 'The codes are copied.',
  codeNow: 'The code it shows now',
  turnOn: 'Turn it on',
  isOn: 'The second factor is on.',
  turnOff: 'Turn it off',
  isOff: 'The second factor is off.',
  signInAsks: 'Signing in asks for a code. To change the telephone, turn it off and set it up anew.',
  stop: 'Not now',
} as const;

/** account/sessions.tsx */
export const sessions = {
  whereYouAre: 'Where you are signed in',
  thisBrowser: 'this browser',
  since: (at: string) => `since ${at}`,
  from: (address: string) => `from ${address}`,
  unknownBrowser: 'a program that does not say what it is',
  browserOn: (browser: string, system: string) => `${browser} on ${system}`,
  signOut: 'Sign out',
  signOutOf: (browser: string) => `Sign out of ${browser}`,
  all: 'Sign out everywhere else',
  gone: (n: number) => (n === 1 ? 'One browser is signed out.' : `${n} browsers are signed out.`),
  fetching: 'Looking where you are signed in…',
} as const;

/** account/people.tsx */
export const people = {
  people: 'People',
  name: 'Name',
  mayDo: 'May do',
  lastSeen: 'Last seen',
  never: 'never',
  you: 'you',
  hasSecondFactor: 'second factor',
  roleOf: (name: string) => `What ${name} may do`,
  remove: 'Remove',
  removeNamed: (name: string) => `Remove ${name}`,
  sure: (name: string) => `Remove ${name}? They are signed out at once. What they did stays written down.`,
  keep: 'Keep',
  removed: (name: string) => `${name} is removed.`,
  roleChanged: (name: string, role: string) => `${name} is ${role} now.`,
  invited: 'Asked in',
  until: (day: string) => `until ${day}`,
  takeBack: 'Take back',
  takeBackOf: (email: string) => `Take back the invitation of ${email}`,
  takenBack: 'The invitation is taken back.',
  askSomebodyIn: 'Ask somebody in',
  eMail: 'E-mail',
  as: 'As',
  invite: 'Make the invitation',
  linkSent: (email: string) =>
    `A letter with this link is on its way to ${email}. It works once, for seven days.`,
  linkToGive: (email: string) =>
    `Give this link to ${email}. It works once, for seven days, and is not shown again.`,
  link: 'Link of the invitation',
  copy: 'Copy',
  copied: 'The link is copied.',
  fetching: 'Looking who may come in…',
} as const;

/** account/activity.tsx */
export const activityView = {
  whoDidWhat: 'Who did what',
  nothingYet: 'Nothing yet.',
  more: 'Show earlier ones',
  fetching: 'Looking who did what…',
  nobody: 'Somebody outside',
} as const;

/** What was done, by the route of the contract that did it. The compiler names a route without words. */
const routeWords: Readonly<Record<RecordedRoute, string>> = {
  'POST placements': 'placed a widget',
  'PATCH placements/:id': 'changed a widget',
  'POST placements/change': 'undid or redid on the bench',
  'DELETE placements/:id': 'removed a widget',
  'PUT menu': 'changed the menu',
  'POST selling': 'added selling',
  'POST selling/cart': 'moved the cart',
  'PATCH selling': 'changed the shop page',
  'DELETE arrived': 'stopped looking after pasted code',
  'POST look': 'changed the look',
  'POST look/drift': 'answered a change of the site’s look',
  'POST checks/mend': 'mended what the checks found',
  'POST checks/leave': 'left a finding as it is',
  'POST slip': 'undid a line of the slip',
  'POST publish': 'published',
  'POST put-up': 'put the published site up again',
  'PUT live-address': 'said where the site lives',
  'PUT hand-out': 'said what the host takes',
  'POST newer': 'brought a newer version of the site',
  'DELETE publications': 'took the shop out of the site',
  'POST publications/:id': 'went back to an earlier slip',
  'POST goods': 'added a product',
  'PUT goods/:id': 'changed a product',
  'DELETE goods/:id': 'removed a product',
  'POST goods/:id/copy': 'copied a product',
  'POST goods/:id/move': 'moved a product in the list',
  'POST goods/bulk': 'changed many products',
  'POST goods/samples': 'added sample goods',
  'POST goods/csv/take': 'took in a table of goods',
  'POST categories': 'changed the categories',
  'PUT reviews/:id': 'decided about a review',
  'PUT till': 'changed the till',
  'PATCH till': 'changed the basics of the till',
  'DELETE orders': 'removed the test orders',
  'POST orders/:id': 'worked on an order',
  'POST orders/:id/surplus': 'sent surplus money back',
  'POST orders/:id/downloads': 'sent the files of an order again',
  'PUT subscriptions/:id': 'stopped or resumed a subscription',
};

/** What was done more exactly than its route says. */
const activityDetails: Readonly<Record<ActivityDetail, string>> = {
  'mark-paid': 'marked as paid: order',
  accept: 'accepted order',
  pack: 'packed order',
  send: 'sent order',
  collect: 'handed over order',
  refund: 'refunded order',
  cancel: 'cancelled order',
  'take-back': 'took the last step back of order',
  note: 'wrote a note on order',
  counted: 'counted',
};

/** The same for what was done about accounts. */
const accountActivity: Readonly<Record<string, string>> = {
  'POST sign-in': 'signed in',
  'wrong password': 'tried a wrong password as',
  'new password by letter': 'set a new password by letter',
  'PUT password': 'changed their password',
  'PUT second-factor': 'turned on a second factor',
  'DELETE second-factor': 'turned off their second factor',
  'DELETE sessions': 'signed out other browsers',
  'POST people': 'asked in',
  'POST join': 'came in for the first time',
  'PATCH people/:id': 'changed what somebody may do:',
  'DELETE people/:id': 'removed',
  'DELETE invitations/:id': 'took back the invitation of',
};

/** What is written down, as it is said: whatever wrote it. */
export const activityWords: Readonly<Record<string, string>> = {
  ...routeWords,
  ...activityDetails,
  ...accountActivity,
};
