import { fileFinder } from '../../services/sites/find-file';
import type { RequestListener } from 'node:http';
import { lookup } from 'mrmime';
import { applyEdits, type Edit, insertion } from '../../core/html/edits';
import { canStand } from '../../core/placement/place';
import { cartSpots } from '../../core/site/cart-spots';
import { listRegions } from '../../core/site/pitch';
import { listSpots } from '../../core/site/spot';
import { isOfSite } from '../../core/site/served';
import { pagePath, isPagePath, type PagePath, resolveLink } from '../../core/site/paths';
import type { ParsedPage } from '../../core/site/read-page';
import { elementAt, type RegionSpot, regionsOf } from '../../core/site/regions';
import { bodyOf, type Element, elementsIn } from '../../core/html/tree';
import type { Ctx } from '../../services/context';
import { fragmentHtml } from '../../services/storefront/embedded';
import { renderPage, type Rendering, rendering } from '../../services/publishing/render';
import { draftState } from '../../services/sites/state';
import { loadSite, type Site } from '../../services/sites/site';
import {
  type Answer,
  HttpError,
  problem,
  requestUrl,
  send,
  STRICT_TRANSPORT,
  strictTransport,
} from '../http';
import type { Prepared } from '../public/prepared';
import { sendPrepared } from '../public/prepared';

type View = 'shopper' | 'bench' | 'mini' | 'menu' | 'look' | 'check';

/**
 * A site as it will be after publishing, on an origin of its own (the host name's first label is the site's key): the
 * owner's scripts run here and nowhere near the office. Two further views of a page serve the office: `?stall=bench`
 * marks the elements that pitches hang on, `?stall=mini` runs no script but ours, `?stall=look` is the owner's page alone, to be measured,
 * `?stall=check` the page as shoppers meet it, looked at by the checks.
 */
export function draftListener(ctx: Ctx, frameScript: Prepared): RequestListener {
  const transport = strictTransport(ctx.addresses.draft('any'));
  return async (req, res) => {
    if (transport) res.setHeader(STRICT_TRANSPORT, transport);
    try {
      const url = requestUrl(req, 'http://draft.invalid');
      if (url.pathname === '/.stall/frame.js') return sendPrepared(req, res, frameScript);
      if (req.method !== 'GET' && req.method !== 'HEAD')
        throw new HttpError(405, 'This is a draft: forms of the site lead nowhere here.');
      const key = String(req.headers.host ?? '').split('.')[0] ?? '';
      send(res, await draftAnswer(ctx, await loadSite(ctx, { draftKey: key }), url));
    } catch (error) {
      send(res, failure(ctx, error));
    }
  };
}

function failure(ctx: Ctx, error: unknown): Answer {
  const { status, body } = problem(error);
  if (status >= 500)
    ctx.log.error({ error: error instanceof Error ? error.stack : String(error) }, 'draft failed');
  return { status, type: 'text/plain; charset=utf-8', body: String(body.title) };
}

async function draftAnswer(ctx: Ctx, site: Site, url: URL): Promise<Answer> {
  const r = await rendering(ctx, site, await draftState(ctx, site));
  const path = pathOf(site, r.shopPages, url.pathname);
  if (!path) throw new HttpError(404, 'The draft has no such page.');
  // Relative links of a page in a folder need the slash at the end of its address.
  if (/\/index\.html?$/i.test(path) && !/\/(index\.html?)?$/i.test(url.pathname))
    return { status: 302, headers: { location: `${url.pathname}/${url.search}` } };
  const isPage = [...r.shopPages, ...site.reading.pages].some((p) => p.path === path);
  return isPage ? pageAnswer(ctx, site, r, path, url) : fileAnswer(ctx, site, path);
}

function pathOf(
  site: Site,
  shopPages: readonly { readonly path: string }[],
  asked: string,
): PagePath | undefined {
  const known = (p: string) => site.manifest[p] !== undefined || shopPages.some((s) => s.path === p);
  if (asked !== '/')
    return resolveLink(pagePath('index.html'), asked, (p) => known(p) || fileFinder(site)(p));
  return ['index.html', 'index.htm', site.reading.pages[0]?.path ?? ''].find(known) as PagePath | undefined;
}

async function fileAnswer(ctx: Ctx, site: Site, path: PagePath): Promise<Answer> {
  if (!isOfSite(path)) throw new HttpError(404, 'The draft has no such file.');
  return {
    type: typeOf(path),
    body: await ctx.blobs.get(site.manifest[path] ?? ''),
    headers: { 'access-control-allow-origin': '*', 'cache-control': 'private, max-age=60' },
  };
}

