import { fieldsIn, textIn } from './answers';
import { messageOf, onClick, onSubmit, sentBy, targetOf } from './events';
import { fieldsOf } from './shopper-error';
import css from '../core/storefront/storefront.css';
import type { PageData, Wish } from './page-data';
import { chooser } from './chooser';
import { openGlance } from './glance';
import { letRoomGo } from './kept-room';
import { nameParts } from './parts';
import { piecesIn } from './pieces';
import { taken } from './shared';

const { StallElement, addToCart, apiOf, cartWay } = taken();

/** Attributes that say where a widget stands and leads, not what it is. */
const NOT_ITS_OWN = new Set([
  'shop',
  'cart',
  'checkout',
  'page',
  'placement',
  'after',
  'style',
  'class',
  'id',
  'main',
  'slot',
  'hidden',
  'part',
  'data-stall-n',
  'is',
  'role',
  'tabindex',
  'title',
  'dir',
]);

/**
 * A widget that the server draws, with the same HTML that stands on the plain pages. Here its links lead to the site's own
 * shop page, and its forms are sent without leaving the page.
 */
export class StallDrawn extends StallElement {
  static readonly observedAttributes = [
    'goods',
    'source',
    'category',
    'of',
    'form',
    'limit',
    'columns',
    'parts',
    'heading',
    'order',
    'cards',
    'hover',
    'picture',
  ];
  protected words: PageData['words'] | undefined;
  protected look = '';

  /** "row?source=newest": what the server is asked to draw. */
  protected own(): string {
    const attributes = [...this.attributes]
      .filter((a) => !NOT_ITS_OWN.has(a.name))
      .sort((a, b) => (a.name < b.name ? -1 : 1));
    return `${this.localName.slice(6)}?${new URLSearchParams(attributes.map((a) => [a.name, a.value]))}`;
  }

  protected override wish(): Wish {
    return { widget: this.own(), lang: this.getAttribute('lang') };
  }

  protected show({ html, look: shared, own, words }: PageData, signal: AbortSignal): void {
    const look = `${shared};${own?.[this.own()] ?? ''}`;
    this.words = words;
    this.look = look;
    const root = this.root(`:host(stall-shop){display:block;container-type:inline-size}${css}`, look);
    if (!this.#listens.has(signal)) {
      this.#listens.add(signal);
      this.listen(root, signal);
    }
    this.fill(html[this.wish().widget ?? ''] ?? '');
  }
  readonly #listens = new WeakSet<AbortSignal>();

  /** Puts drawn HTML in place: it comes from the shop's own server, which escapes what people wrote. */
  protected fill(html: string): void {
    const root = this.shadowRoot;
    if (!root) return;
    root.innerHTML = html;
    nameParts(root);
    chooser(root, this.words);
    for (const b of root.querySelectorAll<HTMLElement>('[data-glance]')) b.hidden = false;
    for (const link of root.querySelectorAll<HTMLAnchorElement>('a[data-goods],a[data-category]')) {
      const to = this.address({ goods: link.dataset.goods ?? '', category: link.dataset.category ?? '' });
      if (to) link.href = to;
    }
    if (this.hasAttribute('main')) letRoomGo(this);
  }

  /** The site's own shop page with a question in it; nothing where the site has none. */
  protected address(ask: Readonly<Record<string, string>>): string | undefined {
    const page = this.way('page');
    if (!page) return undefined;
    const url = new URL(page, document.baseURI);
    for (const [name, value] of Object.entries(ask)) if (value) url.searchParams.set(name, value);
    return url.href;
  }

  protected listen(root: ShadowRoot, signal: AbortSignal): void {
    onSubmit(root, (e) => this.submitted(e), signal);
    onClick(root, (e) => this.clicked(e), signal);
    root.addEventListener('input', (e) => filterTable(targetOf(e), root, this.words), { signal });
  }

  protected submitted(e: SubmitEvent): void {
    const { form } = sentBy(e);
    if (form.dataset.add !== undefined) {
      e.preventDefault();
      void this.#add(form, form.dataset.add);
    } else if (form.dataset.search !== undefined) {
      const to = this.address({ find: String(new FormData(form).get('find') ?? '') });
      if (!to) return;
      e.preventDefault();
      location.assign(to);
    } else if (form.dataset.send !== undefined) {
      e.preventDefault();
      void this.#send(form);
    }
  }

