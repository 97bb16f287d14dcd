import { cartOf, cartWay, onCart } from './cart-state';
import type { PageData } from './page-data';
import { piecesIn } from './pieces';
import { taken } from './shared';
import { StallElement } from './stall-element';
import { cartSignCss } from '../core/storefront/cart-sign';

/** What stands nearer to the corner of the window stands in it: bars of a phone's browser come and go, in px. Chosen by hand. */
const NEAR = 120;

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
    link.innerHTML = data.sign?.svg ?? '';
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
    // A drawer that slides out as the window narrows is still inside when the window says so.
    const view = new IntersectionObserver(keepInside);
    view.observe(this);
    signal.addEventListener('abort', () => view.disconnect());
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

  /** A header that has no room for it on a narrow screen would push it out of the window: then it stands in the corner. */
  #keepInside(): void {
    this.removeAttribute('aside');
    this.popover = null;
    const { left, right, width } = this.getBoundingClientRect();
    const room = document.documentElement.clientWidth;
    this.toggleAttribute('aside', width > 0 && (right > room + 1 || left < -1));
    if (width > 0 && getComputedStyle(this).position === 'fixed') this.#keepInCorner(room);
  }

  /**
   * A header that is moved, blurred or cut by its style holds what is fixed in it, and the corner would be its own, over its links. The top
   * layer is held by nothing but the window.
   */
  #keepInCorner(room: number): void {
    const { right, bottom } = this.getBoundingClientRect();
    if (Math.max(Math.abs(innerHeight - bottom), Math.abs(room - right)) < NEAR) return;
    this.popover = 'manual';
    this.showPopover?.();
  }
}
