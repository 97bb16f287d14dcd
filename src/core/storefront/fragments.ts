import { type Html, html } from './html';
import { fill, type StepWords } from '../languages/languages';
import type { CartPageView, LineView, SumView } from './views';

/**
 * What shoppers see of the shop, as HTML that works without script: the same fragments stand inside the widgets on
 * the site and on the ordinary pages of the shop's own origin. Classes are styled by storefront.css.
 */

export const alert = (text: string | undefined): Html | false =>
  !!text && html`<p class="stall-alert" role="alert">${text}</p>`;

export function cartFragment(v: CartPageView, w: StepWords): Html {
  if (v.lines.length === 0) {
    return html`<div class="stall-cart">${alert(v.problem)}<p class="stall-lead">${w.emptyCart}</p><p><a class="stall-button" href="${v.back}" data-back>${w.lookAround}</a></p></div>`;
  }
  return html`<div class="stall-cart">${alert(v.problem)}
<ul class="stall-lines">${v.lines.map((l) => line(l, w))}</ul>
<div class="stall-sum">${steps(v, w)}${v.later && html`<p class="stall-muted">${w.later}</p>`}${codes(v, w)}
<a class="stall-button stall-wide" href="${v.checkout}">${w.goCheckout}</a>
<p class="stall-center"><a class="stall-way" href="${v.back}" data-back>${w.lookAround}</a></p></div></div>`;
}

function line(l: LineView, w: StepWords): Html {
  return html`<li class="stall-line" data-key="line-${l.id}"><a class="stall-thumb" href="${l.href}" tabindex="-1" aria-hidden="true">${l.picture ? html`<img src="${l.picture}" alt="" width="96" height="96">` : html`<span class="stall-no-picture">${[...l.name][0] ?? ''}</span>`}</a>
<div class="stall-line-text"><a class="stall-name" href="${l.href}">${l.name}</a>${l.particulars.map((p) => html`<span class="stall-muted stall-particulars">${p}</span>`)}<span class="stall-muted">${fill(w.each, { x: l.unit })}</span>
<form class="stall-stepper-form" method="post" action="${l.action}"${l.max !== null && html` data-most="${l.max}"`}><span class="stall-stepper" role="group" aria-label="${fill(w.howManyOf, { x: l.name })}">
<button name="quantity" value="${l.quantity - 1}" aria-label="${fill(w.oneFewer, { x: l.name })}">&minus;</button><output aria-live="polite">${l.quantity}</output>
<button name="quantity" value="${l.quantity + 1}" aria-label="${fill(w.oneMore, { x: l.name })}"${l.max !== null && l.quantity >= l.max && html` disabled`}>+</button></span>
<button class="stall-plain" name="quantity" value="0" aria-label="${fill(w.takeOutOf, { x: l.name })}">${w.takeOut}</button></form>
${l.note && html`<p class="stall-note">${l.note}</p>`}</div><strong class="stall-amount">${l.amount}</strong></li>`;
}

export function steps(v: SumView, w: StepWords): Html {
  return html`${v.untilFree && html`<p class="stall-note">${v.untilFree}</p>`}<dl class="stall-steps">${v.steps.map((s) => html`<div><dt>${s.what}</dt><dd>${s.amount}</dd></div>`)}
<div class="stall-total"><dt>${w.total}</dt><dd>${v.total}</dd></div></dl>${[...v.about, ...v.within].map((x) => html`<p class="stall-muted stall-within">${x}</p>`)}`;
}

/** Codes that count, each with a way to take it out; those that do not, with the reason; and the field for another. */
function codes(v: SumView, w: StepWords): Html {
  // Each in a form of its own: Enter in the field must not take out the first of them.
  return html`<div class="stall-codes">${v.codes.map((c) => html`<form method="post" action="${v.codeAction}"><p class="${c.good ? 'stall-muted' : 'stall-note'}"${!c.good && html` role="alert"`}>${c.message} <button class="stall-plain" name="out" value="${c.code}" aria-label="${fill(w.takeCode, { x: c.code })}">${w.takeOut}</button></p></form>`)}
<form method="post" action="${v.codeAction}"><div class="stall-field"><label for="stall-code">${w.codeLabel}</label><div class="stall-beside"><input id="stall-code" name="code" maxlength="40" autocomplete="off" autocapitalize="characters" spellcheck="false"><button class="stall-button">${w.useCode}</button></div></div></form></div>`;
}
