import { z } from 'zod';
import { escapeHtml } from '../../html/escape';
import { formatMoney } from '../../money/format';
import { priceFrom, priceNow } from '../../goods/price';
import type { Product } from '../../goods/product';
import { html } from '../../storefront/html';
import { defineKind } from '../kind';
import { lang, langField, saysIn } from './common';

const settings = z.object({
  goods: z.string('Choose the product whose price it is.').min(1, 'Choose the product whose price it is.'),
  /** One of its choices: "M, natural"; empty is what it costs at least. */
  choice: z.string().trim().max(200).default(''),
  lang,
});

/** What a product costs now: of the choice that is named, or at least. */
export function priceWords(
  p: Product,
  choice: string,
  { at, locale, currency }: { readonly at: number; readonly locale: string; readonly currency: string },
): string {
  const wanted = choice.toLowerCase();
  const variant = wanted ? p.variants.find((v) => v.values.join(', ').toLowerCase() === wanted) : undefined;
  const amount = variant ? priceNow(p, variant, at).price : priceFrom(p, at).least;
  return formatMoney({ amount, currency }, locale);
}

/** Today's price of a product in the middle of a sentence: it wears the text around it and never gets old. */
export const inlinePrice = defineKind<z.infer<typeof settings>>({
  kind: 'price',
  name: 'Inline price',
  hint: "Today's price in the middle of your own text: it never gets old.",
  sign: '<path d="M1.2 6.6 6.6 1.2h4.2v4.2l-5.4 5.4z" fill="none" stroke="currentColor" stroke-width="1.3"/><circle cx="8.6" cy="3.4" r="1" fill="currentColor"/>',
  drawing:
    '<path d="M5 19h10M38 19h9M5 27h30" class="s"/><path d="M18 13h17v12H18z" class="f"/><path d="M22 19h9" class="w1"/>',
  script: 'more',
  settings,
  fields: [
    { key: 'goods', label: 'Product', as: 'goods' },
    { key: 'choice', label: 'Choice', as: 'goods-choice' },
    langField,
  ],
  usualPlace: 'main',
  usualReach: 'page',
  frameHeight: 32,
  attributes: (s, { placementId, shopUrl, shopHref }) => [
    `goods="${escapeHtml(s.goods)}"`,
    s.choice ? `choice="${escapeHtml(s.choice)}"` : '',
    `placement="${placementId}"`,
    `shop="${escapeHtml(shopUrl)}"`,
    shopHref ? `page="${escapeHtml(shopHref)}"` : '',
    s.lang ? `lang="${escapeHtml(s.lang)}"` : '',
  ],
  // What it costs while the page is written stands there until the script has asked: without script it is a price all the same.
  inner: (s, c) => escapeHtml(c.priceNow?.(s.goods, s.choice) ?? c.productName(s.goods) ?? ''),
  link: (s, { shopUrl, productName, priceNow: now, lang: ofShop }) => ({
    href: `${shopUrl}/goods/${encodeURIComponent(s.goods)}`,
    text: now?.(s.goods, s.choice) ?? productName(s.goods) ?? saysIn(s, { lang: ofShop }).price,
  }),
  async draw(s, shop) {
    const product = (await shop.goods()).bySlug.get(s.goods);
    if (!product || product.shows === 'hidden') return html``;
    return html`<span class="inline-price">${priceWords(product, s.choice, shop)}</span>`;
  },
  describe: (s, productName) => `Inline price: ${productName(s.goods) ?? s.goods}`,
});
