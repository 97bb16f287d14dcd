import { textOf } from '../html/source';
import { childrenOf, isElement, isText, type Node } from '../html/tree';
import type { ParsedPage } from '../site/read-page';
import { kindOf } from './kinds';
import { readShortcodes } from './shortcode';

/** A shortcode on a page: a widget to come, or what is wrong with it. */
export interface FoundShortcode {
  readonly kind: string;
  readonly settings?: Record<string, unknown>;
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
  const runs: { text: string; line: number } = { text: '', line: 0 };
  const flush = () => {
    for (const code of readShortcodes(runs.text))
      found.push(told(code.kind, code.attributes, 'text', runs.line + lines(runs.text.slice(0, code.from))));
    runs.text = '';
  };
  const stack: (Node | 'end')[] = [page.doc];
  for (let node = stack.pop(); node; node = stack.pop()) {
    if (node === 'end') flush();
    else if (isText(node)) {
      if (!runs.text) runs.line = node.sourceCodeLocation?.startLine ?? 1;
      runs.text += textOf(page.source, node.value);
    } else {
      if (isElement(node)) {
        found.push(...inAttributes(page, node));
        if (quotedIn.has(node.tagName)) continue;
        if (!joins.has(node.tagName)) {
          flush();
          stack.push('end');
        } else if (node.tagName === 'br' && runs.text) runs.text += '\n';
      }
      const kids = childrenOf(node);
      for (let i = kids.length - 1; i >= 0; i--) stack.push(kids[i] as Node);
    }
  }
  flush();
  return found.sort((a, b) => a.line - b.line);
}

const joins = new Set(['a', 'b', 'br', 'em', 'font', 'i', 'small', 'span', 'strong', 'u', 'wbr']);
const lines = (text: string): number => text.split('\n').length - 1;

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
          told(code.kind, code.attributes, { attribute: name }, el.sourceCodeLocation?.startLine ?? 1),
        )
      : [],
  );
}

function told(
  kindName: string,
  attributes: ReadonlyMap<string, string>,
  where: FoundShortcode['where'],
  line: number,
): FoundShortcode {
  const own = new Map(attributes);
  const id = own.get('placement');
  own.delete('placement');
  const base = { kind: kindName, where, line, ...(id && { placementId: id }) };
  const kind = kindOf(kindName);
  if (!kind) return { ...base, problem: `There is no widget called "${kindName}".` };
  const settings = kind.fromAttributes(own);
  return settings.ok ? { ...base, settings: settings.value } : { ...base, problem: settings.error };
}
