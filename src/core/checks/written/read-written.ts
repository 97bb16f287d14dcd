import { parseFragment } from 'parse5';
import type { Edit } from '../../html/edits';
import { type PageSource, textOf } from '../../html/source';
import {
  attr,
  childrenOf,
  collapse,
  type Element,
  find,
  isElement,
  isText,
  type Node,
  rawText,
  type TextNode,
} from '../../html/tree';
import { kindOf } from '../../placement/kinds';
import { type LinkBase, type PagePath, resolveLink } from '../../site/paths';
import type { ParsedPage } from '../../site/read-page';
import { readShortcodes } from '../../placement/shortcode';
import { priceMentions } from '../../money/mention';
import type {
  At,
  Insecure,
  Leftover,
  PriceText,
  WrittenLink,
  WrittenPage,
  WrittenPicture,
  WrittenScript,
  WrittenWidget,
} from './facts';
import { leftoversIn } from './leftovers';
import { writtenMenu } from './menu';
import { atOf, elementAround, type Here, isInline, Places } from './place-of';
import { type AsWritten, common, type Placed, settingsOf } from './widget-settings';

/** What a page's facts are read with, beside the page itself. */
export interface ReadingOf {
  readonly has: (path: string) => boolean | PagePath | undefined;
  /** The shop's own currency, for signs of money that several share. */
  readonly currency: string;
  /** Address of the shop's script, to know it by. */
  readonly scriptUrl: string;
  readonly shopUrl: string;
  readonly base?: LinkBase;
  /** Settings of what was placed, by placement: its element writes them in a manner of its own. */
  readonly placed?: Placed;
}

type Facts = Omit<
  WrittenPage,
  | 'path'
  | 'address'
  | 'name'
  | 'kind'
  | 'chrome'
  | 'part'
  | 'menuProblem'
  | 'lost'
  | 'bytes'
  | 'added'
  | 'lang'
>;

/**
 * What a check asks of one page as it is written. The owner's page is walked once, and each piece that was put in is walked where it
 * was put: the tree law has proven that browsers read it there. What was taken out is passed over.
 */
export function readWritten(page: ParsedPage, edits: readonly Edit[], how: ReadingOf): Facts {
  return new Reader(page, edits, how).read();
}

/** Text that people read in one piece. */
interface Run {
  readonly at: At;
  text: string;
  readonly heading: boolean;
  readonly ours: boolean;
}

const skipped = new Set([
  'script',
  'style',
  'template',
  'noscript',
  'textarea',
  'title',
  'svg',
  'math',
  'iframe',
  'object',
  'select',
]);
const quoted = new Set(['code', 'pre', 'kbd', 'samp', 'xmp', 'listing', 'plaintext']);
/** Runs before a price that are kept with it: in a card the name stands two or three above. */
const NEAR = 4;
const LONGEST = 600;

