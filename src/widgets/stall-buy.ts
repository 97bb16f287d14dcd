import { addToCart } from './cart-state';
import type { PageData } from './page-data';
import { StallElement } from './stall-element';

const css = `:host{display:block;min-height:3.5rem}
div{display:inline-flex;flex-wrap:wrap;align-items:center;gap:.25rem 1rem}
button{font:inherit;font-weight:500;min-height:3.5rem;padding:.4em 1.5em;border:0;border-radius:var(--stall-radius);background:var(--stall-accent);color:var(--stall-accent-ink);cursor:pointer}
button:hover{filter:brightness(.9)}button[disabled]{background:none;color:inherit;box-shadow:inset 0 0 0 1.5px var(--stall-field-line);cursor:default;filter:none}
button[aria-busy]{cursor:progress}
:focus-visible{outline:3px solid var(--stall-link);outline-offset:2px}
span{font-size:.9em}a{color:var(--stall-link)}`;

/** A button that puts one product into the cart. Attributes: goods, placement, shop, cart, price, after. */
export class StallBuy extends StallElement {
  protected show({ goods, look }: PageData, signal: AbortSignal): void {
    const product = goods[this.getAttribute('goods') ?? ''];
    if (!product) return;
    const root = this.root(css, look);
    const text = this.textContent?.trim() || product.name;
    const box = document.createElement('div');
    box.part.add('box');
    const button = document.createElement('button');
    button.part.add('button');
    button.textContent = product.soldOut ? `${product.name}: sold out` : text + (this.hasAttribute('price') ? ` \u00b7 ${product.price}` : '');
    button.disabled = product.soldOut;
    const note = document.createElement('span');
    note.part.add('note');
    note.setAttribute('role', 'status');
    note.textContent = product.soldOut ? '' : product.stock;
    box.append(button, note);
    root.replaceChildren(box);
    button.addEventListener('click', () => void this.#buy(button, note), { signal });
  }

  async #buy(button: HTMLButtonElement, note: HTMLElement): Promise<void> {
    if (button.ariaBusy) return;
    button.ariaBusy = 'true';
    const cart = this.getAttribute('cart') ?? '#';
    try {
      await addToCart(this.shop, { goods: this.getAttribute('goods') ?? '', placement: this.getAttribute('placement') });
      if (this.getAttribute('after') === 'cart') return void location.assign(cart);
      const link = document.createElement('a');
      link.href = cart;
      link.textContent = 'See your cart';
      note.replaceChildren('It is in your cart. ', link);
    } catch (error) {
      note.textContent = (error as Error).message || 'That did not work just now. Please try again.';
    } finally {
      button.ariaBusy = null;
    }
  }
}
