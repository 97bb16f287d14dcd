import { namesOf } from '../entries';
import { escapeHtml } from '../html/escape';
import type { Writable, WriteContext } from './kind';
import { writeShortcode } from './shortcode';

/**
 * The ways a placement is written into a page. One placement, one settings panel; each spelling is one line of this
 * table. All are ASCII once escaped, and all keep the tree law: the includes are comments to a browser.
 */
interface SpellingTable {
  readonly name: string;
  /** Where there is little room. */
  readonly short: string;
  /** Where it goes and what it needs, for the hand-out. */
  readonly hint: string;
  readonly needsScript: boolean;
  readonly write: (w: Writable, context: WriteContext) => string;
}

const query = (w: Writable, { placementId }: WriteContext): string =>
  new URLSearchParams([
    ...w.settings.map(([k, v]): [string, string] => [k, v]),
    ['via', placementId],
  ]).toString();
const link = (w: Writable): string => `<a href="${escapeHtml(w.link.href)}">${escapeHtml(w.link.text)}</a>`;
const fragment = (w: Writable, c: WriteContext): string => `/fragments/${w.kind}?${query(w, c)}`;

export const spellings = {
  element: {
    name: 'Element',
    short: 'element',
    hint: 'For pages whose HTML you can change: an element and one script.',
    needsScript: true,
    write: (w) =>
      `<${w.element} ${w.attributes.filter(Boolean).join(' ')}>${w.inner ?? link(w)}</${w.element}>`,
  },
  shortcode: {
    name: 'Shortcode',
    short: 'shortcode',
    hint: 'For editors that take text only: paste it where the widget goes; the page needs the one script.',
    needsScript: true,
    write: (w, c) =>
      `<span class="stall-shortcode">${escapeHtml(writeShortcode(w.kind, [...w.settings, ['placement', c.placementId]]))}</span>`,
  },
  frame: {
    name: 'Frame',
    short: 'frame',
    hint: 'For pages that take scripts out: a frame. Where the page may have the one script too, it grows to the height it needs.',
    needsScript: true,
    write: (w, c) =>
      `<iframe src="${escapeHtml(`${c.shopUrl}/frame/${w.kind}?${query(w, c)}`)}" title="${escapeHtml(w.link.text)}" loading="lazy" style="display:block;width:100%;height:${w.frameHeight}px;border:0">${link(w)}</iframe>`,
  },
  ssi: {
    name: 'Include (SSI)',
    short: 'include',
    hint: 'For servers that assemble pages with server-side includes: ready HTML, no script needed to see it.',
    needsScript: false,
    write: (w, c) =>
      `<!--#include virtual="${(c.includePath ?? '/stall') + fragment(w, c).replace(/"/g, '%22')}" -->`,
  },
  esi: {
    name: 'Include (ESI)',
    short: 'ESI',
    hint: 'For caches that assemble pages with Edge Side Includes 1.0.',
    needsScript: false,
    // The <!--esi --> form of ESI Language Specification 1.0, section 3.7: a comment wherever nothing assembles it.
    write: (w, c) =>
      `<!--esi <esi:include src="${escapeHtml(c.shopUrl + fragment(w, c))}" onerror="continue"/> -->`,
  },
  link: {
    name: 'Link',
    short: 'link',
    hint: 'For mail, social pages and printed codes: an ordinary page that sells.',
    needsScript: false,
    write: link,
  },
} as const satisfies Readonly<Record<string, SpellingTable>>;

export type Spelling = keyof typeof spellings;
export const spellingNames = namesOf(spellings);

export const writeSpelling = (spelling: Spelling, w: Writable, context: WriteContext): string =>
  spellings[spelling].write(w, context);
