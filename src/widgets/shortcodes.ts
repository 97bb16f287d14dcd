import { readShortcodes as codesIn, type Shortcode } from '../core/placement/shortcode';

/** In these, text is meant to be read, or is not the page's. */
const SKIP = 'script,style,template,textarea,code,pre,kbd,samp,noscript,iframe,[contenteditable]';
const NAME = /^[a-z][a-z0-9-]*$/;
const KINDS = new Set([...STALL_FIRST_KINDS, ...STALL_MORE_KINDS]);

/** Attributes that are called otherwise on the element than in the shortcode. */
const ELEMENT_NAMES: Readonly<Record<string, string>> = {
  'buy show-price': 'price',
  'cart hide-when-empty': 'hide-empty',
};

/**
 * Puts widgets in place of shortcodes that were pasted as visible text. Editors split text with emphasis and spans, so the
 * text of the innermost block is read as one; what is no shortcode stays as it is, and so does one of an unknown kind.
 */
export function readShortcodes(root: Element): void {
  const blocks = new Set<Element>();
  const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    if (!/\[|stall/i.test(node.nodeValue ?? '')) continue;
    const block = (node.parentElement as Element | null)?.closest(
      'p,li,td,th,dd,div,section,article,main,aside,figure,blockquote,h1,h2,h3,h4,h5,h6,header,footer,body',
    );
    if (block && !block.closest(SKIP) && /\[[\s\u00a0]*stall/i.test(block.textContent ?? ''))
      blocks.add(block);
  }
  for (const block of blocks) replaceIn(block);
}

function replaceIn(block: Element): void {
  // Last first: offsets of those before stay right.
  for (const code of codesIn(textOf(block)).reverse()) {
    if (!KINDS.has(code.kind)) continue;
    const range = rangeOf(block, code.from, code.to);
    if (!range) continue;
    range.deleteContents();
    range.insertNode(elementOf(code));
  }
}

const texts = (block: Element): Text[] => {
  const walker = document.createTreeWalker(block, NodeFilter.SHOW_TEXT, (n) =>
    n.parentElement?.closest(SKIP) ? NodeFilter.FILTER_REJECT : NodeFilter.FILTER_ACCEPT,
  );
  const out: Text[] = [];
  for (let node = walker.nextNode(); node; node = walker.nextNode()) out.push(node as Text);
  return out;
};
const textOf = (block: Element): string =>
  texts(block)
    .map((t) => t.data)
    .join('');

function rangeOf(block: Element, from: number, to: number): Range | undefined {
  const range = document.createRange();
  let at = 0;
  let begun = false;
  for (const node of texts(block)) {
    const end = at + node.data.length;
    if (!begun && from < end) {
      range.setStart(node, from - at);
      begun = true;
    }
    if (begun && to <= end) {
      range.setEnd(node, to - at);
      return range;
    }
    at = end;
  }
  return undefined;
}

function elementOf(code: Shortcode): HTMLElement {
  const el = document.createElement(`stall-${code.kind}`);
  for (const [name, value] of code.attributes) {
    // "text" is what stands in the element; the rest are its attributes. Nothing that could run is one of them.
    if (name === 'text') el.textContent = value;
    else if (NAME.test(name) && !name.startsWith('on') && name !== 'style')
      el.setAttribute(ELEMENT_NAMES[`${code.kind} ${name}`] ?? name, value === 'yes' ? '' : value);
  }
  if (code.kind === 'buy' && !code.attributes.has('show-price')) el.setAttribute('price', '');
  if (code.attributes.get('show-price') === 'no') el.removeAttribute('price');
  return el;
}
