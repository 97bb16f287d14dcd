import { textOf } from '../../html/source';
import {
  attr,
  bodyOf,
  descendants,
  type Element,
  isText,
  type Node,
  childrenOf,
  isElement,
} from '../../html/tree';
import type { ParsedPage } from '../read-page';
import { addressesIn } from '../served';

/** What a page refers to, as whole addresses without fragments. */
export interface Referred {
  /** Pages, as far as links can tell. */
  readonly links: readonly URL[];
  /** What dresses it: style sheets, scripts, pictures. */
  readonly files: readonly URL[];
  /** The address that it calls its own. */
  readonly canonical: URL | undefined;
  /** Its text is made by a script in the visitor's browser: what the server sends holds next to nothing. */
  readonly drawnByScript: boolean;
}

/** What a server sends of a page that a script draws has fewer letters to read than this. Chosen by hand. */
const FEW_LETTERS = 80;

/** Attributes with one address each, by element. */
const FILES: Readonly<Record<string, readonly string[]>> = {
  script: ['src'],
  img: ['src'],
  input: ['src'],
  source: ['src'],
  video: ['poster'],
  body: ['background'],
  table: ['background'],
  td: ['background'],
  image: ['href', 'xlink:href'],
  use: ['href', 'xlink:href'],
};
const LINKS: Readonly<Record<string, string>> = { a: 'href', area: 'href', iframe: 'src', frame: 'src' };
const DRESSING_LINKS = /\b(stylesheet|icon|shortcut|apple-touch-icon|preload|modulepreload)\b/i;

/** @param at where the page was found; links start from there, or from what `<base>` says. */
export function referredBy(page: ParsedPage, at: URL): Referred {
  const all = [...descendants(page.doc)];
  const value = (el: Element, name: string) => textOf(page.source, attr(el, name) ?? '').trim();
  const base = baseOf(all, value, at);
  const whole = (addresses: readonly string[]) => addresses.flatMap((a) => parsed(a, base) ?? []);
  const canonical = all.find((el) => el.tagName === 'link' && /\bcanonical\b/i.test(attr(el, 'rel') ?? ''));
  return {
    links: whole(all.map((el) => value(el, LINKS[el.tagName] ?? ''))),
    files: whole(all.flatMap((el) => filesOf(el, value))),
    canonical: canonical && parsed(value(canonical, 'href'), base),
    drawnByScript: isDrawnByScript(page, all),
  };
}

type Value = (el: Element, name: string) => string;

function baseOf(all: readonly Element[], value: Value, at: URL): URL {
  const named = all.find((el) => el.tagName === 'base' && attr(el, 'href') !== undefined);
  return (named && parsed(value(named, 'href'), at)) ?? at;
}

function filesOf(el: Element, value: Value): string[] {
  const own = (FILES[el.tagName] ?? []).map((name) => value(el, name));
  const sets = el.tagName === 'img' || el.tagName === 'source' ? inSet(value(el, 'srcset')) : [];
  const linked =
    el.tagName === 'link' && DRESSING_LINKS.test(attr(el, 'rel') ?? '') ? [value(el, 'href')] : [];
  const styles = el.tagName === 'style' ? addressesIn(styleText(el)) : [];
  const style = attr(el, 'style');
  const inline = style && /url\(/i.test(style) ? addressesIn(`a{${value(el, 'style')}}`) : [];
  return [...own, ...sets, ...linked, ...styles, ...inline];
}

/** What stands in a `<style>`: the parser keeps it as one text. */
const styleText = (el: Element): string =>
  childrenOf(el)
    .map((n) => (isText(n) ? n.value : ''))
    .join('');

/** Addresses of a `srcset`: each candidate is an address up to white space (HTML, 4.8.4.2.1), which may hold commas of its own. */
export function inSet(set: string): string[] {
  const found: string[] = [];
  let rest = set.replace(/^[\s,]+/, '');
  while (rest) {
    const address = /^\S+/.exec(rest)?.[0] ?? '';
    found.push(address.replace(/,+$/, ''));
    rest = rest.slice(address.length);
    // What describes it goes up to the next comma, unless the address ended in one.
    if (!address.endsWith(',')) rest = rest.replace(/^[^,]*/, '');
    rest = rest.replace(/^[\s,]+/, '');
  }
  return found;
}

function parsed(address: string, base: URL): URL | undefined {
  if (!address || address.startsWith('#') || /^(data|mailto|tel|javascript|blob|about):/i.test(address))
    return undefined;
  try {
    const url = new URL(address, base);
    url.hash = '';
    return /^https?:$/.test(url.protocol) ? url : undefined;
  } catch {
    return undefined;
  }
}

/** Next to no text and no link to follow, and a script that makes the rest. */
function isDrawnByScript(page: ParsedPage, all: readonly Element[]): boolean {
  if (!all.some((el) => el.tagName === 'script')) return false;
  if (all.some((el) => el.tagName === 'frame' || el.tagName === 'frameset')) return false;
  const body = bodyOf(page.doc);
  return !!body && lettersIn(body, FEW_LETTERS) < FEW_LETTERS && !hasPictures(body);
}

const hasPictures = (body: Element): boolean =>
  [...descendants(body)].some((el) => el.tagName === 'img' || el.tagName === 'iframe');

/** Letters and figures that a visitor could read, counted up to a limit. */
function lettersIn(root: Node, enough: number): number {
  let letters = 0;
  const stack: Node[] = [root];
  for (let node = stack.pop(); node && letters < enough; node = stack.pop()) {
    if (isText(node)) letters += node.value.replace(/[^\p{L}\p{N}]/gu, '').length;
    else if (!isElement(node) || !UNREAD.has(node.tagName)) stack.push(...childrenOf(node));
  }
  return letters;
}
const UNREAD = new Set(['script', 'style', 'noscript', 'template']);
