import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { subjectWith, writtenPage } from '../testing';
import { computeWays } from './ways';

const link = (to: string) => ({
  region: 'main' as const,
  block: '',
  line: 1,
  href: to,
  to: to as never,
  text: to,
  inMenu: false,
  source: '',
});
const widget = (kind: string, settings: object = {}) => ({
  region: 'main' as const,
  block: '',
  line: 1,
  kind,
  spelling: 'element' as const,
  placement: `${kind}1`,
  settings: { ...settings },
  problem: '',
  shop: '',
  source: '',
});

const shop = [
  writtenPage('cart.html', { part: 'cart', links: [link('home.html')] }),
  writtenPage('checkout.html', { part: 'checkout', links: [link('cart.html')] }),
];

describe('a shopper’s shortest ways', () => {
  it('are counted press by press', () => {
    const home = writtenPage('home.html', { links: [link('goods.html')], widgets: [widget('cart')] });
    const goods = writtenPage('goods.html', { widgets: [widget('card')], links: [link('home.html')] });
    const ways = computeWays(subjectWith([home, goods, ...shop]));
    expect(ways.from('home.html')).toMatchObject({ product: 1, cart: 1, paid: 5 });
    expect(ways.from('goods.html')).toMatchObject({ product: 0, cart: 2, paid: 4 });
    expect(ways.from('cart.html')).toMatchObject({ cart: 0, paid: 2 });
    expect(ways.steps('home.html', 'paid').map((s) => s.press)).toEqual([
      'goods.html',
      'Add to cart',
      'See the cart',
      'Go to checkout',
      'Pay',
    ]);
  });

  it('are shorter where a button leads straight to the checkout', () => {
    const goods = writtenPage('goods.html', { widgets: [widget('buy', { after: 'checkout' })] });
    expect(computeWays(subjectWith([goods, ...shop])).from('goods.html')?.paid).toBe(2);
  });

  it('do not lead through a widget that is not understood', () => {
    const goods = writtenPage('goods.html', { widgets: [{ ...widget('card'), problem: 'no such thing' }] });
    expect(computeWays(subjectWith([goods, ...shop])).from('goods.html')?.product).toBeUndefined();
  });

  it('law: as long as a walk that tries everything finds them', () => {
    const paths = ['a', 'b', 'c', 'd', 'e', 'f'];
    const graph = fc.array(
      fc.record({ links: fc.subarray(paths), sells: fc.boolean(), cart: fc.boolean() }),
      { minLength: 6, maxLength: 6 },
    );
    fc.assert(
      fc.property(graph, (nodes) => {
        const pages = nodes.map((n, i) =>
          writtenPage(paths[i] ?? '', {
            links: n.links.map(link),
            widgets: [...(n.sells ? [widget('row')] : []), ...(n.cart ? [widget('cart')] : [])],
          }),
        );
        const ways = computeWays(subjectWith([...pages, ...shop]));
        for (const p of pages) expect(ways.from(p.path)?.product).toBe(walked(pages, p.path));
      }),
      { numRuns: 150 },
    );
  });
});

/** Presses to a page that sells, by trying all rows of links of growing length; the cart's page leads home, which is none of these. */
function walked(pages: ReturnType<typeof writtenPage>[], from: string): number | undefined {
  let now = new Set([from]);
  for (let n = 0; n <= pages.length; n++) {
    if (pages.some((p) => now.has(p.path) && p.widgets.some((w) => w.kind === 'row'))) return n;
    now = new Set(pages.filter((p) => now.has(p.path)).flatMap((p) => p.links.map((l) => l.href)));
  }
  return undefined;
}
