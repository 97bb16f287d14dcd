import { z } from 'zod';
import { escapeHtml } from '../../html/escape';
import { defineKind } from '../kind';

const settings = z.object({
  goods: z.string('Choose the product this button sells.').min(1, 'Choose the product this button sells.'),
  /** Own text; empty means "Buy the <name>". */
  text: z.string().max(80).default(''),
  showPrice: z.boolean().default(true),
  after: z.enum(['cart', 'stay']).default('stay'),
  align: z.enum(['start', 'center']).default('start'),
});
export type BuyButtonSettings = z.infer<typeof settings>;

export const buyButton = defineKind<BuyButtonSettings>({
  kind: 'buy',
  name: 'Buy button',
  hint: 'One product, one button. Needs no other widget.',
  element: 'stall-buy',
  settings,
  usualPlace: 'main',
  usualReach: 'page',
  frameHeight: 72,
  attributes: (s, { placementId, shopUrl, cartHref }) => [
    `goods="${escapeHtml(s.goods)}"`, `placement="${placementId}"`, `shop="${escapeHtml(shopUrl)}"`, `cart="${escapeHtml(cartHref)}"`,
    s.showPrice ? 'price' : '', s.after === 'cart' ? 'after="cart"' : '',
    // The place is kept before any script has run, so that nothing shifts when the button comes.
    `style="display:block;min-height:3.5rem${s.align === 'center' ? ';text-align:center' : ''}"`,
  ],
  link: (s, { placementId, shopUrl, productName }) => ({
    href: `${shopUrl}/goods/${encodeURIComponent(s.goods)}?via=${placementId}`,
    text: s.text || `Buy: ${productName(s.goods) ?? s.goods}`,
  }),
  describe: (s, productName) => `Buy button: ${productName(s.goods) ?? s.goods}`,
});
