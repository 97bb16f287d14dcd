import { minor } from '../src/core/money/minor';
import type { BasketLine } from '../src/core/till/basket';
import { tillRules } from '../src/core/till/rules';
import { workOut } from '../src/core/till/worked-sum';
import { type Figure, figure } from './support/figure';

const ROUNDS = 15;

const basket = (count: number): BasketLine[] =>
  Array.from({ length: count }, (_, n) => ({
    id: `l${String(n).padStart(6, '0')}`,
    goodsId: `g${n % 97}`,
    variantId: '',
    slug: '',
    name: `Line ${n}`,
    particulars: [],
    unit: minor(100 + ((n * 7919) % 9000)),
    quantity: 1 + (n % 5),
    available: null,
    taxClass: n % 3 ? 'standard' : 'reduced',
    ships: true,
    grams: 100 + (n % 900),
    categories: [`C${n % 12} / D${n % 5}`],
    onOffer: n % 7 === 0,
  }));

const rules = tillRules.parse({
  tax: {
    included: true,
    home: { country: 'GB' },
    rates: [
      { country: 'GB', percent: 20 },
      { country: 'GB', class: 'reduced', percent: 5 },
    ],
  },
  discounts: [
    {
      id: 'a',
      name: 'A',
      kind: 'percent',
      percent: 10,
      scope: { to: 'categories', categories: ['C1', 'C2'] },
    },
    { id: 'b', name: 'B', kind: 'buy-get', buy: 2, get: 1, off: 50 },
    { id: 'c', name: 'C', kind: 'amount', amount: 500, combines: false },
    { id: 'd', name: 'D', code: 'TEN', kind: 'percent', percent: 5 },
  ],
  shipping: {
    regions: [
      {
        id: 'r',
        name: 'R',
        areas: [{ country: '*' }],
        ways: [
          {
            id: 'w',
            name: 'W',
            by: 'weight',
            bands: [
              { upTo: 5000, price: 500 },
              { upTo: null, price: 9000 },
            ],
          },
        ],
      },
    ],
  },
});

/** Median time of one sum, in milliseconds. */
function time(count: number): number {
  const lines = basket(count);
  const asked = {
    currency: 'GBP',
    lines,
    rules,
    buyer: { place: { country: 'GB', state: '', postcode: '' }, codes: ['ten'] },
  };
  const times = Array.from({ length: ROUNDS }, () => {
    const began = performance.now();
    workOut(asked);
    return performance.now() - began;
  }).sort((a, b) => a - b);
  return times[Math.floor(ROUNDS / 2)] ?? 0;
}

/** The whole worked sum, with two choices of discounts, a code, bands and two rates. */
export async function price(): Promise<Figure[]> {
  time(2_000);
  const [small, large] = [time(1_000), time(10_000)];
  return [
    figure('a basket of 1,000 lines worked out', `${small.toFixed(1)} ms`),
    figure(
      'a basket of 10,000 lines worked out',
      `${large.toFixed(1)} ms`,
      `ten times 1,000 lines: ${(small * 10).toFixed(1)} ms`,
      (large / (small * 10)).toFixed(2),
      'about 1: linear',
    ),
  ];
}
