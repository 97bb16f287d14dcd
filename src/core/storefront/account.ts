import { type Html, html } from './html';
import { type OrderBrief, orderBrief } from './order-brief';
import { fill, type StepWords, type Words } from './words';

/** What the account page shows: the question for an address, that a letter is on its way, the last press, or the orders. */
export type AccountView = { readonly action: string; readonly problem?: string } & (
  | { readonly shows: 'question'; readonly email: string }
  | { readonly shows: 'sent'; readonly email: string; readonly minutes: number }
  | { readonly shows: 'link'; readonly email: string }
  | { readonly shows: 'orders'; readonly email: string; readonly orders: readonly OrderBrief[] }
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
${v.orders.length === 0 ? html`<p class="stall-lead">${s.noOrders}</p>` : html`<ol class="stall-orders">${v.orders.map((o) => html`<li>${orderBrief(o, w)}</li>`)}</ol>`}</div>`;
}
