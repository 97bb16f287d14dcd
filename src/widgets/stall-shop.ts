import { sentBy, targetOf } from './events';
import { letRoomGo } from './kept-room';
import type { Wish } from './page-data';
import { taken } from './shared';
import { StallDrawn } from './stall-drawn';

const { apiOf, inFront, pageData, ways } = taken();
const QUESTIONS = [
  'goods',
  'price',
  'category',
  'find',
  'sort',
  'page',
  'least',
  'most',
  'stock',
  'offer',
  'tag',
] as const;

/**
 * The shop front. On the shop's own page (`main`) what is open stands in the page's address, so that it can be linked to,
 * bookmarked and gone back from; elsewhere it is the widget's own affair.
 */
export class StallShop extends StallDrawn {
  #state = '';
  #asking: AbortController | undefined;
  #shopName: string | undefined;
  #title: string | undefined;

  /** On the shop's own page; on a site that its owner pastes code into, that is the page which the script names. */
  get #main(): boolean {
    return this.hasAttribute('main') || (inFront.steps && isPage(ways.page));
  }

  override connectedCallback(): void {
    const step = inFront.steps && this.#main ? stepHere() : undefined;
    if (step) this.#turnInto(step);
    else this.#openHere();
  }

  #openHere(): void {
    if (this.#main) this.#state = fromAddress();
    super.connectedCallback();
  }

  /** Another part of the shop stands in its place, under the page's own heading. */
  #turnInto(step: string): void {
    const part = stepElement(step, this);
    this.replaceWith(part);
    void pageData(part.getAttribute('shop') ?? '').then(({ steps }) => nameStep(part, steps?.[step] ?? ''));
  }

  protected override wish(): Wish {
    return { widget: this.own() + (this.#state && `#${this.#state}`), lang: this.getAttribute('lang') };
  }

  protected override listen(root: ShadowRoot, signal: AbortSignal): void {
    super.listen(root, signal);
    root.addEventListener(
      'change',
      (e) => targetOf(e).closest<HTMLFormElement>('form[data-at-once]')?.requestSubmit(),
      { signal },
    );
    if (this.#main) addEventListener('popstate', () => void this.#go(fromAddress(), false), { signal });
  }

  protected override fill(html: string): void {
    super.fill(html);
    for (const link of this.shadowRoot?.querySelectorAll<HTMLAnchorElement>('a[data-go],a[data-goods]') ??
      []) {
      if (this.#main) link.href = `${location.pathname}${withState(askedBy(link))}`;
    }
    if (this.#main) {
      this.#tell();
      this.#name();
      letRoomGo(this);
    }
  }

  /** The page is the open product's: its heading and its title say so, as long as it is open. */
  #name(): void {
    const h1 = this.parentElement?.querySelector('h1');
    this.#shopName ??= h1?.textContent ?? '';
    this.#title ??= document.title;
    const own = this.shadowRoot?.querySelector<HTMLElement>('.stall-product-text > :is(h1,h2,h3,h4)');
    const name = own?.textContent ?? '';
    document.title = name ? `${name} \u00b7 ${this.#title}` : this.#title;
    if (!h1 || !this.#shopName) return;
    h1.textContent = name || this.#shopName;
    // It is said once: above, in the site's own heading.
    if (own) own.hidden = true;
  }

  /** Search engines read the page itself: what is said of an open product for them goes into its head. It is data, no script. */
  #tell(): void {
    document.querySelector('script[data-stall-goods]')?.remove();
    const data = this.shadowRoot?.querySelector('script[type="application/ld+json"]');
    if (!data) return;
    const here = document.createElement('script');
    here.type = 'application/ld+json';
    here.dataset.stallGoods = '';
    here.textContent = data.textContent;
    document.head.append(here);
  }

  protected override clicked(e: MouseEvent): void {
    super.clicked(e);
    if (e.defaultPrevented) return;
    const link = targetOf(e).closest<HTMLAnchorElement>('a[data-go],a[data-goods]');
    if (!link || e.ctrlKey || e.metaKey || e.shiftKey || e.button !== 0) return;
    // The related products of a product page and the shop's own cards open here; a page of its own is not needed.
    e.preventDefault();
    void this.#go(askedBy(link, this.#state), true);
  }

  protected override submitted(e: SubmitEvent): void {
    const { form } = sentBy(e);
    if (form.dataset.ask === undefined) return void super.submitted(e);
    e.preventDefault();
    const asked = new URLSearchParams();
    for (const [name, value] of new FormData(form)) if (value) asked.append(name, String(value));
    void this.#go(asked.toString(), true);
  }

  async #go(state: string, push: boolean): Promise<void> {
    this.#asking?.abort();
    const asking = new AbortController();
    this.#asking = asking;
    const root = this.shadowRoot;
    root?.firstElementChild?.setAttribute('aria-busy', 'true');
    const own = this.own().replace(/^[^?]*\?/, '');
    try {
      const answer = await fetch(`${apiOf(this.shop)}/widget/shop?${state}&${new URLSearchParams({ own })}`, {
        signal: asking.signal,
      });
      if (!answer.ok) throw new Error(String(answer.status));
      const html = await answer.text();
      this.#state = state;
      if (push && this.#main) history.pushState(history.state, '', `${location.pathname}${withState(state)}`);
      this.fill(html);
      this.#arrive(push);
    } catch (error) {
      if (asking.signal.aborted) return;
      root?.firstElementChild?.removeAttribute('aria-busy');
      // The link's own address is a plain page: better than nothing.
      if (push) location.assign(`${this.shop}/goods?${state}`);
      console.warn(error);
    }
  }

  /** A new view is met at its top, by eyes and by screen readers; typing in the search field goes on. */
  #arrive(moved: boolean): void {
    const root = this.shadowRoot;
    if (!moved || !root) return;
    const searching = new URLSearchParams(this.#state).has('find');
    const target = root.querySelector<HTMLElement>(
      searching
        ? 'input[type=search]'
        : '.stall-product h1,.stall-product h2,.stall-product h3,[role=status]',
    );
    const named = !searching && this.#main && target?.hidden ? this.parentElement?.querySelector('h1') : null;
    const met = named ?? target;
    if (met && !searching) met.tabIndex = -1;
    met?.focus({ preventScroll: true });
    if (this.getBoundingClientRect().top < 0) (named ?? this).scrollIntoView({ block: 'start' });
  }
}

/** Whether the page is the one at an address; what its own address asks beside may differ. */
function isPage(address: string): boolean {
  if (!address) return false;
  const wanted = new URL(address);
  const here = new URLSearchParams(location.search);
  const plain = (path: string) => path.replace(/\/$/, '');
  return (
    wanted.host === location.host &&
    plain(wanted.pathname) === plain(location.pathname) &&
    [...wanted.searchParams].every(([name, value]) => here.get(name) === value)
  );
}

const STEPS = ['cart', 'checkout', 'thanks', 'failed', 'lookup', 'account'];
const stepHere = (): string | undefined => {
  const step = new URLSearchParams(location.search).get('step') ?? '';
  return STEPS.includes(step) ? step : undefined;
};

/** Another part of the shop, which stands where the shop front was pasted. */
function stepElement(step: string, front: Element): HTMLElement {
  const el = document.createElement(step === 'lookup' ? 'stall-lookup' : 'stall-page');
  el.setAttribute('shop', front.getAttribute('shop') ?? ways.shop);
  // The lookup is a widget like others, and leads nowhere but to what it finds.
  if (step === 'lookup') {
    el.setAttribute('main', '');
    return el;
  }
  el.setAttribute('part', step);
  const at = (part: string) => {
    const url = new URL(ways.page);
    if (part !== 'shop') url.searchParams.set('step', part);
    return url.href;
  };
  for (const part of ['shop', ...STEPS]) el.setAttribute(`${part}-href`, at(part));
  return el;
}

/** The page's heading says what stands on it; a page without one gets it above the part. */
function nameStep(part: HTMLElement, name: string): void {
  if (!name) return;
  const known = [...document.querySelectorAll('h1')];
  const [own] = known.length === 1 ? known : [];
  const heading = own ?? document.createElement('h2');
  heading.textContent = name;
  if (!own) part.before(heading);
  document.title = `${name} \u00b7 ${document.title}`;
}

const fromAddress = (): string => {
  const here = new URLSearchParams(location.search);
  const own = new URLSearchParams();
  for (const q of QUESTIONS) for (const value of here.getAll(q)) if (value) own.append(q, value);
  return own.toString();
};

/** What a link asks for: a product keeps what the list was. */
function askedBy(link: HTMLElement, state = ''): string {
  const goods = link.dataset.goods;
  if (goods === undefined) return link.dataset.go ?? '';
  const asked = new URLSearchParams(state);
  // A link with a price of its own is one product's.
  asked.delete('price');
  asked.set('goods', goods);
  return asked.toString();
}

/** The page's own query with our questions replaced: what else stands in it stays. */
function withState(state: string): string {
  const query = new URLSearchParams(location.search);
  for (const q of QUESTIONS) query.delete(q);
  for (const [name, value] of new URLSearchParams(state)) query.append(name, value);
  const text = query.toString();
  return text && `?${text}`;
}
