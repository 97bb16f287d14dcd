import type { Plural } from '../core/languages/plural';
import { apiOf } from './cart-state';

export interface ProductData {
  readonly name: string;
  readonly price: string;
  readonly stock: string;
  readonly soldOut: boolean;
  /** What is said in place of "sold out". */
  readonly out?: string;
  readonly open: { readonly least: string; readonly leastText: string; readonly sign: string } | null;
  /** Where a press leads, and what it says, when something is to be chosen first or it is sold elsewhere. */
  readonly href?: string;
  readonly action?: string;
  /** Choices by their words: variant, price, words on stock, sold out. */
  readonly choices?: Readonly<
    Record<string, readonly [id: string, price: string, stock: string, soldOut: boolean]>
  >;
}
export interface PageData {
  readonly goods: Readonly<Record<string, ProductData>>;
  readonly look: string;
  /** What the look changes on other grounds than the page's: the colour, and declarations. */
  readonly grounds?: readonly (readonly [string, string])[];
  /** What widgets depart from the shop's shape in, by what was asked for: declarations. */
  readonly own?: Readonly<Record<string, string>>;
  /** The owner's own CSS for the parts of widgets. */
  readonly css?: string;
  /** How the cart's sign is drawn, and where its count stands. */
  readonly sign?: { readonly svg: string; readonly count: string };
  readonly words: Readonly<
    Record<
      | 'buy'
      | 'soldOut'
      | 'inCart'
      | 'seeCart'
      | 'failed'
      | 'cart'
      | 'lang'
      | 'amount'
      | 'least'
      | 'close'
      | 'empty'
      | 'yourCart'
      | 'toCheckout'
      | 'account'
      | 'keepLooking'
      | 'notHad',
      string
    >
  > & { readonly pieces: Plural };
  /** What the parts of the shop are called that stand inside one pasted shop front. */
  readonly steps?: Readonly<Record<string, string>>;
  /** Widgets that the server drew, by what was asked for. */
  readonly html: Readonly<Record<string, string>>;
}

/** What one widget asks for: a product, or itself as the server draws it; in its own language where it has one. */
export interface Wish {
  readonly goods?: string | null;
  readonly widget?: string;
  readonly lang?: string | null;
}

/** Set by the loader on the pages of a draft: they wear the draft's look. */
export const draft = { key: '' };

const asked = new Map<string, { goods: Set<string>; widgets: Set<string>; answer: Promise<PageData> }>();
/** Set by the loader: what must have happened before asking, so that all widgets of the page are known. */
let ready: Promise<unknown> = Promise.resolve();
export const waitFor = (what: Promise<unknown>): void => void (ready = what);

/** One request for all widgets of a page: those that ask before it is sent are answered together. */
export function pageData(shop: string, { goods, widget, lang }: Wish = {}): Promise<PageData> {
  const key = `${shop} ${lang ?? ''}`;
  const open = asked.get(key) ?? start(shop, key, lang ?? '');
  if (goods) open.goods.add(goods);
  if (widget) open.widgets.add(widget);
  return open.answer;
}

function start(shop: string, key: string, lang: string) {
  const goods = new Set<string>();
  const widgets = new Set<string>();
  const answer = ready
    .catch(() => {})
    .then(() => new Promise<void>((soon) => setTimeout(soon)))
    .then(async () => {
      asked.delete(key);
      const query = new URLSearchParams({ goods: [...goods].sort().join(',') });
      for (const w of [...widgets].sort()) query.append('w', w);
      if (lang) query.set('lang', lang);
      if (draft.key) query.set('draft', draft.key);
      const found = await fetch(`${apiOf(shop)}/page?${query}`);
      if (!found.ok) throw new Error(`Green Stall: ${shop} answered ${found.status}`);
      return (await found.json()) as PageData;
    });
  const made = { goods, widgets, answer };
  asked.set(key, made);
  return made;
}
