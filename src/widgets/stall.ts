import {
  addToCart,
  apiOf,
  cartOf,
  cartWay,
  checkoutWay,
  keepCart,
  keepPlace,
  lastPlace,
  onCart,
  refreshCart,
} from './cart-state';
import { draft, pageData, waitFor } from './page-data';
import { provide, isHere, type Shared } from './shared';
import { StallBuy } from './stall-buy';
import { StallCart } from './stall-cart';
import { inFront, loaded, sheet, StallElement, ways } from './stall-element';

/**
 * The one script of a page: defines the widgets that are small, and fetches the second script only where one of the others
 * stands, or a shortcode. Brought twice it does nothing the second time.
 */
const tag = document.currentScript as HTMLScriptElement | null;
const base = new URL('.', tag?.src ?? location.href).href;

/** Elements that the second script defines. */
const OTHERS = [...STALL_MORE_KINDS, 'page'].map((kind) => `stall-${kind}`).join();

if (!isHere()) {
  let second: ReturnType<Shared['more']> | undefined;
  const more: Shared['more'] = () => (second ??= import(/* @vite-ignore */ `${base}stall-more.js`));
  for (const to of ['shop', 'cart', 'checkout', 'page', 'account'] as const)
    ways[to] = tag?.dataset[to] ? new URL(tag.dataset[to], document.baseURI).href : '';
  inFront.steps = tag?.dataset.steps !== undefined;
  draft.key = tag?.dataset.draft ?? '';
  provide({
    addToCart,
    apiOf,
    cartOf,
    cartWay,
    checkoutWay,
    keepCart,
    lastPlace,
    onCart,
    refreshCart,
    pageData,
    StallElement,
    sheet,
    more,
    ways,
    inFront,
  });

  const wanted = (root: ParentNode & Node): boolean =>
    root.querySelector(OTHERS) !== null || /\[\s*stall\s/i.test(root.textContent ?? '');
  const parsed = new Promise<void>((soon) => {
    if (document.readyState === 'loading') document.addEventListener('DOMContentLoaded', () => soon());
    else soon();
  });
  // One request for the page: it is sent when all of its widgets are known.
  waitFor(
    parsed.then(() =>
      wanted(document.body) ? more().then((m) => m.readShortcodes(document.body)) : undefined,
    ),
  );
  customElements.define('stall-buy', StallBuy);
  customElements.define('stall-cart', StallCart);

  const look = () => {
    const shops = new Set([
      ways.shop,
      ...[...document.querySelectorAll('[shop]')].map((el) => el.getAttribute('shop') ?? ''),
    ]);
    for (const shop of shops) if (shop && cartOf(shop).token) void refreshCart(shop);
  };
  void parsed.then(() => {
    loaded.yet = true;
    look();
    // Pages that switch without reloading bring widgets late.
    new MutationObserver((changes) => {
      for (const { addedNodes } of changes)
        for (const node of addedNodes)
          if (node instanceof Element && (node.matches(OTHERS) || wanted(node)))
            void more().then((m) => m.readShortcodes(node));
    }).observe(document.body, { childList: true, subtree: true });
  });
  // A page that comes back from the back-forward cache shows the cart as it is now.
  addEventListener('pageshow', (e) => e.persisted && look());
  addEventListener('pagehide', keepPlace);
  const inFrame = tag?.dataset.frame !== undefined;
  const tellHeight = () => parent.postMessage({ stallHeight: document.body.offsetHeight }, '*');
  // In a frame of ours: the page that holds it may give it the height it needs.
  if (inFrame) void parsed.then(() => new ResizeObserver(tellHeight).observe(document.body));
  const ours = () => [...document.querySelectorAll('iframe')].filter((f) => f.src.startsWith(base));
  addEventListener('message', (e) => {
    const height = Number((e.data as { stallHeight?: unknown } | null)?.stallHeight);
    if (inFrame && height === 0 && e.source === parent) void parsed.then(tellHeight);
    // Our frames say how tall they are; nobody else is believed.
    if (!(height > 0) || height > 20_000) return;
    for (const frame of ours())
      if (frame.contentWindow === e.source) frame.style.height = `${Math.ceil(height)}px`;
  });
  // Frames that were there before this script spoke to nobody: they are asked.
  void parsed.then(() => {
    for (const { contentWindow } of ours()) contentWindow?.postMessage({ stallHeight: 0 }, '*');
  });
}
