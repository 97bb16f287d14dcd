import { wholeAddress } from '../till/address-asked';
import { parseFragment } from 'parse5';
import { describe, expect, it } from 'vitest';
import { attr, descendants, type Element, find, rawText } from '../html/tree';
import { cardFragment, rowFragment } from './cards';
import { productFragment } from './product';
import { checkoutFragment } from './checkout';
import { cartFragment } from './fragments';
import { failedFragment, thanksFragment } from './order-page';
import { Html } from './html';
import { stepWordsIn, wordsIn } from '../languages/languages';
import type { CartPageView, CheckoutPageView, LineView, OrderPageView, ProductView } from './views';

const tree = (fragment: Html) => parseFragment(fragment.text);
const all = (fragment: Html, tag: string): Element[] =>
  [...descendants(tree(fragment))].filter((e) => e.tagName === tag);
const en = wordsIn('en');
const steps = stepWordsIn('en');
const words = (fragment: Html): string => rawText(tree(fragment)).replace(/\s+/g, ' ').trim();

const line: LineView = {
  id: 'l1',
  name: 'Trug & co',
  particulars: ['M, natural'],
  href: '/goods/trug',
  picture: '/p.webp',
  unit: '£42.00',
  amount: '£84.00',
  quantity: 2,
  note: '',
  max: null,
  action: '/cart/t/lines/l1',
};
const sum = {
  lines: [line],
  steps: [{ what: 'Goods', amount: '£84.00' }],
  total: '£84.00',
  about: [],
  untilFree: '',
  again: [],
  within: [],
  codes: [],
  codeAction: '',
  totalMinor: 8400,
  pieces: 2,
};
const cart: CartPageView = { ...sum, later: false, checkout: '/checkout', back: '/' };
const checkout: CheckoutPageView = {
  ...sum,
  action: '/pay',
  cart: '/cart',
  values: {},
  errors: {},
  test: false,
  address: { parts: ['town', 'postcode'], needs: ['town', 'postcode'], states: [] },
  pays: [],
  ordering: { now: true, beneath: 'byCard' },
  policies: [],
  note: false,
  phone: 'no',
  company: false,
  remind: null,
  account: '',
  payee: 'Withybed',
  countries: [{ code: 'GB', name: 'United Kingdom' }],
  ways: [],
  others: [],
  asked: wholeAddress,
  sumAction: '/pay/sum',
};

describe('the cart', () => {
  it('is forms that work without script: each button sends the number it means', () => {
    const [form] = all(cartFragment(cart, steps), 'form');
    expect(form && [attr(form, 'method'), attr(form, 'action')]).toEqual(['post', '/cart/t/lines/l1']);
    const buttons = all(cartFragment(cart, steps), 'button');
    expect(buttons.map((b) => [attr(b, 'name'), attr(b, 'value'), attr(b, 'aria-label')])).toEqual([
      ['quantity', '1', 'One fewer Trug & co'],
      ['quantity', '3', 'One more Trug & co'],
      ['quantity', '0', 'Remove Trug & co'],
      [undefined, undefined, undefined],
    ]);
    expect(rawText(buttons.at(-1) as never)).toBe('Apply');
  });

  it('offers no more than there is, and says so', () => {
    const full = cartFragment({ ...cart, lines: [{ ...line, max: 2, note: 'Only 2 left' }] }, steps);
    expect(all(full, 'button').map((b) => attr(b, 'disabled') !== undefined)).toEqual([
      false,
      true,
      false,
      false,
    ]);
    expect(words(full)).toContain('Only 2 left');
  });

  it('that is empty leads back, and sells nothing', () => {
    const none = cartFragment({ ...cart, lines: [] }, steps);
    expect(words(none)).toContain('nothing in your cart yet');
    expect(all(none, 'a').map((a) => attr(a, 'href'))).toEqual(['/']);
    expect(all(none, 'form')).toEqual([]);
  });
});

