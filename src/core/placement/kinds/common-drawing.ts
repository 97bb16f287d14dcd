import type { Words } from '../../languages/language';
import { type Html, html } from '../../storefront/html';

/** In place of a widget whose product is gone. */
export const goneWords = (w: Words): Html => html`<p class="stall-muted">${w.gone}</p>`;
