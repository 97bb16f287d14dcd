import { cartOf, cartWay, onCart } from './cart-state';
import type { PageData } from './page-data';
import { piecesIn } from './pieces';
import { taken } from './shared';
import { StallElement } from './stall-element';

/** It brings its own ground: headers are dark as often as light. Below 54rem the icon alone, with the count on it; the room for either is kept by the element's own style. */
const css = `:host([hidden]){display:none!important}:host([aside]){position:fixed!important;right:1rem;bottom:1rem;z-index:9}
a{box-sizing:border-box;position:relative;display:inline-flex;align-items:center;justify-content:center;gap:.5em;min-width:100%;height:2.75rem;padding:0 .6em;border-radius:var(--stall-radius);background:var(--stall-ink);color:var(--stall-ground);font-weight:500;line-height:1;text-decoration:none;white-space:nowrap}
a:hover{background:var(--stall-over);color:var(--stall-over-ink)}
a:focus-visible{outline:3px solid var(--stall-focus);outline-offset:2px}svg{flex:none}
b{font-weight:inherit}b:not(:empty)::before{content:"\\b7\\a0"}
@media(max-width:54rem){a,a:hover{background:var(--stall-ground);color:var(--stall-ink);min-width:2.75rem;padding:0}span{position:absolute;right:0;top:.1rem}i{display:none}
b:not(:empty){display:block;min-width:1.25rem;border-radius:1rem;background:var(--stall-accent);color:var(--stall-accent-ink);font:700 .75rem/1.25rem var(--stall-font);text-align:center}b:not(:empty)::before{content:none}}
i{font-style:normal}span{display:inline-flex;gap:.3em}`;

const basket =
  '<svg width="22" height="22" viewBox="0 0 26 26" fill="none" stroke="currentColor" stroke-width="1.9" aria-hidden="true"><path d="M3 11h20l-2.6 12H5.6z" stroke-linejoin="round"/><path d="M8 11C8 1 18 1 18 11M7.6 15.5h10.8M8.4 19h9.2"/></svg>';

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
    link.innerHTML = basket;
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
