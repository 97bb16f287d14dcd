import { encodedVariants } from './buying';
import { heading, rowFragment } from './cards';
import { type Html, html, Html as Ready } from './html';
import type { ProductView } from './views';
import { ratingLine, reviewsFragment } from './reviews';
import { count, fill, type Words } from '../languages/languages';

/**
 * One product in full: on its plain page, and inside a shop front. Every choice is a radio button of one form, so that it
 * can be bought without script; with it, `data-variants` lets a press answer at once.
 */
export function productFragment(v: ProductView, w: Words, level = 1): Html {
  return html`${articleFragment(v, w, level)}
${v.reviews && reviewsFragment({ ...v.reviews, heading: w.reviews, level: level + 1 }, w)}${v.related && v.related.length > 0 && rowFragment({ heading: w.related, form: 'grid', columns: 4, filter: false, parts: ['picture', 'name', 'price'], level: level + 2, products: v.related }, w)}${v.structured && new Ready(`<script type="application/ld+json">${v.structured}</script>`)}`;
}

/** A quick look at a product over the page it was met on; its own page is a press away. */
export const glanceFragment = (v: ProductView, w: Words): Html =>
  html`${articleFragment(v, w, 2, false)}<p class="stall-center"><a class="stall-way" href="${v.href}" data-goods="${v.slug}">${w.fullPage}</a></p>`;

