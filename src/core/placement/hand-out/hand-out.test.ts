import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pagePath } from '../../site/paths';
import { parsePageFile, type ParsedPage } from '../../site/read-page';
import { writeShortcode } from '../shortcode';
import { arrivalOn, menuItemOn, scriptOn } from './arrival';
import { stepAddress } from './pasted';
import { type HandedPlacement, type HandedState, piecesOf } from './pieces';
import { withoutPasted } from './without-pasted';

const shop = 'https://shop.example/yarn';
const script = `<script async src="https://shop.example/stall.js" data-shop="${shop}"></script>`;
const element = `<stall-buy placement="abcdefgh12" goods="trug" shop="${shop}" text="Buy the trug"><a href="${shop}/goods/trug?via=abcdefgh12">Trug</a></stall-buy>`;
const at = 'https://yarn.example/about';

function page(html: string): ParsedPage {
  const read = parsePageFile(pagePath('about.html'), Buffer.from(`<!doctype html><title>t</title>${html}`));
  if ('problem' in read) throw new Error(read.problem);
  return read.page;
}

const wanted = { placement: 'abcdefgh12', kind: 'buy', spelling: 'element' as const, code: element, shop };
const state = (html: string) => arrivalOn(page(html), wanted, at).state;

describe('code that was pasted', () => {
  it.each([
    ['as it was handed out', `<main>${element}</main>${script}`, 'there'],
    [
      'with what hosts add to it',
      `${element.replace('<stall-buy', '<stall-buy class="x" data-block="7" style="order:2"')}${script}`,
      'there',
    ],
    ['without the script', element, 'no-script'],
    [
      'with a script that a consent tool holds back',
      `${element}${script.replace('<script', '<script type="text/plain" data-consent="marketing"')}`,
      'held',
    ],
    [
      'with a script that is loaded late by a tool',
      `${element}${script.replace(' src=', ' data-src=')}`,
      'held',
    ],
    ['with the script in a comment', `${element}<!--${script}-->`, 'no-script'],
    ['of another day', `${element.replace('Buy the trug', 'Buy it')}${script}`, 'older'],
    [
      'without the attributes that an editor does not know',
      `${element.replace(/ (goods|shop)="[^"]*"/g, '')}${script}`,
      'altered',
    ],
    ['as words', `<p>${element.replace(/</g, '&lt;').replace(/>/g, '&gt;')}</p>${script}`, 'escaped'],
    ['as words in numbers', `<p>${element.replace(/</g, '&#60;')}</p>${script}`, 'escaped'],
    [
      'with its element taken out',
      `<p><a href="${shop}/goods/trug?via=abcdefgh12">Trug</a></p>${script}`,
      'stripped',
    ],
    ['not at all', '<p>Baskets, and how they are made: read on below.</p>', 'absent'],
    [
      'on a page that is drawn in the browser',
      '<div id="app"></div><script src="/app.js"></script>',
      'unseen',
    ],
  ] as const)('%s', (_, html, is) => {
    expect(state(html)).toBe(is);
    expect(arrivalOn(page(html), wanted, at).found).toBe(is === 'there' || is === 'older');
  });

  it('as a shortcode stands whatever quotes an editor likes, and is older when a setting changed', () => {
    const code = writeShortcode('buy', [
      ['goods', 'trug'],
      ['placement', 'abcdefgh12'],
    ]);
    const asked = { ...wanted, spelling: 'shortcode' as const, code };
    const curly = code.replace(/"([^"]*)"/g, '\u201c$1\u201d');
    expect(arrivalOn(page(`<p>${code}</p>${script}`), asked, at).state).toBe('there');
    expect(arrivalOn(page(`<p>${curly}</p>${script}`), asked, at).state).toBe('there');
    expect(arrivalOn(page(`<p>${code.replace('trug', 'log')}</p>${script}`), asked, at).state).toBe('older');
    expect(arrivalOn(page(`<p>${code}</p>`), asked, at).state).toBe('no-script');
  });

  it('another placement of the same kind is not taken for it', () => {
    expect(state(`${element.replaceAll('abcdefgh12', 'zzzzzzzz12')}${script}`)).toBe('absent');
  });

  it('the foot: script and cart, each told', () => {
    const foot = `${script}\n<stall-cart placement="cartcart12" shop="${shop}"></stall-cart>`;
    const on = (html: string) => scriptOn(page(html), shop, foot, at).state;
    expect(on(foot)).toBe('there');
    expect(on(script)).toBe('altered');
    expect(on('')).toBe('no-script');
    expect(on(foot.replace(' data-shop', ' data-old-shop'))).toBe('altered');
    expect(on(foot.replace(`data-shop="${shop}"`, `data-shop="${shop}2"`))).toBe('older');
  });

  it('an item of the menu leads there, however its address is written', () => {
    const on = (href: string) =>
      menuItemOn(page(`<a href="${href}">Shop</a>`), at, 'Shop', 'https://www.yarn.example/shop').found;
    expect(['/shop', 'shop', 'https://yarn.example/shop/', '//www.yarn.example/shop'].map(on)).toEqual([
      true,
      true,
      true,
      true,
    ]);
    expect(['/shop2', 'https://other.example/shop', '/shop?x=1'].map(on)).toEqual([false, false, false]);
  });
});

