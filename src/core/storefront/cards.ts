import { asksOnCard, buyForm } from './buying';
import { Html, html } from './html';
import type { CardLook, CardPart, ProductView, RowView } from './views';
import { fill, type Words } from '../languages/languages';

/** A heading of a level that the page around it decides. */
export const heading = (level: number, text: Html | string, css = ''): Html => {
  const tag = `h${Math.min(6, Math.max(1, Math.round(level)))}`;
  return new Html(`<${tag}${css ? ` class="${css}"` : ''}>${html`${text}`.text}</${tag}>`);
};

const has = (look: CardLook, part: CardPart): boolean => look.parts.includes(part);

const cards = new WeakMap<ProductView, Map<string, Html>>();

/** A product as a card: in rows, in the shop front, alone. What it lacks is said in words. A view that is shown again has its card already. */
export function cardFragment(v: ProductView, look: CardLook, w: Words, lazy = true): Html {
  const own = cards.get(v) ?? new Map<string, Html>();
  cards.set(v, own);
  const key = `${look.level} ${lazy} ${look.second ?? false} ${w.addNamed} ${look.parts.join()}`;
  const known = own.get(key);
  if (known) return known;
  const made = card(v, look, w, lazy);
  made.lasting = true;
  own.set(key, made);
  return made;
}

function card(v: ProductView, look: CardLook, w: Words, lazy: boolean): Html {
  return html`<article class="stall-card${v.soldOut && ' stall-out'}" data-card="${v.slug}" data-parts="${look.parts.join(' ')}">${has(look, 'picture') && (has(look, 'glance') ? html`<div class="stall-card-top">${picture(v, lazy, look.second)}<button type="button" class="stall-glance" data-glance="${v.slug}" aria-label="${fill(w.quickLookAt, { x: v.name })}" hidden>${w.quickLook}</button></div>` : picture(v, lazy, look.second))}
<div class="stall-card-text">${has(look, 'name') && heading(look.level, html`<a class="stall-name" href="${v.href}" data-goods="${v.slug}">${v.name}</a>`, 'stall-card-name')}
${has(look, 'description') && html`<p class="stall-muted stall-short">${shortened(v.summary)}</p>`}
<div class="stall-card-foot"><div>${has(look, 'price') && html`<p class="stall-card-price">${price(v, w)}</p>`}${has(look, 'stock') && html`<p class="stall-note stall-left${v.few && ' stall-few'}" data-stock>${v.stock}</p>`}</div>${sells(look) && buyForm(v, look.parts, w)}</div></div></article>`;
}

/** Choices and the number of pieces bring the button with them. */
const sells = (look: CardLook): boolean => has(look, 'button') || asksOnCard(look.parts);

/** The picture leads to the product too; for those who use keys or listen, the name does. */
const picture = (v: ProductView, lazy: boolean, second = false): Html =>
  html`<a class="stall-card-picture" href="${v.href}" data-goods="${v.slug}" tabindex="-1" aria-hidden="true">${v.picture ? html`<img src="${v.picture.small}" srcset="${v.picture.set}" sizes="(min-width: 40rem) 20rem, 50vw" alt="" width="480" height="360" data-x="${v.picture.x}" data-y="${v.picture.y}"${lazy ? html` loading="lazy"` : html` fetchpriority="high"`}>${second && v.pictures[1] && html`<img src="${v.pictures[1].small}" alt="" width="480" height="360" loading="lazy">`}` : html`<span class="stall-no-picture">${[...v.name][0] ?? ''}</span>`}${v.badge && html`<span class="stall-badge">${v.badge}</span>`}</a>`;

export const price = (v: ProductView, w: Words): Html =>
  html`<span class="stall-price-small" data-price>${v.price}${v.was && html` <s class="stall-was"><span class="stall-hidden">${w.before} </span>${v.was}</s>`}</span>`;

/** The first sentence or so; whole words only. */
const shortened = (text: string): string => {
  const line = text.replace(/\s+/g, ' ').trim();
  // By code points: half a letter is none.
  return line.length <= 90
    ? line
    : `${[...line]
        .slice(0, 90)
        .join('')
        .replace(/\s+\S*$/, '')}\u2026`;
};

/** Several products, in the form the owner chose. */
export function rowFragment(v: RowView, w: Words): Html {
  const top = v.heading && heading(Math.max(2, v.level - 1), v.heading, 'stall-row-heading');
  if (v.products.length === 0)
    return html`<section class="stall-row">${top}<p class="stall-muted">${w.nothingHere}</p></section>`;
  if (v.form === 'table') return html`<section class="stall-row">${top}${table(v, w)}</section>`;
  if (v.form === 'list')
    return html`<section class="stall-row">${top}<ul class="stall-list">${v.products.map((p) => html`<li>${cardFragment(p, v, w)}</li>`)}</ul></section>`;
  const cards = html`<ul class="stall-grid stall-as-${v.form}" data-columns="${v.columns}"${v.form !== 'grid' && html` tabindex="0" aria-label="${v.heading || w.product}"`}>${v.products.map((p) => html`<li>${cardFragment(p, v, w)}</li>`)}</ul>`;
  const ways =
    v.form === 'slider' &&
    html`<p class="stall-slide"><button type="button" data-slide="-1" aria-label="${w.previous}">&#8592;</button><button type="button" data-slide="1" aria-label="${w.next}">&#8594;</button></p>`;
  return html`<section class="stall-row">${top}${ways}${cards}</section>`;
}

function table(v: RowView, w: Words): Html {
  const filter =
    v.filter &&
    html`<p class="stall-field stall-filter"><label>${w.filter} <input type="search" data-filter autocomplete="off"></label><span role="status" class="stall-hidden"></span></p>`;
  return html`${filter}<div class="stall-scroll" tabindex="0" role="region" aria-label="${v.heading || w.product}"><table class="stall-table"><thead><tr><th scope="col">${w.product}</th>${has(v, 'description') && html`<th scope="col"></th>`}${has(v, 'price') && html`<th scope="col" class="stall-figure">${w.price}</th>`}${has(v, 'stock') && html`<th scope="col">${w.stock}</th>`}${sells(v) && html`<th><span class="stall-hidden">${w.add}</span></th>`}</tr></thead>
<tbody>${v.products.map((p) => html`<tr data-card="${p.slug}" data-row="${p.name.toLowerCase()}"><th scope="row"><a class="stall-name" href="${p.href}" data-goods="${p.slug}">${p.name}</a></th>${has(v, 'description') && html`<td class="stall-muted">${shortened(p.summary)}</td>`}${has(v, 'price') && html`<td class="stall-figure">${price(p, w)}</td>`}${has(v, 'stock') && html`<td data-stock>${p.stock || w.inStock}</td>`}${sells(v) && html`<td>${buyForm(p, v.parts, w)}</td>`}</tr>`)}</tbody></table></div>`;
}
