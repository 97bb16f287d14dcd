import { cartOf, onCart } from './cart-state';
import type { PageData } from './page-data';
import { StallElement } from './stall-element';

/** Below 54rem the icon alone, with the count on it; the room for either is kept by the element's own style. */
const css = `:host([hidden]){visibility:hidden}
a{box-sizing:border-box;position:relative;display:inline-flex;align-items:center;justify-content:center;gap:.5em;min-width:100%;height:2.75rem;padding:0 .6em;border-radius:var(--stall-radius);background:var(--stall-ink);color:var(--stall-ground);font-weight:500;line-height:1;text-decoration:none;white-space:nowrap}
a:hover{background:var(--stall-accent);color:var(--stall-accent-ink)}
a:focus-visible{outline:3px solid var(--stall-link);outline-offset:2px}svg{flex:none}
b{font-weight:inherit}b:not(:empty)::before{content:"\\b7\\a0"}
@media(max-width:54rem){a,a:hover{background:none;color:var(--stall-ink);min-width:2.75rem;padding:0}span{position:absolute;right:0;top:.1rem}i{display:none}
b:not(:empty){display:block;min-width:1.25rem;border-radius:1rem;background:var(--stall-accent);color:var(--stall-accent-ink);font:700 .75rem/1.25rem var(--stall-font);text-align:center}b:not(:empty)::before{content:none}}
i{font-style:normal}span{display:inline-flex;gap:.3em}`;

const basket = '<svg width="22" height="22" viewBox="0 0 26 26" fill="none" stroke="currentColor" stroke-width="1.9" aria-hidden="true"><path d="M3 11h20l-2.6 12H5.6z" stroke-linejoin="round"/><path d="M8 11C8 1 18 1 18 11M7.6 15.5h10.8M8.4 19h9.2"/></svg>';

/** The way to the cart, with how many pieces are in it. Attributes: shop, cart, hide-empty. */
export class StallCart extends StallElement {
  protected show({ look }: PageData, signal: AbortSignal): void {
    const root = this.root(css, look);
    const text = this.textContent?.trim() || 'Cart';
    const link = document.createElement('a');
    link.part.add('link');
    link.href = this.getAttribute('cart') ?? '#';
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
      count.textContent = pieces ? String(pieces) : '';
      link.setAttribute('aria-label', `${text}, ${pieces === 1 ? '1 piece' : `${pieces} pieces`}`);
      this.hidden = pieces === 0 && this.hasAttribute('hide-empty');
    };
    say(cartOf(this.shop));
    onCart(this.shop, say, signal);
  }
}
