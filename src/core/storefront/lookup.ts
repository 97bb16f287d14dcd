import { heading } from './cards';
import { type Html, html } from './html';
import { type OrderBrief, orderBrief } from './order-brief';
import type { StepWords, Words } from '../languages/languages';

export interface LookupView {
  readonly heading: string;
  readonly level: number;
  readonly action: string;
  readonly number: string;
  readonly email: string;
  readonly problem: string;
  readonly order: OrderBrief | null;
  /** Where a link is asked for that opens what is worth something; '' where the order has nothing of it. */
  readonly more: string;
}

/** Where an order is, for whoever knows its number and the address it was ordered with. */
export function lookupFragment(v: LookupView, w: Words, s: StepWords): Html {
  return html`<section class="stall-lookup">${v.heading && heading(v.level, v.heading)}
${v.order ? html`<div role="status">${orderBrief(v.order, w, s)}${v.more && html`<p>${s.moreByMail} <a class="stall-way" href="${v.more}">${s.signIn}</a></p>`}</div>` : false}
<form method="post" action="${v.action}" data-send><div class="stall-fields">
<div class="stall-field stall-half"><label>${w.orderNumber}<input name="number" inputmode="numeric" required value="${v.number}" autocomplete="off"></label></div>
<div class="stall-field stall-half"><label>${w.email}<input name="email" type="email" required value="${v.email}" autocomplete="email"></label></div></div>
${v.problem && html`<p class="stall-alert" role="alert">${v.problem}</p>`}<p><button class="stall-button">${w.lookUp}</button></p></form></section>`;
}
