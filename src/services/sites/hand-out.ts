import { and, desc, eq } from 'drizzle-orm';
import { findShortcodes } from '../../core/placement/find-shortcodes';
import { attr, descendants } from '../../core/html/tree';
import { pagePath } from '../../core/site/paths';
import { type ParsedPage, parsePageFile } from '../../core/site/read-page';
import { describePlacement } from '../../core/placement/placement';
import type { Spelling } from '../../core/placement/spelling';
import { handOuts } from '../../data/schema';
import type { Ctx } from '../context';
import { isRefusal, unreachable } from '../errors';
import { draftPlacements, productNames, type Site } from './site';
import { visit } from './visit';

export interface Question {
  readonly url: string;
  readonly placement: string;
  readonly kind: string;
  readonly spelling: Spelling;
}

/** Something that was handed out, and what was seen of it when it was last looked for. */
export interface HandedOut extends Question {
  readonly name: string;
  readonly found: boolean;
  readonly message: string;
  /** ISO 8601. */
  readonly lookedAt: string;
}

/** Hand-outs that are remembered of one site; more are looked for, and not kept. */
const MOST = 500;
/** Pages elsewhere that are looked at at the same time. */
const AT_ONCE = 4;

/** All that was handed out, the latest look first. */
export async function handedOut(ctx: Ctx, site: Site): Promise<HandedOut[]> {
  const [rows, names, placed] = await Promise.all([
    ctx.store.db
      .select()
      .from(handOuts)
      .where(eq(handOuts.siteId, site.row.id))
      .orderBy(desc(handOuts.lookedAt)),
    productNames(ctx, site.row.id),
    draftPlacements(ctx, site.row.id),
  ]);
  const called = new Map(placed.map((p) => [p.id, describePlacement(p, (slug) => names.get(slug))]));
  return rows.map((r) => ({
    url: r.url,
    placement: r.placementId,
    kind: r.kind,
    spelling: r.spelling,
    name: called.get(r.placementId) ?? 'A widget that was removed',
    found: r.found,
    message: r.message,
    lookedAt: r.lookedAt.toISOString(),
  }));
}

/** Looks for a widget on a page elsewhere, and remembers the answer. */
export async function lookFor(ctx: Ctx, site: Site, asked: Question): Promise<Arrival> {
  // A page that does not answer is an answer too.
  const seen = await hasArrived(ctx, site, asked).catch((error: unknown) => {
    if (!isRefusal(error)) throw error;
    return { found: false, message: error.message };
  });
  const row = { found: seen.found, message: seen.message, lookedAt: ctx.now() };
  await ctx.store.write(async (tx) => {
    if ((await tx.$count(handOuts, eq(handOuts.siteId, site.row.id))) >= MOST) return;
    await tx
      .insert(handOuts)
      .values({
        siteId: site.row.id,
        placementId: asked.placement,
        kind: asked.kind,
        spelling: asked.spelling,
        url: asked.url,
        ...row,
      })
      .onConflictDoUpdate({
        target: [handOuts.siteId, handOuts.placementId, handOuts.spelling, handOuts.url],
        set: row,
      });
  });
  return seen;
}

/** Looks at every page that something was handed out to, a few at a time. */
export async function lookForAll(ctx: Ctx, site: Site): Promise<HandedOut[]> {
  const all = await handedOut(ctx, site);
  for (let n = 0; n < all.length; n += AT_ONCE)
    await Promise.all(all.slice(n, n + AT_ONCE).map((one) => lookFor(ctx, site, one)));
  return handedOut(ctx, site);
}

/** No longer looked for: it was taken out there, or never went there. */
export async function forget(ctx: Ctx, site: Site, one: Question): Promise<void> {
  await ctx.store.write((tx) =>
    tx
      .delete(handOuts)
      .where(
        and(
          eq(handOuts.siteId, site.row.id),
          eq(handOuts.placementId, one.placement),
          eq(handOuts.spelling, one.spelling),
          eq(handOuts.url, one.url),
        ),
      ),
  );
}

