import type { Browser, BrowserContext, Page } from 'playwright-core';

/** How many presses a walk needs, from one page: as core/checks/ways counts them. */
export interface Walked {
  readonly product: number | undefined;
  readonly cart: number | undefined;
  readonly paid: number | undefined;
}

type Mood = 'empty' | 'filled';
type State = `${Mood} ${string}`;
const PAID: State = 'filled paid';
const stateOf = (mood: Mood, url: string): State => `${mood} ${url}`;

/** Until what a press brings is there, in milliseconds. */
const SETTLE = 450;

/**
 * Presses every link and every button of every page of a live site, with an empty cart and with a filled one, and sees where that leads;
 * then counts. It knows nothing of widgets but that they may have a shadow root, and where their cart is kept.
 * @param root the live site's address, with a slash at its end
 */
export async function walkSite(browser: Browser, root: string): Promise<ReadonlyMap<string, Walked>> {
  const walk = new Walk(browser, root);
  await walk.all();
  return walk.counted();
}

class Walk {
  readonly #edges = new Map<State, Set<State>>();
  /** Pages that something can be put into the cart on, by their own buttons. */
  readonly #sells = new Set<string>();
  /** What the answer to a press offered beside what the page itself has. */
  readonly #answers = new Map<State, Set<State>>();
  #cart = '';
  #checkout = '';
  #fills: { readonly url: string; readonly n: number } | undefined;
  #filled: Awaited<ReturnType<BrowserContext['storageState']>> | undefined;

  constructor(
    private readonly browser: Browser,
    private readonly root: string,
  ) {}

