import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { samePage } from '../../core/checks/same-page';
import type { LiveFacts } from '../../core/checks/subject';
import { messageOf } from '../../core/result';
import { isPagePath, type PagePath } from '../../core/site/paths';
import { sha256 } from '../../data/blobs';
import { liveSeen } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict } from '../errors';
import type { Progress } from './compute';
import { deliveryOf } from '../sites/deliveries';
import { pageName } from '../sites/names';
import { forgetJournal } from '../sites/in-place';
import { currentPublication, type Publication, type Site } from '../sites/site';
import { type Visited, visit } from '../outside/visit';
import { lookForPieces } from '../publishing/hand-out-list';
import { resumePublishing } from '../publishing/publish';
import { liveAddress, shopUrl } from '../sites/addresses';
import { lookForAll } from '../sites/hand-out';

/** Pages of the live site that are fetched at the same time: a host must not feel it. */
const AT_ONCE = 4;
/** Times of the front page that are remembered. */
const TIMES = 20;
/** Pages in a row that do not answer, after which the rest is not asked: each takes as long as the patience lasts. Chosen by hand. */
const SILENT = 4;

/**
 * Looks at the live site as its visitors get it: each page that was published, the shop's address, widgets that were handed out, and how
 * long the first page took. What is written otherwise and reads the same (order of attributes, line ends, white space) is the same.
 * @param onPage told after each page; may stop the look by throwing
 */
export async function lookAtLive(
  ctx: Ctx,
  site: Site,
  onPage: (p: Progress) => void = () => {},
): Promise<LiveFacts | null> {
  const publication = await currentPublication(ctx, site.row);
  if (!publication || !site.row.liveUrl.startsWith('http')) return null;
  const paths = Object.keys(publication.manifest).filter(isPagePath);
  const front = paths.find((p) => /^index\.html?$/i.test(p)) ?? paths[0] ?? '';
  const start = performance.now();
  const first = await fetched(ctx, site, front);
  const took = 'bytes' in first ? Math.round(performance.now() - start) : null;
  // Where the owner pastes code, pages are the host's: what matters is whether the code stands in them.
  const isPasted = site.row.delivery.to === 'paste';
  const pages = isPasted
    ? []
    : await pagesThere(ctx, site, publication, [front, ...paths.filter((p) => p !== front)], onPage);
  const [before] = await ctx.store.db.select().from(liveSeen).where(eq(liveSeen.siteId, site.row.id));
  const times = before?.times ?? [];
  const live: LiveFacts = {
    pages: pages.toSorted((a, b) => (a.path < b.path ? -1 : 1)),
    elsewhere: 'url' in first ? originElsewhere(site, first.url) : '',
    shop: await shopAnswers(ctx, site),
    took,
    usual: times.length >= 3 ? median(times) : null,
    handOuts: await goneHandOuts(ctx, site),
  };
  const row = { live, times: [...times, ...(took === null ? [] : [took])].slice(-TIMES), at: ctx.now() };
  await ctx.store.write((tx) =>
    tx
      .insert(liveSeen)
      .values({ siteId: site.row.id, ...row })
      .onConflictDoUpdate({ target: liveSeen.siteId, set: row }),
  );
  return live;
}

