import { messageOf } from './events';
import { addToCart, cartWay, checkoutWay } from './cart-state';
import type { PageData, ProductData } from './page-data';
import { taken } from './shared';
import { StallElement } from './stall-element';

const button =
  'display:inline-flex;align-items:center;justify-content:center;box-sizing:border-box;min-height:max(24px,var(--stall-button-height,2.75rem));padding:var(--stall-pad-y,.85em) var(--stall-pad-x,1.5em);border:var(--stall-button-width,0) solid var(--stall-button-line,transparent);border-radius:var(--stall-radius);background:var(--stall-accent);color:var(--stall-accent-ink);box-shadow:var(--stall-button-shadow,none);font:inherit;font-family:var(--stall-button-font,inherit);font-size:var(--stall-button-size,1em);font-weight:var(--stall-button-weight,500);text-transform:var(--stall-button-case,none);letter-spacing:var(--stall-button-spacing,normal);line-height:1.2;text-align:center;text-decoration:none;cursor:pointer';
const css = `:host{display:block;min-height:3.5rem}
form{display:inline-flex;flex-wrap:wrap;align-items:center;gap:.25rem 1rem;margin:0}
button,a.b{${button}}
button:hover,a.b:hover{background:var(--stall-over);color:var(--stall-over-ink);box-shadow:var(--stall-over-shadow,none)}button:active,a.b:active{background:var(--stall-pressed,var(--stall-over));color:var(--stall-pressed-ink,var(--stall-over-ink))}button[disabled]{background:none;color:inherit;box-shadow:inset 0 0 0 1.5px var(--stall-field-line);cursor:default}
button[aria-busy]{cursor:progress}button.p{padding:0;border:0;background:none}button.p img{display:block;max-width:100%;border-radius:inherit}
:focus-visible{outline:3px solid var(--stall-focus);outline-offset:2px}
label{font-size:.9em}input{font:inherit;width:6em;min-height:3.5rem;margin-inline-start:.5em;padding:0 .6em;border:var(--stall-field-width,1.5px) solid var(--stall-field-line);border-radius:var(--stall-field-radius);background:var(--stall-field);color:var(--stall-field-ink);box-sizing:border-box}
span{font-size:.9em}a{color:var(--stall-link)}a.b{color:var(--stall-accent-ink)}`;

/**
 * A button that puts one product into the cart. Attributes: goods, choice, placement, shop, cart, checkout, price, after,
 * window, picture, lang.
 */
export class StallBuy extends StallElement {
  static readonly observedAttributes = ['goods', 'choice', 'price', 'after', 'picture'];

  protected show({ goods, look, words }: PageData, signal: AbortSignal): void {
    const whole = goods[this.getAttribute('goods') ?? ''];
    if (!whole) return;
    const chosen = this.getAttribute('choice') ?? '';
    const choice = whole.choices?.[chosen];
    const product = choice
      ? { ...whole, name: `${whole.name}, ${chosen}`, price: choice[1], stock: choice[2], soldOut: choice[3] }
      : whole;
    // Something is to be chosen first, or it is sold elsewhere: the button is the way there.
    if (product.href && !choice) return void this.#lead(product, look, words);
    const root = this.root(css, look);
    const form = document.createElement('form');
    form.part.add('box');
    form.noValidate = true;
    const button = document.createElement('button');
    button.part.add('button');
    this.#face(button, product, words);
    button.disabled = product.soldOut;
    const amount = product.open && !product.soldOut ? amountField(product.open, words) : undefined;
    const note = document.createElement('span');
    note.part.add('note');
    note.setAttribute('role', 'status');
    note.textContent = product.soldOut ? '' : product.stock;
    form.append(...(amount ? [amount] : []), button, note);
    root.replaceChildren(form);
    form.addEventListener(
      'submit',
      (e) => {
        e.preventDefault();
        void this.#buy(button, note, words, amount?.querySelector('input')?.value, choice?.[0]);
      },
      { signal },
    );
  }

  #lead(product: ProductData, look: string, words: PageData['words']): void {
    const link = document.createElement('a');
    link.className = 'b';
    link.part.add('button');
    link.href = this.goodsWay(product.href ?? '');
    this.#face(link, { ...product, soldOut: false }, words);
    this.root(css, look).replaceChildren(link);
  }

  #face(button: HTMLElement, product: ProductData, words: PageData['words']): void {
    const own = this.textContent?.trim();
    const text = own || words.buy.replace('{x}', product.name);
    const picture = this.getAttribute('picture');
    if (picture && !product.soldOut) {
      const img = document.createElement('img');
      img.src = picture;
      img.alt = text;
      button.className = 'p';
      button.append(img);
    } else
      button.textContent = product.soldOut
        ? `${product.name}: ${product.out ?? words.soldOut}`
        : text + (this.hasAttribute('price') && !product.open ? ` \u00b7 ${product.price}` : '');
  }

  async #buy(
    button: HTMLButtonElement,
    note: HTMLElement,
    words: PageData['words'],
    amount?: string,
    variant?: string,
  ): Promise<void> {
    if (button.ariaBusy) return;
    button.ariaBusy = 'true';
    const after = this.getAttribute('after');
    const leads = after === 'cart' || after === 'checkout';
    // Opened while the press is still heard: later the browser would take it for a pop-up.
    const fresh = leads && this.getAttribute('window') === 'new' ? open('', '_blank') : null;
    try {
      await addToCart(this.shop, {
        goods: this.getAttribute('goods') ?? '',
        placement: this.getAttribute('placement'),
        ...(amount !== undefined && { amount }),
        ...(variant && { variant }),
      });
      const cart = cartWay(this.shop, this.way('cart'));
      if (leads) {
        const to = after === 'cart' ? cart : checkoutWay(this.shop, this.way('checkout'));
        (fresh ?? window).location.assign(new URL(to, document.baseURI).href);
        return;
      }
      if (after === 'drawer') return void (await taken().more()).openDrawer(this);
      const link = document.createElement('a');
      link.href = cart;
      link.textContent = words.seeCart;
      note.replaceChildren(`${words.inCart} `, link);
    } catch (error) {
      fresh?.close();
      note.textContent = messageOf(error) || words.failed;
    } finally {
      button.ariaBusy = null;
    }
  }
}

function amountField(open: NonNullable<ProductData['open']>, words: PageData['words']): HTMLLabelElement {
  const label = document.createElement('label');
  const input = document.createElement('input');
  input.inputMode = 'decimal';
  input.value = open.least;
  label.append(`${words.amount} (${open.sign}), ${words.least.replace('{x}', open.leastText)}`, input);
  return label;
}