  /** With an empty cart, with a filled one, and once more where only a filled one led to. */
  async all(): Promise<void> {
    const empty = await this.#from('empty', [this.root]);
    const filled = await this.#from('filled', [this.root]);
    await this.#from(
      'empty',
      [...filled].filter((url) => !empty.has(url)),
    );
  }

  /** @returns all pages that were got to */
  async #from(mood: Mood, urls: readonly string[]): Promise<Set<string>> {
    // A set is walked in the order in which it grew.
    const met = new Set(urls);
    for (const url of met)
      if (!this.#edges.has(stateOf(mood, url))) for (const to of await this.#look(mood, url)) met.add(to);
    return met;
  }

  /** All that one page offers. @returns pages that it leads to */
  async #look(mood: Mood, url: string): Promise<string[]> {
    const state = stateOf(mood, url);
    const to = new Set<State>();
    this.#edges.set(state, to);
    await this.#on(mood, url, async (page) => {
      for (const href of await linksOf(page)) {
        const next = this.#own(href);
        if (next && next !== url) to.add(stateOf(mood, next));
      }
      if (await page.locator('button[name=order][value=yes]').count()) {
        this.#checkout = url;
        if (mood === 'filled') to.add(PAID);
      }
      if (await page.locator('stall-page[part=cart]').count()) this.#cart = url;
    });
    for (let n = 0; ; n++) {
      const after = await this.#press(mood, url, n);
      if (!after) break;
      if (after !== state) to.add(after);
    }
    return [...to].filter((s) => s !== PAID).map((s) => s.slice(s.indexOf(' ') + 1));
  }

  /** Presses the nth different button of the page. @returns where one is then; nothing where there is no such button */
  #press(mood: Mood, url: string, n: number): Promise<State | undefined> {
    return this.#on(mood, url, async (page) => {
      const button = await nthButton(page, n);
      if (!button) return undefined;
      const pieces = await piecesIn(page);
      await page.mouse.click(button.x, button.y);
      await page.waitForTimeout(SETTLE);
      await page.waitForLoadState('load').catch(() => {});
      const now = await piecesIn(page).catch(() => pieces);
      if (pieces === 0 && now > 0) {
        this.#sells.add(url);
        this.#filled ??= await page.context().storageState();
        this.#fills ??= { url, n };
      }
      // What was taken out is gone for all who hold the same cart.
      if (now < pieces) await this.#fillAnew();
      const there = this.#own(page.url()) ?? url;
      if (there === url && now > 0) this.#answered(stateOf('filled', url), await linksOf(page));
      return stateOf(now > 0 ? 'filled' : 'empty', there);
    });
  }

  /** Another filled cart, by the press that filled the first. */
  async #fillAnew(): Promise<void> {
    const fills = this.#fills;
    this.#filled = undefined;
    if (!fills) return;
    await this.#on('empty', fills.url, async (page) => {
      const button = await nthButton(page, fills.n);
      if (button) await page.mouse.click(button.x, button.y);
      await page.waitForTimeout(SETTLE);
      this.#filled = await page.context().storageState();
    });
  }

  /** In a drawer or a message that came, links are pressed next. */
  #answered(state: State, hrefs: readonly string[]): void {
    const known = this.#answers.get(state) ?? new Set<State>();
    this.#answers.set(state, known);
    for (const href of hrefs) {
      const next = this.#own(href);
      if (next) known.add(stateOf('filled', next));
    }
  }

  async #on<T>(mood: Mood, url: string, look: (page: Page) => Promise<T>): Promise<T> {
    const context = await this.browser.newContext({
      viewport: { width: 1280, height: 900 },
      ...(mood === 'filled' && this.#filled && { storageState: this.#filled }),
    });
    const page = await context.newPage();
    try {
      await page.goto(url, { waitUntil: 'load' });
      await page.waitForTimeout(SETTLE);
      return await look(page);
    } finally {
      await context.close();
    }
  }

  /** A page of the site, as its address without what is asked of it. */
  #own(href: string): string | undefined {
    if (!href.startsWith(this.root)) return undefined;
    const bare = href.replace(/[#?].*/, '').replace(/(^|\/)index\.html?$/, '$1');
    return /\/$|\.html?$/i.test(bare) ? bare : undefined;
  }

  counted(): ReadonlyMap<string, Walked> {
    for (const [state, to] of this.#answers) for (const s of to) this.#edges.get(state)?.add(s);
    const urls = [...this.#edges.keys()].filter((s) => s.startsWith('empty ')).map((s) => s.slice(6));
    const product = this.#far([...this.#sells].map((u) => stateOf('empty', u)));
    const cart = this.#cart
      ? this.#far([stateOf('empty', this.#cart), stateOf('filled', this.#cart)])
      : new Map();
    const paid = this.#far([PAID]);
    const startOf = (url: string) =>
      stateOf(url === this.#cart || url === this.#checkout ? 'filled' : 'empty', url);
    return new Map(
      urls.map((url) => [
        url,
        {
          product: product.get(stateOf('empty', url)),
          cart: cart.get(stateOf('empty', url)),
          paid: paid.get(startOf(url)),
        },
      ]),
    );
  }

  /** Presses to the nearest of some states: in rounds, until nothing gets nearer. */
  #far(goals: readonly State[]): Map<State, number> {
    const far = new Map<State, number>(goals.map((g) => [g, 0]));
    for (let nearer = true; nearer; ) {
      nearer = false;
      for (const [from, all] of this.#edges)
        for (const to of all) {
          const n = (far.get(to) ?? Number.POSITIVE_INFINITY) + 1;
          if (n < (far.get(from) ?? Number.POSITIVE_INFINITY)) {
            far.set(from, n);
            nearer = true;
          }
        }
    }
    return far;
  }
}

const piecesIn = (page: Page): Promise<number> =>
  page.evaluate(() =>
    Object.keys(localStorage)
      .filter((k) => /^stall:https?:/.test(k))
      .reduce((n, k) => n + (Number(JSON.parse(localStorage.getItem(k) ?? '{}').pieces) || 0), 0),
  );

/** Addresses of all links that are seen, in shadow roots too. */
const linksOf = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const out: string[] = [];
    const look = (root: Document | ShadowRoot) => {
      for (const el of root.querySelectorAll('*')) {
        if (el instanceof HTMLAnchorElement && el.href) out.push(el.href);
        if (el.shadowRoot) look(el.shadowRoot);
      }
    };
    look(document);
    return [...new Set(out)];
  });

/** The middle of the nth button of its own name, brought into view: of the same button on every card one is enough. */
const nthButton = (page: Page, nth: number): Promise<{ x: number; y: number } | null> =>
  page.evaluate((n) => {
    const everything = (root: Document | ShadowRoot): HTMLElement[] =>
      [...root.querySelectorAll<HTMLElement>('*')].flatMap((el) =>
        el.shadowRoot ? [el, ...everything(el.shadowRoot)] : [el],
      );
    const isSeen = (el: HTMLElement) =>
      el.getBoundingClientRect().width > 1 && el.getBoundingClientRect().height > 1;
    // What is out of stock, or is paid with, is not pressed.
    const buttons = everything(document).filter(
      (el) =>
        el.matches('button,input[type=submit],input[type=button]') &&
        !el.matches(':disabled,[name=order]') &&
        isSeen(el),
    );
    const nameOf = (el: HTMLElement) =>
      [
        (el.getRootNode() as ShadowRoot).host?.localName,
        el.textContent?.trim(),
        el.getAttribute('aria-label'),
      ].join(' ');
    const el = [...new Map(buttons.toReversed().map((b) => [nameOf(b), b])).values()].toReversed()[n];
    if (!el) return null;
    el.scrollIntoView({ block: 'center', behavior: 'instant' });
    const { left, top, width, height } = el.getBoundingClientRect();
    return { x: left + width / 2, y: top + height / 2 };
  }, nth);
