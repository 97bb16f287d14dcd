import css from '../core/storefront/storefront.css';
import type { PageData } from './page-data';
import { askAccount } from './account';
import { taken } from './shared';

const { apiOf, cartOf, keepCart, refreshCart, pageData, sheet, ways } = taken();

/** How often a thank-you page looks again while the payment is being confirmed, in milliseconds. */
const LOOK_AGAIN = 1500;

/**
 * The content of a shop page on the site: cart, checkout, thank-you, payment failed, or the shopper's own orders. The server writes it, with the
 * same fragments as the ordinary pages; forms inside are sent from here and answered with the next fragment.
 * Attributes: part, shop, cart-href, checkout-href.
 */
export class StallPage extends HTMLElement {
  #life: AbortController | undefined;
  #words: PageData['words'] | undefined;

  get #shop(): string {
    return (this.getAttribute('shop') ?? ways.shop).replace(/\/$/, '');
  }

  connectedCallback(): void {
    this.#life?.abort();
    this.#life = new AbortController();
    const { signal } = this.#life;
    void this.#open(signal).catch((error: unknown) => this.#sorry(error));
    addEventListener('pageshow', (e) => e.persisted && void this.#load(signal), { signal });
  }

  disconnectedCallback(): void {
    this.#life?.abort();
  }

  async #open(signal: AbortSignal): Promise<void> {
    const { look, words } = await pageData(this.#shop);
    this.#words = words;
    const root = this.shadowRoot ?? this.attachShadow({ mode: 'open' });
    root.adoptedStyleSheets = [sheet(`:host{display:block;container-type:inline-size;${look}}`), sheet(css)];
    root.addEventListener(
      'submit',
      (e) => {
        e.preventDefault();
        void this.#submit(e as SubmitEvent).catch((error: unknown) => this.#sorry(error));
      },
      { signal },
    );
    // What the sum depends on is looked at as soon as it is written.
    root.addEventListener(
      'change',
      (e) => {
        const field = e.target as HTMLInputElement;
        if (field.dataset.look !== undefined)
          field.form?.requestSubmit(field.form.querySelector<HTMLButtonElement>('[name=look]'));
      },
      { signal },
    );
    await this.#load(signal);
  }

  /** The address of this part's fragment, with the site's own ways in it. */
  #address(): string | undefined {
    const of = (part: string) => new URL(this.getAttribute(`${part}-href`) ?? '.', location.href).href;
    const ways = new URLSearchParams({
      cart: of('cart'),
      checkout: of('checkout'),
      back: new URL('./', of('cart').replace(/[^/]*\/?$/, '')).href,
    });
    const part = this.getAttribute('part') ?? 'cart';
    const api = apiOf(this.#shop);
    if (part === 'thanks' || part === 'failed') {
      const order = new URLSearchParams(location.search).get('order');
      return order ? `${api}/orders/${encodeURIComponent(order)}/page?part=${part}&${ways}` : undefined;
    }
    const { token } = cartOf(this.#shop);
    return token && `${api}/carts/${token}/page${part === 'checkout' ? '/checkout' : ''}?${ways}`;
  }

  async #load(signal: AbortSignal): Promise<void> {
    if (this.getAttribute('part') === 'account')
      return this.#show(await askAccount(this.#shop, new URLSearchParams(), signal));
    const address = this.#address();
    if (!address) return this.#empty();
    const answer = await fetch(address, { signal });
    if (answer.status === 404) return this.#empty();
    await this.#show(answer);
    if (this.shadowRoot?.querySelector('[data-waiting]'))
      setTimeout(() => signal.aborted || void this.#load(signal), LOOK_AGAIN);
    else if (this.getAttribute('part') === 'thanks') await refreshCart(this.#shop);
  }

  async #submit(e: SubmitEvent): Promise<void> {
    const form = e.target as HTMLFormElement;
    const button = e.submitter as HTMLButtonElement | null;
    const at = this.shadowRoot?.activeElement;
    if (form.ariaBusy) return;
    form.ariaBusy = 'true';
    button?.setAttribute('aria-busy', 'true');
    const data = new FormData(form, button);
    try {
      const body = new URLSearchParams(data as unknown as Record<string, string>);
      // Sent as a plain form, which needs no preflight.
      const answer = await (form.dataset.send === undefined
        ? fetch(form.action, { method: 'POST', body })
        : askAccount(this.#shop, body, this.#life?.signal ?? AbortSignal.abort()));
      if (answer.headers.get('content-type')?.includes('json')) {
        const { url } = (await answer.json()) as { url?: string };
        if (url) return void location.assign(url);
      }
      // What was typed while the sum was looked up stays typed.
      const typed = button?.name === 'look' ? new FormData(form) : undefined;
      await this.#show(answer, button?.getAttribute('aria-label') ?? undefined);
      if (typed) keepTyped(typed, this.shadowRoot?.querySelector('form.stall-checkout') ?? undefined);
      if (button?.name === 'look')
        this.shadowRoot
          ?.querySelector<HTMLElement>(
            at?.id
              ? `#${at.id}`
              : `input[name=${(at as HTMLInputElement | null)?.name === 'payBy' ? 'payBy' : 'way'}]:checked`,
          )
          ?.focus();
    } finally {
      form.ariaBusy = null;
      button?.removeAttribute('aria-busy');
    }
  }

  /** Shows a fragment; focus stays with the control that was used, or goes to the first field in error. */
  async #show(answer: Response, focusOn?: string): Promise<void> {
    const html = await answer.text();
    const type = answer.headers.get('content-type') ?? '';
    if (!type.startsWith('text/html')) throw new Error((JSON.parse(html) as { title?: string }).title);
    const root = this.shadowRoot;
    if (!root) return;
    root.innerHTML = html;
    const pieces = answer.headers.get('stall-pieces');
    const { token } = cartOf(this.#shop);
    if (pieces !== null && token) keepCart(this.#shop, { token, pieces: Number(pieces) });
    const target =
      root.querySelector<HTMLElement>('[aria-invalid],.stall-account > [role=alert] ~ * input') ??
      (focusOn ? root.querySelector<HTMLElement>(`[aria-label="${CSS.escape(focusOn)}"]`) : null);
    target?.focus();
  }

  #empty(): void {
    const back = new URL('.', location.href.replace(/[^/]*\/?(\?.*)?$/, '')).href;
    const root = this.shadowRoot;
    if (!root) return;
    const text = document.createElement('p');
    text.className = 'stall-lead';
    text.textContent = this.#words?.empty ?? '';
    const link = document.createElement('a');
    link.className = 'stall-button';
    link.href = back;
    link.textContent = this.#words?.keepLooking ?? '';
    const way = document.createElement('p');
    way.append(link);
    root.replaceChildren(text, way);
  }

  #sorry(error: unknown): void {
    const root = this.shadowRoot ?? this.attachShadow({ mode: 'open' });
    const p = document.createElement('p');
    p.className = 'stall-alert';
    p.setAttribute('role', 'alert');
    p.textContent =
      this.#words?.failed ??
      ((error as Error).message ||
        'The shop does not answer just now. Your cart is kept; please try again in a moment.');
    root.querySelector('[role=alert]')?.remove();
    root.prepend(p);
  }
}

/** Puts what stood in a form into the one that took its place; what the sum decides stays as it came. */
function keepTyped(typed: FormData, form: HTMLFormElement | undefined): void {
  for (const field of form?.querySelectorAll<HTMLInputElement | HTMLSelectElement>(
    'input:not([type=radio],[type=hidden]),select,textarea',
  ) ?? []) {
    if (field instanceof HTMLInputElement && field.type === 'checkbox') field.checked = typed.has(field.name);
    else if (typed.has(field.name)) field.value = String(typed.get(field.name));
  }
}