/**
 * Whether a widget that was handed out stands on a page, as its visitors get it: the page is fetched, parsed, and looked
 * through for the placement in the spelling it was handed out in, and for the script where that needs one.
 */
export async function hasArrived(ctx: Ctx, site: Site, asked: Question): Promise<Arrival> {
  const page = await fetchPage(asked.url);
  const script = [...descendants(page.doc)].some(
    (e) => e.tagName === 'script' && (attr(e, 'src') ?? '').startsWith(`${ctx.addresses.shop}/stall.js`),
  );
  return asked.spelling === 'shortcode'
    ? shortcodeArrived(page, asked, script)
    : elementArrived(page, asked, script, `${ctx.addresses.shop}/${site.row.slug}`);
}

/** Whether it stands there, in a sentence. */
export interface Arrival {
  readonly found: boolean;
  readonly message: string;
}
const notFound = (message: string): Arrival => ({ found: false, message });

function shortcodeArrived(page: ParsedPage, asked: Question, script: boolean): Arrival {
  const code = findShortcodes(page).find((c) => c.placementId === asked.placement || c.kind === asked.kind);
  if (!code)
    return notFound('The shortcode is not in the text of that page. Was it saved, and published there?');
  if (code.problem) return notFound(`The shortcode is there, in line ${code.line}, but: ${code.problem}`);
  if (!script)
    return notFound(
      `The shortcode is there, in line ${code.line}, but the script is not: visitors read it as text. Paste the script too.`,
    );
  return { found: true, message: `It has arrived, in line ${code.line}, and so has the script.` };
}

function elementArrived(page: ParsedPage, asked: Question, script: boolean, shop: string): Arrival {
  const stands = [...descendants(page.doc)].find((e) => isIt(e, asked, shop));
  const text = asText(page, asked);
  if (!stands && text !== undefined)
    return notFound(
      `The code stands there as text, in line ${text}: the editor took it for words, and visitors read it. Paste it where the editor takes HTML (a code block, or its source view), or use the shortcode, which works as text.`,
    );
  const isInclude = asked.spelling === 'ssi' || asked.spelling === 'esi';
  if (!stands)
    return notFound(
      isInclude
        ? 'What the include brings is not on that page. Does the server assemble it, and reach the shop?'
        : 'It is not on that page. Was it saved, and published there? Some editors take such elements out: use the frame or the shortcode then.',
    );
  const line = stands.sourceCodeLocation?.startLine ?? 1;
  if (asked.spelling !== 'element') return { found: true, message: `It has arrived, in line ${line}.` };
  if (!script)
    return notFound(
      `It is there, in line ${line}, but the script is not: visitors see a plain link. Paste the script too.`,
    );
  return { found: true, message: `It has arrived, in line ${line}, and so has the script.` };
}

function isIt(e: Parameters<typeof attr>[0], { spelling, placement, kind }: Question, shop: string): boolean {
  if (spelling === 'element')
    return (
      e.tagName === `stall-${kind}` &&
      (attr(e, 'placement') === placement || attr(e, 'placement') === undefined)
    );
  const href = attr(e, 'src') ?? attr(e, 'href') ?? '';
  if (spelling === 'frame') return e.tagName === 'iframe' && href.startsWith(`${shop}/frame/${kind}`);
  if (spelling === 'link') return e.tagName === 'a' && (href.startsWith(shop) || href.includes(placement));
  return attr(e, 'data-stall-fragment') === kind;
}

async function fetchPage(url: string): Promise<ParsedPage> {
  const parsed = parsePageFile(pagePath('page.html'), (await visit(url)).bytes);
  if ('problem' in parsed) throw unreachable(parsed.problem);
  return parsed.page;
}

/** Code that an editor took for text: visitors read it. */
function asText(page: ParsedPage, { kind }: Question): number | undefined {
  const { structure } = page.source;
  const at = structure.search(
    new RegExp(`&(?:lt|#0*60|#x0*3c);(?:stall-${kind}|iframe[^&]{0,200}/frame/${kind})`, 'i'),
  );
  return at < 0 ? undefined : structure.slice(0, at).split('\n').length;
}
