import { type PagePath, parsePath } from '../paths';

/** Endings of what is no page, whatever a server would answer; not fetched as one. From memory of what sites link to. */
const NO_PAGE =
  /\.(css|m?js|json|xml|rss|atom|txt|map|pdf|zip|gz|tgz|7z|rar|exe|dmg|apk|iso|docx?|xlsx?|pptx?|od[tsp]|csv|epub|ics|vcf|gpx|kml|svgz?|png|jpe?g?|gif|webp|avif|ico|bmp|tiff?|heic|woff2?|ttf|otf|eot|mp3|m4a|ogg|oga|wav|flac|mp4|m4v|mov|avi|mkv|webm|ogv|wasm|webmanifest)$/i;
const PAGE = /\.(html?|xhtml|shtml?)$/i;
/** Deeper than this lies no page that anybody looks for: calendars and filters go on for ever. */
const DEEPEST = 16;

/** What a site read from its live address is: pages below a folder of one host, by whatever scheme and with or without "www.". */
export interface LiveScope {
  /** "example.org", without "www." */
  readonly host: string;
  /** "/" or "/~jane/". */
  readonly folder: string;
}

const bareHost = (url: URL): string => url.host.toLowerCase().replace(/^www\./, '');

export const scopeOf = (start: URL): LiveScope => ({
  host: bareHost(start),
  folder: start.pathname.replace(/[^/]*$/, ''),
});

export const isOnHost = ({ host }: LiveScope, url: URL): boolean =>
  /^https?:$/.test(url.protocol) && bareHost(url) === host;

/** Whether an address may be a page of the site. */
export const mayBePage = (scope: LiveScope, url: URL): boolean =>
  isOnHost(scope, url) &&
  url.pathname.startsWith(scope.folder) &&
  !NO_PAGE.test(url.pathname) &&
  url.pathname.split('/').length <= DEEPEST;

/**
 * Where a page that answers at an address stands among the files that are kept of the site, so that links to the address find it as links
 * to files do: "/" is "index.html", "/about/" is "about/index.html", "/about" and "/about.php" get ".html" behind. Nothing for a name that
 * no file can have.
 */
export function pagePathOf(url: URL): PagePath | undefined {
  const name = decoded(url.pathname);
  if (name === undefined) return undefined;
  if (name === '' || name.endsWith('/')) return checked(`${name}index.html`);
  return checked(PAGE.test(name) ? name : `${name}.html`);
}

/** The same for anything else: its own name, without what stands after "?". */
export function filePathOf(url: URL): PagePath | undefined {
  const name = decoded(url.pathname);
  return name === undefined || name === '' || name.endsWith('/') ? undefined : checked(name);
}

function decoded(pathname: string): string | undefined {
  try {
    return decodeURIComponent(pathname).slice(1).normalize('NFC');
  } catch {
    return undefined;
  }
}

function checked(name: string): PagePath | undefined {
  const path = parsePath(name);
  // A name that is tidied up would not be found by the link that has it.
  return path.ok && path.value === name ? path.value : undefined;
}

/** Addresses that differ in nothing that makes another page: a slash at the end, an index, an ending, capitals. */
export const samePlace = (a: URL, b: URL): boolean => plainPlace(a) === plainPlace(b);
const plainPlace = (url: URL): string =>
  (decoded(url.pathname) ?? url.pathname)
    .toLowerCase()
    .replace(/(^|\/)(index|default)\.[a-z]+$/, '$1')
    .replace(/\.[a-z]{3,5}$/, '')
    .replace(/\/$/, '');
