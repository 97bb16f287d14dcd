/** A file of the site: forward slashes, no leading slash, NFC, never leaving the site. "journal/index.html" */
export type PagePath = string & { readonly __path: unique symbol };

/** Names no file system or browser should be asked to deal with. */
const control = /[\0-\x1f\x7f]/;

/**
 * Parses a name from a ZIP or folder. Refuses absolute names, drive letters, `..`, backslashes that hide them and
 * control characters; returns the reason as a sentence.
 */
export function parsePath(name: string): { ok: true; value: PagePath } | { ok: false; error: string } {
  const bad = (why: string) => ({
    ok: false as const,
    error: `"${name.replace(/[\0-\x1f\x7f]/g, '?')}" ${why}`,
  });
  if (control.test(name)) return bad('has control characters in its name');
  if (/^[/\\]|^[a-zA-Z]:/.test(name))
    return bad('is an absolute path: a site may only name files inside itself');
  const parts = name.split(/[/\\]/);
  if (parts.includes('..'))
    return bad('climbs out of the site with "..": pack the site again from inside its folder');
  const kept = parts.filter((p) => p !== '' && p !== '.');
  if (kept.length === 0) return bad('is empty');
  return { ok: true, value: kept.join('/').normalize('NFC') as PagePath };
}

/** A path that the code itself names. @throws RangeError where it is none. */
export function pagePath(name: string): PagePath {
  const parsed = parsePath(name);
  if (!parsed.ok) throw new RangeError(parsed.error);
  return parsed.value;
}

export const isPagePath = (path: string): boolean => /\.(html?|xhtml|shtml?)$/i.test(path);

/** Whether the last part names a folder's own page. */
const indexName = /(^|\/)(?:index\.(?:html?|xhtml|shtml)|default\.html?)$/i;

/** The address a page answers to on its site: "journal/index.html" is "/journal/". */
export function addressOf(path: PagePath): string {
  const address = `/${path.replace(indexName, '$1')}`;
  return encodeURI(address).replace(/[?#]/g, encodeURIComponent);
}

/** Where the links of a page start from: its own address, unless it names another with `<base>`. */
export interface LinkBase {
  /** A path whose folder relative links start from. */
  readonly path: string;
  /** Host names that are the site itself; absolute links to them stay inside. */
  readonly hosts?: ReadonlySet<string>;
}

const origin = 'http://site.invalid';

/**
 * Where a link leads inside the site, or nothing when it leaves it (another host, mailto:, a fragment of the page).
 * Candidates are tried as hosts do: the file itself, its folder's index, the name with .html.
 */
export function resolveLink(
  from: PagePath | LinkBase,
  href: string,
  has: (path: string) => boolean | PagePath | undefined,
): PagePath | undefined {
  const pathname = pathOf(typeof from === 'string' ? { path: from } : from, href);
  if (pathname === undefined) return undefined;
  const bare = pathname.replace(/\/$/, '');
  for (const t of pathname === ''
    ? indexNames
    : [pathname, ...indexNames.map((i) => `${bare}/${i}`), `${bare}.html`, `${bare}.htm`]) {
    const found = has(t);
    if (found) return found === true ? (t as PagePath) : found;
  }
  return undefined;
}

const indexNames = ['index.html', 'index.htm', 'index.xhtml', 'default.html', 'default.htm'];

/** The path a link names on this site, whether a file is there or not; nothing when it leaves the site or stays on its page. */
export function pathOf(base: LinkBase, href: string): string | undefined {
  let link = href.trim();
  if (!link || link.startsWith('#')) return undefined;
  if (/^(?:https?:)?\/\//i.test(link)) {
    const [, host = '', rest = '/'] = /^(?:https?:)?\/\/([^/?#]*)(.*)$/is.exec(link) ?? [];
    if (!base.hosts?.has(host.toLowerCase().replace(/^www\./, ''))) return undefined;
    link = rest.startsWith('/') ? rest : `/${rest}`;
  } else if (/^[a-z][a-z0-9+.-]*:/i.test(link)) return undefined;
  // Nearly all links are plain: the URL parser is for the others (references, blanks, backslashes, letters beyond ASCII).
  return /^[\w./-]+$/.test(link.replace(/[?#].*$/s, ''))
    ? plainPath(base.path, link.replace(/[?#].*$/s, ''))
    : parsedPath(base.path, link);
}

function plainPath(from: string, path: string): string {
  const parts = path.startsWith('/') ? [] : from.split('/').slice(0, -1);
  const steps = path.split('/');
  for (const step of steps) {
    if (step === '..') parts.pop();
    else if (step !== '.' && step !== '') parts.push(step);
  }
  const last = steps.at(-1);
  return parts.join('/') + (parts.length && (last === '' || last === '.' || last === '..') ? '/' : '');
}

function parsedPath(from: string, link: string): string | undefined {
  if (/^[?#]/.test(link)) return from;
  try {
    const { pathname } = new URL(link, `${origin}/${encodeURI(from)}`);
    return decodeURIComponent(pathname).slice(1).normalize('NFC');
  } catch {
    return undefined;
  }
}

/**
 * The files of a site by name. Many hosts do not tell "Photos" from "photos": where just one file fits, it is found
 * by either; where two differ by case alone, each is found by its exact name only.
 */
export class FileIndex {
  readonly #exact: ReadonlyMap<string, PagePath>;
  readonly #folded = new Map<string, PagePath | undefined>();
  /** Names that differ from another by case alone. */
  readonly twins: [PagePath, PagePath][] = [];
  /** @param names of a site's files, as a manifest keeps them: each was read as a path when the site came in. */
  constructor(names: readonly string[]) {
    const paths = names as readonly PagePath[];
    this.#exact = new Map(paths.map((path) => [path, path]));
    const first = new Map<string, PagePath>();
    for (const path of paths) {
      const folded = path.toLowerCase();
      const other = first.get(folded);
      if (other === undefined) first.set(folded, path);
      else this.twins.push([other, path]);
      this.#folded.set(folded, other === undefined ? path : undefined);
    }
  }
  readonly find = (path: string): PagePath | undefined =>
    this.#exact.get(path) ?? this.#folded.get(path.toLowerCase());
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
  // A site may lie in a folder of its host, and take its style sheets from above it.
  let above = 0;
  for (const part of path.split('/')) {
    if (part === '..' && folder.length === 0) above++;
    else if (part === '..') folder.pop();
    else if (part !== '.') folder.push(part);
  }
  const target = path === '' ? from : folder.join('/');
  const ours = to.split('/').slice(0, -1);
  const theirs = target.split('/');
  let same = 0;
  while (above === 0 && same < ours.length && same < theirs.length - 1 && ours[same] === theirs[same]) same++;
  const moved = '../'.repeat(ours.length - same + above) + theirs.slice(same).join('/');
  return (moved || './') + rest;
}
