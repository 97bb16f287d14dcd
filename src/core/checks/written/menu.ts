import { parseFragment } from 'parse5';
import type { Edit } from '../../html/edits';
import type { PageSource } from '../../html/source';
import { type Element, isElement, type Node } from '../../html/tree';
import { currentStyleOf } from '../../placement/menu-markup';
import { flat, type MenuItem, type MenuNode, menuNodes } from '../../site/menu';
import type { LinkBase, PagePath } from '../../site/paths';
import type { WrittenPage } from './facts';

interface How {
  readonly page: PagePath;
  readonly base: LinkBase | PagePath;
  readonly source: PageSource;
  readonly has: (path: string) => boolean | PagePath | undefined;
}

/** The menu of a page with what was changed in it: its own source with the edits made, read as a menu. */
export function writtenMenu(
  root: Element,
  edits: readonly Edit[],
  { page, base, source, has }: How,
): Pick<WrittenPage, 'menu' | 'marksHere'> {
  const made = withEdits(root, edits, source) ?? root;
  const nodes = menuNodes(made, base, source, has);
  return { menu: nodes.map(plainItem), marksHere: markOf(nodes, page) };
}

function withEdits(root: Element, edits: readonly Edit[], source: PageSource): Element | undefined {
  const place = root.sourceCodeLocation;
  const inside = edits.filter((e) => place && e.at > place.startOffset && e.at < place.endOffset);
  if (!place || inside.length === 0) return undefined;
  let text = '';
  let at = place.startOffset;
  for (const e of inside.toSorted((a, b) => a.at - b.at)) {
    text += source.structure.slice(at, e.at) + e.inserted;
    at = e.at + e.removed.length;
  }
  text += source.structure.slice(at, place.endOffset);
  return parseFragment(text).childNodes.find((n) => isElement(n as Node)) as Element | undefined;
}

/** How a menu says which page one is on: by a look or word of its own on the item, or by an item that is no link. */
function markOf(nodes: readonly MenuNode[], page: PagePath): WrittenPage['marksHere'] {
  const all = flat(nodes);
  if (all.some((n) => n.page === page)) {
    const style = currentStyleOf(nodes);
    return style && (style.aria !== undefined || style.item.length + style.link.length > 0)
      ? 'by a mark'
      : 'not at all';
  }
  return all.some((n) => n.current && !n.link) ? 'by no link' : null;
}

const plainItem = ({ label, page, href, current, children }: MenuNode): MenuItem => ({
  label,
  href,
  current,
  children: children.map(plainItem),
  ...(page && { page }),
});
