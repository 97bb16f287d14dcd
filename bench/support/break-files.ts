import { applyEdits, type Edit } from '../../src/core/html/edits';
import { attr, classesOf, descendants, type Element } from '../../src/core/html/tree';
import type { PagePath } from '../../src/core/site/paths';
import { parsePageFile } from '../../src/core/site/read-page';
import type { CheckedShop, PutHow } from './checked-shop';

export type Files = Record<string, string | Uint8Array>;

export const text = (files: Files, page: string): string => Buffer.from(files[page] ?? '').toString('latin1');

const write = (files: Files, page: string, now: string): void => {
  files[page] = Buffer.from(now, 'latin1');
};

/** Puts HTML behind the last paragraph of a page. */
export function insert(files: Files, page: string, html: string): void {
  const now = text(files, page);
  const at = now.lastIndexOf('</p>');
  if (at < 0) throw new Error(`${page} has no paragraph`);
  write(files, page, `${now.slice(0, at + 4)}\n${html}\n${now.slice(at + 4)}`);
}

/** Puts HTML behind the first paragraph of a page: what it has last may be its footer. */
export function insertFirst(files: Files, page: string, html: string): void {
  write(
    files,
    page,
    text(files, page).replace(/<\/p>/i, (end) => end + html),
  );
}

/** Puts HTML at the end of a page's head. */
export function inHead(files: Files, page: string, html: string): void {
  write(
    files,
    page,
    text(files, page).replace(/<\/head>/i, (end) => html + end),
  );
}

export const htmlPages = (files: Files): string[] => Object.keys(files).filter((f) => /\.html?$/i.test(f));

export function eachPage(files: Files, change: (page: string) => void): void {
  for (const page of htmlPages(files)) change(page);
}

/** A name for a page in a menu. */
export const labelOf = (page: string): string => page.replace(/\.\w+$/, '').replaceAll(/[/_-]+/g, ' ');

/** Puts a footer at the end of a page. */
export function onEnd(files: Files, page: string, says: string): void {
  const now = text(files, page);
  const footer = `<footer><p>${says}</p></footer>`;
  write(files, page, /<\/body>/i.test(now) ? now.replace(/<\/body>/i, `${footer}</body>`) : now + footer);
}

/** Bars, columns and footers, however a site names them. */
const chromeName =
  /^(header|footer)$|(^|[-_])(nav(bar|igation)?|related|sphinxsidebar|side-?bar|mast-?head)$/i;
const isChrome = (el: Element): boolean =>
  /^(nav|header|footer|aside)$/.test(el.tagName) ||
  attr(el, 'role') === 'navigation' ||
  classesOf(el).some((c) => chromeName.test(c));

/** A page without all that pages share, whatever it is made of. */
export const bare = (files: Files, page: string): void => without(files, page, isChrome);

/** A page whose text leads nowhere. */
export function unlink(files: Files, page: string): void {
  write(files, page, text(files, page).replace(/<a\b/gi, '<span').replace(/<\/a>/gi, '</span>'));
}

function without(files: Files, page: string, isGone: (el: Element) => boolean): void {
  const parsed = parsePageFile(page as PagePath, Buffer.from(files[page] ?? ''));
  if ('problem' in parsed) throw new Error(parsed.problem);
  const { doc, source } = parsed.page;
  const edits: Edit[] = [];
  let end = 0;
  for (const el of descendants(doc)) {
    const at = el.sourceCodeLocation;
    if (!at || at.startOffset < end || !isGone(el)) continue;
    end = at.endOffset;
    edits.push({ at: at.startOffset, removed: source.structure.slice(at.startOffset, end), inserted: '' });
  }
  files[page] = applyEdits(source, edits);
}

/** Puts HTML where a page's body begins. */
export function onTop(files: Files, page: string, html: string): void {
  write(
    files,
    page,
    text(files, page).replace(/<body\b[^>]*>/i, (body) => body + html),
  );
}

/** The way from a page to the folder of the whole site. */
export const toRoot = (page: string): string => '../'.repeat(page.split('/').length - 1);

/** A widget in the main part of a page. @returns its placement */
export const put = (
  shop: CheckedShop,
  page: string,
  kind: string,
  settings: Record<string, unknown>,
  how?: PutHow,
): Promise<string> => shop.put(page, kind, settings, how);
