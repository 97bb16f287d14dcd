import { type Html, html } from './html';
import { fill, type StepWords } from './words';
import type { CartPageView, CheckoutPageView, LineView, OrderPageView, SumView } from './views';

/**
 * What shoppers see of the shop, as HTML that works without script: the same fragments stand inside the widgets on
 * the site and on the ordinary pages of the shop's own origin. Classes are styled by storefront.css.
 */

const alert = (text: string | undefined): Html | false => !!text && html`<p class="stall-alert" role="alert">${text}</p>`;

export function cartFragment(v: CartPageView, w: StepWords): Html {
  if (v.lines.length === 0) {
    return html`<div class="stall-cart">${alert(v.problem)}<p class="stall-lead">${w.emptyCart}</p><p><a class="stall-button" href="${v.back}" data-back>${w.lookAround}</a></p></div>`;
  }
  return html`<div class="stall-cart">${alert(v.problem)}
<ul class="stall-lines">${v.lines.map((l) => line(l, w))}</ul>
<div class="stall-sum">${steps(v, w)}${v.later && html`<p class="stall-muted">${w.later}</p>`}${codes(v, w)}
<a class="stall-button stall-wide" href="${v.checkout}">${w.goCheckout}</a>
<p class="stall-center"><a href="${v.back}" data-back>${w.lookAround}</a></p></div></div>`;
}

function line(l: LineView, w: StepWords): Html {
  return html`<li class="stall-line"><a class="stall-thumb" href="${l.href}" tabindex="-1" aria-hidden="true">${l.picture && html`<img src="${l.picture}" alt="" width="96" height="96">`}</a>
<div class="stall-line-text"><a class="stall-name" href="${l.href}">${l.name}</a>${l.particulars.map((p) => html`<span class="stall-muted stall-particulars">${p}</span>`)}<span class="stall-muted">${fill(w.each, { x: l.unit })}</span>
<form class="stall-stepper-form" method="post" action="${l.action}"><span class="stall-stepper" role="group" aria-label="${fill(w.howManyOf, { x: l.name })}">
<button name="quantity" value="${l.quantity - 1}" aria-label="${fill(w.oneFewer, { x: l.name })}">&minus;</button><output aria-live="polite">${l.quantity}</output>
<button name="quantity" value="${l.quantity + 1}" aria-label="${fill(w.oneMore, { x: l.name })}"${l.max !== null && l.quantity >= l.max && html` disabled`}>+</button></span>
<button class="stall-plain" name="quantity" value="0" aria-label="${fill(w.takeOutOf, { x: l.name })}">${w.takeOut}</button></form>
${l.note && html`<p class="stall-note">${l.note}</p>`}</div><strong class="stall-amount">${l.amount}</strong></li>`;
}

function steps(v: SumView, w: StepWords): Html {
  return html`<dl class="stall-steps">${v.steps.map((s) => html`<div><dt>${s.what}</dt><dd>${s.amount}</dd></div>`)}
<div class="stall-total"><dt>${w.total}</dt><dd>${v.total}</dd></div></dl>${v.within.map((x) => html`<p class="stall-muted stall-within">${x}</p>`)}`;
}

/** Codes that count, each with a way to take it out; those that do not, with the reason; and the field for another. */
function codes(v: SumView, w: StepWords): Html {
  // Each in a form of its own: Enter in the field must not take out the first of them.
  return html`<div class="stall-codes">${v.codes.map((c) => html`<form method="post" action="${v.codeAction}"><p class="${c.good ? 'stall-muted' : 'stall-note'}"${!c.good && html` role="alert"`}>${c.says} <button class="stall-plain" name="out" value="${c.code}" aria-label="${fill(w.takeCode, { x: c.code })}">${w.takeOut}</button></p></form>`)}
<form method="post" action="${v.codeAction}"><div class="stall-field"><label for="stall-code">${w.codeLabel}</label><div class="stall-beside"><input id="stall-code" name="code" maxlength="40" autocomplete="off" autocapitalize="characters" spellcheck="false"><button class="stall-button">${w.useCode}</button></div></div></form></div>`;
}

/** Ways of shipping, each with its price and the days it is expected. */
const ways = (v: CheckoutPageView, w: StepWords): Html | false =>
  v.ways.length > 0 && html`<fieldset class="stall-ways"><legend>${w.howSent}</legend>${v.ways.map((x) => html`<label><input type="radio" name="way" value="${x.id}" data-look${x.chosen && html` checked`}><span>${x.name}${x.says && html` <small class="stall-muted">${x.says}</small>`}</span><strong>${x.price}</strong></label>`)}</fieldset>`;

interface Field {
  readonly name: string;
  readonly label: keyof StepWords;
  readonly type: string;
  /** Autofill detail tokens of the HTML standard. */
  readonly autocomplete: string;
  readonly half?: boolean;
}

