import { StallAccount } from './stall-account';
import { StallDrawn } from './stall-drawn';
import { StallPage } from './stall-page';
import { StallShop } from './stall-shop';

/** The second script: everything that is not a buy button or the cart's basket. Fetched where one of these stands. */
export { openDrawer, showSummary } from './cart-beside';
export { readShortcodes } from './shortcodes';

const drawn = ['card', 'row', 'categories', 'search', 'lookup', 'reviews', 'releases'];
for (const kind of drawn)
  if (!customElements.get(`stall-${kind}`))
    customElements.define(`stall-${kind}`, class extends StallDrawn {});
if (!customElements.get('stall-account')) customElements.define('stall-account', StallAccount);
if (!customElements.get('stall-shop')) customElements.define('stall-shop', StallShop);
if (!customElements.get('stall-page')) customElements.define('stall-page', StallPage);
