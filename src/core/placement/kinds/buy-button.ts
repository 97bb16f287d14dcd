import { z } from 'zod';
import { escapeHtml } from '../../html/escape';
import { fill } from '../../languages/languages';
import { defineKind } from '../kind';
import { lang, langField, saysIn } from './common';

const settings = z.object({
  goods: z.string('Choose the product this button sells.').min(1, 'Choose the product this button sells.'),
  /** Own text; empty means "Buy the <name>". */
  text: z.string().max(80).default(''),
  /** Address of a picture that stands in place of the text; the text is then what is read out. */
  picture: z
    .string()
    .max(500)
    .regex(/^(https?:\/\/|\/|\.{0,2}\/?[\w-])?[^\s"'<>]*$/, 'Enter the address of a picture of the site.')
    .default(''),
  /** The choice of a product with options: "M, natural"; empty leads to its page, to choose there. */
  choice: z.string().trim().max(200).default(''),
  showPrice: z.boolean().default(true),
  after: z.enum(['cart', 'stay', 'checkout', 'drawer']).default('stay'),
  /** Where the cart or the checkout opens. */
  window: z.enum(['same', 'new']).default('same'),
  align: z.enum(['start', 'center']).default('start'),
  lang,
});
export type BuyButtonSettings = z.infer<typeof settings>;

/** What it sells, by name: a choice that the button makes for the buyer is said. */
const withChoice = (name: string, choice: string): string => (choice ? `${name}, ${choice}` : name);

export const buyButton = defineKind<BuyButtonSettings>({
  kind: 'buy',
  name: 'Buy button',
  hint: 'One product, one button. Needs no other widget.',
  sign: '<rect x=".8" y="3" width="10.4" height="5.4" rx="2.7" fill="none" stroke="currentColor" stroke-width="1.3"/><circle cx="6" cy="5.7" r="1.3" fill="currentColor"/>',
  drawing:
    '<rect x="7" y="12" width="38" height="14" rx="7" class="f"/><path d="M14 19h15" class="w"/><circle cx="37" cy="19" r="2.6" class="wf"/>',
  script: 'first',
  settings,
  fields: [
    { key: 'goods', label: 'Product', as: 'goods' },
    {
      key: 'choice',
      label: 'Which choice',
      as: 'goods-choice',
      placeholder: 'chosen on its page',
    },
    { key: 'text', label: 'Text', as: 'text', placeholder: 'Buy: its name' },
    { key: 'picture', label: 'A picture in place of the text', as: 'picture', placeholder: 'none' },
    { key: 'showPrice', label: 'Today\u2019s price on the button', as: 'yes' },
    {
      key: 'after',
      label: 'After a click',
      as: 'choice',
      options: [
        ['stay', 'Stay here'],
        ['drawer', 'Show the cart beside'],
        ['cart', 'Open the cart'],
        ['checkout', 'Go to checkout'],
      ],
    },
    {
      key: 'window',
      label: 'Opens in',
      as: 'choice',
      options: [
        ['same', 'This window'],
        ['new', 'A new one'],
      ],
      when: ['after', 'cart', 'checkout'],
    },
    {
      key: 'align',
      label: 'Stands',
      as: 'choice',
      options: [
        ['start', 'At the start'],
        ['center', 'In the middle'],
      ],
    },
    langField,
  ],
  usualPlace: 'main',
  usualReach: 'page',
  frameHeight: 72,
  attributes: (s, { placementId, shopUrl, cartHref, checkoutHref, absolute, anywhere }) => [
    `goods="${escapeHtml(s.goods)}"`,
    s.choice ? `choice="${escapeHtml(s.choice)}"` : '',
    `placement="${placementId}"`,
    `shop="${escapeHtml(shopUrl)}"`,
    `cart="${escapeHtml(cartHref)}"`,
    s.after === 'checkout' && checkoutHref ? `checkout="${escapeHtml(checkoutHref)}"` : '',
    s.showPrice ? 'price' : '',
    s.after !== 'stay' ? `after="${s.after}"` : '',
    s.window === 'new' ? 'window="new"' : '',
    s.picture ? `picture="${escapeHtml(anywhere ? (absolute?.(s.picture) ?? s.picture) : s.picture)}"` : '',
    s.lang ? `lang="${escapeHtml(s.lang)}"` : '',
    // The place is kept before any script has run, so that nothing shifts when the button comes.
    `style="display:block;min-height:3.5rem${s.align === 'center' ? ';text-align:center' : ''}"`,
  ],
  link: (s, { placementId, shopUrl, productName, lang: ofShop }) => ({
    href: `${shopUrl}/goods/${encodeURIComponent(s.goods)}?via=${placementId}`,
    text:
      s.text ||
      fill(saysIn(s, { lang: ofShop }).buy, { x: withChoice(productName(s.goods) ?? s.goods, s.choice) }),
  }),
  describe: (s, productName) => `Buy button: ${productName(s.goods) ?? s.goods}`,
});
