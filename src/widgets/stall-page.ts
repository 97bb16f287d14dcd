import { onSubmit, sentBy } from './events';
import { onGround } from './ground';
import { nameParts } from './parts';
import css from '../core/storefront/storefront.css';
import { askAccount } from './account';
import { CartSteps } from './cart-steps';
import { CheckoutForm } from './checkout-form';
import { letRoomGo } from './kept-room';
import { merge } from './merge';
import type { PageData } from './page-data';
import { taken } from './shared';
import { fieldsOf, titleOf, ShopperError } from './shopper-error';

const { apiOf, cartOf, keepCart, lastPlace, refreshCart, pageData, sheet, ways } = taken();

/** How often a thank-you page looks again while the payment is being confirmed, in milliseconds. */
const LOOK_AGAIN = 1500;

/** What was typed at a checkout, by its cart, as long as the tab lives or until it is ordered. */
const TYPED = 'stall:typed:';

function forgetTyped(): void {
  try {
    for (const key of Object.keys(sessionStorage)) if (key.startsWith(TYPED)) sessionStorage.removeItem(key);
  } catch {
    // Blocked: nothing was kept.
  }
}

/**
 * The content of a shop page on the site: cart, checkout, thank-you, payment failed, or the shopper's own orders. The server writes it, with the
 * same fragments as the ordinary pages; forms inside are sent from here and answered with the next fragment.
 * Attributes: part, shop, and `PART-href` for each of the site's shop pages.
 */
