import { type PageSource, readSource, textOf } from '../html/source';
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

/** Elements in which white space is kept as it is written. */
const keepsSpace = new Set(['script', 'style', 'pre', 'textarea']);

/** A page in one form: as text that is the same for pages that read the same. */
export const canonicalPage = (bytes: Uint8Array): string => new Canonical(readSource(bytes)).text();

class Canonical {
  readonly #out: string[] = [];
  #run = '';
  constructor(private readonly source: PageSource) {}

  text(): string {
    const stack: (Node | string)[] = [parsePage(this.source, { places: false })];
    for (let next = stack.pop(); next !== undefined; next = stack.pop()) {
      if (typeof next === 'string') this.#tag(next);
      else if (isText(next)) this.#run += textOf(this.source, next.value);
      else stack.push(...this.#inside(next).toReversed());
    }
    this.#flush();
    return this.#out.join('\n');
  }

  /** What comes after an element has begun: all that is in it, and its end. */
  #inside(node: Node): (Node | string)[] {
    if (!isElement(node)) return childrenOf(node);
    this.#tag(this.#opening(node));
    const end = `</${node.tagName}>`;
    if (!keepsSpace.has(node.tagName)) return [...childrenOf(node), end];
    this.#out.push(rawOf(node).trim().replace(/\r\n?/g, '\n'));
    return [end];
  }

  #tag(tag: string): void {
    this.#flush();
    this.#out.push(tag);
  }

  #flush(): void {
    const folded = this.#run.replace(/\s+/g, ' ').trim();
    if (folded) this.#out.push(folded);
    this.#run = '';
  }

  #opening(el: Element): string {
    const value = (name: string, text: string) =>
      name === 'class' ? text.trim().split(/\s+/).sort().join(' ') : text.trim();
    const attributes = el.attrs
      .map((a) => ` ${a.name}=${value(a.name, textOf(this.source, a.value))}`)
      .sort();
    return `<${el.tagName}${attributes.join('')}>`;
  }
}

const rawOf = (el: Element): string =>
  childrenOf(el)
    .map((n) => {
      if (isText(n)) return n.value;
      return isElement(n) ? `<${n.tagName}>${rawOf(n)}` : '';
    })
    .join('');
