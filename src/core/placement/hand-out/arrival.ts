import { parseFragment } from 'parse5';
import { textOf } from '../../html/source';
import { attr, descendants, type Element, isElement, type Node } from '../../html/tree';
import { sameJson } from '../../json';
import { referredBy } from '../../site/live/referred';
import type { ParsedPage } from '../../site/read-page';
import { findShortcodes, type FoundShortcode } from '../find-shortcodes';
import { readShortcodes } from '../shortcode';
import type { Spelling } from '../spelling';

/** What is looked for on a page: a placement in the spelling in which it was handed out. */
export interface Expected {
  readonly placement: string;
  readonly kind: string;
  readonly spelling: Spelling;
  /** The code as it is handed out today; without it only whether it stands there is said, and not whether it is still the same. */
  readonly code?: string | undefined;
  /** "https://shop.example/withybed" */
  readonly shop: string;
}

/**
 * How something that was pasted stands on a page. `older`: the code of another day. `altered`: what the host's editor left of it.
 * `stripped`: the editor took the element out and left its link. `escaped`: it stands there as words. `held`: the script waits for
 * something, a consent for instance. `unseen`: the page is drawn in the browser, so nobody can tell from here.
 */
export type ArrivalState =
  | 'there'
  | 'older'
  | 'altered'
  | 'stripped'
  | 'escaped'
  | 'no-script'
  | 'held'
  | 'unseen'
  | 'absent';

export interface Arrival {
  readonly found: boolean;
  readonly state: ArrivalState;
  /** A sentence that says what to do. */
  readonly message: string;
}

const is = (state: ArrivalState, message: string): Arrival => ({
  found: state === 'there' || state === 'older',
  state,
  message,
});

/** Looks through a page, as its visitors get it, for something that was handed out. */
export function arrivalOn(page: ParsedPage, wanted: Expected, at: string): Arrival {
  const told = wanted.spelling === 'shortcode' ? shortcodeOn(page, wanted) : elementOn(page, wanted);
  return told.state === 'absent' && isDrawn(page, wanted.shop, at)
    ? is(
        'unseen',
        'That page is drawn by a script in the visitor\u2019s browser: what its server sends holds nothing of it, so it cannot be looked for from here. Open the page and see.',
      )
    : told;
}

/** By a script of the site's own: ours draws no pages. */
const isDrawn = (page: ParsedPage, shop: string, at: string): boolean =>
  referredBy(page, new URL(at)).drawnByScript &&
  [...descendants(page.doc)].some((e) => e.tagName === 'script' && !isScript(e, shop));

/** The script alone, as a page's foot brings it for all pages. */
export function scriptOn(page: ParsedPage, shop: string, code: string, at: string): Arrival {
  const script = scriptState(page, shop);
  if (script.state !== 'there') return script;
  const wanted = firstElement(code);
  const stands = [...descendants(page.doc)].find((e) => isScript(e, shop));
  const differs = wanted && stands ? differences(page, stands, wanted) : [];
  if (differs.some((d) => d.is === 'gone'))
    return is(
      'altered',
      `The script is there, but the host took ${names(differs)} out of it. Paste it anew.`,
    );
  if (differs.length)
    return is(
      'older',
      'The script is there as it was handed out before. Copy it once more, and paste it over.',
    );
  // What else stands in the foot: a cart in the corner of the window.
  const cart = /<stall-cart [^>]*placement="(\w+)"/.exec(code)?.[1];
  if (cart && ![...descendants(page.doc)].some((e) => attr(e, 'placement') === cart))
    return is(
      'altered',
      'The script is there, but the cart beside it is not. Copy all of the code, and paste it over.',
    );
  return at ? is('there', 'It has arrived.') : script;
}

/** An item of the site's menu: whether a link on the page leads where it shall. */
export function menuItemOn(page: ParsedPage, at: string, label: string, to: string): Arrival {
  const { links } = referredBy(page, new URL(at));
  const place = (url: URL) =>
    `${url.host.replace(/^www\./, '')}${url.pathname.replace(/\/$/, '')}${url.search}`;
  if (links.some((url) => place(url) === place(new URL(to))))
    return is('there', `A link on the page leads to ${to}.`);
  return is(
    'absent',
    `No link on the page leads to ${to}. Add the item \u201c${label}\u201d in your host\u2019s menu settings.`,
  );
}

