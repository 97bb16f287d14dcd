import { heading } from './cards';
import { type Html, html } from './html';
import type { Words } from './words';

export interface LookupView {
  readonly heading: string;
  readonly level: number;
  readonly action: string;
  readonly number: string;
  readonly email: string;
  readonly problem: string;
  readonly order: { readonly number: string; readonly day: string; readonly state: 'waiting' | 'paid' | 'failed'; readonly total: string; readonly lines: readonly { readonly name: string; readonly quantity: number; readonly amount: string }[] } | null;
}

/** Where an order is, for whoever knows its number and the address it was ordered with. */
export function lookupFragment(v: LookupView, w: Words): Html {
  const o = v.order;
  return html`<section class="stall-lookup">${v.heading && heading(v.level, v.heading)}
${o ? html`<div role="status"><p class="stall-lead"><strong>${o.number}</strong>: ${o.state === 'paid' ? w.paid : o.state === 'waiting' ? w.waiting : w.declined}</p><p class="stall-muted">${w.ordered} ${o.day}</p>
<ul class="stall-brief">${o.lines.map((l) => html`<li><span>${l.quantity} &times; ${l.name}</span><span>${l.amount}</span></li>`)}</ul><dl class="stall-steps"><div class="stall-total"><dt>${w.total}</dt><dd>${o.total}</dd></div></dl></div>` : false}
<form method="post" action="${v.action}" data-send><div class="stall-fields">
<div class="stall-field stall-half"><label>${w.orderNumber}<input name="number" inputmode="numeric" required value="${v.number}" autocomplete="off"></label></div>
<div class="stall-field stall-half"><label>${w.email}<input name="email" type="email" required value="${v.email}" autocomplete="email"></label></div></div>
${v.problem && html`<p class="stall-alert" role="alert">${v.problem}</p>`}<p><button class="stall-button">${w.lookUp}</button></p></form></section>`;
}
