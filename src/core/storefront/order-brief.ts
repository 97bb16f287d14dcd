import { type Html, html } from './html';
import type { StepWords, Words } from './words';

/** An order as its buyer sees it: texts are ready, money is formatted. */
export interface OrderBrief {
  readonly number: string;
  readonly day: string;
  readonly state: 'waiting' | 'paid' | 'failed';
  readonly total: string;
  readonly lines: readonly { readonly name: string; readonly quantity: number; readonly amount: string; /** Where its buyer writes about it; '' before it is paid. */ readonly review: string }[];
  /** The way to the files that were bought; '' where there are none. */
  readonly files: string;
}

/** One order: how it stands, what was bought, what was paid. */
export const orderBrief = (o: OrderBrief, w: Words, s: StepWords): Html =>
  html`<p class="stall-lead"><strong>${o.number}</strong>: ${o.state === 'paid' ? w.paid : o.state === 'waiting' ? w.waiting : w.declined}</p><p class="stall-muted">${w.ordered} ${o.day}</p>
<ul class="stall-brief">${o.lines.map((l) => html`<li><span>${l.quantity} &times; ${l.name}${l.review && html` <a class="stall-small" href="${l.review}">${s.writeReview}</a>`}</span><span>${l.amount}</span></li>`)}</ul><dl class="stall-steps"><div class="stall-total"><dt>${w.total}</dt><dd>${o.total}</dd></div></dl>${o.files && html`<p><a class="stall-button" href="${o.files}">${s.files}</a></p>`}`;