// --- the script

const NO_SCRIPT = 'the script is not: visitors see a plain link. Paste the script too.';

function isScript(e: Element, shop: string): boolean {
  return e.tagName === 'script' && (attr(e, 'src') ?? '').startsWith(`${originOf(shop)}/stall.js`);
}

const originOf = (shop: string): string => shop.replace(/\/[^/]*$/, '');
/** Types of scripts that browsers run (HTML, 4.12.1). */
const RUNS = /^(|module|(text|application)\/(x-)?(java|ecma)script)$/i;

function scriptState(page: ParsedPage, shop: string): Arrival {
  const scripts = [...descendants(page.doc)].filter((e) => e.tagName === 'script');
  const ours = scripts.filter((e) => isScript(e, shop));
  if (ours.some((e) => RUNS.test((attr(e, 'type') ?? '').trim()))) return is('there', 'The script is there.');
  const origin = originOf(shop);
  const isHeld =
    ours.length > 0 || scripts.some((e) => e.attrs.some((a) => a.value.startsWith(`${origin}/stall.js`)));
  if (isHeld)
    return is(
      'held',
      'The script is there, but something on the site holds it back (a consent tool, or one that loads scripts late): it runs only when visitors agree. Name it as necessary there: the shop cannot work without it, and it sets no cookie.',
    );
  const { structure } = page.source;
  return structure.includes(`${origin}/stall.js`)
    ? is(
        'escaped',
        'The script stands there as text, or within a comment: the editor took it for words. Paste it where the host takes HTML.',
      )
    : is('no-script', 'The script is not on that page. Was it saved, and published there?');
}

// --- a shortcode

function shortcodeOn(page: ParsedPage, wanted: Expected): Arrival {
  const all = findShortcodes(page);
  const code =
    all.find((c) => c.placementId === wanted.placement) ??
    all.find((c) => c.kind === wanted.kind && c.placementId === undefined);
  if (!code)
    return is('absent', 'The shortcode is not in the text of that page. Was it saved, and published there?');
  if (code.problem)
    return is('altered', `The shortcode is there, in line ${code.line}, but: ${code.problem}`);
  const script = scriptState(page, wanted.shop);
  if (script.state === 'held') return script;
  if (script.state !== 'there')
    return is(
      'no-script',
      `The shortcode is there, in line ${code.line}, but the script is not: visitors read it as text. Paste the script too.`,
    );
  if (wanted.code !== undefined && !saysTheSame(code, wanted.code))
    return is(
      'older',
      `The shortcode is there, in line ${code.line}, as it was before. Copy it once more, and paste it over.`,
    );
  return is('there', `It has arrived, in line ${code.line}, and so has the script.`);
}

function saysTheSame(found: FoundShortcode, code: string): boolean {
  const [wanted] = readShortcodes(textOfCode(code));
  if (!wanted) return true;
  return sameJson(sorted(found.written), sorted(wanted.attributes));
}
const sorted = (attributes: ReadonlyMap<string, string>) =>
  [...attributes].sort(([a], [b]) => (a < b ? -1 : 1));

