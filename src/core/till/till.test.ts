import { wholeAddress } from './address-asked';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { slugOf } from '../goods/product';
import { AmountError, minor } from '../money/minor';
import { html } from '../storefront/html';
import { checkoutFragment } from '../storefront/checkout';
import { stepWordsIn } from '../languages/languages';
import { type BasketLine, shortLines, workOut } from './worked-sum';

const line = (unit: number, quantity: number, available: number | null = null): BasketLine => ({
  id: 'l',
  goodsId: 'g',
  variantId: 'v',
  slug: 's',
  name: 'n',
  particulars: [],
  unit: minor(unit),
  quantity,
  available,
});

describe('the worked sum', () => {
  it('is each price times its pieces, and its steps make the total', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(1_000_000), fc.integer({ min: 1, max: 999 })), { maxLength: 20 }),
        (lines) => {
          const worked = workOut({ currency: 'GBP', lines: lines.map(([u, q]) => line(u, q)) });
          expect(worked.total).toBe(lines.reduce((n, [u, q]) => n + u * q, 0));
          expect(worked.steps.reduce((n, s) => n + s.amount, 0)).toBe(worked.total);
          expect(worked.pieces).toBe(lines.reduce((n, [, q]) => n + q, 0));
        },
      ),
    );
  });

  it('refuses what it cannot hold exactly', () => {
    expect(() => workOut({ currency: 'GBP', lines: [line(Number.MAX_SAFE_INTEGER, 2)] })).toThrow(
      AmountError,
    );
  });

  it('names lines that ask for more than there is', () => {
    expect(shortLines([line(1, 3, 2), line(1, 2, 2), line(1, 99, null)])).toHaveLength(1);
  });
});

describe('names of products', () => {
  it('make addresses that differ', () => {
    const taken = new Set(['round-log-basket']);
    expect(slugOf('Round log basket', (s) => taken.has(s))).toBe('round-log-basket-2');
    expect(slugOf('  Körbe & Co!  ', () => false)).toBe('korbe-co');
    expect(slugOf('!!!', () => false)).toBe('product');
    expect(slugOf('籠', () => false)).toBe('籠');
  });

  it('are escaped wherever they come from', () => {
    expect(html`<p title="${'"x'}">${'<b>'}${html`<i>${1}</i>`}${false}</p>`.text).toBe(
      '<p title="&quot;x">&lt;b&gt;<i>1</i></p>',
    );
    const form = checkoutFragment(
      {
        lines: [
          {
            id: 'a',
            name: '<script>',
            particulars: ['<em>'],
            href: '#',
            picture: null,
            unit: '',
            amount: '',
            quantity: 1,
            note: '',
            max: null,
            action: '',
          },
        ],
        steps: [],
        total: '£1',
        about: [],
        untilFree: '',
        again: [],
        within: [],
        codes: [],
        codeAction: '',
        totalMinor: 100,
        pieces: 1,
        action: '"x',
        cart: '',
        values: { email: '"><img>' },
        errors: { town: '<b>' },
        payee: '&',
        countries: [],
        ways: [],
        others: [],
        asked: wholeAddress,
        sumAction: '',
        test: false,
        address: { parts: ['town', 'postcode'], needs: [], states: [] },
        pays: [],
        ordering: { now: true, beneath: 'byCard' },
        policies: [],
        note: false,
        phone: 'no',
        company: false,
        remind: null,
        account: '',
      },
      stepWordsIn('en'),
    ).text;
    expect(form).not.toMatch(/<script|<img|<b>/);
    expect(form).toContain('aria-describedby="stall-town-error"');
  });
});
