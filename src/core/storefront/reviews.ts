import { heading } from './cards';
import { type Html, html } from './html';
import { count, fill, type StepWords, type Words } from '../languages/languages';

/** Reviews as shoppers read them: days and figures are ready for people. */
export interface ReviewsView {
  readonly rating: { readonly value: number; readonly text: string; readonly count: number } | null;
  /** How many gave five stars, four, down to one; nothing where that is not shown. */
  readonly spread: readonly number[] | null;
  readonly seller: string;
  readonly reviews: readonly {
    readonly rating: number;
    readonly name: string;
    readonly day: string;
    readonly title: string;
    readonly text: string;
    readonly answer: string;
    readonly of: { readonly name: string; readonly href: string; readonly slug: string } | null;
  }[];
}

/** Stars as a picture in letters, said in words; the nearest half is shown by the words alone. */
export const stars = (value: number, said: string, w: Words): Html =>
  html`<span class="stall-stars" role="img" aria-label="${fill(w.stars, { n: said })}">${'\u2605'.repeat(Math.round(value))}<i>${'\u2605'.repeat(5 - Math.round(value))}</i></span>`;

/** "★★★★★ 4.6 · 12 reviews": beside a product's name. */
export const ratingLine = (r: NonNullable<ReviewsView['rating']>, w: Words, href = ''): Html => {
  const countText = count(w, w.reviewCount, r.count);
  return html`<p class="stall-rating">${stars(r.value, r.text, w)} <span>${r.text} \u00b7 ${href ? html`<a href="${href}" data-reviews>${countText}</a>` : countText}</span></p>`;
};

/** What buyers say; who may write is said too (Directive 2005/29/EC as changed by 2019/2161, Art. 7(6)). */
export function reviewsFragment(v: ReviewsView & { heading: string; level: number }, w: Words): Html {
  const most = Math.max(1, ...(v.spread ?? []));
  return html`<section class="stall-reviews" id="stall-reviews">${v.heading && heading(v.level, v.heading)}${v.rating && ratingLine(v.rating, w)}
${v.rating && v.spread && html`<ul class="stall-spread">${v.spread.map((n, i) => html`<li><span aria-hidden="true">${5 - i} \u2605</span><meter min="0" max="${most}" value="${n}" aria-label="${fill(w.starsGave, { x: 5 - i, n })}"></meter><span aria-hidden="true">${n}</span></li>`)}</ul>`}
${v.reviews.length === 0 ? html`<p class="stall-muted">${w.noReviews}</p>` : html`<ol class="stall-said">${v.reviews.map((r) => reviewText(r, v, w))}</ol>`}<p class="stall-muted stall-small">${w.onlyBuyers}</p></section>`;
}

function reviewText(
  r: ReviewsView['reviews'][number],
  v: ReviewsView & { level: number; heading: string },
  w: Words,
): Html {
  const lines = (text: string) => text.split(/\n{2,}/).map((p) => html`<p>${p}</p>`);
  return html`<li><p class="stall-by">${stars(r.rating, String(r.rating), w)} <strong>${r.name}</strong> <span class="stall-muted">${r.day}</span></p>${r.of && html`<p class="stall-muted"><a href="${r.of.href}" data-goods="${r.of.slug}">${r.of.name}</a></p>`}${r.title && heading(Math.min(6, v.level + (v.heading ? 1 : 0)), r.title, 'stall-card-name')}${r.text && lines(r.text)}${r.answer && html`<blockquote class="stall-answer"><p class="stall-muted">${fill(w.answerOf, { x: v.seller })}</p>${lines(r.answer)}</blockquote>`}</li>`;
}

export interface ReviewFormView {
  readonly action: string;
  readonly product: string;
  readonly values: Readonly<Record<string, string>>;
  readonly errors: Readonly<Record<string, string>>;
}

/** Where a buyer writes; works without script. */
export function reviewForm(v: ReviewFormView, s: StepWords): Html {
  const why = (field: string) =>
    v.errors[field] ? html`<p class="stall-error" id="stall-${field}-error">${v.errors[field]}</p>` : false;
  const wrong = (field: string) =>
    v.errors[field] && html` aria-invalid="true" aria-describedby="stall-${field}-error"`;
  const wrongs = Object.keys(v.errors).length;
  return html`<form class="stall-review-form" method="post" action="${v.action}" novalidate>${wrongs > 0 && html`<p class="stall-alert" role="alert">${count(s, s.someFields, wrongs)}</p>`}<p class="stall-lead">${fill(s.reviewOf, { x: v.product })}</p>
<fieldset class="stall-options"${wrong('rating')}><legend>${s.yourStars}</legend><div>${[1, 2, 3, 4, 5].map((n) => html`<label class="stall-chip"><input type="radio" name="rating" value="${n}" required${v.values.rating === String(n) && html` checked`}><span><span class="stall-hidden">${fill(s.starsOf, { n })}</span><span aria-hidden="true">${'\u2605'.repeat(n)}</span></span></label>`)}</div>${why('rating')}</fieldset>
<div class="stall-field"><label for="stall-title">${s.reviewTitle}</label><input id="stall-title" name="title" maxlength="100" value="${v.values.title ?? ''}"${wrong('title')}>${why('title')}</div>
<div class="stall-field"><label for="stall-text">${s.reviewText}</label><textarea id="stall-text" name="text" rows="6" maxlength="4000"${wrong('text')}>${v.values.text ?? ''}</textarea>${why('text')}</div>
<div class="stall-field"><label for="stall-name">${s.reviewName}</label><input id="stall-name" name="name" maxlength="60" required autocomplete="nickname" value="${v.values.name ?? ''}"${wrong('name')}>${why('name')}</div>
<p class="stall-muted">${s.reviewRule}</p><p><button class="stall-button">${s.sendReview}</button></p></form>`;
}