/** A shortcode stands in a span in pages of ours, and bare where it is pasted. */
const textOfCode = (code: string): string =>
  code
    .replace(/<[^>]*>/g, '')
    .replace(/&quot;/g, '"')
    .replace(/&#39;/g, "'")
    .replace(/&amp;/g, '&');

// --- an element, a frame, a link, an include

function elementOn(page: ParsedPage, wanted: Expected): Arrival {
  const stands = [...descendants(page.doc)].find((e) => isIt(e, wanted));
  if (!stands) return notThere(page, wanted);
  const line = stands.sourceCodeLocation?.startLine ?? 1;
  if (wanted.spelling === 'element') {
    const script = scriptState(page, wanted.shop);
    if (script.state === 'held') return script;
    if (script.state !== 'there') return is('no-script', `It is there, in line ${line}, but ${NO_SCRIPT}`);
  }
  return asHandedOut(page, stands, wanted, line);
}

function asHandedOut(page: ParsedPage, stands: Element, wanted: Expected, line: number): Arrival {
  const own = wanted.code === undefined ? undefined : firstElement(wanted.code);
  const differs = own && own.tagName === stands.tagName ? differences(page, stands, own) : [];
  const gone = differs.filter((d) => d.is === 'gone');
  if (gone.length)
    return is(
      'altered',
      `It is there, in line ${line}, but the editor took ${names(gone)} out of it. Paste it where the editor takes HTML, or use the shortcode or the frame.`,
    );
  if (differs.length)
    return is(
      'older',
      `It is there, in line ${line}, as it was before: ${names(differs)} changed since. Copy it once more, and paste it over.`,
    );
  return is(
    'there',
    wanted.spelling === 'element'
      ? `It has arrived, in line ${line}, and so has the script.`
      : `It has arrived, in line ${line}.`,
  );
}

function isIt(e: Element, { spelling, placement, kind, shop }: Expected): boolean {
  if (spelling === 'element') {
    const own = attr(e, 'placement');
    return e.tagName === `stall-${kind}` && (own === placement || own === undefined);
  }
  const href = attr(e, 'src') ?? attr(e, 'href') ?? '';
  if (spelling === 'frame') return e.tagName === 'iframe' && href.startsWith(`${shop}/frame/${kind}`);
  if (spelling === 'link') return e.tagName === 'a' && (href.startsWith(shop) || href.includes(placement));
  return attr(e, 'data-stall-fragment') === kind;
}

function notThere(page: ParsedPage, wanted: Expected): Arrival {
  const line = escapedIn(page, wanted);
  if (line !== undefined)
    return is(
      'escaped',
      `The code stands there as text, in line ${line}: the editor took it for words, and visitors read it. Paste it where the editor takes HTML (a code block, or its source view), or use the shortcode, which works as text.`,
    );
  if (wanted.spelling === 'ssi' || wanted.spelling === 'esi')
    return is(
      'absent',
      'What the include brings is not on that page. Does the server assemble it, and reach the shop?',
    );
  if (wanted.spelling === 'element' && linkIsLeft(page, wanted))
    return is(
      'stripped',
      'The editor took the element out and left the link that stood in it: visitors can buy by it, on a plain page. Use the shortcode, or the frame, which editors let through more often.',
    );
  return is(
    'absent',
    'It is not on that page. Was it saved, and published there? Some editors take such elements out: use the frame or the shortcode then.',
  );
}

/** The link inside the element as it was handed out. */
function linkIsLeft(page: ParsedPage, { code, placement }: Expected): boolean {
  const own = code ? /<a\b[^>]* href="([^"]+)"/.exec(code)?.[1]?.replace(/&amp;/g, '&') : undefined;
  return [...descendants(page.doc)].some((e) => {
    const href = e.tagName === 'a' ? (attr(e, 'href') ?? '') : '';
    return href !== '' && (href === own || href.includes(`via=${placement}`));
  });
}

/** The line in which code stands that an editor took for text: visitors read it. */
function escapedIn(page: ParsedPage, { kind }: Expected): number | undefined {
  const { structure } = page.source;
  const at = structure.search(
    new RegExp(`&(?:lt|#0*60|#x0*3c);(?:stall-${kind}|iframe[^&]{0,200}/frame/${kind})`, 'i'),
  );
  return at < 0 ? undefined : structure.slice(0, at).split('\n').length;
}

// --- comparing what stands there with what was handed out

interface Difference {
  readonly name: string;
  readonly is: 'gone' | 'other';
}

/** Attributes of ours that are gone or say something else. What a host adds, and how it styles, is its own affair. */
function differences(page: ParsedPage, stands: Element, wanted: Element): Difference[] {
  return wanted.attrs.flatMap(({ name, value }): Difference[] => {
    if (name === 'style' || name === 'async' || name === 'hidden' || name === 'loading') return [];
    const now = attr(stands, name);
    if (now === undefined) return [{ name, is: 'gone' }];
    return textOf(page.source, now) === value ? [] : [{ name, is: 'other' }];
  });
}
const names = (all: readonly Difference[]): string => all.map((d) => `\u201c${d.name}\u201d`).join(', ');

const firstElement = (code: string): Element | undefined =>
  parseFragment(code).childNodes.find((n) => isElement(n as Node)) as Element | undefined;
