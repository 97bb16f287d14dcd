import { alert, steps } from './fragments';
import { type Html, html } from './html';
import type { CheckoutPageView } from './views';
import { count, fill, type StepText, type StepWords } from '../languages/languages';

/**
 * The checkout: where it goes, how it comes, how it is paid, what is agreed to; and the sum beside it. Works without script.
 *
 * Two different requests leave this form. Working the sum out again goes to an address of its own, where nothing can be ordered.
 * Ordering is what the pay button alone says: `order=yes`. A browser sends a form with its first button when Enter is pressed in a
 * field, so the first button is one that works the sum out.
 *
 * `data-live` marks what an answer may change while somebody writes, `data-key` the fields by name (see widgets/merge.ts).
 */

interface Field {
  readonly name: string;
  readonly label: StepText;
  readonly type: string;
  /** Autofill detail tokens of the HTML standard. */
  readonly autocomplete: string;
  readonly half?: boolean;
  readonly required: boolean;
  /** The sum depends on it. */
  readonly look?: boolean;
  readonly choices?: readonly Choice[];
  /** Choices that are possible and of no use here. */
  readonly others?: readonly Choice[];
}

interface Choice {
  readonly code: string;
  readonly name: string;
}

const parts: Readonly<Record<'town' | 'postcode' | 'state', Omit<Field, 'required'>>> = {
  town: { name: 'town', label: 'town', type: 'text', autocomplete: 'address-level2', half: true },
  postcode: {
    name: 'postcode',
    label: 'postcode',
    type: 'text',
    autocomplete: 'postal-code',
    half: true,
    look: true,
  },
  state: { name: 'state', label: 'state', type: 'text', autocomplete: 'address-level1', half: true },
};

const who: readonly Field[] = [
  { name: 'email', label: 'email', type: 'email', autocomplete: 'email', required: true },
  { name: 'name', label: 'fullName', type: 'text', autocomplete: 'name', required: true },
];
const company: Field = {
  name: 'company',
  label: 'company',
  type: 'text',
  autocomplete: 'organization',
  required: false,
};
const street: Field = {
  name: 'street',
  label: 'street',
  type: 'text',
  autocomplete: 'street-address',
  required: true,
};

/** Town, state and postcode, in the order that the country writes them. */
const placeFields = ({ address, asked }: CheckoutPageView): Field[] =>
  address.parts
    .filter((part) => (part === 'town' ? asked.whole : asked[part]))
    .map((part) => ({
      ...parts[part],
      required: address.needs.includes(part) || !asked.whole,
      ...(part === 'state' &&
        address.states.length > 0 && { type: 'select', look: true, choices: address.states }),
    }));

const countryField = ({ countries, others }: CheckoutPageView): Field => ({
  name: 'country',
  label: 'country',
  type: 'select',
  autocomplete: 'country',
  required: true,
  look: true,
  choices: countries,
  others,
});

const phoneField = (must: boolean): Field => ({
  name: 'phone',
  label: must ? 'phone' : 'phoneMay',
  type: 'tel',
  autocomplete: 'tel',
  required: must,
});

/** What is asked, in the order it is asked in. */
const fieldsOf = (v: CheckoutPageView): Field[] => [
  ...who,
  ...(v.company ? [company] : []),
  ...(v.asked.whole ? [street] : []),
  ...placeFields(v),
  ...(v.asked.country ? [countryField(v)] : []),
  ...(v.phone === 'no' ? [] : [phoneField(v.phone === 'must')]),
];

export function checkoutFragment(v: CheckoutPageView, w: StepWords): Html {
  if (v.lines.length === 0) {
    return html`<div class="stall-checkout">${alert(v.problem)}<p class="stall-lead">${w.nothingToPay}</p><p><a class="stall-button" href="${v.cart}">${w.backToCart}</a></p></div>`;
  }
  return html`<form class="stall-checkout" method="post" action="${v.action}" novalidate><button class="stall-first" formaction="${v.sumAction}" tabindex="-1" aria-hidden="true">${w.workOut}</button>${v.test && html`<p class="stall-test" role="note">${w.testBand}</p>`}
<div class="stall-columns"><section class="stall-address"><h2>${v.asked.whole ? w.whereTo : w.whoBuys}</h2><div data-live="problem">${problem(v, w)}</div>${v.account && html`<p class="stall-muted">${w.signInFirst} <a class="stall-way" href="${v.account}">${w.signIn}</a></p>`}
<div class="stall-fields">${fieldsOf(v).map((f) => field(f, v, w))}</div><div data-live="ways">${ways(v, w)}</div><div data-live="pays">${pays(v, w)}</div><p class="stall-by-hand"><button class="stall-plain" formaction="${v.sumAction}">${w.workOut}</button></p>
${v.note && html`<div class="stall-field" data-key="note"><label for="stall-note">${w.noteWith}</label><textarea id="stall-note" name="note" rows="2" maxlength="500">${v.values.note ?? ''}</textarea></div>`}</section>
<section class="stall-summary"><h2>${w.whatYouBuy}</h2>
<div data-live="sum"><ul class="stall-brief">${v.lines.map((l) => html`<li>${l.picture && html`<img src="${l.picture}" alt="" width="48" height="48">`}<span>${l.quantity} &times; ${l.name}${l.particulars.map((p) => html`<small class="stall-muted stall-particulars">${p}</small>`)}${l.note && html`<em class="stall-note">${l.note}</em>`}</span><span>${l.amount}</span></li>`)}</ul>
${steps(v, w)}<input type="hidden" name="total" value="${v.totalMinor}">
${v.again.map((a) => html`<p class="stall-note stall-again">${a}</p>`)}</div>${v.policies.map((p) => policy(p, v, w))}${v.remind && html`<label class="stall-tick"><input type="checkbox" name="remind" value="1"${v.remind.on && html` checked`}><span>${w.remindMe}</span></label>`}
<div data-live="pay">${payButton(v, w)}</div>
<p class="stall-center"><a class="stall-way" href="${v.cart}">${w.backToCart}</a></p></section></div></form>`;
}

