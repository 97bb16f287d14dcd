import { type Html, html } from './html';
import { type OrderBrief, orderBrief } from './order-brief';
import { fill, type StepWords, type Words } from '../languages/languages';

/** Something that is charged again: what, how much how often, and how it goes on. */
export interface SubscriptionBrief {
  readonly id: string;
  readonly name: string;
  readonly price: string;
  /** "Charged next on 1 January 2027", or that it was stopped. */
  readonly text: string;
  readonly running: boolean;
}

/** What the account page shows: the question for an address, that a letter is on its way, the last press, or the orders. */
export type AccountView = { readonly action: string; readonly problem?: string } & (
  | { readonly shows: 'question'; readonly email: string }
  | { readonly shows: 'sent'; readonly email: string; readonly minutes: number }
  | { readonly shows: 'link'; readonly email: string }
  | {
      readonly shows: 'orders';
      readonly email: string;
      readonly orders: readonly OrderBrief[];
      readonly subscriptions: readonly SubscriptionBrief[];
      readonly data: string;
      readonly hasPassword: boolean;
      readonly notice?: string;
      readonly erasing?: boolean;
    }
  | { readonly shows: 'erased' }
);

/** A shopper's own orders, and the way to them. `data-send` forms are sent by the page's script where there is one. */
export function accountFragment(v: AccountView, w: Words, s: StepWords): Html {
  const alert = !!v.problem && html`<p class="stall-alert" role="alert">${v.problem}</p>`;
  if (v.shows === 'sent')
    return html`<div class="stall-account"><p class="stall-lead" role="status">${fill(s.linkSent, { x: v.email, n: v.minutes })}</p></div>`;
  if (v.shows === 'link')
    return html`<form class="stall-account" method="post" action="${v.action}"><p>${fill(s.openHere, { x: v.email })}</p><p><button class="stall-button">${s.openOrders}</button></p></form>`;
  if (v.shows === 'erased')
    return html`<div class="stall-account"><p class="stall-lead" role="status">${s.erased}</p></div>`;
  if (v.shows === 'question') {
    return html`<form class="stall-account" method="post" action="${v.action}" data-send novalidate>${alert}<p id="stall-ask">${s.askLink}</p>
<div class="stall-field"><label for="stall-email">${s.email}</label><input id="stall-email" name="email" type="email" required value="${v.email}" autocomplete="email" aria-describedby="stall-ask"></div><div class="stall-field"><label for="stall-password">${s.passwordMay}</label><input id="stall-password" name="password" type="password" autocomplete="current-password"></div><p class="stall-actions"><button class="stall-button">${s.sendLink}</button> <button class="stall-plain" name="by" value="password">${s.signInWith}</button></p></form>`;
  }
  return html`<div class="stall-account">${alert}<div class="stall-actions"><p>${fill(s.ordersOf, { x: v.email })}</p><form method="post" action="${v.action}" data-send><button class="stall-plain" name="leave" value="1">${s.signOut}</button></form></div>
${v.subscriptions.length > 0 && html`<ul class="stall-file-list">${v.subscriptions.map((x) => html`<li><div><strong>${x.name}</strong><span class="stall-muted">${x.price} \u00b7 ${x.text}</span></div>${x.running && html`<form method="post" action="${v.action}" data-send><button class="stall-plain" name="stop" value="${x.id}" aria-label="${fill(s.stopNamed, { x: x.name })}">${s.stop}</button></form>`}</li>`)}</ul>`}
${v.orders.length === 0 ? html`<p class="stall-lead">${s.noOrders}</p>` : html`<ol class="stall-orders">${v.orders.map((o) => html`<li>${orderBrief(o, w, s)}</li>`)}</ol>`}
${ownData(v, s)}</div>`;
}

/** A password, all that is kept to take along, and the way to have it erased: asked once more before it is. */
function ownData(v: Extract<AccountView, { shows: 'orders' }>, s: StepWords): Html {
  if (v.erasing)
    return html`<form class="stall-own-data" method="post" action="${v.action}" data-send><p class="stall-alert" role="alert">${s.eraseSure}</p><p class="stall-actions"><button class="stall-button" name="erase" value="yes">${s.eraseYes}</button> <button class="stall-plain" name="look" value="1">${s.yourOrders}</button></p></form>`;
  return html`<details class="stall-own-data"${!!v.notice && html` open`}><summary>${s.myData}</summary>${v.notice && html`<p role="status">${v.notice}</p>`}
<form method="post" action="${v.action}" data-send novalidate><div class="stall-field"><label for="stall-new-password">${s.newPassword}</label><div class="stall-beside"><input id="stall-new-password" name="new-password" type="password" minlength="10" autocomplete="new-password"><button class="stall-button">${s.setPassword}</button></div></div></form>
<div class="stall-actions">${v.hasPassword && html`<form method="post" action="${v.action}" data-send><button class="stall-plain" name="drop-password" value="1">${s.dropPassword}</button></form>`}<a href="${v.data}" download>${s.fetchData}</a><form method="post" action="${v.action}" data-send><button class="stall-plain" name="erase" value="ask">${s.eraseMe}</button></form></div></details>`;
}
