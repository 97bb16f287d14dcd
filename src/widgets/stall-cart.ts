import { cartOf, cartWay, onCart } from './cart-state';
import type { PageData } from './page-data';
import { piecesIn } from './pieces';
import { taken } from './shared';
import { StallElement } from './stall-element';
import { cartSign, cartSignCss } from '../core/storefront/cart-sign';

/** The way to the cart, with how many pieces are in it. Attributes: shop, cart, checkout, form, opens, hide-empty, lang. */
export class StallCart extends StallElement {
  protected show(data: PageData, signal: AbortSignal): void {
    if (this.getAttribute('form') === 'summary')
      return void taken()
        .more()
        .then((m) => signal.aborted || m.showSummary(this, data, signal));
    const root = this.root(cartSignCss, data.look);
    const text = this.textContent?.trim() || data.words.cart;
    const link = document.createElement('a');
    link.part.add('link');
    link.innerHTML = cartSign(data.sign?.draw ?? 'basket');
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
