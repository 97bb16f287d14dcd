import type { Page } from 'playwright-core';

/** What a shopper meets of one item of a menu, at one width. */
export interface ItemSeen {
  /** Nothing on the page leads there. */
  readonly isMissing: boolean;
  /** To be seen; and most other items of its row. */
  readonly isShown: boolean;
  readonly othersShown: boolean;
  /** In what it differs from the usual one of its neighbours: fonts, colours, room. */
  readonly differs: readonly string[];
  /** All others stand in one row, and it stands below. */
  readonly isWrapped: boolean;
  /** What lies over its middle, if not itself. */
  readonly under: string;
}

/** Looks at the item that leads to an address. It knows nothing of our markup but that widgets are no items. */
export const seeItem = (page: Page, href: string): Promise<ItemSeen> =>
  // biome-ignore lint/complexity/noExcessiveCognitiveComplexity: one function, because it travels to the page as text
  page.evaluate((to) => {
    const at = (a: HTMLAnchorElement) => a.href.replace(/[?#].*$/, '').replace(/index\.html$/, '');
    const isShown = (el: Element) => {
      const box = el.getBoundingClientRect();
      const isIn = box.right > 1 && box.left < window.innerWidth - 1 && box.width > 1 && box.height > 1;
      // Folded away: nothing of it is within a block that lets nothing run over.
      for (let up = el.parentElement; up && up !== document.body; up = up.parentElement) {
        const clip = up.getBoundingClientRect();
        const isFolded = clip.height < 1 || box.top >= clip.bottom || box.bottom <= clip.top;
        if (isFolded && getComputedStyle(up).overflowY === 'hidden') return false;
      }
      return isIn && el.checkVisibility({ opacityProperty: true, visibilityProperty: true });
    };
    const links = [...document.querySelectorAll<HTMLAnchorElement>('a[href]')];
    const all = links.filter((a) => at(a) === to && !a.closest('stall-cart,stall-shop,stall-page'));
    const item = all.find(isShown) ?? all[0];
    const none = { differs: [], isWrapped: false, under: '' };
    if (!item) return { isMissing: true, isShown: false, othersShown: false, ...none };
    // A long column scrolls.
    item.scrollIntoView({ block: 'center', inline: 'nearest' });
    const depth = (el: Element, top: Element) => {
      let n = 0;
      for (let up = el; up !== top && up.parentElement; up = up.parentElement) n++;
      return n;
    };
    // The row it stands in: the nearest block that holds other items as deep as it is.
    let others: HTMLAnchorElement[] = [];
    for (
      let up = item.parentElement;
      up && up !== document.body && others.length === 0;
      up = up.parentElement
    ) {
      const [top, deep] = [up, depth(item, up)];
      others = [...up.querySelectorAll<HTMLAnchorElement>('a[href]')].filter(
        (a) => !all.includes(a) && depth(a, top) === deep,
      );
    }
    const shown = others.filter(isShown);
    const areShown = shown.length > 0 && shown.length * 2 >= others.length;
    if (!isShown(item)) return { isMissing: false, isShown: false, othersShown: areShown, ...none };
    const looks = [
      'fontFamily',
      'fontSize',
      'fontWeight',
      'color',
      'textTransform',
      'textDecorationLine',
      'letterSpacing',
      'backgroundColor',
      'display',
      'paddingTop',
      'paddingRight',
      'paddingBottom',
      'paddingLeft',
      'borderBottomWidth',
    ] as const;
    const lookOf = (el: Element) => {
      const style = getComputedStyle(el);
      return looks.map((name) => `${name} ${style[name]}`);
    };
    const sorts = new Map<string, { n: number; of: string[] }>();
    for (const a of shown) {
      const of = lookOf(a);
      const key = of.join(';');
      sorts.set(key, { n: (sorts.get(key)?.n ?? 0) + 1, of });
    }
    const most = Math.max(0, ...[...sorts.values()].map((s) => s.n));
    const own = lookOf(item);
    const differences = [...sorts.values()]
      .filter((s) => s.n === most)
      .map((s) => own.filter((said, n) => said !== s.of[n]).map((said, n) => `${said} (${s.of[n]})`));
    const differs = differences.sort((a, b) => a.length - b.length)[0] ?? [];
    const tops = shown.map((a) => a.getBoundingClientRect().top);
    const isRow = tops.length > 1 && Math.max(...tops) - Math.min(...tops) < 2;
    const box = item.getBoundingClientRect();
    const over = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2);
    const isOver = over !== null && (over === item || item.contains(over));
    return {
      isMissing: false,
      isShown: true,
      othersShown: areShown,
      differs,
      isWrapped: isRow && Math.abs(box.top - (tops[0] ?? 0)) >= 2,
      under: isOver ? '' : (over?.outerHTML.slice(0, 80) ?? 'nothing'),
    };
  }, href);

/** What may open a menu, by what makers of pages give it; common practice. */
const openers =
  'button,[role=button],[data-toggle],[data-bs-toggle],[aria-expanded],[aria-controls],label[for],summary,[onclick],[class*=toggle],[class*=hamburger],[class*=burger],[class*=menu-btn]';

/** Presses what may open a menu, one after the other, until the item's neighbours or itself can be seen. */
export async function openMenu(page: Page, href: string): Promise<ItemSeen> {
  let seen = await seeItem(page, href);
  const [url, many] = [page.url(), Math.min(8, await page.locator(openers).count())];
  for (let n = 0; n < many && !seen.isShown && !seen.othersShown; n++) {
    const opener = page.locator(openers).nth(n);
    if (!(await opener.isVisible())) continue;
    await opener.click({ timeout: 800, noWaitAfter: true }).catch(() => undefined);
    await page.waitForTimeout(450);
    if (page.url().replace(/#.*$/, '') !== url.replace(/#.*$/, '')) await page.goto(url);
    seen = await seeItem(page, href);
  }
  return seen;
}

/** Presses the item as a finger does. @returns whether it leads where it says */
export async function pressItem(page: Page, href: string): Promise<boolean> {
  const handle = await page.evaluateHandle((to) => {
    const at = (a: HTMLAnchorElement) => a.href.replace(/[?#].*$/, '').replace(/index\.html$/, '');
    const all = [...document.querySelectorAll<HTMLAnchorElement>('a[href]')];
    const mine = all.filter((a) => at(a) === to && !a.closest('stall-cart,stall-shop,stall-page'));
    return mine.find(
      (a) => a.checkVisibility({ visibilityProperty: true }) && a.getBoundingClientRect().width > 1,
    );
  }, href);
  const item = handle.asElement();
  if (!item) return false;
  await item.click({ timeout: 1500, noWaitAfter: true }).catch(() => undefined);
  const arrives = (url: URL) => url.href.replace(/[?#].*$/, '').replace(/index\.html$/, '') === href;
  return page.waitForURL(arrives, { timeout: 4000, waitUntil: 'commit' }).then(
    () => true,
    () => false,
  );
}