describe('the checkout', () => {
  it('labels every field, tells browsers what belongs in it, and says the whole total on the button', () => {
    const drawn = tree(checkoutFragment(checkout, steps));
    const fields = [...descendants(drawn)].filter(
      (i) => (i.tagName === 'input' || i.tagName === 'select') && attr(i, 'type') !== 'hidden',
    );
    const labels = all(checkoutFragment(checkout, steps), 'label').map((l) => attr(l, 'for'));
    expect(fields.map((f) => attr(f, 'id'))).toEqual(labels);
    // HTML standard, 4.10.18.7: autofill detail tokens.
    expect(fields.map((f) => attr(f, 'autocomplete'))).toEqual([
      'email',
      'name',
      'street-address',
      'address-level2',
      'postal-code',
      'country',
    ]);
    const buttons = all(checkoutFragment(checkout, steps), 'button');
    const orders = buttons.filter((b) => attr(b, 'name') === 'order');
    expect(orders.map((b) => [rawText(b), attr(b, 'value')])).toEqual([['Pay £84.00', 'yes']]);
    // Every other button leads to the address where nothing is ordered; the first of all is what Enter presses.
    expect(buttons[0]).not.toBe(orders[0]);
    for (const b of buttons) if (b !== orders[0]) expect(attr(b, 'formaction')).toBe('/pay/sum');
    const hidden = all(checkoutFragment(checkout, steps), 'input').find((i) => attr(i, 'name') === 'total');
    expect(hidden && attr(hidden, 'value')).toBe('8400');
  });

  it('keeps what was typed and ties each error to its field', () => {
    const wrong = checkoutFragment(
      {
        ...checkout,
        values: { email: 'ada@' },
        errors: { email: 'Write an address.', town: 'Write the town.' },
      },
      steps,
    );
    const email = all(wrong, 'input').find((i) => attr(i, 'name') === 'email');
    expect(
      email && [attr(email, 'value'), attr(email, 'aria-invalid'), attr(email, 'aria-describedby')],
    ).toEqual(['ada@', 'true', 'stall-email-error']);
    expect(find(tree(wrong), (e) => attr(e, 'id') === 'stall-email-error')).toBeDefined();
    expect(words(wrong)).toContain('2 fields need another look.');
    expect(words(checkoutFragment({ ...checkout, errors: { town: 'x' } }, steps))).toContain(
      'One field needs another look.',
    );
  });

  it('of an empty cart asks for no money', () => {
    expect(all(checkoutFragment({ ...checkout, lines: [] }, steps), 'button')).toEqual([]);
  });
});

describe('after paying', () => {
  const order: OrderPageView = {
    held: false,
    test: false,
    words: '',
    todo: null,
    steps: [],
    progress: [],
    papers: [],
    state: 'paid',
    number: '1001',
    email: 'a@b.example',
    lines: [{ name: 'Trug', quantity: 1, amount: '£42.00' }],
    total: '£42.00',
    files: '',
    vouchers: [],
    back: '/',
    retry: '/checkout',
    reason: 'Declined',
  };

  it('each state says where the money is', () => {
    expect(words(thanksFragment(order, steps))).toContain('Your order is in, and paid. Its number is 1001');
    expect(words(thanksFragment({ ...order, state: 'waiting' }, steps))).toContain('being confirmed');
    expect(words(failedFragment({ ...order, state: 'failed' }, steps))).toContain(
      'Nothing was charged, and your cart is as you left it. The card service says: Declined.',
    );
  });

  it('the page tells the truth, whichever address was opened', () => {
    expect(words(thanksFragment({ ...order, state: 'failed' }, steps))).toContain('Nothing was charged');
    expect(words(failedFragment(order, steps))).toContain('Your order is in, and paid.');
  });

  it('every way out leads back to the site', () => {
    for (const f of [thanksFragment(order, steps), failedFragment({ ...order, state: 'failed' }, steps)]) {
      expect(all(f, 'a').map((a) => attr(a, 'href'))).toContain('/');
    }
  });
});

