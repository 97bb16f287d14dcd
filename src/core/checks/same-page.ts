import { readSource, textOf } from '../html/source';
import { childrenOf, type Element, isElement, isText, type Node, PageTooBig, parsePage } from '../html/tree';

/**
 * Whether two pages read the same: their trees without comments, with attributes in any order and white space as browsers fold it. Hosts
 * and editors rewrite line ends, sort attributes and drop comments; none of that is seen by a visitor.
 */
export function samePage(one: Uint8Array, other: Uint8Array): boolean {
  try {
    return canonicalPage(one) === canonicalPage(other);
  } catch (error) {
    if (error instanceof PageTooBig) return false;
    throw error;
  }
}

/** A page in one form: as text that is the same for pages that read the same. */
export function canonicalPage(bytes: Uint8Array): string {
  const source = readSource(bytes);
  const out: string[] = [];
  let text = '';
  const flush = () => {
    const folded = text.replace(/\s+/g, ' ');
    if (folded.trim()) out.push(folded);
    text = '';
  };
  const stack: (Node | string)[] = [parsePage(source, { places: false })];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (typeof node === 'string') {
      flush();
      out.push(node);
    } else if (isText(node)) text += textOf(source, node.value);
    else if (isElement(node)) {
      flush();
      out.push(openingOf(node, (t) => textOf(source, t)));
      const keepsSpace = ['script', 'style', 'pre', 'textarea'].includes(node.tagName);
      stack.push(`</${node.tagName}>`);
      if (keepsSpace) {
        out.push(rawOf(node).trim().replace(/\r\n?/g, '\n'));
        continue;
      }
      for (const kid of childrenOf(node).toReversed()) stack.push(kid);
    } else for (const kid of childrenOf(node).toReversed()) stack.push(kid);
  }
  flush();
  return out
    .map((piece) => (piece.startsWith('<') ? piece : piece.trim()))
    .filter(Boolean)
    .join('\n');
}

const openingOf = (el: Element, text: (t: string) => string): string =>
  `<${el.tagName}${el.attrs
    .map(
      (a) =>
        ` ${a.name}=${a.name === 'class' ? text(a.value).trim().split(/\s+/).sort().join(' ') : text(a.value).trim()}`,
    )
    .sort()
    .join('')}>`;

const rawOf = (el: Element): string =>
  childrenOf(el)
    .map((n) => (isText(n) ? n.value : isElement(n) ? openingOf(n, (t) => t) + rawOf(n) : ''))
    .join('');
