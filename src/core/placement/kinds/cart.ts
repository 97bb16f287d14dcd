import { z } from 'zod';
import { escapeHtml } from '../../html/escape';
import { defineKind } from '../kind';

const settings = z.object({
  text: z.string().max(24).default('Cart'),
  hideWhenEmpty: z.boolean().default(false),
});
export type CartSettings = z.infer<typeof settings>;

export const cart = defineKind<CartSettings>({
  kind: 'cart',
  name: 'Cart',
  hint: 'A basket with the count, and the way to the checkout.',
  element: 'stall-cart',
  settings,
  usualPlace: 'header',
  usualReach: 'every',
  frameHeight: 44,
  attributes: (s, { placementId, shopUrl, cartHref }) => [
    `placement="${placementId}"`, `shop="${escapeHtml(shopUrl)}"`, `cart="${escapeHtml(cartHref)}"`,
    s.hideWhenEmpty ? 'hide-empty' : '',
    // The room it will need, kept before any script has run: an icon on narrow screens, icon and word on wide ones.
    'style="display:inline-block;min-width:clamp(2.75rem,14vw,7.5rem);height:2.75rem;line-height:2.75rem;text-align:center"',
  ],
  link: (s, { cartHref }) => ({ href: cartHref, text: s.text }),
  describe: () => 'Cart',
});
