import { type Html, html } from './html';
import { type OrderBrief, orderBrief } from './order-brief';
import { fill, type StepWords, type Words } from './words';

/** Something that is charged again: what, how much how often, and how it goes on. */
export interface SubscriptionBrief {
  readonly id: string;
  readonly name: string;
  readonly price: string;
  /** "Charged next on 1 January 2027", or that it was stopped. */
  readonly says: string;
  readonly running: boolean;
}

/** What the account page shows: the question for an address, that a letter is on its way, the last press, or the orders. */
export type AccountView = { readonly action: string; readonly problem?: string } & (
  | { readonly shows: 'question'; readonly email: string }
  | { readonly shows: 'sent'; readonly email: string; readonly minutes: number }
  | { readonly shows: 'link'; readonly email: string }
  | { readonly shows: 'orders'; readonly email: string; readonly orders: readonly OrderBrief[]; readonly subscriptions: readonly SubscriptionBrief[] }
);

/** A shopper's own orders, and the way to them. `data-send` forms are sent by the page's script where there is one. */
export function accountFragment(v: AccountView, w: Words, s: StepWords): Html {
  const alert = !!v.problem && html`<p class="stall-alert" role="alert">${v.problem}</p>`;
  if (v.shows === 'sent') return html`<div class="stall-account"><p class="stall-lead" role="status">${fill(s.linkSent, { x: v.email, n: v.minutes })}</p></div>`;
  if (v.shows === 'link') return html`<form class="stall-account" method="post" action="${v.action}"><p>${fill(s.openHere, { x: v.email })}</p><p><button class="stall-button">${s.openOrders}</button></p></form>`;
  if (v.shows === 'question') {
    return html`<form class="stall-account" method="post" action="${v.action}" data-send novalidate>${alert}<p id="stall-ask">${s.askLink}</p>
<div class="stall-field"><label for="stall-email">${s.email}</label><input id="stall-email" name="email" type="email" required value="${v.email}" autocomplete="email" aria-describedby="stall-ask"></div><p><button class="stall-button">${s.sendLink}</button></p></form>`;
  }
  return html`<div class="stall-account">${alert}<div class="stall-actions"><p>${fill(s.ordersOf, { x: v.email })}</p><form method="post" action="${v.action}" data-send><button class="stall-plain" name="leave" value="1">${s.signOut}</button></form></div>
${v.subscriptions.length > 0 && html`<ul class="stall-file-list">${v.subscriptions.map((x) => html`<li><div><strong>${x.name}</strong><span class="stall-muted">${x.price} \u00b7 ${x.says}</span></div>${x.running && html`<form method="post" action="${v.action}" data-send><button class="stall-plain" name="stop" value="${x.id}" aria-label="${fill(s.stopNamed, { x: x.name })}">${s.stop}</button></form>`}</li>`)}</ul>`}
${v.orders.length === 0 ? html`<p class="stall-lead">${s.noOrders}</p>` : html`<ol class="stall-orders">${v.orders.map((o) => html`<li>${orderBrief(o, w, s)}</li>`)}</ol>`}</div>`;
}
