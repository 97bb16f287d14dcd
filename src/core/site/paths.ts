/** A file of the site: forward slashes, no leading slash, NFC, never leaving the site. "journal/index.html" */
export type PagePath = string & { readonly __path: unique symbol };

/** Names no file system or browser should be asked to deal with. */
const control = /[\0-\x1f\x7f]/;

/**
 * Parses a name from a ZIP or folder. Refuses absolute names, drive letters, `..`, backslashes that hide them and
 * control characters; returns the reason as a sentence.
 */
export function parsePath(name: string): { ok: true; value: PagePath } | { ok: false; error: string } {
  const bad = (why: string) => ({ ok: false as const, error: `"${name.replace(/[\0-\x1f\x7f]/g, '?')}" ${why}` });
  if (control.test(name)) return bad('has control characters in its name');
  if (/^[/\\]|^[a-zA-Z]:/.test(name)) return bad('is an absolute path: a site may only name files inside itself');
  const parts = name.split(/[/\\]/);
  if (parts.includes('..')) return bad('climbs out of the site with "..": pack the site again from inside its folder');
  const kept = parts.filter((p) => p !== '' && p !== '.');
  if (kept.length === 0) return bad('is empty');
  return { ok: true, value: kept.join('/').normalize('NFC') as PagePath };
}

export const isPagePath = (path: string): boolean => /\.(html?|xhtml)$/i.test(path);

/** Whether the last part names a folder's own page. */
const indexName = /(^|\/)index\.(html?|xhtml)$/i;

/** The address a page answers to on its site: "journal/index.html" is "/journal/". */
export function addressOf(path: PagePath): string {
  const address = `/${path.replace(indexName, '$1')}`;
  return encodeURI(address).replace(/[?#]/g, encodeURIComponent);
}

const origin = 'http://site.invalid';

/**
 * Where a link leads inside the site, or nothing when it leaves it (another host, mailto:, a fragment of the page).
 * Candidates are tried as hosts do: the file itself, its folder's index, the name with .html.
 */
export function resolveLink(from: PagePath, href: string, has: (path: string) => boolean): PagePath | undefined {
  const trimmed = href.trim();
  if (!trimmed || trimmed.startsWith('#') || /^[a-z][a-z0-9+.-]*:/i.test(trimmed) || trimmed.startsWith('//')) return undefined;
  let pathname: string;
  try {
    pathname = decodeURIComponent(new URL(trimmed, `${origin}/${encodeURI(from)}`).pathname).slice(1);
  } catch {
    return undefined;
  }
  const bare = pathname.replace(/\/$/, '');
  const tries = [pathname, ...['index.html', 'index.htm'].map((i) => (bare ? `${bare}/${i}` : i)), `${bare}.html`, `${bare}.htm`];
  return tries.find((t) => t !== '' && has(t)) as PagePath | undefined;
}

/** A relative address from one page to a site address ("/cart/"), right at any depth and under any host. */
export function relativeAddress(from: PagePath, address: string): string {
  const up = '../'.repeat(from.split('/').length - 1);
  return `${up}${address.replace(/^\//, '')}` || './';
}

/**
 * Moves a relative link of page `from` to page `to`: the same target, seen from elsewhere. Root-relative, absolute and
 * fragment links stay as they are.
 */
export function rebaseLink(href: string, from: PagePath, to: PagePath): string {
  if (!href || /^(#|\/|[a-z][a-z0-9+.-]*:)/i.test(href.trim())) return href;
  const [, path = '', rest = ''] = /^([^?#]*)(.*)$/s.exec(href.trim()) ?? [];
  const folder = from.split('/').slice(0, -1);
  for (const part of path.split('/')) {
    if (part === '..') folder.pop();
    else if (part !== '.') folder.push(part);
  }
  const target = path === '' ? from : folder.join('/');
  const ours = to.split('/').slice(0, -1);
  const theirs = target.split('/');
  let same = 0;
  while (same < ours.length && same < theirs.length - 1 && ours[same] === theirs[same]) same++;
  const moved = '../'.repeat(ours.length - same) + theirs.slice(same).join('/');
  return (moved || './') + rest;
}
