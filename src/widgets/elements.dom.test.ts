import { kinds } from '../core/placement/kinds';
import { pathToFileURL } from 'node:url';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { PageData } from './page-data';

const SHOP = 'https://shop.example/withybed';

/** Requests for the widgets of a page, in the order in which they were sent. */
let asked: URL[];
const answers = (url: URL): PageData =>
  ({
    goods: Object.fromEntries(
      (url.searchParams.get('goods') ?? '')
        .split(',')
        .filter(Boolean)
        .map((slug) => [
          slug,
          { name: slug, price: '10.00', stock: '', soldOut: slug === 'gone', open: null },
        ]),
    ),
    look: '--stall-ink:#111',
    words: { buy: 'Buy {x}', soldOut: 'sold out', lang: 'en', cart: 'Cart', pieces: { other: '{n} pieces' } },
    html: Object.fromEntries(url.searchParams.getAll('w').map((w) => [w, `<p>${w}</p>`])),
  }) as unknown as PageData;

/** What jsdom lacks and browsers have: style sheets that are constructed, a script element that is being run. */
class ConstructedSheet {
  text = '';
  replaceSync(text: string): void {
    this.text = text;
  }
}

Object.defineProperty(Element.prototype, 'part', { get: () => ({ add() {} }) });

const open = (): void => {
  asked = [];
  vi.stubGlobal('CSSStyleSheet', ConstructedSheet);
  vi.stubGlobal('fetch', async (address: string) => {
    const url = new URL(address, SHOP);
    asked.push(url);
    return Response.json(answers(url));
  });
};
beforeEach(open);
afterEach(() => {
  document.body.replaceChildren();
  vi.unstubAllGlobals();
});

/** Everything that is on its way has come: tasks, one after the other. */
async function settled(): Promise<void> {
  for (let n = 0; n < 12; n++) await new Promise((soon) => setTimeout(soon));
}
const stand = (html: string): HTMLElement => {
  document.body.innerHTML = html;
  return document.body.firstElementChild as HTMLElement;
};
const text = (el: Element | null): string => el?.shadowRoot?.textContent?.trim() ?? '';

// The second script is fetched from where the first came from.
const tag = { src: pathToFileURL('src/widgets/stall.js').href, dataset: {} };
Object.defineProperty(document, 'currentScript', { configurable: true, get: () => tag });

// Elements stand in the page before the script comes: they are upgraded.
open();
const early = stand(`<stall-buy shop="${SHOP}" goods="trug"><a href="#">Get the trug</a></stall-buy>`);
await import('./stall');
await import('./stall-more');