describe('a product', () => {
  const picture = { small: '/s.webp', large: '/l.webp', set: '/s.webp 480w', alt: 'A trug', x: 5, y: 5 };
  const product: ProductView = {
    slug: 'trug',
    name: 'Trug',
    kind: 'ships',
    description: new Html('<p>Oval &lt;34 cm&gt;</p>'),
    summary: 'Oval <34 cm>',
    price: '£42.00',
    was: '',
    lowest: '',
    perUnit: '',
    badge: '',
    action: 'add',
    open: null,
    stock: 'Only 2 left',
    soldOut: false,
    partGone: false,
    max: 2,
    picture,
    pictures: [picture],
    href: '/goods/trug',
    send: '/goods/trug',
    via: 'aaaaaaaa',
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

  it('can be bought with a plain form that remembers the placement', () => {
    const inputs = all(productFragment(product, en), 'input');
    expect(inputs.map((i) => [attr(i, 'name'), attr(i, 'value'), attr(i, 'max')])).toEqual([
      ['placement', 'aaaaaaaa', undefined],
      ['quantity', '1', '2'],
    ]);
    expect(words(productFragment(product, en))).toContain('Oval <34 cm>');
    expect(words(productFragment(product, en))).toContain('Only 2 left');
  });

  it('that is sold out says so in words and has no button', () => {
    const gone = productFragment({ ...product, soldOut: true, stock: 'Sold out' }, en);
    expect(words(gone)).toContain('Sold out');
    expect(all(gone, 'button')).toEqual([]);
  });

  it('stands in a list with its price; an empty list says so', () => {
    const row = {
      heading: '',
      form: 'grid',
      columns: 3,
      filter: false,
      parts: ['name', 'price', 'stock'],
      level: 3,
    } as const;
    expect(words(rowFragment({ ...row, products: [product] }, en))).toBe('Trug £42.00 Only 2 left');
    expect(words(rowFragment({ ...row, products: [] }, en))).toBe('Nothing is for sale here just now.');
  });

  it('as a card shows the parts that were asked for, each form at its product', () => {
    const card = cardFragment(
      { ...product, was: '£50.00' },
      { parts: ['picture', 'name', 'price', 'button'], level: 4 },
      en,
    );
    expect(all(card, 'h4').map((h) => rawText(h))).toEqual(['Trug']);
    expect(words(card)).toContain('before £50.00');
    expect(all(card, 'form').map((f) => [attr(f, 'method'), attr(f, 'action'), attr(f, 'data-add')])).toEqual(
      [['post', '/goods/trug', 'trug']],
    );
    expect(
      all(cardFragment(product, { parts: ['name'], level: 2 }, en), 'img').length +
        all(cardFragment(product, { parts: ['name'], level: 2 }, en), 'form').length,
    ).toBe(0);
  });

  it('is chosen and counted on its card where the owner wants that; what needs more leads to its page', () => {
    const options = [
      {
        name: 'Size',
        as: 'list' as const,
        values: [
          { name: 'S', colour: '', out: false },
          { name: 'M', colour: '', out: true },
        ],
      },
    ];
    const variant = { price: '£42.00', was: '', stock: '', soldOut: false, max: 3, picture: -1 };
    const sized: ProductView = {
      ...product,
      action: 'choose',
      options,
      variants: [
        { ...variant, id: 's', values: ['S'] },
        { ...variant, id: 'm', values: ['M'], soldOut: true },
      ],
    };
    const look = { parts: ['name', 'options', 'quantity'], level: 3 } as const;
    const card = cardFragment(sized, look, en);
    expect(all(card, 'select').map((s) => [attr(s, 'name'), attr(s, 'required')])).toEqual([
      ['option-0', ''],
    ]);
    expect(all(card, 'option').map((o) => [attr(o, 'value'), rawText(o)])).toEqual([
      ['', 'Size'],
      ['S', 'S'],
      ['M', 'M (not available)'],
    ]);
    expect(all(card, 'input').map((i) => attr(i, 'name'))).toEqual(['placement', 'quantity']);
    expect(all(card, 'button').length).toBe(1);
    const more = { label: 'Initials', most: 3, required: true, price: '' };
    for (const v of [
      { ...sized, texts: [more] },
      { ...sized, options: [...options, ...options, ...options] },
    ])
      expect(all(cardFragment(v, look, en), 'form')).toEqual([]);
    // Without the part it is a way to the page, as ever.
    expect(all(cardFragment(sized, { parts: ['name', 'button'], level: 3 }, en), 'select')).toEqual([]);
  });

  it('whose amount the buyer names asks for it, and says the least', () => {
    const open = {
      least: '5.00',
      leastText: '£5.00',
      sign: '£',
      suggested: [{ value: '10.00', text: '£10.00' }],
    };
    const page = productFragment({ ...product, open }, en);
    expect(all(page, 'input').map((i) => attr(i, 'name'))).toContain('amount');
    expect(words(page)).toContain('at least £5.00');
    expect(
      all(cardFragment({ ...product, open, action: 'amount' }, { parts: ['button'], level: 3 }, en), 'form'),
    ).toEqual([]);
  });

  it('without a picture shows none', () => {
    expect(all(productFragment({ ...product, picture: null, pictures: [] }, en), 'img')).toEqual([]);
  });
});
