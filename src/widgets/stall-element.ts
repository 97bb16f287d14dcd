import { type Grounds, onGround } from './ground';
import { pageData, type PageData, type Wish } from './page-data';

/** Ways that the page's one script tag names, for elements that name none: shortcodes, elements written by hand. */
export const ways: Record<'shop' | 'cart' | 'checkout' | 'page' | 'account', string> = {
  shop: '',
  cart: '',
  checkout: '',
  page: '',
  account: '',
};

/** The shop's other parts (cart, checkout and what follows) stand inside the shop front on its page, by what the page's address says. */
export const inFront = { steps: false };

const sheets = new Map<string, CSSStyleSheet>();

/** A constructed style sheet, parsed once for all widgets that wear it. */
export function sheet(css: string): CSSStyleSheet {
  const known = sheets.get(css);
  if (known) return known;
  const made = new CSSStyleSheet();
  made.replaceSync(css);
  sheets.set(css, made);
  return made;
}

/** Widgets on the page that wear a look: where the page turns dark, each looks again what it stands on. */
const worn = new Set<StallElement>();
if (typeof matchMedia === 'function')
  matchMedia('(prefers-color-scheme: dark)').addEventListener('change', () => {
    for (const one of worn) one.dress();
  });

let turn: Promise<unknown> = Promise.resolve();
/** Widgets dress one after the other, each in a task of its own: a page with many stays quick to the touch. */
const myTurn = (): Promise<unknown> => (turn = turn.then(() => new Promise((soon) => setTimeout(soon))));

/** Whether the page has been read to its end: elements that come later come from elsewhere. */
export const loaded = { yet: false };

/**
 * What all widgets share. The shadow root is made only when there is something to show: until then the link inside the
 * element stands, so a page without script, or with a shop that does not answer, still sells.
 */
export abstract class StallElement extends HTMLElement {
  #life: AbortController | undefined;
  #from = loaded.yet ? '' : document.baseURI;

  get shop(): string {
    return (this.getAttribute('shop') ?? ways.shop).replace(/\/$/, '');
  }

  /** An address of the site's own. What came with the page is read from where the page was: sites that turn pages by script keep their header. */
  way(to: 'cart' | 'checkout' | 'page' | 'account'): string {
    const own = this.getAttribute(to) ?? ways[to];
    return own && own !== '#' && this.#from ? new URL(own, this.#from).href : own;
  }

  /** A product's page: in the site's own shop where there is one, else the plain page; a link to another seller stays. */
  protected goodsWay(plain: string): string {
    const page = this.way('page');
    const slug = /\/goods\/([^/?#]+)/.exec(plain)?.[1];
    if (!page || !slug || !plain.startsWith(this.shop)) return plain;
    const url = new URL(page, document.baseURI);
    url.searchParams.set('goods', decodeURIComponent(slug));
    return url.href;
  }

  protected wish(): Wish {
    return { goods: this.getAttribute('goods'), lang: this.getAttribute('lang') };
  }

  /** Moving an element in the page disconnects and connects it: each life has its own signal. */
  connectedCallback(): void {
    this.#begin();
  }

  disconnectedCallback(): void {
    worn.delete(this);
    this.#life?.abort();
    this.#life = undefined;
  }

  /**
   * A page that changes what a widget is for gets the widget anew, also where it names that only later. Attributes that came with
   * the element are told before its life begins, and are read then.
   */
  attributeChangedCallback(_: string, was: string | null, is: string | null): void {
    if (was !== is && this.#life) this.#begin();
  }

  /** What a page sets in one go is asked for once: the attributes are read when it has set them all. */
  #begin(): void {
    this.#life?.abort();
    const life = new AbortController();
    this.#life = life;
    queueMicrotask(() => {
      if (!life.signal.aborted) void this.#ask(life.signal);
    });
  }

  async #ask(signal: AbortSignal): Promise<void> {
    try {
      const data = await pageData(this.shop, this.wish());
      await myTurn();
      if (signal.aborted) return;
      [this.#grounds, this.#own] = [data.grounds ?? [], data.css ?? ''];
      this.show(data, signal);
    } catch (error) {
      console.warn(error);
    }
  }

  protected abstract show(data: PageData, signal: AbortSignal): void;

  #grounds: Grounds = [];
  #look = '';
  #css = '';
  #own = '';

  /** The root with our style and the site's look; constructed style sheets pass a strict content security policy. */
  protected root(css: string, look: string): ShadowRoot {
    const root = this.shadowRoot ?? this.attachShadow({ mode: 'open' });
    [this.#css, this.#look] = [css, look];
    worn.add(this);
    this.dress();
    return root;
  }

  /** Puts the look on, as it is on the ground that the widget stands on. */
  dress(): void {
    const here = onGround(this, this.#grounds);
    const root = this.shadowRoot;
    if (root)
      root.adoptedStyleSheets = [sheet(`:host{${this.#look};${here}}`), sheet(this.#css), sheet(this.#own)];
  }
}
