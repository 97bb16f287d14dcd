import { type PageSource, textOf } from '../html/source';
import { attr, collapse, descendants, type Element, elementsIn, rawText } from '../html/tree';
import { type PagePath, resolveLink } from './paths';

export interface MenuItem {
  readonly label: string;
  /** The page it leads to, when that is a page of the site. */
  readonly page?: PagePath;
  readonly href: string;
  readonly current: boolean;
  readonly children: readonly MenuItem[];
}

/** The menu that stands in `root`, as a tree: nested lists where the site has them, else its links in order. */
export function readMenu(root: Element, from: PagePath, source: PageSource, has: (path: string) => boolean): MenuItem[] {
  const list = firstList(root);
  return list ? fromList(list) : fromLinks();

  function firstList(el: Element): Element | undefined {
    for (const e of descendants(el)) if (isList(e)) return e;
    return undefined;
  }

  function fromList(el: Element): MenuItem[] {
    return elementsIn(el).filter((li) => li.tagName === 'li').flatMap((li) => {
      const sub = firstList(li);
      const children = sub ? fromList(sub) : [];
      const link = firstLink(li, sub);
      if (link) return [item(link, children)];
      return children;
    });
  }

  function fromLinks(): MenuItem[] {
    return [...descendants(root)].filter((e) => e.tagName === 'a' && attr(e, 'href')).map((a) => item(a, []));
  }

  function firstLink(li: Element, sub: Element | undefined): Element | undefined {
    for (const e of descendants(li)) {
      if (e === sub) return undefined;
      if (e.tagName === 'a' && attr(e, 'href') !== undefined) return e;
    }
    return undefined;
  }

  function item(a: Element, children: MenuItem[]): MenuItem {
    const href = textOf(source, attr(a, 'href') ?? '');
    const page = resolveLink(from, href, has);
    const current = attr(a, 'aria-current') !== undefined;
    return { label: collapse(textOf(source, rawText(a))) || href, href, current, children, ...(page && { page }) };
  }
}

const isList = (e: Element): boolean => e.tagName === 'ul' || e.tagName === 'ol' || e.tagName === 'menu';