function problem(v: CheckoutPageView, w: StepWords): Html {
  const wrong = Object.keys(v.errors).length;
  return html`${alert(v.problem)}${wrong > 0 && html`<p class="stall-alert" role="alert">${count(w, w.someFields, wrong)}</p>`}`;
}

/** The one control that orders. */
function payButton(v: CheckoutPageView, w: StepWords): Html {
  if (!v.ordering) return html`<p class="stall-alert" role="alert">${w.noWayToPay}</p>`;
  const [button, note] = orderWords(v.ordering, w);
  return html`<button class="stall-button stall-wide" type="submit" name="order" value="yes">${fill(button, { x: v.total })}</button>
<p class="stall-muted">${fill(note, { x: v.payee })}</p>`;
}

function orderWords(ordering: NonNullable<CheckoutPageView['ordering']>, w: StepWords): [string, string] {
  if (ordering === 'free') return [w.orderFree, w.byFree];
  return [ordering.now ? w.pay : w.orderToPay, w[ordering.beneath]];
}

/** Ways of shipping, each with its price and the days it is expected. */
const ways = (v: CheckoutPageView, w: StepWords): Html | false =>
  v.ways.length > 0 &&
  html`<fieldset class="stall-ways"><legend>${w.howSent}</legend>${v.ways.map((x) => html`<label data-key="way-${x.id}"><input type="radio" name="way" value="${x.id}" data-look${x.chosen && html` checked`}><span>${x.name}${x.text && html` <small class="stall-muted">${x.text}</small>`}</span><strong>${x.price}</strong></label>`)}</fieldset>`;

/** Ways to pay; the only one there is stands in the sentence beneath the button. */
function pays(v: CheckoutPageView, w: StepWords): Html | false {
  const error = v.errors.payBy;
  return (
    v.pays.length > 1 &&
    html`<fieldset class="stall-ways"${error && html` aria-describedby="stall-payBy-error"`}><legend>${w.howToPay}</legend>${v.pays.map((x) => html`<label data-key="pay-${x.id}"><input type="radio" name="payBy" value="${x.id}" data-look${x.chosen && html` checked`}><span>${x.name}</span></label>`)}${error && html`<p class="stall-error" id="stall-payBy-error">${error}</p>`}</fieldset>`
  );
}

function policy(p: CheckoutPageView['policies'][number], v: CheckoutPageView, w: StepWords): Html {
  const name = `agree-${p.id}`;
  const error = v.errors[name];
  const [before = '', after = ''] = w.agreeTo.split('{x}');
  return html`<div class="stall-field" data-key="${name}"><label class="stall-tick"><input type="checkbox" name="${name}" value="${p.version}" required${p.ticked && html` checked`}${error && html` aria-invalid="true" aria-describedby="stall-${name}-error"`}><span>${before}<a href="${p.href}" target="_blank" rel="noopener">${p.name}</a>${after}</span></label>${error && html`<p class="stall-error" id="stall-${name}-error">${error}</p>`}</div>`;
}

function field(f: Field, v: CheckoutPageView, w: StepWords): Html {
  const error = v.errors[f.name];
  const id = `stall-${f.name}`;
  const value = v.values[f.name] ?? '';
  const wrong = error && html` aria-invalid="true" aria-describedby="${id}-error"`;
  const must = f.required && html` required`;
  const look = f.look && html` data-look`;
  return html`<div class="stall-field${f.half && ' stall-half'}" data-key="${f.name}"><label for="${id}">${w[f.label]}</label>
${
  f.type === 'select'
    ? html`<select id="${id}" name="${f.name}" autocomplete="${f.autocomplete}"${must}${look}${wrong}><option value=""></option>${options(f.choices, value)}${f.others?.length ? html`<optgroup label="${w.notServed}">${options(f.others, value)}</optgroup>` : false}</select>`
    : html`<input id="${id}" name="${f.name}" type="${f.type}" autocomplete="${f.autocomplete}"${must} value="${value}"${look}${wrong}>`
}
${error && html`<p class="stall-error" id="${id}-error">${error}</p>`}</div>`;
}

const options = (choices: readonly Choice[] = [], chosen = ''): Html[] =>
  choices.map(
    (c) => html`<option value="${c.code}"${c.code === chosen && html` selected`}>${c.name}</option>`,
  );
