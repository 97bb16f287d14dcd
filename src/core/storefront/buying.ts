import { type Html, html } from './html';
import type { CardPart, ProductView, VariantView } from './views';
import { fill, type Words } from '../languages/languages';

/** How products go into the cart from wherever they are shown: cards, rows of a table, the product's own page. */

/**
 * Puts one piece into the cart: by script at once, without script over the plain pages. Where something is
 * to be chosen first, it leads there.
 */
export function addForm(v: ProductView, w: Words, short = false): Html | false {
  if (v.action === 'see')
    return html`<a class="stall-button" href="${v.seller?.url ?? v.href}" rel="noopener nofollow" aria-label="${fill(w.seeAt, { x: v.seller?.name || w.elsewhere })}: ${v.name}">${w.seeShort}</a>`;
  if (v.soldOut) return false;
  if (v.action !== 'add') {
    const text = wayText(v, w, short);
    return html`<a class="stall-button" href="${v.href}" data-goods="${v.slug}" aria-label="${text}: ${v.name}">${text}</a>`;
  }
  return html`<form method="post" action="${v.send}" data-add="${v.slug}"><input type="hidden" name="placement" value="${v.via}">${addButton(v, w, short)}</form>`;
}

/** What leads to the product's own page says what is done there. */
function wayText(v: ProductView, w: Words, short: boolean): string {
  if (v.action === 'book') return w.book;
  if (v.action === 'amount' && !short) return w.choose;
  return short ? w.chooseShort : w.chooseOptions;
}

const addButton = (v: ProductView, w: Words, short: boolean): Html =>
  html`<button class="stall-button" aria-label="${short ? fill(w.addNamed, { x: v.name }) : `${w.add}: ${v.name}`}">${short ? w.addShort : w.add}</button>`;

/** More than so many choices do not stand side by side on a card: such a product is chosen on its own page. */
const MOST_OPTIONS = 2;

/** Whether the choices of a card, or the number of pieces, are asked for on the card itself. */
export const asksOnCard = (parts: readonly CardPart[]): boolean =>
  parts.includes('options') || parts.includes('quantity');

/**
 * What a card or a row of a table is bought by, as the owner wants it: the button alone, or with choices
 * and the number of
 * pieces before it. What has to be written first (a name on a label, an amount) stays on the product's page.
 */
export function buyForm(v: ProductView, parts: readonly CardPart[], w: Words): Html | false {
  const choices = parts.includes('options') && v.options.length <= MOST_OPTIONS ? v.options : [];
  const pieces = parts.includes('quantity');
  const here =
    !v.soldOut &&
    !v.texts.some((t) => t.required) &&
    (v.action === 'add' || v.action === 'book' || (v.action === 'choose' && choices.length > 0));
  if (!here || (choices.length === 0 && !pieces)) return addForm(v, w, true);
  const button =
    v.action === 'book'
      ? html`<button class="stall-button" aria-label="${w.bookPlace}: ${v.name}">${w.book}</button>`
      : addButton(v, w, true);
  return html`<form method="post" action="${v.send}" class="stall-card-form" data-add="${v.slug}"${choices.length > 0 && html` data-variants="${encodedVariants(v)}"`}><input type="hidden" name="placement" value="${v.via}">${choices.length > 0 && html`<div class="stall-picks">${choices.map((o, n) => pick(v, o, n, w))}</div>`}<div class="stall-take">${pieces && html`<label><span class="stall-hidden">${w.howMany}: ${v.name}</span><input name="quantity" type="number" min="1" max="${v.max ?? 99}" value="1" required inputmode="numeric"></label>`}${button}</div></form>`;
}

/** One choice as a list: its name is the first entry, which cannot be bought. */
const pick = (v: ProductView, o: ProductView['options'][number], n: number, w: Words): Html =>
  html`<label><span class="stall-hidden">${o.name}: ${v.name}</span><select name="option-${n}" required><option value="">${o.name}</option>${o.values.map((x) => html`<option value="${x.name}">${x.name}${x.out && ` (${w.notHad})`}</option>`)}</select></label>`;

/**
 * Variants for the page's script, small: [id, places of its values, price, price before, words on stock,
 * sold out, most, picture].
 * A thousand of them stay under what one picture weighs.
 */
export function encodedVariants(v: ProductView): string {
  const place = v.options.map((o) => new Map(o.values.map((x, n) => [x.name, n])));
  const row = (x: VariantView) => [
    x.id,
    x.values.map((name, n) => place[n]?.get(name) ?? 0),
    x.price,
    x.was,
    x.stock,
    x.soldOut ? 1 : 0,
    x.max ?? 0,
    x.picture,
  ];
  return JSON.stringify(v.variants.map(row));
}
