import { type Html, html } from './html';
import type { Words } from './words';

/** An order as its buyer sees it: texts are ready, money is formatted. */
export interface OrderBrief {
  readonly number: string;
  readonly day: string;
  readonly state: 'waiting' | 'paid' | 'failed';
  readonly total: string;
  readonly lines: readonly { readonly name: string; readonly quantity: number; readonly amount: string }[];
}

/** One order: how it stands, what was bought, what was paid. */
export const orderBrief = (o: OrderBrief, w: Words): Html =>
  html`<p class="stall-lead"><strong>${o.number}</strong>: ${o.state === 'paid' ? w.paid : o.state === 'waiting' ? w.waiting : w.declined}</p><p class="stall-muted">${w.ordered} ${o.day}</p>
<ul class="stall-brief">${o.lines.map((l) => html`<li><span>${l.quantity} &times; ${l.name}</span><span>${l.amount}</span></li>`)}</ul><dl class="stall-steps"><div class="stall-total"><dt>${w.total}</dt><dd>${o.total}</dd></div></dl>`;
