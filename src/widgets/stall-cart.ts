import { cartOf, cartWay, onCart } from './cart-state';
import type { PageData } from './page-data';
import { piecesIn } from './pieces';
import { taken } from './shared';
import { StallElement } from './stall-element';

/** It brings its own ground: headers are dark as often as light. Below 54rem the icon alone, with the count on it; the room for either is kept by the element's own style. */
const css = `:host([hidden]){display:none!important}:host([aside]){position:fixed!important;right:1rem;bottom:1rem;z-index:9}
a{box-sizing:border-box;position:relative;display:inline-flex;align-items:center;justify-content:center;gap:.5em;min-width:100%;height:2.75rem;padding:0 .6em;border-radius:var(--stall-radius);background:var(--stall-sign-ground,var(--stall-ink));color:var(--stall-sign-ink,var(--stall-ground));font-weight:500;line-height:1;text-decoration:none;white-space:nowrap}
a:hover{background:var(--stall-over);color:var(--stall-over-ink)}
a:focus-visible{outline:3px solid var(--stall-focus);outline-offset:2px}svg{flex:none;width:var(--stall-sign-size,22px);height:var(--stall-sign-size,22px)}
b{font-weight:inherit}b:not(:empty)::before{content:"\\b7\\a0"}
a[data-count=on] b:not(:empty),a[data-count=in] b:not(:empty){position:absolute;top:.1rem;right:.1rem;min-width:1.25rem;border-radius:1rem;background:var(--stall-accent);color:var(--stall-accent-ink);font:700 .75rem/1.25rem var(--stall-font);text-align:center}a[data-count=in] b:not(:empty){inset:auto;left:.6em;top:1.35rem;width:var(--stall-sign-size,22px);min-width:0;background:none;color:inherit}a[data-count=on] b::before,a[data-count=in] b::before{content:none!important}
@media(max-width:54rem){a,a:hover{background:var(--stall-sign-ground,var(--stall-ground));color:var(--stall-sign-ink,var(--stall-ink));min-width:2.75rem;padding:0}span{position:absolute;right:0;top:.1rem}i{display:none}
b:not(:empty){display:block;min-width:1.25rem;border-radius:1rem;background:var(--stall-accent);color:var(--stall-accent-ink);font:700 .75rem/1.25rem var(--stall-font);text-align:center}b:not(:empty)::before{content:none}}
i{font-style:normal}span{display:inline-flex;gap:.3em}`;

/** The signs of the cart: our own drawings, on a ground of 26 by 26. */
const signs: Readonly<Record<string, string>> = {
  basket:
    '<path d="M3 11h20l-2.6 12H5.6z" stroke-linejoin="round"/><path d="M8 11C8 1 18 1 18 11M7.6 15.5h10.8M8.4 19h9.2"/>',
  bag: '<path d="M5.5 8.5h15l1.6 14.2H3.9z" stroke-linejoin="round"/><path d="M9.4 11.5C8.6 1.6 17.4 1.6 16.6 11.5"/>',
  crate:
    '<path d="M3.4 9h19.2v13.2H3.4zM3.4 13.4h19.2M3.4 17.8h19.2M7.4 9v13.2M18.6 9v13.2" stroke-linejoin="round"/>',
  barrow:
    '<path d="M2.5 6.5h4.2l3 9.2h10.6l2.4-7H8" stroke-linejoin="round"/><circle cx="14.8" cy="20.4" r="2.9"/><path d="M9.7 15.7l-3 5.6"/>',
};
const drawn = (sign: string): string =>
  `<svg viewBox="0 0 26 26" fill="none" stroke="currentColor" stroke-width="1.9" aria-hidden="true">${signs[sign] ?? signs.basket}</svg>`;

/** The way to the cart, with how many pieces are in it. Attributes: shop, cart, checkout, form, opens, hide-empty, lang. */
export class StallCart extends StallElement {
  protected show(data: PageData, signal: AbortSignal): void {
    if (this.getAttribute('form') === 'summary')
      return void taken()
        .more()
        .then((m) => signal.aborted || m.showSummary(this, data, signal));
    const root = this.root(css, data.look);
    const text = this.textContent?.trim() || data.words.cart;
    const link = document.createElement('a');
    link.part.add('link');
    link.innerHTML = drawn(data.sign?.draw ?? 'basket');
    link.dataset.count = data.sign?.count ?? 'beside';
    const label = document.createElement('span');
    label.part.add('label');
    const word = document.createElement('i');
    word.textContent = text;
    const count = document.createElement('b');
    label.append(word, count);
    link.append(label);
    root.replaceChildren(link);
    const say = ({ pieces }: { pieces: number }) => {
      link.href = cartWay(this.shop, this.way('cart'));
      count.textContent = pieces ? String(pieces) : '';
      link.setAttribute('aria-label', `${text}, ${piecesIn(data.words, pieces)}`);
      this.hidden = pieces === 0 && this.hasAttribute('hide-empty');
      this.#keepInside();
    };
    const keepInside = () => this.#keepInside();
    say(cartOf(this.shop));
    addEventListener('resize', keepInside, { signal });
    document.fonts?.ready.then(keepInside, keepInside);
    onCart(this.shop, say, signal);
    if (this.getAttribute('opens') !== 'drawer') return;
    link.setAttribute('aria-haspopup', 'dialog');
    link.addEventListener(
      'click',
      (e) => {
        if (e.ctrlKey || e.metaKey || e.shiftKey) return;
        e.preventDefault();
        void taken()
          .more()
          .then((m) => m.openDrawer(this));
      },
      { signal },
    );
  }

  /**
   * A header that has no room for it on a narrow screen would push it out of the window: then it stands in
   * the corner.
   */
  #keepInside(): void {
    this.removeAttribute('aside');
    const { left, right, width } = this.getBoundingClientRect();
    const room = document.documentElement.clientWidth;
    this.toggleAttribute('aside', width > 0 && (right > room + 1 || left < -1));
  }
}