async function pageAnswer(ctx: Ctx, site: Site, r: Rendering, path: PagePath, url: URL): Promise<Answer> {
  const view = viewOf(url.searchParams.get('stall'));
  const out = await renderPage(ctx, r, path);
  const spot = url.searchParams.get('at');
  const written =
    view === 'shopper'
      ? out.bytes
      : forOffice(
          out.page,
          view === 'look' ? [] : [...out.edits, ...spotNotes(site, r, out, view)],
          view,
          spot,
        );
  return {
    type: htmlType(site, path),
    body: inDraft(ctx, site, await assembled(ctx, site, written)),
    headers: {
      'cache-control': view === 'mini' && url.searchParams.has('v') ? KEPT : 'no-store',
      'content-security-policy': policy(ctx, view),
      'x-robots-tag': 'noindex',
    },
  };
}

/** Miniatures are asked for by the version of the page: what is kept is never out of date. Prices in it come by themselves. */
const KEPT = 'private, max-age=86400, immutable';

const views: readonly View[] = ['bench', 'mini', 'menu', 'look', 'check'];
const viewOf = (asked: string | null): View => views.find((v) => v === asked) ?? 'shopper';

/** Only the office may frame a draft. In miniatures no script of the site runs. */
const policy = (ctx: Ctx, view: View): string =>
  `frame-ancestors ${ctx.addresses.office}${view === 'mini' ? `; script-src 'self' ${ctx.addresses.shop}` : ''}`;

const typeOf = (path: string): string => lookup(path) ?? 'application/octet-stream';

/** The page's own declaration decides; a legacy encoding must not be overruled by a header. */
const htmlType = (site: Site, path: string): string =>
  isPagePath(path) && site.reading.pages.find((p) => p.path === path)?.encoding === 'utf-8'
    ? 'text/html; charset=utf-8'
    : 'text/html';

/** Marks what the office asks of a view by its place in the owner's source, and brings the office's script. */
function forOffice(
  page: ParsedPage,
  edits: readonly Edit[],
  view: View,
  spot: string | null = null,
): Uint8Array {
  const { structure } = page.source;
  const mark = ([at, attribute]: readonly [number, string]) => {
    const tag = /^<[^\s/>]+/.exec(structure.slice(at, at + 80))?.[0] ?? '<';
    return insertion(at + tag.length, ` ${attribute}`);
  };
  const isThere = ([at]: readonly [number, string]) =>
    !edits.some((e) => at >= e.at && at < e.at + e.removed.length);
  const marks = [...(marksFor[view]?.(page) ?? []), ...spotMark(page, spot)].filter(isThere).map(mark);
  const script = insertion(scriptAt(page, view), '<script src="/.stall/frame.js"></script>');
  return applyEdits(page.source, [...edits, ...marks, script]);
}

/** The checks watch how a page loads: their script runs before what it holds, and takes its own tag out. */
function scriptAt(page: ParsedPage, view: View): number {
  const { structure } = page.source;
  if (view !== 'check') return structure.length;
  return bodyOf(page.doc)?.sourceCodeLocation?.startTag?.endOffset ?? structure.length;
}

/** Comments where a cart in the header could stand as well, for the checks to try. */
function spotNotes(
  site: Site,
  r: Rendering,
  { page, edits, placed }: Awaited<ReturnType<typeof renderPage>>,
  view: View,
): Edit[] {
  const isOwn = site.reading.pages.some((p) => p.path === page.path);
  const hasCart = r.placements.some(
    (p) => p.kind === 'cart' && p.pitch.region === 'header' && !p.settings.floats && placed.includes(p.id),
  );
  if (view !== 'check' || !isOwn || !hasCart) return [];
  return cartSpots(page).flatMap(({ offset, prefix, address }, n) =>
    prefix ||
    !canStand(page, address) ||
    edits.some((e) => offset >= e.at && offset <= e.at + e.removed.length)
      ? []
      : [insertion(offset, `<!--stall-spot ${n}-->`)],
  );
}

type Marks = (page: ParsedPage) => (readonly [number, string])[];
const marksFor: Readonly<Partial<Record<View, Marks>>> = {
  bench: anchorMarks,
  menu: menuMarks,
  look: (page) => [...regionMarks(page), ...navMark(page)],
  check: navMark,
};