const fields: readonly Field[] = [
  { name: 'email', label: 'email', type: 'email', autocomplete: 'email' },
  { name: 'name', label: 'fullName', type: 'text', autocomplete: 'name' },
  { name: 'street', label: 'street', type: 'text', autocomplete: 'street-address' },
  { name: 'town', label: 'town', type: 'text', autocomplete: 'address-level2', half: true },
  { name: 'postcode', label: 'postcode', type: 'text', autocomplete: 'postal-code', half: true },
  { name: 'country', label: 'country', type: 'select', autocomplete: 'country' },
];

export function checkoutFragment(v: CheckoutPageView, w: StepWords): Html {
  if (v.lines.length === 0) {
    return html`<div class="stall-checkout">${alert(v.problem)}<p class="stall-lead">${w.nothingToPay}</p><p><a class="stall-button" href="${v.cart}">${w.backToCart}</a></p></div>`;
  }
  const wrong = Object.keys(v.errors).length;
  return html`<form class="stall-checkout" method="post" action="${v.action}" novalidate>
<div class="stall-columns"><section class="stall-address"><h2>${w.whereTo}</h2>${alert(v.problem)}${wrong > 0 && html`<p class="stall-alert" role="alert">${wrong === 1 ? w.oneField : fill(w.someFields, { n: wrong })}</p>`}
<div class="stall-fields">${fields.map((f) => field(f, v, w))}</div>${ways(v, w)}${v.look && html`<p><button class="stall-plain" name="look" value="1" formnovalidate>${w.workOut}</button></p>`}</section>
<section class="stall-summary"><h2>${w.whatYouBuy}</h2>
<ul class="stall-brief">${v.lines.map((l) => html`<li>${l.picture && html`<img src="${l.picture}" alt="" width="48" height="48">`}<span>${l.quantity} &times; ${l.name}${l.particulars.map((p) => html`<small class="stall-muted stall-particulars">${p}</small>`)}${l.note && html`<em class="stall-note">${l.note}</em>`}</span><span>${l.amount}</span></li>`)}</ul>
${steps(v, w)}<input type="hidden" name="total" value="${v.totalMinor}">
${v.again.map((a) => html`<p class="stall-note stall-again">${a}</p>`)}<button class="stall-button stall-wide" type="submit">${fill(w.pay, { x: v.total })}</button>
<p class="stall-muted">${fill(w.byCard, { x: v.payee })}</p>
<p class="stall-center"><a href="${v.cart}">${w.backToCart}</a></p></section></div></form>`;
}

function field(f: Field, v: CheckoutPageView, w: StepWords): Html {
  const error = v.errors[f.name];
  const id = `stall-${f.name}`;
  return html`<div class="stall-field${f.half && ' stall-half'}"><label for="${id}">${w[f.label]}</label>
${f.type === 'select' ? html`<select id="${id}" name="${f.name}" autocomplete="${f.autocomplete}" required data-look${error && html` aria-invalid="true" aria-describedby="${id}-error"`}><option value=""></option>${v.countries.map((c) => html`<option value="${c.code}"${c.code === v.values[f.name] && html` selected`}>${c.name}</option>`)}</select>` : html`<input id="${id}" name="${f.name}" type="${f.type}" autocomplete="${f.autocomplete}" required value="${v.values[f.name] ?? ''}"${f.name === 'postcode' && html` data-look`}${error && html` aria-invalid="true" aria-describedby="${id}-error"`}>`}
${error && html`<p class="stall-error" id="${id}-error">${error}</p>`}</div>`;
}

export function thanksFragment(v: OrderPageView, w: StepWords): Html {
  if (v.state === 'failed') return failedFragment(v, w);
  if (v.state === 'waiting') {
    return html`<div class="stall-thanks" data-waiting><p class="stall-lead" role="status">${w.confirming}</p><p><a href="">${w.lookAgain}</a></p></div>`;
  }
  const [before = '', after = ''] = w.orderIn.split('{n}');
  return html`<div class="stall-thanks"><p class="stall-lead">${before}<strong>${v.number}</strong>${fill(after, { x: v.email })}</p>
<ul class="stall-brief">${v.lines.map((l) => html`<li><span>${l.quantity} &times; ${l.name}</span><span>${l.amount}</span></li>`)}</ul>
<dl class="stall-steps"><div class="stall-total"><dt>${w.paid}</dt><dd>${v.total}</dd></div></dl>${v.vouchers.length > 0 && html`<h2>${w.yourVouchers}</h2><ul class="stall-file-list">${v.vouchers.map((x) => html`<li><strong>${x.code}</strong><span>${x.says}</span></li>`)}</ul>`}<p class="stall-actions">${v.files && html`<a class="stall-button" href="${v.files}">${w.files}</a> `}<a${!v.files && html` class="stall-button"`} href="${v.back}">${w.backToSite}</a></p></div>`;
}

export function failedFragment(v: OrderPageView, w: StepWords): Html {
  if (v.state === 'paid') return thanksFragment(v, w);
  return html`<div class="stall-failed"><p class="stall-lead">${w.nothingCharged}${v.reason && ` ${fill(w.cardSays, { x: v.reason })}`}</p>
<p class="stall-actions"><a class="stall-button" href="${v.retry}">${w.tryAgain}</a> <a href="${v.back}">${w.backToSite}</a></p></div>`;
}
