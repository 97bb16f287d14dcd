import { type Html, html } from './html';
import type { OrderPageView } from './views';
import { fill, type StepWords } from '../languages/languages';

/** Where paying ends: thank-you, what is left to do, or that it did not go through. The same page tells later how far an order has come. */

const band = (v: OrderPageView, w: StepWords): Html | false =>
  v.test && html`<p class="stall-test" role="note">${w.testBand}</p>`;
const ownWords = (v: OrderPageView): Html | false =>
  v.words !== '' &&
  html`<div class="stall-own">${v.words.split(/\n{2,}/).map((p) => html`<p>${p}</p>`)}</div>`;

export function thanksFragment(v: OrderPageView, w: StepWords): Html {
  if (v.state === 'failed') return failedFragment(v, w);
  if (v.state === 'waiting') {
    return html`<div class="stall-thanks" data-waiting>${band(v, w)}<p class="stall-lead" role="status">${w.confirming}</p><p><a href="">${w.lookAgain}</a></p></div>`;
  }
  const placed = v.state === 'placed';
  const comes = placed ? w.orderPlaced : w.orderIn;
  const [before = '', after = ''] = (v.held ? w.orderHeld : comes).split('{n}');
  const paid = v.state === 'cancelled' ? w.total : w.paid;
  return html`<div class="stall-thanks">${band(v, w)}<p class="stall-lead">${v.state === 'cancelled' ? w.cancelled : html`${before}<strong>${v.number}</strong>${fill(after, { x: v.email })}`}</p>${v.state !== 'cancelled' && ownWords(v)}
${v.progress.length > 0 && html`<ul class="stall-progress">${v.progress.map((p) => html`<li>${p}</li>`)}</ul>`}${v.todo && html`<section class="stall-todo"><h2>${w.leftToDo}</h2><p>${v.todo.lead}</p>${v.todo.words && html`<p>${v.todo.words}</p>`}<dl class="stall-steps">${v.todo.rows.map((r) => html`<div><dt>${r.label}</dt><dd class="stall-copy">${r.value}</dd></div>`)}</dl></section>`}
<ul class="stall-brief">${v.lines.map((l) => html`<li><span>${l.quantity} &times; ${l.name}</span><span>${l.amount}</span></li>`)}</ul>
<dl class="stall-steps">${v.steps.map((x) => html`<div><dt>${x.what}</dt><dd>${x.amount}</dd></div>`)}<div class="stall-total"><dt>${placed ? w.toPay : paid}</dt><dd>${v.total}</dd></div></dl>${v.vouchers.length > 0 && html`<h2>${w.yourVouchers}</h2><ul class="stall-file-list">${v.vouchers.map((x) => html`<li><strong>${x.code}</strong><span>${x.text}</span></li>`)}</ul>`}
${v.papers.length > 0 && html`<ul class="stall-file-list">${v.papers.map((p) => html`<li><a href="${p.href}">${p.name}</a> <a href="${p.pdf}">PDF</a></li>`)}</ul>`}<p class="stall-actions">${v.files && html`<a class="stall-button" href="${v.files}">${w.files}</a> `}<a${!v.files && html` class="stall-button"`} href="${v.back}">${w.backToSite}</a></p></div>`;
}

export function failedFragment(v: OrderPageView, w: StepWords): Html {
  if (v.state === 'paid' || v.state === 'placed' || v.state === 'cancelled') return thanksFragment(v, w);
  return html`<div class="stall-failed">${band(v, w)}<p class="stall-lead">${w.nothingCharged}${v.reason && ` ${fill(w.cardSays, { x: v.reason })}`}</p>${ownWords(v)}
<p class="stall-actions"><a class="stall-button" href="${v.retry}">${w.tryAgain}</a> <a href="${v.back}">${w.backToSite}</a></p></div>`;
}
