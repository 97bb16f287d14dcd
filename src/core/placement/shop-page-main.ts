import { escapeHtml } from '../html/escape';
import { stepWordsIn } from '../languages/languages';

/** What stands in the main region of a page built for the shop. */
export interface ShopPageMain {
  readonly part: string;
  /** Of the site, for what is said where no script runs. */
  readonly lang?: string;
  readonly title: string;
  /** The heading stands elsewhere on the page. */
  readonly titled?: boolean;
  readonly shopUrl: string;
  readonly scriptUrl: string;
  /** Ways to the shop's other pages, by part, relative to this one. */
  readonly hrefs: Readonly<Record<string, string>>;
  /** Style of the box that keeps the content in the width the site uses, where that is known. */
  readonly boxStyle?: string;
}

/** The shop front is for search engines too; a cart, a checkout, an order are one shopper's alone. */
export const robotsFor = (part: string): string =>
  part === 'shop' ? '' : '<meta name="robots" content="noindex">\n';

/** The heading in the site's own style and our element; without script, the way to the shop's plain pages. */
export function shopPageMain(page: ShopPageMain): string {
  return page.part === 'shop' || page.part === 'lookup' ? widgetMain(page) : stepMain(page);
}

/**
 * A screen is kept free until the content comes: what stands below it is then not seen to move (widgets/kept-room.ts).
 * Margins of what stands in it until then stay inside: it would itself move when they go.
 */
const ROOM = 'display:flow-root;min-height:100vh';

const headingOf = ({ title, titled }: ShopPageMain): string =>
  titled ? '' : `<h1>${escapeHtml(title)}</h1>\n`;

/** A page that is one widget: the shop front, the order lookup. */
function widgetMain(page: ShopPageMain): string {
  const { part, title, shopUrl, scriptUrl, hrefs, boxStyle } = page;
  const plain = part === 'shop' ? `${shopUrl}/goods` : `${shopUrl}/lookup`;
  return `
<div${boxStyle ? ` style="${boxStyle}"` : ''}>
${headingOf(page)}<stall-${part} main shop="${escapeHtml(shopUrl)}" cart="${escapeHtml(hrefs.cart ?? '')}" checkout="${escapeHtml(hrefs.checkout ?? '')}" page="${escapeHtml(hrefs.shop ?? '')}"${part === 'shop' ? ' level="2"' : ''} style="${ROOM}"><p><a href="${escapeHtml(plain)}">${escapeHtml(title)}</a></p></stall-${part}>
<script async src="${escapeHtml(scriptUrl)}"></script>
</div>
`;
}

/** Cart, checkout, thank-you and failed: the heading in the site's own style and our element. */
function stepMain(page: ShopPageMain): string {
  const { part, lang = '', shopUrl, scriptUrl, hrefs, boxStyle } = page;
  const w = stepWordsIn(lang);
  const plain =
    part === 'account'
      ? `<a href="${escapeHtml(shopUrl)}/account">${escapeHtml(w.yourOrders)}</a>`
      : `${escapeHtml(w.needsScript)} <a href="${escapeHtml(shopUrl)}/goods">${escapeHtml(w.plainPages)}</a>`;
  const ways = Object.entries(hrefs)
    .map(([to, href]) => `${to}-href="${escapeHtml(href)}"`)
    .join(' ');
  return `
<div${boxStyle ? ` style="${boxStyle}"` : ''}>
${headingOf(page)}<stall-page part="${part}" shop="${escapeHtml(shopUrl)}" ${ways} style="${ROOM}"><p>${plain}</p></stall-page>
<script async src="${escapeHtml(scriptUrl)}"></script>
</div>
`;
}
