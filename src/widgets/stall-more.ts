import { StallAccount } from './stall-account';
import { StallDrawn } from './stall-drawn';
import { StallPage } from './stall-page';
import { StallPrice } from './stall-price';
import { StallShop } from './stall-shop';

/** The second script: everything that is not a buy button or the cart's basket. Fetched where one of these stands. */
export { openDrawer, showSummary } from './cart-beside';
export { readShortcodes } from './shortcodes';

/** Those that do more than show what the server drew; "page" is a whole page of the shop, and no widget. */
const own: Readonly<Record<string, CustomElementConstructor>> = {
  account: StallAccount,
  shop: StallShop,
  page: StallPage,
  price: StallPrice,
};
for (const kind of [...STALL_MORE_KINDS, 'page'])
  if (!customElements.get(`stall-${kind}`))
    customElements.define(`stall-${kind}`, own[kind] ?? class extends StallDrawn {});
