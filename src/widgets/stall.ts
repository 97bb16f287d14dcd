import { cartOf, refreshCart } from './cart-state';
import { StallBuy } from './stall-buy';
import { StallCart } from './stall-cart';

/**
 * The one script of a page: defines the widgets that are small, and fetches the shop pages' script only where one
 * stands. Brought twice it does nothing the second time.
 */
const base = new URL('.', (document.currentScript as HTMLScriptElement | null)?.src ?? location.href).href;

if (!customElements.get('stall-buy')) {
  customElements.define('stall-buy', StallBuy);
  customElements.define('stall-cart', StallCart);
  const look = () => {
    const shops = new Set([...document.querySelectorAll('[shop]')].map((el) => el.getAttribute('shop') ?? ''));
    for (const shop of shops) if (cartOf(shop).token) void refreshCart(shop);
    if (document.querySelector('stall-page')) void import(/* @vite-ignore */ `${base}stall-page.js`);
  };
  if (document.readyState === 'loading') document.addEventListener('DOMContentLoaded', look);
  else look();
  // A page that comes back from the back-forward cache shows the cart as it is now.
  addEventListener('pageshow', (e) => e.persisted && look());
}
