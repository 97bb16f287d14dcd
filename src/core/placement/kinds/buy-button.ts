import { z } from 'zod';
import { escapeHtml } from '../../html/escape';
import { defineKind } from '../kind';

const settings = z.object({
  goods: z.string().min(1, 'Choose the product this button sells.'),
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
  writeElement(s, { placementId, shopUrl, cartHref, productName }) {
    const name = productName(s.goods) ?? s.goods;
    const text = s.text || `Buy: ${name}`;
    const attrs = [
      `goods="${escapeHtml(s.goods)}"`, `placement="${placementId}"`, `shop="${escapeHtml(shopUrl)}"`, `cart="${escapeHtml(cartHref)}"`,
      s.showPrice ? 'price' : '', s.after === 'cart' ? 'after="cart"' : '',
      // The place is kept before any script has run, so that nothing shifts when the button comes.
      `style="display:block;min-height:3.5rem${s.align === 'center' ? ';text-align:center' : ''}"`,
    ].filter(Boolean).join(' ');
    return `<stall-buy ${attrs}><a href="${escapeHtml(`${shopUrl}/goods/${s.goods}?via=${placementId}`)}">${escapeHtml(text)}</a></stall-buy>`;
  },
  describe: (s, productName) => `Buy button: ${productName(s.goods) ?? s.goods}`,
});
