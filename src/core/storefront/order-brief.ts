import { type Html, html } from './html';
import type { StepWords, Words } from '../languages/languages';

/** An order as its buyer sees it: texts are ready, money is formatted. */
export interface OrderBrief {
  readonly number: string;
  readonly day: string;
  readonly state: 'waiting' | 'placed' | 'paid' | 'failed' | 'cancelled';
  /** How far it has come: packed, sent with its number, given back. */
  readonly progress: readonly string[];
  readonly total: string;
  readonly lines: readonly {
    readonly name: string;
    readonly quantity: number;
    readonly amount: string /** Where its buyer writes about it; '' before it is paid. */;
    readonly review: string;
  }[];
  /** The way to the files that were bought; '' where there are none. */
  readonly files: string;
}

const stateWords = (state: OrderBrief['state'], w: Words, s: StepWords): string =>
  ({ paid: w.paid, waiting: w.waiting, placed: w.waiting, failed: w.declined, cancelled: s.cancelled })[
    state
  ];

/** One order: how it stands, what was bought, what was paid. */
export const orderBrief = (o: OrderBrief, w: Words, s: StepWords): Html =>
  html`<p class="stall-lead"><strong>${o.number}</strong>: ${stateWords(o.state, w, s)}</p><p class="stall-muted">${w.ordered} ${o.day}</p>${o.progress.length > 0 && html`<ul class="stall-progress">${o.progress.map((x) => html`<li>${x}</li>`)}</ul>`}
<ul class="stall-brief">${o.lines.map((l) => html`<li><span>${l.quantity} &times; ${l.name}${l.review && html` <a class="stall-small" href="${l.review}">${s.writeReview}</a>`}</span><span>${l.amount}</span></li>`)}</ul><dl class="stall-steps"><div class="stall-total"><dt>${w.total}</dt><dd>${o.total}</dd></div></dl>${o.files && html`<p><a class="stall-button" href="${o.files}">${s.files}</a></p>`}`;
