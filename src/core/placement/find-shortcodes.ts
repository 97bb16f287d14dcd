import { textOf } from '../html/source';
import { childrenOf, isElement, isText, type Node } from '../html/tree';
import type { ParsedPage } from '../site/read-page';
import { kindOf } from './kinds';
import { readShortcodes } from './shortcode';

/** A shortcode on a page: a widget to come, or what is wrong with it. */
export interface FoundShortcode {
  readonly kind: string;
  readonly settings?: Record<string, unknown>;
  /** All that stands in it, as it stands there. */
  readonly written: ReadonlyMap<string, string>;
  /** The placement it was handed out for, when it names one. */
  readonly placementId?: string;
  /** Where it stands: in visible text, or in an attribute of that name. */
  readonly where: 'text' | { readonly attribute: string };
  readonly line: number;
  readonly problem?: string;
}

/** In these, text is not the page's: a shortcode in a script or a code sample is meant to be read. */
const quotedIn = new Set([
  'script',
  'style',
  'template',
  'textarea',
  'code',
  'pre',
  'kbd',
  'samp',
  'title',
  'noscript',
]);

/**
 * Shortcodes in the text and the attributes of a page, as people see them: character references resolved by the
 * parser, neighbouring text joined across line breaks, emphasis and spans that editors put in.
 */
export function findShortcodes(page: ParsedPage): FoundShortcode[] {
  const found: FoundShortcode[] = [];
  const run = new Run();
  for (const node of readingOrder(page.doc)) {
    if (node === 'edge') found.push(...run.end());
    else if (isText(node)) run.add(textOf(page.source, node.value), lineOf(node));
    else if (isElement(node)) found.push(...inAttributes(page, node));
    if (node !== 'edge' && isElement(node) && node.tagName === 'br') run.breakLine();
  }
  return [...found, ...run.end()].sort((a, b) => a.line - b.line);
}

/** Nodes as they are read, with an edge wherever text of two elements does not run on. */
function* readingOrder(root: Node): Generator<Node | 'edge'> {
  const stack: (Node | 'edge')[] = [root];
  for (let node = stack.pop(); node; node = stack.pop()) {
    yield node;
    if (node === 'edge' || isQuoted(node)) continue;
    const parts = isElement(node) && !joins.has(node.tagName);
    if (parts) {
      yield 'edge';
      stack.push('edge');
    }
    for (const kid of childrenOf(node).toReversed()) stack.push(kid);
  }
}

const isQuoted = (node: Node): boolean => isElement(node) && quotedIn.has(node.tagName);

/** Text that people see in one piece, gathered from neighbouring nodes. */
class Run {
  #text = '';
  #line = 1;

  add(text: string, line: number): void {
    if (!this.#text) this.#line = line;
    this.#text += text;
  }

  breakLine(): void {
    if (this.#text) this.#text += '\n';
  }

  /** The shortcodes in it; the next run begins. */
  end(): FoundShortcode[] {
    const text = this.#text;
    this.#text = '';
    return readShortcodes(text).map((code) =>
      read(code.kind, code.attributes, 'text', this.#line + lineBreaks(text.slice(0, code.from))),
    );
  }
}

const joins = new Set(['a', 'b', 'br', 'em', 'font', 'i', 'small', 'span', 'strong', 'u', 'wbr']);
const lineOf = (node: { sourceCodeLocation?: { startLine: number } | null | undefined }): number =>
  node.sourceCodeLocation?.startLine ?? 1;
const lineBreaks = (text: string): number => text.split('\n').length - 1;

function inAttributes(
  page: ParsedPage,
  el: {
    attrs: readonly { name: string; value: string }[];
    sourceCodeLocation?: { startLine: number } | null | undefined;
  },
): FoundShortcode[] {
  return el.attrs.flatMap(({ name, value }) =>
    value.includes('[')
      ? readShortcodes(textOf(page.source, value)).map((code) =>
          read(code.kind, code.attributes, { attribute: name }, lineOf(el)),
        )
      : [],
  );
}

function read(
  kindName: string,
  attributes: ReadonlyMap<string, string>,
  where: FoundShortcode['where'],
  line: number,
): FoundShortcode {
  const own = new Map(attributes);
  const id = own.get('placement');
  own.delete('placement');
  const base = { kind: kindName, where, line, written: attributes, ...(id && { placementId: id }) };
  const kind = kindOf(kindName);
  if (!kind) return { ...base, problem: `There is no widget called "${kindName}".` };
  const settings = kind.fromAttributes(own);
  return settings.ok ? { ...base, settings: settings.value } : { ...base, problem: settings.error };
}
