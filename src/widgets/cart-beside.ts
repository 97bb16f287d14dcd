import css from '../core/storefront/storefront.css';
import { onGround } from './ground';
import type { PageData } from './page-data';
import { piecesIn } from './pieces';
import { taken } from './shared';
import type { StallElement } from './stall-element';

const { apiOf, cartOf, cartWay, checkoutWay, onCart, pageData, sheet } = taken();

const drawerCss = `dialog{position:fixed;inset:0 0 0 auto;width:min(27rem,100vw);height:100dvh;max-height:none;max-width:none;margin:0;padding:1.2rem 1.5rem 2rem;border:0;box-sizing:border-box;background:var(--stall-ground);color:var(--stall-ink);font-family:var(--stall-font);overflow:auto;overscroll-behavior:contain;box-shadow:-8px 0 40px rgb(0 0 0/.25)}
dialog::backdrop{background:rgb(0 0 0/.35)}header{display:flex;justify-content:space-between;align-items:center;gap:1rem;margin-bottom:.8rem}h2{margin:0}
button.x{border:0;background:none;color:inherit;min-width:2.75rem;min-height:2.75rem;font-size:1.5rem;line-height:1;cursor:pointer}`;

/** One drawer to a shop, beside whatever page is shown. */
const drawers = new Map<string, HTMLElement>();

/** Opens the cart beside the page: a modal dialog of the browser's own, which keeps the focus and closes on Escape. */
export async function openDrawer(from: StallElement): Promise<void> {
  const { shop } = from;
  const { words, look, css: own = '' } = await pageData(shop, { lang: from.getAttribute('lang') });
  const known = drawers.get(shop);
  known?.remove();
  const host = document.createElement('stall-drawer');
  drawers.set(shop, host);
  const root = host.attachShadow({ mode: 'open' });
  root.adoptedStyleSheets = [sheet(`:host{${look}}`), sheet(css + drawerCss), sheet(own)];
  const dialog = document.createElement('dialog');
  dialog.setAttribute('aria-labelledby', 'title');
  dialog.part.add('drawer');
  const title = document.createElement('h2');
  title.id = 'title';
  title.textContent = words.yourCart;
  const close = document.createElement('button');
  close.className = 'x';
  close.setAttribute('aria-label', words.close);
  close.textContent = '\u00d7';
  const head = document.createElement('header');
  head.append(title, close);
  const cart = document.createElement('stall-page');
  for (const [name, value] of Object.entries({
    part: 'cart',
    shop,
    'cart-href': cartWay(shop, from.way('cart')),
    'checkout-href': checkoutWay(shop, from.way('checkout')),
    beside: '',
  }))
    cart.setAttribute(name, value);
  dialog.append(head, cart);
  root.append(dialog);
  document.body.append(host);
  close.addEventListener('click', () => dialog.close());
  // A press beside the drawer lands on the dialog itself.
  dialog.addEventListener(
    'click',
    (e) => e.target === dialog && e.clientX < dialog.getBoundingClientRect().left && dialog.close(),
  );
  // "Keep looking" is what the drawer was opened from.
  dialog.addEventListener('click', (e) => {
    const on = e.composedPath()[0];
    if (!(on instanceof Element) || !on.closest('[data-back]')) return;
    e.preventDefault();
    dialog.close();
  });
  dialog.addEventListener('close', () => host.remove());
  dialog.showModal();
}

const summaryCss = `:host{display:block}:host([hidden]){display:none}.box{border-top:2px solid var(--stall-accent);padding-top:.8rem}ul{margin:0 0 .6rem}li{display:flex;justify-content:space-between;gap:1rem;padding:.25rem 0;font-size:.92em}
p{margin:0 0 .6rem}.sum{display:flex;justify-content:space-between;font-weight:700}.stall-button{display:block}`;

interface Summary {
  readonly pieces: number;
  readonly total: string;
  readonly lines: readonly { readonly name: string; readonly quantity: number; readonly amount: string }[];
}

/** What is in the cart, for a side column: lines, total, and the two ways on. */
export function showSummary(
  el: StallElement,
  { words, look, grounds = [], css: own = '' }: PageData,
  signal: AbortSignal,
): void {
  const root = el.shadowRoot ?? el.attachShadow({ mode: 'open' });
  root.adoptedStyleSheets = [
    sheet(`:host{${look};${onGround(el, grounds)}}`),
    sheet(css + summaryCss),
    sheet(own),
  ];
  const text = el.textContent?.trim() || words.yourCart;
  const make = <K extends keyof HTMLElementTagNameMap>(
    tag: K,
    content: string,
    css = '',
  ): HTMLElementTagNameMap[K] => {
    const made = document.createElement(tag);
    made.textContent = content;
    if (css) made.className = css;
    return made;
  };
  const say = async () => {
    const { token } = cartOf(el.shop);
    const answer = token
      ? await fetch(`${apiOf(el.shop)}/carts/${token}`, { signal }).catch(() => undefined)
      : undefined;
    const cart: Summary = answer?.ok
      ? ((await answer.json()) as Summary)
      : { pieces: 0, total: '', lines: [] };
    if (signal.aborted) return;
    el.hidden = cart.pieces === 0 && el.hasAttribute('hide-empty');
    const box = make('div', '', 'box');
    box.part.add('summary');
    box.append(make('p', text, 'stall-name'));
    if (cart.pieces === 0) box.append(make('p', words.empty, 'stall-muted'));
    else {
      const list = document.createElement('ul');
      for (const l of cart.lines) {
        const line = document.createElement('li');
        line.append(make('span', `${l.quantity} \u00d7 ${l.name}`), make('span', l.amount));
        list.append(line);
      }
      const sum = make('p', '', 'sum');
      sum.append(make('span', piecesIn(words, cart.pieces)), make('span', cart.total));
      const ways = (
        [
          [words.seeCart, cartWay(el.shop, el.way('cart')), ''],
          [words.toCheckout, checkoutWay(el.shop, el.way('checkout')), 'stall-button'],
        ] as const
      ).map(([said, href, css]) => {
        const p = document.createElement('p');
        const a = make('a', said, css);
        a.href = href;
        p.append(a);
        return p;
      });
      box.append(list, sum, ...ways);
    }
    root.replaceChildren(box);
  };
  void say();
  onCart(el.shop, () => void say(), signal);
}
