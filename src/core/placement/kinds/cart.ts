import { z } from 'zod';
import { escapeHtml } from '../../html/escape';
import { defineKind } from '../kind';
import { lang, langField, saysIn } from './common';

const settings = z.object({
  /** An icon with the count; or a summary of what is in it, for side columns. */
  form: z.enum(['icon', 'summary']).default('icon'),
  /** Own text; empty is the word of its language. */
  text: z.string().max(24).default(''),
  /** What a press on the icon opens: the cart's page, or a drawer beside the page. */
  opens: z.enum(['page', 'drawer']).default('page'),
  hideWhenEmpty: z.boolean().default(false),
  /** Stands in the corner of the window, whatever is scrolled: for pages without a header. */
  floats: z.boolean().default(false),
  lang,
});
export type CartSettings = z.infer<typeof settings>;

export const cart = defineKind<CartSettings>({
  kind: 'cart',
  name: 'Cart',
  hint: 'A basket with the count, and the way to the checkout.',
  sign: '<path d="M1.5 5.5h9L9.4 10.4H2.6z" fill="currentColor"/><path d="M3.2 5.5c0-4.6 5.6-4.6 5.6 0" fill="none" stroke="currentColor" stroke-width="1.3"/>',
  drawing:
    '<path d="M13 17h26l-3.5 15h-19z" class="f"/><path d="M18 17c0-15 16-15 16 0" class="s"/><path d="M16 22h20M17 27h18M22 17v15M30 17v15" class="w1"/>',
  script: 'first',
  settings,
  fields: [
    {
      key: 'form',
      label: 'Looks like',
      as: 'choice',
      options: [
        ['icon', 'A basket'],
        ['summary', 'A summary'],
      ],
    },
    { key: 'text', label: 'Text', as: 'text', placeholder: 'Cart' },
    {
      key: 'opens',
      label: 'Opens',
      as: 'choice',
      options: [
        ['page', 'The cart page'],
        ['drawer', 'A drawer'],
      ],
      when: ['form', 'icon'],
    },
    { key: 'floats', label: 'Floats in the corner', as: 'yes', when: ['form', 'icon'] },
    { key: 'hideWhenEmpty', label: 'Hidden while it is empty', as: 'yes' },
    langField,
  ],
  usualPlace: 'header',
  usualReach: 'every',
  frameHeight: 44,
  attributes: (s, { placementId, shopUrl, cartHref, checkoutHref }) => [
    `placement="${placementId}"`,
    `shop="${escapeHtml(shopUrl)}"`,
    `cart="${escapeHtml(cartHref)}"`,
    s.form === 'summary' ? 'form="summary"' : '',
    s.opens === 'drawer' ? 'opens="drawer"' : '',
    s.hideWhenEmpty ? 'hide-empty hidden' : '',
    s.lang ? `lang="${escapeHtml(s.lang)}"` : '',
    checkoutHref && (s.form === 'summary' || s.opens === 'drawer')
      ? `checkout="${escapeHtml(checkoutHref)}"`
      : '',
    // The room it will need, kept before any script has run: an icon on narrow screens, icon and word on wide ones. Where its
    // neighbours are stretched over the whole header (a column of flex, a grid), it is not.
    s.form === 'summary'
      ? `style="display:block${s.hideWhenEmpty ? '' : ';min-height:9rem'}"`
      : `style="display:inline-block;min-width:clamp(2.75rem,14vw,7.5rem);height:2.75rem;line-height:2.75rem;text-align:center;align-self:center;justify-self:end${s.floats ? ';position:fixed;right:1rem;bottom:1rem;z-index:9' : ''}"`,
  ],
  // Where the site has no page for it: without script what is bought is seen on the shop's plain pages.
  link: (s, c) => ({
    href: c.cartHref === '#' ? `${c.shopUrl}/goods` : c.cartHref,
    text: s.text || saysIn(s, c).cart,
  }),
  describe: () => 'Cart',
});