/** Declarative refresh (HTML, 4.2.5.3) that names another address and leaves no time to read. */
const forwardsAtOnce = (content: string): boolean =>
  /^\s*0*[0-3](?:\.\d*)?\s*[;,\s]\s*(?:url\s*=)?\s*['"]?\S/i.test(content);

class Reader {
  readonly #places: Places;
  readonly #removed: readonly (readonly [number, number])[];
  readonly #source: PageSource;
  readonly #links = new Map<string, WrittenLink>();
  readonly #ids: string[] = [];
  readonly #widgets: WrittenWidget[] = [];
  readonly #scripts: WrittenScript[] = [];
  readonly #leftovers: Leftover[] = [];
  readonly #pictures: WrittenPicture[] = [];
  readonly #insecure: Insecure[] = [];
  readonly #prices: PriceText[] = [];
  readonly #policies: string[] = [];
  readonly #comments: At[] = [];
  readonly #runs: Run[] = [];
  #open: Run | undefined;
  #letters = 0;
  #forwards = false;
  /** What the owner's own file holds, without what was put in: does a page say anything before a script has run? */
  readonly #own = { letters: 0, links: 0, scripts: 0 };

  constructor(
    private readonly page: ParsedPage,
    private readonly edits: readonly Edit[],
    private readonly how: ReadingOf,
  ) {
    this.#places = new Places(page);
    this.#source = page.source;
    this.#removed = edits.filter((e) => e.removed).map((e) => [e.at, e.at + e.removed.length] as const);
  }

  read(): Facts {
    const start: Here = {
      region: 'page',
      block: this.#places.body,
      inMenu: false,
      ours: false,
      line: 1,
      link: undefined,
    };
    for (const node of childrenOf(this.page.doc)) this.#walk(node, start);
    this.#endRun();
    for (const edit of this.edits) this.#readInserted(edit);
    this.#endRun();
    this.#findPrices();
    return {
      links: [...this.#links.values()],
      ids: this.#ids,
      widgets: this.#widgets,
      scripts: this.#scripts,
      leftovers: this.#leftovers,
      pictures: this.#pictures,
      insecure: this.#insecure,
      prices: this.#prices,
      policies: this.#policies,
      comments: this.#comments,
      ...this.#menu(),
      hasHeader: this.#places.hasHeader,
      letters: this.#letters,
      forwards: this.#forwards,
      isShell:
        this.#own.letters < 40 &&
        this.#own.scripts > 0 &&
        this.#own.links === 0 &&
        this.#pictures.length === 0,
    };
  }

  /** Depth first, with room kept by the call stack: pages nest no deeper than the parser lets them. */
  #walk(root: Node, from: Here): void {
    const stack: [Node | 'end of block', Here][] = [[root, from]];
    for (let next = stack.pop(); next; next = stack.pop()) {
      const [node, here] = next;
      if (node === 'end of block') this.#endRun();
      else if (isText(node)) this.#addText(node, here);
      else if (isElement(node)) this.#element(node, here, stack);
    }
  }

  #element(el: Element, around: Here, stack: [Node | 'end of block', Here][]): void {
    if (!around.ours && this.#isRemoved(el)) return;
    const isBlock = !isInline(el.tagName);
    const here: Here = {
      region: around.ours ? around.region : this.#places.regionFrom(el, around.region),
      block: isBlock && !around.ours ? el : around.block,
      inMenu: around.inMenu || el === this.#places.menu,
      ours: around.ours,
      line: around.ours ? around.line : (el.sourceCodeLocation?.startLine ?? around.line),
      link: el.tagName === 'a' ? el : around.link,
    };
    this.#note(el, here);
    if (isBlock || el.tagName === 'br') this.#endRun();
    if (skipped.has(el.tagName) || el.tagName.startsWith('stall-')) return;
    if (isBlock) stack.push(['end of block', here]);
    const kids = childrenOf(el);
    for (let i = kids.length - 1; i >= 0; i--) stack.push([kids[i] as Node, here]);
  }

  #isRemoved(el: Element): boolean {
    const place = el.sourceCodeLocation;
    return !!place && this.#removed.some(([from, to]) => place.startOffset >= from && place.startOffset < to);
  }

  /** What one element says, by its name. */
  #note(el: Element, here: Here): void {
    const id = attr(el, 'id');
    if (id) this.#ids.push(this.#text(id));
    if (el.tagName.startsWith('stall-') && el.tagName !== 'stall-page') this.#widget(el, here);
    this.#notes[el.tagName]?.(el, here);
    this.#attributes(el, here);
  }

  /** What is noted of an element, by its name. */
  readonly #notes: Readonly<Record<string, (el: Element, here: Here) => void>> = {
    a: (el, here) => {
      this.#link(el, here);
      const name = attr(el, 'name');
      if (name) this.#ids.push(this.#text(name));
    },
    area: (el, here) => this.#link(el, here),
    img: (el, here) => this.#picture(el, here),
    script: (el, here) => this.#script(el, here),
    iframe: (el, here) => this.#frame(el, here),
    meta: (el) => this.#meta(el),
    form: (el, here) => this.#form(el, here),
  };

  #text(value: string): string {
    return textOf(this.#source, value);
  }

  /** The element as it is written in the owner's own file; '' for what was put in. */
  #sourceOf(el: Element, here: Here, tag: 'whole' | 'start' = 'start'): string {
    const place = el.sourceCodeLocation;
    if (here.ours || !place) return '';
    const end = tag === 'whole' ? place.endOffset : (place.startTag?.endOffset ?? place.endOffset);
    return this.#source.structure.slice(place.startOffset, Math.min(end, place.startOffset + 2_000));
  }

  #resolve(href: string): PagePath | undefined {
    return resolveLink(this.how.base ?? this.page.path, href, this.how.has);
  }

  #link(el: Element, here: Here): void {
    const href = attr(el, 'href');
    if (href === undefined) return;
    const link = this.#text(href).trim();
    if (here.ours && el.attrs.some((a) => a.name === 'hidden')) return;
    // A script answers these: they are buttons, whatever they are written as.
    if (
      link.startsWith('#') &&
      el.attrs.some((a) => scripted.has(a.name) || (a.name === 'role' && a.value !== 'link'))
    )
      return;
    const text = collapse(this.#text(rawText(el))) || this.#text(altIn(el));
    const key = `${link} ${here.inMenu ? 'menu' : here.region}`;
    if (this.#links.has(key)) return;
    const to = this.#resolve(link);
    if (!here.ours) this.#own.links++;
    this.#links.set(key, {
      ...atOf(this.#places, here),
      href: link,
      text: text.slice(0, 80),
      inMenu: here.inMenu,
      source: to ? '' : this.#sourceOf(el, here),
      ...(to && { to }),
    });
  }

  #picture(el: Element, here: Here): void {
    const src = this.#text(attr(el, 'src') ?? '');
    if (!src || here.ours) return;
    const alt = attr(el, 'alt');
    const path = this.#resolve(src);
    this.#pictures.push({
      ...atOf(this.#places, here),
      src,
      alt: alt === undefined ? null : this.#text(alt),
      isLink: here.link !== undefined && !isNamed(here.link),
      source: this.#sourceOf(el, here),
      ...(path && { path }),
    });
  }

  #script(el: Element, here: Here): void {
    const src = this.#text(attr(el, 'src') ?? '');
    if (!/\/stall(?:\.min)?\.js(?:[?#]|$)/.test(src)) {
      if (!here.ours) this.#own.scripts++;
      return;
    }
    this.#scripts.push({
      ...atOf(this.#places, here),
      src,
      ours: here.ours,
      source: this.#sourceOf(el, here, 'whole'),
    });
  }

  #frame(el: Element, here: Here): void {
    const src = this.#text(attr(el, 'src') ?? '');
    const m = /^(.*)\/frame\/([a-z-]+)(?:\?(.*))?$/.exec(src);
    if (!m) return;
    const [, shop = '', kind = '', query = ''] = m;
    if (!shop.startsWith(this.how.shopUrl) && !kindOf(kind)) return;
    const asked = new URLSearchParams(query);
    const placement = asked.get('via') ?? '';
    for (const name of ['via', 'draft']) asked.delete(name);
    this.#addWidget({ kind, spelling: 'frame', placement, shop, attributes: new Map(asked) }, el, here);
  }

  #meta(el: Element): void {
    const says = (attr(el, 'http-equiv') ?? '').toLowerCase();
    const content = this.#text(attr(el, 'content') ?? '');
    if (says === 'content-security-policy') this.#policies.push(content);
    if (says === 'refresh' && forwardsAtOnce(content)) this.#forwards = true;
  }

  #form(el: Element, here: Here): void {
    if (here.ours || here.region === 'header' || here.region === 'footer') return;
    const action = `${attr(el, 'action') ?? ''} ${attr(el, 'id') ?? ''} ${attr(el, 'class') ?? ''}`;
    const writes = find(el, (e) => e.tagName === 'textarea') !== undefined;
    if (writes && /comment|kommentar|commentaire|reply|respond/i.test(action))
      this.#comments.push(atOf(this.#places, here));
  }

  #widget(el: Element, here: Here): void {
    const attributes = new Map(el.attrs.map((a) => [a.name, this.#text(a.value)]));
    const placement = attributes.get('placement') ?? '';
    const shop = attributes.get('shop') ?? '';
    for (const name of common) attributes.delete(name);
    this.#addWidget(
      { kind: el.tagName.slice('stall-'.length), spelling: 'element', placement, shop, attributes },
      el,
      here,
    );
  }

  #addWidget(
    w: AsWritten & Pick<WrittenWidget, 'spelling' | 'shop'>,
    el: Element | undefined,
    here: Here,
  ): void {
    this.#widgets.push({
      ...atOf(this.#places, here),
      kind: w.kind,
      spelling: w.spelling,
      placement: w.placement,
      shop: w.shop,
      source: el ? this.#sourceOf(el, here, 'whole') : '',
      ...settingsOf(w, this.how.placed),
    });
  }

  /** Addresses that are fetched without encryption, whatever they are for. */
  #attributes(el: Element, here: Here): void {
    if (
      el.tagName === 'a' ||
      (el.tagName === 'link' && !/stylesheet|icon|preload/i.test(attr(el, 'rel') ?? ''))
    )
      return;
    for (const name of fetched) {
      const value = attr(el, name);
      if (value && /^\s*http:\/\//i.test(value))
        this.#insecure.push({
          ...atOf(this.#places, here),
          what: el.tagName,
          address: this.#text(value).trim().slice(0, 300),
          source: this.#sourceOf(el, here),
        });
    }
  }

  #addText(node: TextNode, here: Here): void {
    const text = here.ours ? node.value : this.#textNow(node);
    this.#letters += text.trim().length;
    if (!here.ours) this.#own.letters += text.trim().length;
    if (!text.trim() && !this.#open) return;
    if (!this.#open) {
      const at = atOf(this.#places, here);
      const heading = here.block !== undefined && /^h[1-6]$/.test(here.block.tagName);
      this.#open = { at: { ...at, line: lineOf(node) ?? at.line }, text: '', heading, ours: here.ours };
    }
    if (isQuoted(here.block)) return;
    this.#open.text += text;
  }

  /** A text of the owner's as it reads now: a piece that a repair replaced says what stands there since. */
  #textNow(node: TextNode): string {
    const place = node.sourceCodeLocation;
    const edits = place
      ? this.edits.filter((e) => e.removed && e.at >= place.startOffset && e.at < place.endOffset)
      : [];
    if (!place || edits.length === 0) {
      const gone =
        place && this.#removed.some(([from, to]) => place.startOffset >= from && place.endOffset <= to);
      return gone ? '' : this.#text(node.value);
    }
    let source = '';
    let at = place.startOffset;
    for (const e of edits) {
      source +=
        this.#source.structure.slice(at, e.at) +
        e.inserted.replace(/<stall-[\s\S]*<\/stall-\w+>|<!--[\s\S]*?-->|<[^>]*>/g, '');
      at = e.at + e.removed.length;
    }
    source += this.#source.structure.slice(at, Math.max(at, place.endOffset));
    return this.#text(
      parseFragment(source)
        .childNodes.map((n) => (isText(n as Node) ? (n as TextNode).value : ''))
        .join(''),
    );
  }

  #endRun(): void {
    const run = this.#open;
    this.#open = undefined;
    if (!run) return;
    run.text = collapse(run.text).slice(0, LONGEST * 4);
    if (run.text) this.#runs.push(run);
  }

  #readInserted({ at, inserted }: Edit): void {
    const { body } = this.#places;
    if (!inserted || !body) return;
    const around = elementAround(body, at);
    const here = this.#hereAt(around);
    const region = this.#places.regionBetween(around, at) ?? here.region;
    this.#walkInserted(inserted, { ...here, region, line: lineAtOffset(this.#source.structure, at) });
  }

  #walkInserted(html: string, here: Here): void {
    for (const m of html.matchAll(includes)) this.#include(m, here);
    const bare = html.replace(/^<!--stall [^>]*-->|<!--\/stall [^>]*-->$/g, '');
    for (const node of parseFragment(bare).childNodes) this.#walk(node, { ...here, ours: true });
    this.#endRun();
  }

  #include(m: RegExpMatchArray, here: Here): void {
    const asked = new URLSearchParams((m[2] ?? m[4] ?? '').replace(/&amp;/g, '&'));
    const placement = asked.get('via') ?? '';
    asked.delete('via');
    const kind = m[1] ?? m[3] ?? '';
    this.#addWidget(
      { kind, spelling: 'include', placement, shop: '', attributes: new Map(asked) },
      undefined,
      here,
    );
  }

  /** Where the walk would be at an element of the owner's page. */
  #hereAt(el: Element): Here {
    const up: Element[] = [];
    for (
      let at: Element | undefined = el;
      at;
      at = at.parentNode && isElement(at.parentNode) ? at.parentNode : undefined
    )
      up.unshift(at);
    let here: Here = {
      region: 'page',
      block: this.#places.body,
      inMenu: false,
      ours: true,
      line: 1,
      link: undefined,
    };
    for (const at of up)
      here = {
        ...here,
        region: this.#places.regionFrom(at, here.region),
        block: isInline(at.tagName) ? here.block : at,
        inMenu: here.inMenu || at === this.#places.menu,
      };
    return here;
  }

  #findPrices(): void {
    let heading = '';
    for (const [n, run] of this.#runs.entries()) {
      if (run.heading) heading = run.text;
      if (run.ours) continue;
      this.#leftovers.push(...leftoversIn(run.text).map((l) => ({ ...l, ...run.at })));
      for (const code of readShortcodes(run.text)) this.#shortcode(code, run);
      for (const mention of priceMentions(run.text, this.how.currency))
        this.#prices.push({
          ...run.at,
          mention,
          text: run.text.slice(0, LONGEST),
          before: [
            heading,
            ...this.#runs
              .slice(Math.max(0, n - NEAR), n)
              .filter((r) => !r.ours && r.at.region === run.at.region)
              .map((r) => r.text.slice(0, 160)),
          ],
          after: this.#runs[n + 1]?.text.slice(0, 160) ?? '',
        });
    }
  }

  #shortcode(code: ReturnType<typeof readShortcodes>[number], run: Run): void {
    const attributes = new Map(code.attributes);
    const placement = attributes.get('placement') ?? '';
    attributes.delete('placement');
    this.#widgets.push({
      ...run.at,
      kind: code.kind,
      spelling: 'shortcode',
      placement,
      shop: '',
      source: run.text.slice(code.from, code.to),
      ...settingsOf({ kind: code.kind, placement, attributes }, this.how.placed),
    });
  }

  #menu(): Pick<WrittenPage, 'menu' | 'marksHere'> {
    const { menu } = this.#places;
    if (!menu) return { menu: null, marksHere: null };
    const { page, how } = this;
    return writtenMenu(menu, this.edits, {
      page: page.path,
      base: how.base ?? page.path,
      source: this.#source,
      has: how.has,
    });
  }
}

