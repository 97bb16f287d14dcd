import { type Html, html } from './html';
import type { CartPageView, CheckoutPageView, LineView, OrderPageView, SumView } from './views';

/**
 * What shoppers see of the shop, as HTML that works without script: the same fragments stand inside the widgets on
 * the site and on the ordinary pages of the shop's own origin. Classes are styled by storefront.css.
 */

const alert = (text: string | undefined): Html | false => !!text && html`<p class="stall-alert" role="alert">${text}</p>`;

export function cartFragment(v: CartPageView): Html {
  if (v.lines.length === 0) {
    return html`<div class="stall-cart">${alert(v.problem)}<p class="stall-lead">There is nothing in your cart yet.</p><p><a class="stall-button" href="${v.back}" data-back>Keep looking</a></p></div>`;
  }
  return html`<div class="stall-cart">${alert(v.problem)}
<ul class="stall-lines">${v.lines.map(line)}</ul>
<div class="stall-sum">${steps(v)}
<a class="stall-button stall-wide" href="${v.checkout}">Go to checkout</a>
<p class="stall-center"><a href="${v.back}" data-back>Keep looking</a></p></div></div>`;
}

function line(l: LineView): Html {
  return html`<li class="stall-line"><a class="stall-thumb" href="${l.href}" tabindex="-1" aria-hidden="true">${l.picture && html`<img src="${l.picture}" alt="" width="96" height="96">`}</a>
<div class="stall-line-text"><a class="stall-name" href="${l.href}">${l.name}</a><span class="stall-muted">${l.unit} each</span>
<form class="stall-stepper-form" method="post" action="${l.action}"><span class="stall-stepper" role="group" aria-label="How many, ${l.name}">
<button name="quantity" value="${l.quantity - 1}" aria-label="One fewer ${l.name}">&minus;</button><output aria-live="polite">${l.quantity}</output>
<button name="quantity" value="${l.quantity + 1}" aria-label="One more ${l.name}"${l.max !== null && l.quantity >= l.max && html` disabled`}>+</button></span>
<button class="stall-plain" name="quantity" value="0" aria-label="Take out ${l.name}">Take out</button></form>
${l.note && html`<p class="stall-note">${l.note}</p>`}</div><strong class="stall-amount">${l.amount}</strong></li>`;
}

function steps(v: SumView): Html {
  return html`<dl class="stall-steps">${v.steps.map((s) => html`<div><dt>${s.what}</dt><dd>${s.amount}</dd></div>`)}
<div class="stall-total"><dt>Total</dt><dd>${v.total}</dd></div></dl>`;
}

interface Field {
  readonly name: string;
  readonly label: string;
  readonly type: string;
  /** Autofill detail tokens of the HTML standard. */
  readonly autocomplete: string;
  readonly half?: boolean;
}

const fields: readonly Field[] = [
  { name: 'email', label: 'E-mail', type: 'email', autocomplete: 'email' },
  { name: 'name', label: 'Name', type: 'text', autocomplete: 'name' },
  { name: 'street', label: 'Street and number', type: 'text', autocomplete: 'street-address' },
  { name: 'town', label: 'Town', type: 'text', autocomplete: 'address-level2', half: true },
  { name: 'postcode', label: 'Postcode', type: 'text', autocomplete: 'postal-code', half: true },
  { name: 'country', label: 'Country', type: 'text', autocomplete: 'country-name' },
];

export function checkoutFragment(v: CheckoutPageView): Html {
  if (v.lines.length === 0) {
    return html`<div class="stall-checkout">${alert(v.problem)}<p class="stall-lead">There is nothing to pay for: your cart is empty.</p><p><a class="stall-button" href="${v.cart}">Back to the cart</a></p></div>`;
  }
  const wrong = Object.keys(v.errors).length;
  return html`<form class="stall-checkout" method="post" action="${v.action}" novalidate>
<div class="stall-columns"><section class="stall-address"><h2>Where it goes</h2>${alert(v.problem)}${wrong > 0 && html`<p class="stall-alert" role="alert">${wrong === 1 ? 'One field needs' : `${wrong} fields need`} another look.</p>`}
<div class="stall-fields">${fields.map((f) => field(f, v))}</div></section>
<section class="stall-summary"><h2>What you buy</h2>
<ul class="stall-brief">${v.lines.map((l) => html`<li>${l.picture && html`<img src="${l.picture}" alt="" width="48" height="48">`}<span>${l.quantity} &times; ${l.name}${l.note && html`<em class="stall-note">${l.note}</em>`}</span><span>${l.amount}</span></li>`)}</ul>
${steps(v)}<input type="hidden" name="total" value="${v.totalMinor}">
<button class="stall-button stall-wide" type="submit">Pay ${v.total}</button>
<p class="stall-muted">By card, on the next page. You order from ${v.payee} and agree to pay when you press the button.</p>
<p class="stall-center"><a href="${v.cart}">Back to the cart</a></p></section></div></form>`;
}

function field(f: Field, v: CheckoutPageView): Html {
  const error = v.errors[f.name];
  const id = `stall-${f.name}`;
  return html`<div class="stall-field${f.half && ' stall-half'}"><label for="${id}">${f.label}</label>
<input id="${id}" name="${f.name}" type="${f.type}" autocomplete="${f.autocomplete}" required value="${v.values[f.name] ?? ''}"${error && html` aria-invalid="true" aria-describedby="${id}-error"`}>
${error && html`<p class="stall-error" id="${id}-error">${error}</p>`}</div>`;
}

export function thanksFragment(v: OrderPageView): Html {
  if (v.state === 'failed') return failedFragment(v);
  if (v.state === 'waiting') {
    return html`<div class="stall-thanks" data-waiting><p class="stall-lead" role="status">Your payment is being confirmed. This takes a moment; the page looks again by itself.</p><p><a href="">Look again now</a></p></div>`;
  }
  return html`<div class="stall-thanks"><p class="stall-lead">Your order is in, and paid. Its number is <strong>${v.number}</strong>; news about it goes to ${v.email}.</p>
<ul class="stall-brief">${v.lines.map((l) => html`<li><span>${l.quantity} &times; ${l.name}</span><span>${l.amount}</span></li>`)}</ul>
<dl class="stall-steps"><div class="stall-total"><dt>Paid</dt><dd>${v.total}</dd></div></dl><p><a class="stall-button" href="${v.back}">Back to the site</a></p></div>`;
}

export function failedFragment(v: OrderPageView): Html {
  if (v.state === 'paid') return thanksFragment(v);
  return html`<div class="stall-failed"><p class="stall-lead">Nothing was charged, and your cart is as you left it.${v.reason && html` The card service says: ${v.reason}.`}</p>
<p class="stall-actions"><a class="stall-button" href="${v.retry}">Try again</a> <a href="${v.back}">Back to the site</a></p></div>`;
}