describe('an element of a page', () => {
  it('that stood there before the script is dressed, with the words that stand in it', async () => {
    document.body.append(early);
    await settled();
    expect(text(early)).toBe('Get the trug');
    expect(early.shadowRoot?.querySelector('button')).toBeTruthy();
  });

  it('keeps its plain link until the shop has answered, and where it does not', async () => {
    vi.stubGlobal('fetch', async () => new Response('', { status: 503 }));
    const warned = vi.spyOn(console, 'warn').mockImplementation(() => {});
    const el = stand(`<stall-buy shop="${SHOP}" goods="trug"><a href="/trug">Get it</a></stall-buy>`);
    expect(el.shadowRoot).toBeNull();
    await settled();
    expect(el.shadowRoot).toBeNull();
    expect(warned).toHaveBeenCalledOnce();
  });

  it('asks once for all that stands on the page', async () => {
    stand(
      `<main><stall-buy shop="${SHOP}" goods="trug"></stall-buy><stall-buy shop="${SHOP}" goods="creel"></stall-buy><stall-row shop="${SHOP}" source="newest"></stall-row></main>`,
    );
    await settled();
    expect(asked).toHaveLength(1);
    expect(asked[0]?.searchParams.get('goods')).toBe('creel,trug');
    expect(asked[0]?.searchParams.getAll('w')).toEqual(['row?source=newest']);
  });

  it('of every kind stands where its shortcode was pasted as text; what is no kind stays as it is', async () => {
    // Beside the page: none of them asks for anything.
    const pasted = document.createElement('div');
    pasted.innerHTML = `${kinds.map((k) => `<p>[stall ${k.kind} shop="${SHOP}"]</p>`).join('')}<p>[stall teapot]</p>`;
    (await import('./shortcodes')).readShortcodes(pasted);
    const spelled = kinds.filter((k) => k.built && k.script !== 'none').map((k) => k.element);
    expect(spelled).toContain('stall-reviews');
    expect([...pasted.querySelectorAll('*')].map((el) => el.localName).filter((n) => n !== 'p')).toEqual(
      spelled,
    );
    expect(pasted.textContent).toContain('[stall teapot]');
    for (const name of spelled) expect(customElements.get(name), name).toBeTruthy();
  });

  it('that is told what it is for only after it was put in asks for that, and for nothing else', async () => {
    const el = document.createElement('stall-buy');
    document.body.append(el);
    el.setAttribute('shop', SHOP);
    el.setAttribute('goods', 'creel');
    await settled();
    expect(asked.map((u) => u.searchParams.get('goods'))).toEqual(['creel']);
    expect(text(el)).toBe('Buy creel');
  });

  it('that gets its product a while later is dressed then', async () => {
    const el = stand(`<stall-buy shop="${SHOP}"></stall-buy>`);
    await settled();
    expect(el.shadowRoot).toBeNull();
    el.setAttribute('goods', 'trug');
    await settled();
    expect(text(el)).toBe('Buy trug');
  });

  it('whose three attributes change in one go causes one request, for what it is then', async () => {
    const el = stand(`<stall-row shop="${SHOP}" source="newest" limit="3" columns="3"></stall-row>`);
    await settled();
    asked = [];
    el.setAttribute('source', 'offer');
    el.setAttribute('limit', '4');
    el.setAttribute('columns', '2');
    await settled();
    expect(asked).toHaveLength(1);
    expect(asked[0]?.searchParams.getAll('w')).toEqual(['row?columns=2&limit=4&source=offer']);
    expect(text(el)).toBe('row?columns=2&limit=4&source=offer');
  });

  it('whose attribute is set to what it was asks for nothing', async () => {
    const el = stand(`<stall-row shop="${SHOP}" limit="3"></stall-row>`);
    await settled();
    asked = [];
    el.setAttribute('limit', '3');
    await settled();
    expect(asked).toEqual([]);
  });

  it('that is moved stays what it is, and listens once', async () => {
    stand(`<div><stall-buy shop="${SHOP}" goods="trug"></stall-buy><aside></aside></div>`);
    const el = document.querySelector('stall-buy') as HTMLElement;
    await settled();
    document.querySelector('aside')?.append(el);
    await settled();
    expect(text(el)).toBe('Buy trug');
    asked = [];
    const form = el.shadowRoot?.querySelector('form');
    form?.dispatchEvent(new SubmitEvent('submit', { cancelable: true, bubbles: true }));
    await settled();
    expect(asked.filter((u) => u.pathname.endsWith('/carts'))).toHaveLength(1);
  });

  it('that is taken away before the answer comes is left alone', async () => {
    const el = stand(`<stall-buy shop="${SHOP}" goods="trug"></stall-buy>`);
    el.remove();
    await settled();
    expect(el.shadowRoot).toBeNull();
  });

  it('says that a product is sold out, and cannot be pressed', async () => {
    const el = stand(`<stall-buy shop="${SHOP}" goods="gone"></stall-buy>`);
    await settled();
    expect(text(el)).toBe('gone: sold out');
    expect(el.shadowRoot?.querySelector('button')?.disabled).toBe(true);
  });

  it('may name what nobody has: nothing is shown, and its link stays', async () => {
    const el = stand(`<stall-buy shop="${SHOP}" goods="trug"></stall-buy>`);
    el.setAttribute('goods', '');
    await settled();
    expect(el.shadowRoot).toBeNull();
  });
});

describe('two versions of the script on one page', () => {
  it('the second does nothing: the elements of the first stay, and nothing is asked twice', async () => {
    const before = customElements.get('stall-buy');
    vi.resetModules();
    await import('./stall');
    expect(customElements.get('stall-buy')).toBe(before);
    stand(`<stall-buy shop="${SHOP}" goods="trug"></stall-buy>`);
    await settled();
    expect(asked).toHaveLength(1);
  });
});