const fetched = ['src', 'href', 'data', 'poster', 'action'];
const includes =
  /<!--#include virtual="[^"]*\/fragments\/([\w-]+)\?([^"]*)" -->|<!--esi <esi:include src="[^"]*\/fragments\/([\w-]+)\?([^"]*)"[^>]*\/> -->/g;

/** What makes a link that leads to a spot of its own page a button. */
const scripted = new Set([
  'onclick',
  'data-toggle',
  'data-bs-toggle',
  'data-target',
  'data-bs-target',
  'data-slide',
  'data-bs-slide',
  'data-dismiss',
  'data-bs-dismiss',
  'aria-controls',
  'aria-expanded',
  'aria-haspopup',
  'aria-selected',
]);

/** Whether a link says where it leads: by its text, by words for another picture, by a name of its own. */
const isNamed = (link: Element): boolean =>
  collapse(rawText(link)) !== '' ||
  ['aria-label', 'aria-labelledby', 'title'].some((name) => attr(link, name)?.trim()) ||
  find(
    link,
    (e) =>
      (e.tagName === 'img' && !!attr(e, 'alt')?.trim()) ||
      (e.tagName === 'svg' && attr(e, 'aria-label') !== undefined),
  ) !== undefined;

const isQuoted = (el: Element | undefined): boolean => !!el && quoted.has(el.tagName);
const altIn = (el: Element): string => attr(find(el, (e) => e.tagName === 'img') ?? el, 'alt') ?? '';
const lineOf = (node: Node): number | undefined =>
  (node as { sourceCodeLocation?: { startLine: number } | null }).sourceCodeLocation?.startLine;

function lineAtOffset(text: string, offset: number): number {
  let line = 1;
  for (let i = text.indexOf('\n'); i >= 0 && i < offset; i = text.indexOf('\n', i + 1)) line++;
  return line;
}