describe('a page without what was pasted', () => {
  const text = fc.stringMatching(/^[a-zA-Z ,.]{0,20}$/);
  const block = fc.oneof(
    text.map((t) => `<p>${t}</p>`),
    text.map((t) => `<div><h2>${t}</h2>\n<ul><li>${t}</li></ul></div>`),
  );
  it('is the owner\u2019s, byte for byte, wherever pieces stood', () => {
    const piece = fc.constantFrom(
      element,
      script,
      `<iframe src="${shop}/frame/buy?goods=trug"></iframe>`,
      '[stall buy goods="trug" placement="abcdefgh12"]',
      `<stall-shop shop="${shop}"><p>Shop</p></stall-shop>`,
    );
    const mixed = fc.array(fc.tuple(block, fc.option(piece)), { maxLength: 8 });
    fc.assert(
      fc.property(mixed, (parts) => {
        const own = Buffer.from(`<!doctype html><title>t</title>${parts.map(([b]) => b).join('')}`);
        const all = Buffer.from(
          `<!doctype html><title>t</title>${parts.map(([b, p]) => b + (p ?? '')).join('')}`,
        );
        expect(withoutPasted(pagePath('a.html'), all, 'https://shop.example').toString()).toBe(
          own.toString(),
        );
      }),
    );
  });
  it('keeps code of another shop, and words about stalls', () => {
    const html = `<p>Our stall at the market</p><stall-buy shop="https://other.example/x"></stall-buy><script src="https://other.example/stall.js"></script>`;
    expect(withoutPasted(pagePath('a.html'), Buffer.from(html), 'https://shop.example').toString()).toBe(
      html,
    );
  });
});

describe('what is pasted', () => {
  const placement = (id: string, kind: string, everywhere = false): HandedPlacement => ({
    placement: {
      id,
      kind,
      settings: { floats: everywhere },
      spelling: 'element',
      pitch: {} as never,
      pitchLabel: 'after \u201cBaskets\u201d',
      reach: everywhere ? { to: 'every', except: [] } : { to: 'page', page: 'a.html' },
      order: 1,
    },
    name: kind,
    pages: everywhere ? ['https://yarn.example/', 'https://yarn.example/a'] : ['https://yarn.example/a'],
    everywhere,
    write: (spelling) =>
      spelling === 'shortcode'
        ? `<span class="s">[stall ${kind} placement=&quot;${id}&quot;]</span>`
        : `<${spelling} ${id}>`,
  });
  const all: HandedState = {
    offers: { blocks: true, foot: true },
    script,
    front: 'https://yarn.example/',
    placements: [placement('cartcart12', 'cart', true), placement('abcdefgh12', 'buy')],
    shopPage: 'https://yarn.example/shop',
    shopName: 'Shop',
    shopUrl: shop,
    shopHome: `${shop}/goods`,
    sells: true,
    menu: [{ label: 'Shop', to: 'https://yarn.example/shop' }],
  };
  const asked = (offers: HandedState['offers'], more: Partial<HandedState> = {}) =>
    piecesOf({ ...all, ...more, offers });

  it('with a foot and blocks: the script and the cart once, then elements alone', () => {
    const pieces = asked({ blocks: true, foot: true });
    expect(pieces.map((p) => p.id)).toEqual(['script', 'shop', 'abcdefgh12', 'menu:Shop']);
    expect(pieces[0]?.code).toBe(`${script}\n<element cartcart12>`);
    expect(pieces[2]?.code).toBe('<element abcdefgh12>');
  });
  it('with blocks alone: each piece brings the script', () => {
    const pieces = asked({ blocks: true, foot: false });
    expect(pieces.map((p) => p.id)).toEqual(['shop', 'cartcart12', 'abcdefgh12', 'menu:Shop']);
    for (const p of pieces.slice(0, 3)) expect(p.code).toContain(script);
  });
  it('with a foot alone: text that the script turns into widgets', () => {
    const pieces = asked({ blocks: false, foot: true });
    expect(pieces.find((p) => p.id === 'abcdefgh12')).toMatchObject({
      spelling: 'shortcode',
      code: '[stall buy placement="abcdefgh12"]',
    });
    expect(pieces.find((p) => p.id === 'shop')?.code).toBe('[stall shop]');
  });
  it('with neither: links, and no script that nobody could paste', () => {
    const pieces = asked({ blocks: false, foot: false });
    expect(pieces.map((p) => p.spelling)).toEqual(['link', 'link', 'link']);
    expect(pieces.map((p) => p.code).join()).not.toContain('<script');
    expect(pieces.some((p) => p.id === 'shop')).toBe(false);
  });
  it('nothing, where nothing sells', () => {
    expect(asked({ blocks: true, foot: true }, { sells: false, placements: [], menu: [] })).toEqual([]);
  });
  it('every placement is pasted once, whatever the host takes', () => {
    fc.assert(
      fc.property(fc.boolean(), fc.boolean(), (blocks, foot) => {
        const codes = asked({ blocks, foot })
          .map((p) => p.code)
          .join('\n');
        for (const id of ['cartcart12', 'abcdefgh12']) expect(codes.split(id).length - 1).toBe(1);
      }),
    );
  });
  it('parts of the shop keep what the page\u2019s own address asks', () => {
    expect(stepAddress('https://yarn.example/index.php?page=7', 'cart')).toBe(
      'https://yarn.example/index.php?page=7&step=cart',
    );
    expect(stepAddress('https://yarn.example/shop', 'shop')).toBe('https://yarn.example/shop');
  });
});