  protected clicked(e: MouseEvent): void {
    const reviews =
      targetOf(e).closest('a[data-reviews]') && this.shadowRoot?.querySelector<HTMLElement>('.stall-reviews');
    if (reviews) {
      // No address leads into a shadow root.
      e.preventDefault();
      reviews.tabIndex = -1;
      reviews.focus({ preventScroll: true });
      reviews.scrollIntoView({ block: 'start' });
      return;
    }
    const glance = targetOf(e).closest<HTMLElement>('[data-glance]');
    if (glance) return void openGlance(this, glance, this.words);
    const by = Number(targetOf(e).closest<HTMLElement>('[data-slide]')?.dataset.slide ?? 0);
    const row = by ? this.shadowRoot?.querySelector('.stall-as-slider') : null;
    row?.scrollBy({
      left: by * row.clientWidth * 0.9,
      behavior: matchMedia('(prefers-reduced-motion: reduce)').matches ? 'auto' : 'smooth',
    });
  }

  async #add(form: HTMLFormElement, goods: string): Promise<void> {
    const button = form.querySelector('button');
    if (!button || button.ariaBusy) return;
    button.ariaBusy = 'true';
    const note = noteAt(form);
    const data = new FormData(form);
    try {
      await addToCart(this.shop, {
        goods,
        placement: this.getAttribute('placement'),
        quantity: Number(data.get('quantity') ?? 1) || 1,
        ...(data.has('price') && { price: String(data.get('price')) }),
        ...(data.has('amount') && { amount: String(data.get('amount')) }),
        ...choiceOf(data),
      });
      if (this.getAttribute('after') === 'drawer') return void (await taken().more()).openDrawer(this);
      const link = document.createElement('a');
      link.href = cartWay(this.shop, this.way('cart'));
      link.textContent = this.words?.seeCart ?? '';
      note.replaceChildren(`${this.words?.inCart ?? ''} `, link);
    } catch (error) {
      note.textContent = messageOf(error) || (this.words?.failed ?? '');
    } finally {
      button.ariaBusy = null;
    }
  }

  /** A form whose answer is the widget again. */
  async #send(form: HTMLFormElement): Promise<void> {
    const own = this.own().replace(/^[^?]*\?/, '');
    const answer = await fetch(`${apiOf(this.shop)}/lookup?${new URLSearchParams({ own })}`, {
      method: 'POST',
      body: fieldsOf(new FormData(form)),
    }).catch(() => undefined);
    if (answer?.headers.get('content-type')?.startsWith('text/html')) {
      this.fill(await answer.text());
      const status = this.shadowRoot?.querySelector<HTMLElement>('[role=alert],[role=status]');
      status?.setAttribute('tabindex', '-1');
      status?.focus();
    } else {
      noteAt(form).textContent = textIn(await fieldsIn(answer), 'title') || (this.words?.failed ?? '');
    }
  }
}

const choiceOf = (data: FormData): { options?: string[]; texts?: string[] } => {
  const list = (name: string) =>
    [0, 1, 2, 3, 4].filter((n) => data.has(`${name}-${n}`)).map((n) => String(data.get(`${name}-${n}`)));
  const [options, texts] = [list('option'), list('text')];
  return { ...(options.length && { options }), ...(texts.length && { texts }) };
};

/** Where a form tells what came of it. */
function noteAt(form: HTMLElement): HTMLElement {
  const next = form.nextElementSibling;
  if (next instanceof HTMLElement && next.matches('.stall-told')) return next;
  const note = document.createElement('p');
  note.className = 'stall-told';
  note.setAttribute('role', 'status');
  form.after(note);
  return note;
}

function filterTable(field: HTMLElement, root: ShadowRoot, words: PageData['words'] | undefined): void {
  if (!(field instanceof HTMLInputElement) || field.dataset.filter === undefined) return;
  const wanted = field.value.trim().toLowerCase();
  let shown = 0;
  for (const row of root.querySelectorAll<HTMLElement>('tr[data-row]')) {
    row.hidden = !(row.dataset.row ?? '').includes(wanted);
    if (!row.hidden) shown++;
  }
  const status = field.closest('p')?.querySelector('[role=status]');
  if (status && words) status.textContent = piecesIn(words, shown);
}
