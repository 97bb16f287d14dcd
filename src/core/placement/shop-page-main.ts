import { escapeHtml } from '../html/escape';

/** What stands in the main region of a page built for the shop. */
export interface ShopPageMain {
  readonly part: string;
  readonly title: string;
  readonly shopUrl: string;
  readonly scriptUrl: string;
  /** Ways to the shop's other pages, by part, relative to this one. */
  readonly hrefs: Readonly<Record<string, string>>;
  /** Style of the box that keeps the content in the width the site uses, where that is known. */
  readonly boxStyle?: string;
}

/** The heading in the site's own style and our element; without script, the way to the shop's plain pages. */
export function shopPageMain({ part, title, shopUrl, scriptUrl, hrefs, boxStyle }: ShopPageMain): string {
  const ways = Object.entries(hrefs).map(([to, href]) => `${to}-href="${escapeHtml(href)}"`).join(' ');
  return `
<div${boxStyle ? ` style="${boxStyle}"` : ''}>
<h1>${escapeHtml(title)}</h1>
<stall-page part="${part}" shop="${escapeHtml(shopUrl)}" ${ways} style="display:block;min-height:24rem"><p>This part of the page needs a script. Without one, you can buy on <a href="${escapeHtml(shopUrl)}/goods">the shop&rsquo;s plain pages</a>.</p></stall-page>
<script async src="${escapeHtml(scriptUrl)}"></script>
</div>
`;
}
