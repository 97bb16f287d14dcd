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

export function eachPage(files: Files, change: (page: string) => void): void {
  for (const page of Object.keys(files)) if (/\.html?$/i.test(page)) change(page);
}

/** A widget in the main part of a page. @returns its placement */
export const put = (
  shop: CheckedShop,
  page: string,
  kind: string,
  settings: Record<string, unknown>,
  how?: PutHow,
): Promise<string> => shop.put(page, kind, settings, how);