/** The block that something was found in, by its path from the body. */
function spotMark(page: ParsedPage, path: string | null): (readonly [number, string])[] {
  const body = bodyOf(page.doc);
  const at = path && body ? elementAt(body, path)?.sourceCodeLocation?.startOffset : undefined;
  return at === undefined ? [] : [[at, 'data-stall-spot']];
}

/** Each element that a pitch hangs on. */
function anchorMarks(page: ParsedPage): (readonly [number, string])[] {
  const anchors = new Set([
    ...listSpots(page).flatMap((s) => s.anchor.sourceCodeLocation?.startOffset ?? []),
    ...[...regionsOf(page).values()].flatMap((s) => s.element.sourceCodeLocation?.startOffset ?? []),
    ...listRegions(page).map((r) => r.at),
  ]);
  return [...anchors].map((at) => [at, `data-stall-n="${at}"`] as const);
}

/** The menu, and the header where it is another element. */
function menuMarks(page: ParsedPage): (readonly [number, string])[] {
  const [menu, head] = (['menu', 'header'] as const).map(
    (name) => regionsOf(page).get(name)?.element.sourceCodeLocation?.startOffset,
  );
  return [
    ...(menu === undefined ? [] : [[menu, 'data-stall-menu'] as const]),
    ...(head === undefined || head === menu ? [] : [[head, 'data-stall-head'] as const]),
  ];
}

/** The menu alone. */
function navMark(page: ParsedPage): (readonly [number, string])[] {
  const at = regionsOf(page).get('menu')?.element.sourceCodeLocation?.startOffset;
  return at === undefined ? [] : [[at, 'data-stall-nav']];
}

/** Where regions begin; of a region that is a run of elements each of them. */
function regionMarks(page: ParsedPage): (readonly [number, string])[] {
  return [...regionsOf(page)].flatMap(([name, spot]) =>
    elementsOf(spot).flatMap((el) => {
      const at = el.sourceCodeLocation?.startOffset;
      // A body cannot be told apart from the page.
      if (at === undefined || el.tagName === 'body') return [];
      return [[at, `data-stall-region="${name === 'side-2' ? 'side' : name}"`] as const];
    }),
  );
}

function elementsOf({ element, first, last }: RegionSpot): readonly Element[] {
  if (!first || !last) return [element];
  const inside = elementsIn(element);
  return inside.slice(inside.indexOf(first), inside.indexOf(last) + 1);
}

/** Widgets on a draft wear the draft's look: our script and our frames are told whose draft it is. */
function inDraft(ctx: Ctx, site: Site, bytes: Uint8Array): Uint8Array {
  const text = Buffer.from(bytes).toString('latin1');
  const { shop } = ctx.addresses;
  const told = text
    .replaceAll(
      `<script async src="${shop}/stall.js"`,
      `<script async src="${shop}/stall.js" data-draft="${site.row.draftKey}"`,
    )
    .replace(/(<iframe src="[^"?]*\/frame\/\w+\?)/g, (all) =>
      all.startsWith(`<iframe src="${shop}/`) ? `${all}draft=${site.row.draftKey}&amp;` : all,
    );
  return told === text ? bytes : Buffer.from(told, 'latin1');
}

/** Includes as the server that assembles the site would fill them: what the draft shows is what shoppers will see. */
async function assembled(ctx: Ctx, site: Site, bytes: Uint8Array): Promise<Uint8Array> {
  const text = Buffer.from(bytes).toString('latin1');
  const includes = [
    ...text.matchAll(
      /<!--#include virtual="\/stall\/fragments\/(\w+)\?([^"]*)" -->|<!--esi <esi:include src="[^"]*\/fragments\/(\w+)\?([^"]*)"[^>]*\/> -->/g,
    ),
  ];
  if (includes.length === 0) return bytes;
  let out = '';
  let at = 0;
  for (const m of includes) {
    const query = new URLSearchParams((m[2] ?? m[4] ?? '').replace(/&amp;/g, '&'));
    const via = query.get('via') ?? '';
    query.delete('via');
    const fragment = await fragmentHtml(ctx, site, {
      kind: m[1] ?? m[3] ?? '',
      attributes: new Map(query),
      via,
      draft: site.row.draftKey,
    }).catch(() => '');
    out += text.slice(at, m.index) + fragment;
    at = m.index + m[0].length;
  }
  return Buffer.from(out + text.slice(at), 'latin1');
}