async function pagesThere(
  ctx: Ctx,
  site: Site,
  publication: Publication,
  paths: readonly string[],
  onPage: (p: Progress) => void,
): Promise<LiveFacts['pages']> {
  const pages: LiveFacts['pages'][number][] = [];
  const queue = [...paths];
  let done = 0;
  let silent = 0;
  const work = async () => {
    for (let path = queue.shift(); path !== undefined && silent < SILENT; path = queue.shift()) {
      const is = await pageThere(ctx, site, publication, path);
      if (is) pages.push({ path, name: pageName(site, path), ...is });
      silent = is?.is === 'silent' ? silent + 1 : 0;
      onPage({ done: ++done, all: paths.length });
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  return pages;
}

async function fetched(ctx: Ctx, site: Site, path: string): Promise<Visited | { why: string }> {
  try {
    return await visit(ctx.reach, liveAddress(site, path as PagePath));
  } catch (error) {
    return { why: messageOf(error) };
  }
}

/** How a live page differs from what was published; nothing where it does not. */
async function pageThere(
  ctx: Ctx,
  site: Site,
  publication: Publication,
  path: string,
): Promise<Pick<LiveFacts['pages'][number], 'is' | 'why'> | undefined> {
  const there = await fetched(ctx, site, path);
  if ('why' in there) {
    const isMissing = /answers (404|410)/.test(there.why);
    return {
      is: isMissing ? 'missing' : 'silent',
      why: `${liveAddress(site, path as PagePath)}: ${there.why}`,
    };
  }
  const hash = publication.manifest[path] ?? '';
  if (sha256(there.bytes) === hash) return undefined;
  return samePage(await ctx.blobs.get(hash), there.bytes)
    ? undefined
    : { is: 'changed', why: 'Somebody changed it elsewhere since: what they see is not what stands here.' };
}

/** Where the site is in the end, when that is another origin than the shop was told: storage and ways back are of one origin alone. */
function originElsewhere(site: Site, url: string): string {
  const { origin } = new URL(url);
  return origin === new URL(site.row.liveUrl).origin ? '' : origin;
}

/** Why the shop does not answer where live pages ask it; '' where it does. */
async function shopAnswers(ctx: Ctx, site: Site): Promise<string> {
  try {
    await visit(ctx.reach, `${shopUrl(ctx, site)}/goods`);
    return '';
  } catch (error) {
    return messageOf(error);
  }
}

/** What was handed out to pages elsewhere and does not stand there: each of them is looked at now. */
async function goneHandOuts(ctx: Ctx, site: Site): Promise<LiveFacts['handOuts']> {
  if (site.row.delivery.to === 'paste') {
    const { pieces } = await lookForPieces(ctx, site);
    return pieces.flatMap((p) =>
      p.pages.flatMap(({ url, seen }) =>
        seen && !seen.found ? [{ url, kind: p.kind, message: `${p.name}: ${seen.message}` }] : [],
      ),
    );
  }
  const all = await lookForAll(ctx, site);
  return all.filter((h) => !h.found).map(({ url, kind, message }) => ({ url, kind, message }));
}

const median = (n: readonly number[]): number => [...n].sort((a, b) => a - b)[Math.floor(n.length / 2)] ?? 0;

/**
 * Puts a live page back as it was published. In a folder what lies there now is what is replaced, so that nothing is written over that
 * nobody looked at.
 */
export async function putBack(ctx: Ctx, site: Site, path: string): Promise<void> {
  await resumePublishing(ctx, site.row.id);
  const publication = await currentPublication(ctx, site.row);
  const { delivery } = site.row;
  if (!publication || publication.manifest[path] === undefined)
    throw conflict('This page was not published.');
  const kind = deliveryOf(delivery);
  if (kind.byHand)
    throw conflict('Your site is put up by hand: download the publication and put this page up again.');
  const now = await kind.hashThere(delivery, path);
  const journal = join(ctx.journals, site.row.id);
  const previous = { ...publication.manifest };
  if (now) previous[path] = now;
  else if (now === '') delete previous[path];
  // What lies there is kept before it is replaced: nothing is lost that somebody wrote.
  if (now && delivery.to === 'folder') await keepThere(ctx, join(delivery.folder, path));
  await kind.deliver(ctx, delivery, {
    previous,
    manifest: publication.manifest,
    journal,
    // Cut off, it is finished at the next start: what is recorded then is what is recorded already.
    note: publication,
  });
  await forgetJournal(journal);
  await ctx.store.write((tx) => tx.delete(liveSeen).where(eq(liveSeen.siteId, site.row.id)));
}

async function keepThere(ctx: Ctx, file: string): Promise<void> {
  await ctx.blobs.put(await readFile(file));
}
