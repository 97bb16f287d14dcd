import { alert, steps } from './fragments';
import { type Html, html } from './html';
import type { CheckoutPageView } from './views';
import { fill, type StepWords } from './words';

/** The checkout: where it goes, how it comes, how it is paid, what is agreed to; and the sum beside it. Works without script. */

interface Field {
  readonly name: string;
  readonly label: keyof StepWords;
  readonly type: string;
  /** Autofill detail tokens of the HTML standard. */
  readonly autocomplete: string;
  readonly half?: boolean;
  readonly required: boolean;
  /** The sum depends on it. */
  readonly look?: boolean;
  readonly choices?: readonly { readonly code: string; readonly name: string }[];
}

const parts: Readonly<Record<string, Omit<Field, 'required'>>> = {
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

/** Fields of the address in the order its country writes them. */
function fieldsOf(v: CheckoutPageView): Field[] {
  return [
    { name: 'email', label: 'email', type: 'email', autocomplete: 'email', required: true },
    { name: 'name', label: 'fullName', type: 'text', autocomplete: 'name', required: true },
    ...(v.company
      ? [
          {
            name: 'company',
            label: 'company' as const,
            type: 'text',
            autocomplete: 'organization',
            required: false,
          },
        ]
      : []),
    { name: 'street', label: 'street', type: 'text', autocomplete: 'street-address', required: true },
    ...v.address.parts.flatMap((part): Field[] => {
      const field = parts[part];
      return field
        ? [
            {
              ...field,
              required: v.address.needs.includes(part),
              ...(part === 'state' &&
                v.address.states.length > 0 && { type: 'select', look: true, choices: v.address.states }),
            },
          ]
        : [];
    }),
    {
      name: 'country',
      label: 'country',
      type: 'select',
      autocomplete: 'country',
      required: true,
      look: true,
      choices: v.countries,
    },
    ...(v.phone === 'no'
      ? []
      : [
          {
            name: 'phone',
            label: v.phone === 'must' ? ('phone' as const) : ('phoneMay' as const),
            type: 'tel',
            autocomplete: 'tel',
            required: v.phone === 'must',
          },
        ]),
  ];
}

export function checkoutFragment(v: CheckoutPageView, w: StepWords): Html {
  if (v.lines.length === 0) {
    return html`<div class="stall-checkout">${alert(v.problem)}<p class="stall-lead">${w.nothingToPay}</p><p><a class="stall-button" href="${v.cart}">${w.backToCart}</a></p></div>`;
  }
  const wrong = Object.keys(v.errors).length;
  const unpayable = v.payKind === 'none';
  return html`<form class="stall-checkout" method="post" action="${v.action}" novalidate>${v.test && html`<p class="stall-test" role="note">${w.testBand}</p>`}
<div class="stall-columns"><section class="stall-address"><h2>${w.whereTo}</h2>${alert(v.problem)}${wrong > 0 && html`<p class="stall-alert" role="alert">${wrong === 1 ? w.oneField : fill(w.someFields, { n: wrong })}</p>`}${v.account && html`<p class="stall-muted">${w.signInFirst} <a href="${v.account}">${w.signIn}</a></p>`}
<div class="stall-fields">${fieldsOf(v).map((f) => field(f, v, w))}</div>${ways(v, w)}${pays(v, w)}${v.look && html`<p><button class="stall-plain" name="look" value="1" formnovalidate>${w.workOut}</button></p>`}
${v.note && html`<div class="stall-field"><label for="stall-note">${w.noteWith}</label><textarea id="stall-note" name="note" rows="2" maxlength="500">${v.values.note ?? ''}</textarea></div>`}</section>
<section class="stall-summary"><h2>${w.whatYouBuy}</h2>
<ul class="stall-brief">${v.lines.map((l) => html`<li>${l.picture && html`<img src="${l.picture}" alt="" width="48" height="48">`}<span>${l.quantity} &times; ${l.name}${l.particulars.map((p) => html`<small class="stall-muted stall-particulars">${p}</small>`)}${l.note && html`<em class="stall-note">${l.note}</em>`}</span><span>${l.amount}</span></li>`)}</ul>
${steps(v, w)}<input type="hidden" name="total" value="${v.totalMinor}">
${v.again.map((a) => html`<p class="stall-note stall-again">${a}</p>`)}${v.policies.map((p) => policy(p, v, w))}${v.remind && html`<label class="stall-tick"><input type="checkbox" name="remind" value="1"${v.remind.on && html` checked`}><span>${w.remindMe}</span></label>`}
${
  unpayable
    ? html`<p class="stall-alert" role="alert">${w.noWayToPay}</p>`
    : html`<button class="stall-button stall-wide" type="submit">${fill(v.payKind === 'later' ? w.orderToPay : w.pay, { x: v.total })}</button>
<p class="stall-muted">${fill(v.payKind === 'later' ? w.byLater : v.payKind === 'wallet' ? w.byWallet : w.byCard, { x: v.payee })}</p>`
}
<p class="stall-center"><a href="${v.cart}">${w.backToCart}</a></p></section></div></form>`;
}

/** Ways of shipping, each with its price and the days it is expected. */
const ways = (v: CheckoutPageView, w: StepWords): Html | false =>
  v.ways.length > 0 &&
  html`<fieldset class="stall-ways"><legend>${w.howSent}</legend>${v.ways.map((x) => html`<label><input type="radio" name="way" value="${x.id}" data-look${x.chosen && html` checked`}><span>${x.name}${x.says && html` <small class="stall-muted">${x.says}</small>`}</span><strong>${x.price}</strong></label>`)}</fieldset>`;

/** Ways to pay; the only one there is stands in the sentence beneath the button. */
function pays(v: CheckoutPageView, w: StepWords): Html | false {
  const error = v.errors.payBy;
  return (
    v.pays.length > 1 &&
    html`<fieldset class="stall-ways"${error && html` aria-describedby="stall-payBy-error"`}><legend>${w.howToPay}</legend>${v.pays.map((x) => html`<label><input type="radio" name="payBy" value="${x.id}" data-look${x.chosen && html` checked`}><span>${x.name}</span></label>`)}${error && html`<p class="stall-error" id="stall-payBy-error">${error}</p>`}</fieldset>`
  );
}

function policy(p: CheckoutPageView['policies'][number], v: CheckoutPageView, w: StepWords): Html {
  const name = `agree-${p.id}`;
  const error = v.errors[name];
  const [before = '', after = ''] = w.agreeTo.split('{x}');
  return html`<div class="stall-field"><label class="stall-tick"><input type="checkbox" name="${name}" value="${p.version}" required${p.ticked && html` checked`}${error && html` aria-invalid="true" aria-describedby="stall-${name}-error"`}><span>${before}<a href="${p.href}" target="_blank" rel="noopener">${p.name}</a>${after}</span></label>${error && html`<p class="stall-error" id="stall-${name}-error">${error}</p>`}</div>`;
}

function field(f: Field, v: CheckoutPageView, w: StepWords): Html {
  const error = v.errors[f.name];
  const id = `stall-${f.name}`;
  const value = v.values[f.name] ?? '';
  const wrong = error && html` aria-invalid="true" aria-describedby="${id}-error"`;
  const must = f.required && html` required`;
  return html`<div class="stall-field${f.half && ' stall-half'}"><label for="${id}">${w[f.label]}</label>
${f.type === 'select' ? html`<select id="${id}" name="${f.name}" autocomplete="${f.autocomplete}"${must}${f.look && html` data-look`}${wrong}><option value=""></option>${(f.choices ?? []).map((c) => html`<option value="${c.code}"${c.code === value && html` selected`}>${c.name}</option>`)}</select>` : html`<input id="${id}" name="${f.name}" type="${f.type}" autocomplete="${f.autocomplete}"${must} value="${value}"${f.look && html` data-look`}${wrong}>`}
${error && html`<p class="stall-error" id="${id}-error">${error}</p>`}</div>`;
}