export class StallPage extends HTMLElement {
  #life: AbortController | undefined;
  #words: PageData['words'] | undefined;
  #checkout: CheckoutForm | undefined;
  readonly #steps = new CartSteps((to, quantity) =>
    this.#send(to, new URLSearchParams({ quantity: String(quantity) })),
  );

  get #shop(): string {
    return (this.getAttribute('shop') ?? ways.shop).replace(/\/$/, '');
  }

  get #part(): string {
    return this.getAttribute('part') ?? 'cart';
  }

  connectedCallback(): void {
    this.#life?.abort();
    this.#life = new AbortController();
    const { signal } = this.#life;
    void this.#open(signal).catch((error: unknown) => this.#sorry(error));
    addEventListener(
      'pageshow',
      (e) => e.persisted && void this.#load(signal).catch((error: unknown) => this.#sorry(error)),
      { signal },
    );
    addEventListener('pagehide', () => this.#keepTyped(), { signal });
  }

  disconnectedCallback(): void {
    this.#keepTyped();
    this.#life?.abort();
  }

  async #open(signal: AbortSignal): Promise<void> {
    const { look, words, grounds = [], css: own = '' } = await pageData(this.#shop);
    this.#words = words;
    const root = this.shadowRoot ?? this.attachShadow({ mode: 'open' });
    root.adoptedStyleSheets = [
      sheet(
        `:host{display:block;container-type:inline-size;${look};${onGround(this, grounds)}}:host .stall-by-hand{display:none}`,
      ),
      sheet(css),
      sheet(own),
    ];
    onSubmit(
      root,
      (e) => {
        e.preventDefault();
        void this.#submit(e).catch((error: unknown) => this.#sorry(error));
      },
      signal,
    );
    await this.#load(signal);
  }

  #way(part: string): string {
    const own = this.getAttribute(`${part}-href`);
    return own === null ? '' : new URL(own, location.href).href;
  }

  /** The address of this part's fragment, with the site's own ways in it. */
  #address(): string | undefined {
    const query = new URLSearchParams({
      cart: this.#way('cart') || location.href,
      checkout: this.#way('checkout') || location.href,
      shop: this.#way('shop'),
      account: this.#way('account'),
      back: this.#back(),
    });
    const api = apiOf(this.#shop);
    if (this.#part === 'thanks' || this.#part === 'failed') {
      const order = new URLSearchParams(location.search).get('order');
      return order
        ? `${api}/orders/${encodeURIComponent(order)}/page?part=${this.#part}&${query}`
        : undefined;
    }
    const { token } = cartOf(this.#shop);
    return token && `${api}/carts/${token}/page${this.#part === 'checkout' ? '/checkout' : ''}?${query}`;
  }

  /** Where the shopper was last; else the shop, else the folder that the cart stands in. */
  #back(): string {
    return lastPlace() || this.#way('shop') || new URL('./', this.#way('cart').replace(/[^/]*\/?$/, '')).href;
  }

  async #load(signal: AbortSignal): Promise<void> {
    if (this.#part === 'account')
      return this.#show(await askAccount(this.#shop, new URLSearchParams(), signal));
    const address = this.#address();
    if (!address) return this.#empty();
    const answer = await fetch(address, { signal });
    if (answer.status === 404) return this.#empty();
    await this.#show(answer);
    this.#putTypedBack();
    if (this.shadowRoot?.querySelector('[data-waiting]'))
      setTimeout(() => {
        if (!signal.aborted) void this.#load(signal).catch((error: unknown) => this.#sorry(error));
      }, LOOK_AGAIN);
    else if (this.#part === 'thanks') {
      forgetTyped();
      await refreshCart(this.#shop);
    }
  }

  async #submit(e: SubmitEvent): Promise<void> {
    const { form, button } = sentBy(e);
    if (form.matches('.stall-stepper-form') && button) return this.#steps.press(form, button);
    if (form.ariaBusy) return;
    form.ariaBusy = 'true';
    button?.setAttribute('aria-busy', 'true');
    try {
      const body = fieldsOf(new FormData(form, button));
      if (form.dataset.send === undefined) return await this.#send(form.action, body);
      await this.#show(await askAccount(this.#shop, body, this.#life?.signal ?? AbortSignal.abort()));
    } finally {
      form.ariaBusy = null;
      button?.removeAttribute('aria-busy');
    }
  }

  /** Sent as a plain form, which needs no preflight. */
  #post(to: string, body: URLSearchParams, signal?: AbortSignal): Promise<Response> {
    return fetch(to, { method: 'POST', body, ...(signal && { signal }) });
  }

  async #send(to: string, body: URLSearchParams): Promise<void> {
    await this.#show(await this.#post(to, body));
  }

  /** Puts a fragment in the place of what stands there; what is the same in both is not touched, and keeps the focus. */
  async #show(answer: Response): Promise<void> {
    const text = await answer.text();
    if (!(answer.headers.get('content-type') ?? '').startsWith('text/html'))
      throw new ShopperError(titleOf(text));
    const root = this.shadowRoot;
    if (!root) return;
    const held = root.activeElement;
    // What went wrong before is over; it stands in no answer.
    root.querySelector('.stall-sorry')?.remove();
    const holder = document.createElement('template');
    holder.innerHTML = text;
    nameParts(holder.content);
    merge(root, holder.content, { keepFaults: false, sent: undefined });
    for (const form of root.querySelectorAll<HTMLFormElement>('.stall-stepper-form')) this.#steps.show(form);
    this.#countPieces(answer);
    this.#attend();
    letRoomGo(this);
    this.#focusAfter(held);
  }

  #countPieces(answer: Response): void {
    const pieces = answer.headers.get('stall-pieces');
    const { token } = cartOf(this.#shop);
    if (pieces !== null && token) keepCart(this.#shop, { token, pieces: Number(pieces) });
  }

  /** A checkout form that came is looked after from now on. */
  #attend(): void {
    const form = this.shadowRoot?.querySelector<HTMLFormElement>('form.stall-checkout');
    if (form === this.#checkout?.form || !form || !this.#life) {
      if (!form) this.#checkout = undefined;
      return;
    }
    this.#checkout = new CheckoutForm(
      form,
      {
        send: async (to, fields, signal) => {
          const answer = await this.#post(to, fields, signal);
          this.#countPieces(answer);
          return answer;
        },
        leave: (url) => location.assign(url),
        sorry: (error) => this.#sorry(error),
      },
      this.#life.signal,
    );
  }

  /** The first field in error gets the focus; so does what is left where the control that was used is gone. */
  #focusAfter(held: Element | null): void {
    const root = this.shadowRoot;
    const wrong = root?.querySelector<HTMLElement>('[aria-invalid],.stall-account > [role=alert] ~ * input');
    if (wrong) return void wrong.focus();
    if (!held || held.isConnected) return;
    const next = root?.querySelector<HTMLElement>('[role=alert],.stall-lead,.stall-line .stall-name,h2');
    if (next && !next.matches('a')) next.tabIndex = -1;
    next?.focus();
  }

  get #typedKey(): string {
    return `${TYPED}${cartOf(this.#shop).token ?? ''}`;
  }

  /** What was typed is kept in this tab while another page is looked at. */
  #keepTyped(): void {
    if (!this.#checkout) return;
    try {
      sessionStorage.setItem(this.#typedKey, JSON.stringify(this.#checkout.typed()));
    } catch {
      // Blocked: the server has what the sum was worked out from.
    }
  }

  #putTypedBack(): void {
    if (!this.#checkout) return;
    try {
      const kept: unknown = JSON.parse(sessionStorage.getItem(this.#typedKey) ?? 'null');
      sessionStorage.removeItem(this.#typedKey);
      if (kept && typeof kept === 'object') this.#checkout.putBack(kept as Record<string, string>);
    } catch {
      // Blocked or damaged: the form is as the server wrote it.
    }
  }

  #empty(): void {
    const root = this.shadowRoot;
    if (!root) return;
    this.#checkout = undefined;
    const text = document.createElement('p');
    text.className = 'stall-lead';
    text.textContent = this.#words?.empty ?? '';
    const link = document.createElement('a');
    link.className = 'stall-button';
    link.href = this.#back();
    link.textContent = this.#words?.keepLooking ?? '';
    const way = document.createElement('p');
    way.append(link);
    root.replaceChildren(text, way);
    letRoomGo(this);
  }

  #sorry(error: unknown): void {
    if (this.#life?.signal.aborted) return;
    const root = this.shadowRoot ?? this.attachShadow({ mode: 'open' });
    const p = document.createElement('p');
    p.className = 'stall-alert stall-sorry';
    p.setAttribute('role', 'alert');
    p.textContent =
      (error instanceof ShopperError && error.message) ||
      (this.#words?.failed ??
        'The shop does not answer just now. Your cart is kept; please try again in a moment.');
    root.querySelector('.stall-sorry')?.remove();
    (root.querySelector('[data-live=problem]') ?? root).prepend(p);
    p.scrollIntoView({ block: 'nearest' });
  }
}
