import type { Product } from '../../core/goods/product';
import { stepWordsIn, wordsIn } from '../../core/languages/languages';
import { rowFragment } from '../../core/storefront/cards';
import { cartFragment } from '../../core/storefront/fragments';
import { checkoutFragment } from '../../core/storefront/checkout';
import { Html } from '../../core/storefront/html';
import { productFragment } from '../../core/storefront/product';
import type { CheckoutPageView, LineView, ProductView, SumView } from '../../core/storefront/views';
import type { Ctx } from '../context';
import { catalogueOf } from '../goods/catalogue';
import type { Site } from '../sites/site';
import { money, productViews } from './views';

/** The shop's own fragments with the owner's own goods, for the look to be tried on. Nothing in them leads anywhere. */
export interface LookSample {
  readonly row: string;
  readonly product: string;
  readonly cart: string;
  readonly checkout: string;
  /** Whether they are the owner's own goods; else a few stand in for them. */
  readonly own: boolean;
}

/** Goods that a row of the sample shows. */
const SHOWN = 6;

export async function lookSample(ctx: Ctx, site: Site): Promise<LookSample> {
  const w = wordsIn(site.row.locale);
  const steps = stepWordsIn(site.row.locale);
  const { shown } = await catalogueOf(ctx, site.row.id);
  const products = [...shown].sort((a, b) => pictured(b) - pictured(a)).slice(0, SHOWN);
  const views = products.length
    ? await productViews(ctx, site, products, w)
    : ['A', 'B', 'C'].map((letter, n) => standIn(site, letter, n));
  const [first] = views;
  const sum = sumOf(site, views.slice(0, 2), products, steps.goods);
  return {
    row: rowFragment(
      {
        heading: w.all,
        form: 'grid',
        columns: 3,
        filter: false,
        products: views,
        parts: ['picture', 'name', 'price', 'stock', 'button'],
        level: 3,
      },
      w,
    ).text,
    product: first ? productFragment(first, w, 2).text : '',
    cart: cartFragment({ ...sum, later: true, checkout: '#', back: '#' }, steps).text,
    checkout: checkoutFragment({ ...checkoutOf(sum), ...sum }, steps).text,
    own: products.length > 0,
  };
}

const pictured = (p: Product): number => (p.pictures.length > 0 ? 1 : 0) + (p.offer ? 1 : 0);

function sumOf(
  site: Site,
  views: readonly ProductView[],
  products: readonly Product[],
  subtotal: string,
): SumView {
  const amounts = views.map((_, n) => Number(products[n]?.price ?? 2400 + n * 1200));
  const total = amounts.reduce((sum, amount) => sum + amount, 0);
  return {
    lines: views.map((v, n): LineView => lineOf(v, money(site, amounts[n] ?? 0), n)),
    steps: [{ what: subtotal, amount: money(site, total) }],
    within: [],
    untilFree: '',
    codes: [],
    codeAction: '#',
    again: [],
    total: money(site, total),
    about: [],
    totalMinor: total,
    pieces: views.length,
  };
}

const lineOf = (v: ProductView, amount: string, n: number): LineView => ({
  id: String(n),
  name: v.name,
  particulars: v.variants[0]?.values.length ? [v.variants[0].values.join(', ')] : [],
  href: '#',
  picture: v.picture?.small ?? null,
  unit: amount,
  amount,
  quantity: 1,
  note: v.stock,
  max: null,
  action: '#',
});

const checkoutOf = (sum: SumView): Omit<CheckoutPageView, keyof SumView> => ({
  countries: [],
  others: [],
  asked: { whole: true, country: false, state: false, postcode: true },
  ways: [],
  action: '#',
  sumAction: '#',
  cart: '#',
  values: {},
  errors: sum.lines.length ? { email: '' } : {},
  payee: '',
  test: false,
  address: { parts: ['postcode', 'town'], needs: ['postcode', 'town'], states: [] },
  pays: [],
  ordering: 'free',
  policies: [],
  note: false,
  phone: 'no',
  company: false,
  remind: null,
  account: '',
});

/** Goods of a shop that has none yet. */
function standIn(site: Site, letter: string, n: number): ProductView {
  const price = money(site, 2400 + n * 1200);
  return {
    slug: `sample-${n}`,
    kind: 'ships',
    name: `${letter} first product of yours`,
    description: new Html(''),
    summary: '',
    price,
    was: n === 0 ? money(site, 3000) : '',
    lowest: '',
    perUnit: '',
    badge: n === 0 ? 'New' : '',
    action: 'add',
    open: null,
    stock: '',
    soldOut: false,
    partGone: false,
    max: null,
    picture: null,
    pictures: [],
    href: '#',
    send: '#',
    via: '',
    options: [],
    variants: [],
    texts: [],
    sections: [],
    event: null,
    seller: null,
    every: '',
    parts: [],
    video: '',
    rating: null,
  };
}
