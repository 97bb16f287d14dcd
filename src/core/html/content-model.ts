import { childrenOf, type Element, elementsIn, isText } from './tree';

/**
 * Where a block-level widget may stand, after the content models of the HTML standard (section 4): containers of flow
 * content whose children are blocks, never phrasing, lists, tables, forms or anything interactive.
 */
const containers = new Set(['body', 'main', 'div', 'section', 'article', 'aside', 'header', 'footer', 'blockquote', 'figure', 'li', 'dd', 'td', 'center', 'fieldset']);

/** Inside these, nothing of ours stands: text, links, controls, embedded and inert content, menus. */
const closed = new Set(['p', 'a', 'button', 'label', 'form', 'nav', 'select', 'svg', 'math', 'template', 'noscript', 'pre', 'details', 'dialog', 'object', 'video', 'audio', 'canvas', 'iframe', 'address', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'picture', 'summary']);

export const isClosed = (el: Element): boolean => closed.has(el.tagName) || el.namespaceURI !== 'http://www.w3.org/1999/xhtml';

/** A container whose direct children are elements only: between any two of them a block may stand. */
export function takesBlocks(el: Element): boolean {
  if (!containers.has(el.tagName) || isClosed(el)) return false;
  if (childrenOf(el).some((n) => isText(n) && n.value.trim() !== '')) return false;
  const kids = elementsIn(el);
  if (el.tagName === 'li' || el.tagName === 'dd' || el.tagName === 'td') return kids.length > 0 && kids.every(isBlock);
  return true;
}

const phrasing = new Set(['a', 'abbr', 'b', 'bdi', 'bdo', 'br', 'cite', 'code', 'data', 'dfn', 'em', 'font', 'i', 'kbd', 'mark', 'q', 's', 'samp', 'small', 'span', 'strike', 'strong', 'sub', 'sup', 'time', 'tt', 'u', 'var', 'wbr']);
const isBlock = (el: Element): boolean => !phrasing.has(el.tagName) && el.tagName !== 'img' && el.tagName !== 'input';

/** Elements that shoppers never see: no pitch stands beside them alone. */
export const isInvisible = (el: Element): boolean => ['script', 'style', 'link', 'meta', 'template', 'noscript', 'title', 'base'].includes(el.tagName);