function articleFragment(v: ProductView, w: Words, level: number, whole = true): Html {
  return html`<article class="stall-product" data-card="${v.slug}">${gallery(v, w)}
<div class="stall-product-text">${v.badge && html`<p class="stall-badge stall-badge-flat">${v.badge}</p>`}${heading(level, v.name)}${v.rating && ratingLine(v.rating, w, whole ? `${v.href}#stall-reviews` : '')}
<p class="stall-price" data-price>${priceHtml(v.price, v.was, w)}</p>${v.every && html`<p class="stall-muted">${v.every}</p>`}${v.about && html`<p class="stall-muted">${v.about}</p>`}${v.perUnit && html`<p class="stall-muted" data-unit>${v.perUnit}</p>`}${v.lowest && html`<p class="stall-muted">${v.lowest}</p>`}
${v.problem && html`<p class="stall-alert" role="alert">${v.problem}</p>`}${v.event && html`<dl class="stall-facts"><dt>${w.when}</dt><dd>${v.event.when}</dd>${v.event.where && html`<dt>${w.where}</dt><dd>${v.event.where}</dd>`}</dl>`}
${v.description.text && html`<div class="stall-description">${v.description}</div>`}${v.parts.length > 0 && html`<p class="stall-muted">${w.inside}:</p><ul class="stall-parts">${v.parts.map((p) => html`<li>${p.quantity} &times; <a href="${p.href}" data-goods="${p.slug}">${p.name}</a></li>`)}</ul>`}
${buyPart(v, w)}${v.sections.length > 0 && html`<div class="stall-sections">${v.sections.map((s) => html`<details><summary>${s.title}</summary><div>${s.html}</div></details>`)}</div>`}</div></article>`;
}

const priceHtml = (price: string, was: string, w: Words): Html =>
  html`${price}${was && html` <s class="stall-was"><span class="stall-hidden">${w.before} </span>${was}</s>`}`;

function gallery(v: ProductView, w: Words): Html | false {
  const [first, ...others] = v.pictures;
  if (!first) return v.video ? film(v, w) : false;
  return html`<div class="stall-gallery"><img class="stall-picture" data-large fetchpriority="high" src="${first.large}" srcset="${first.set}" sizes="(min-width: 48rem) 34rem, 100vw" alt="${first.alt}" width="960" height="720" data-x="${first.x}" data-y="${first.y}">
${others.length > 0 && html`<ul class="stall-thumbs">${v.pictures.map((p, n) => html`<li><a href="${p.large}" data-show="${n}" data-set="${p.set}" data-alt="${p.alt}"${n === 0 && html` aria-current="true"`} aria-label="${fill(w.showPicture, { n: n + 1, x: p.alt || v.name })}"><img src="${p.small}" alt="" width="96" height="72" data-x="${p.x}" data-y="${p.y}" loading="lazy"></a></li>`)}</ul>`}${v.video && film(v, w)}</div>`;
}

/** Nothing is loaded from a film before the shopper asks: until then it is a link. */
const film = (v: ProductView, w: Words): Html =>
  html`<p class="stall-film"><a class="stall-plain" href="${v.video}" data-film rel="noopener" target="_blank">&#9654; ${w.film}</a> <span class="stall-muted">${fill(w.filmFrom, { x: hostOf(v.video) })}</span></p>`;
const hostOf = (url: string): string => /^https?:\/\/([^/?#]+)/i.exec(url)?.[1] ?? '';

function buyPart(v: ProductView, w: Words): Html {
  if (v.seller)
    return html`<p><a class="stall-button" href="${v.seller.url}" rel="noopener nofollow">${fill(w.seeAt, { x: v.seller.name || hostOf(v.seller.url) })}</a></p>`;
  if (v.soldOut) return html`<p class="stall-note">${v.stock}</p>`;
  return html`<form method="post" action="${v.send}" class="stall-buy-form" data-add="${v.slug}"${v.options.length > 0 && html` data-variants="${encodedVariants(v)}"`}>
<input type="hidden" name="placement" value="${v.via}">${v.linkPrice && html`<input type="hidden" name="price" value="${v.linkPrice}">`}
${v.options.map((o, n) => optionSet(o, n, w))}${v.texts.map((t, n) => textField(t, n, w))}${v.open && amountField(v.open, w)}
<div class="stall-field"><label>${w.howMany}<input name="quantity" type="number" min="1" max="${v.max ?? 99}" value="1" inputmode="numeric"></label></div>
<button class="stall-button">${v.action === 'book' ? w.bookPlace : w.add}</button><p class="stall-note" data-stock role="status">${v.stock}</p></form>`;
}

/** Radio buttons as chips. A value of which nothing is left says so in words; it can still be pressed, to see what else goes. */
const optionSet = (o: ProductView['options'][number], n: number, w: Words): Html =>
  html`<fieldset class="stall-options"><legend>${o.name}</legend><div>${o.values.map((x) => html`<label class="stall-chip"><input type="radio" name="option-${n}" value="${x.name}" required><span>${o.as === 'swatch' && x.colour && html`<svg width="18" height="18" aria-hidden="true"><circle cx="9" cy="9" r="8.5" fill="${x.colour}" stroke="currentColor" stroke-opacity=".35"/></svg>`}${x.name}<small class="stall-hidden" data-out>${x.out && ` (${w.notHad})`}</small></span></label>`)}</div></fieldset>`;

const textField = (t: ProductView['texts'][number], n: number, w: Words): Html =>
  html`<div class="stall-field"><label>${t.label}${t.price && html` <span class="stall-muted">${fill(w.more, { x: t.price })}</span>`}<input name="text-${n}" maxlength="${t.most}"${t.required && html` required`} autocomplete="off"></label><p class="stall-muted">${count(w, w.letters, t.most)}${!t.required && `, ${w.optional}`}</p></div>`;

export const amountField = (open: NonNullable<ProductView['open']>, w: Words): Html =>
  html`<div class="stall-field stall-amount-field"><label>${w.amount} (${open.sign}), ${fill(w.least, { x: open.leastText })}<input name="amount" type="text" inputmode="decimal" value="${open.least}" required autocomplete="transaction-amount"></label>${open.suggested.length > 0 && html`<p class="stall-actions" role="group" aria-label="${w.suggested}">${open.suggested.map((s) => html`<button class="stall-plain" type="button" data-amount="${s.value}">${s.text}</button>`)}</p>`}</div>`;
