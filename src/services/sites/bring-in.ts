import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { isCurrency } from '../../core/money/currency';
import { isPagePath, type PagePath } from '../../core/site/paths';
import { parsePageFile } from '../../core/site/read-page';
import { readSite, type SiteReading } from '../../core/site/read-site';
import { sites, snapshots } from '../../data/schema';
import type { Manifest } from '../../data/schema/site';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import { newHostKey, newId } from '../ids';
import type { Delivery } from './deliveries';
import { open, type Opened, type Origin } from './connections';
import type { CameWith, Progress, ReadBefore } from './connections/connection';
import { asLive } from './as-live';
import { placeOf } from './guess-place';
import { sendToHost } from './host';
import { readHead } from '../reading/open-site';
import { shownInThread } from '../reading/styles-in-thread';
import { surveyInThreads } from '../reading/survey-in-threads';

/** Where the site lives. */
export const liveUrlSchema = z
  .url({ protocol: /^https?$/, error: 'Enter the whole address, with https:// in front.' })
  .refine(
    // It is written into pages and letters, and pages are looked up below it.
    (address) => !/[?#]|^https?:\/\/[^/]*@/i.test(address),
    'Enter the address alone: without name and password, and without anything from ? or # on.',
  );

export const siteSettings = z.object({
  /** Empty: as the pages say. */
  currency: z.string().refine((c) => c === '' || isCurrency(c), 'Choose a currency from the list.'),
  /** What it is where the pages do not say. */
  usualCurrency: z.string().refine(isCurrency, 'Choose a currency from the list.').default('GBP'),
  /** Empty: the address the demo's web host gives, else the owner fills it in. */
  liveUrl: z.union([z.literal(''), liveUrlSchema]).default(''),
});
type Settings = z.infer<typeof siteSettings>;
export type SiteSettings = Omit<Settings, 'usualCurrency'> & Partial<Pick<Settings, 'usualCurrency'>>;

export type { Origin, Progress };

/**
 * Connects a website: reads every file into the blob store, reads the pages, and records site and first snapshot in
 * one transaction. When anything is refused on the way, no site exists afterwards.
 */
export async function bringIn(
  ctx: Ctx,
  origin: Origin,
  settings: SiteSettings,
  progress: Progress = () => {},
): Promise<{ id: string; slug: string; reading: SiteReading }> {
  const brought = new Set<string>();
  try {
    return await connect(ctx, origin, settings, progress, brought);
  } catch (error) {
    for (const hash of brought) await ctx.blobs.remove(hash);
    throw error;
  }
}

/** `brought` gathers the blobs that this connection alone put into the store. */
async function connect(
  ctx: Ctx,
  origin: Origin,
  settings: SiteSettings,
  progress: Progress,
  brought: Set<string>,
): Promise<{ id: string; slug: string; reading: SiteReading }> {
  const opened = open(origin);
  const { manifest, notes, live } = await keepFiles(ctx, opened, progress, brought);
  const reading = await readManifest(ctx, manifest, { notes, live }, progress);
  if (reading.pages.length === 0) {
    throw invalid(
      `No page was found: none of the ${Object.keys(manifest).length} files is an HTML page. Choose the folder that holds index.html.`,
    );
  }
  const liveAt = live?.url ?? settings.liveUrl;
  const currency = await currencyOf(ctx, { ...settings, liveUrl: liveAt }, reading, manifest);
  const id = newId();
  const snapshotId = newId();
  const at = ctx.now();
  const slug = await ctx.store.write(async (tx) => {
    const taken = new Set(
      (await tx.select({ slug: sites.slug, connection: sites.connection }).from(sites)).map((s) => {
        const refusal = opened.refusal(s.connection);
        if (refusal) throw conflict(refusal);
        return s.slug;
      }),
    );
    const name = siteSlug(reading.name, taken);
    const { delivery, liveUrl } = wires(ctx, opened, liveAt, name);
    await tx.insert(snapshots).values({
      id: snapshotId,
      siteId: id,
      manifest,
      reading,
      createdAt: at,
      ...(live && { validators: live.validators }),
    });
    await tx.insert(sites).values({
      id,
      slug: name,
      name: reading.name,
      currency,
      locale: reading.lang || 'en',
      liveUrl,
      connection: opened.connection,
      delivery,
      draftKey: newHostKey(),
      snapshotId,
      createdAt: at,
    });
    return name;
  });
  await showAsItIs(ctx, opened, id, slug, manifest);
  return { id, slug, reading };
}

/**
 * What prices are in: as the owner chose, as the pages say, or as is usual. The first product may be typed in before
 * anything else is asked.
 */
async function currencyOf(
  ctx: Ctx,
  settings: SiteSettings,
  reading: SiteReading,
  manifest: Manifest,
): Promise<string> {
  if (settings.currency) return settings.currency;
  const { guess } = await placeOf(reading, settings.liveUrl, async (path) => {
    const read = parsePageFile(path, await ctx.blobs.get(manifest[path] ?? ''));
    return 'page' in read ? read.page : undefined;
  });
  return guess.isSure ? guess.currency : (settings.usualCurrency ?? 'GBP');
}

/** At a host of ours the site is live from the start, as the owner made it. A host that does not answer changes nothing here. */
async function showAsItIs(
  ctx: Ctx,
  opened: Opened,
  id: string,
  slug: string,
  manifest: Manifest,
): Promise<void> {
  const { host } = ctx;
  const site = await siteById(ctx, id);
  if (!host || site?.liveUrl !== host.liveUrl(slug)) return;
  const sent = opened
    .forHost(ctx, manifest)
    .then(({ type, body }) => sendToHost(`${host.endpoint}/sites/${slug}`, host.key, type, body));
  await sent.catch((error: unknown) =>
    ctx.log.warn({ error: String(error) }, 'the web host did not take the site as it is'),
  );
}

export async function keepFiles(
  ctx: Ctx,
  opened: Opened,
  progress: Progress,
  brought: Set<string>,
  before?: ReadBefore,
): Promise<CameWith & { manifest: Manifest }> {
  const kept: [PagePath, string][] = [];
  const onFile = async (path: PagePath, bytes: Buffer) => {
    const { hash, isNew } = await ctx.blobs.putNew(bytes);
    if (isNew) brought.add(hash);
    kept.push([path, hash]);
    if (kept.length % 50 === 0) progress('Reading files', kept.length, 0);
  };
  const came = await opened.read(ctx, { onFile, progress, before });
  return { ...came, manifest: Object.fromEntries(opened.arranged(kept)) };
}

/** Reads the pages of a manifest; lets other requests run between pages. */
export function readManifest(
  ctx: Ctx,
  manifest: Manifest,
  { notes, live }: CameWith = { notes: [] },
  progress: Progress = () => {},
): Promise<SiteReading> {
  const paths = Object.keys(manifest) as PagePath[];
  const fileOf = (path: PagePath) => ctx.blobs.fileOf(manifest[path] ?? '');
  const surveyAll = surveyInThreads(paths.filter(isPagePath).length, fileOf);
  return readSite(
    {
      paths,
      read: (path) => ctx.blobs.get(manifest[path] ?? ''),
      head: (path, bytes) => readHead(fileOf(path), bytes),
    },
    {
      ...(surveyAll && { surveyAll }),
      shownAll: shownInThread,
      front: live?.front,
      onPage: async (done, all) => {
        progress('Reading pages', done, all);
        await new Promise(setImmediate);
      },
    },
  ).then((read) => {
    const reading = live ? asLive(read, live) : read;
    return { ...reading, notes: [...notes, ...reading.notes] };
  });
}

/** Letters that Unicode does not take apart into a Latin one and its mark. */
const latin: Readonly<Record<string, string>> = {
  ß: 'ss',
  ø: 'o',
  æ: 'ae',
  œ: 'oe',
  ł: 'l',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ı: 'i',
};

/**
 * A name for addresses of a site, of the first word of its name: "Körbe vom Hof" is "korbe". It is part of host names, so it
 * is ASCII.
 */
export function siteSlug(name: string, taken: ReadonlySet<string>): string {
  const words = name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^\0-\x7f]/g, (letter) => latin[letter] ?? letter)
    .match(/[a-z0-9]+/g) ?? ['site'];
  const base = (words[0] ?? 'site').slice(0, 24);
  for (let n = 1; ; n++) {
    const slug = n === 1 ? base : `${base}${n}`;
    if (!taken.has(slug) && !RESERVED.has(slug)) return slug;
  }
}

/**
 * First steps of our own addresses, in the office and at the shop: a site called so would stand where they
 * are. A test holds it against what is served.
 */
export const RESERVED: ReadonlySet<string> = new Set([
  ...['api', 'account', 'connect', 'forgotten', 'join', 'sites', 'welcome'],
  ...['films', 'pictures', 'v', 'v1'],
]);

/** Without a host and without an address, publishing gives a ZIP to carry to wherever the site lives. */
function wires(
  ctx: Ctx,
  { delivery }: Opened,
  liveUrl: string,
  slug: string,
): { delivery: Delivery; liveUrl: string } {
  const given = liveUrl.replace(/\/*$/, '/');
  if (delivery) return { delivery, liveUrl: given === '/' ? (ctx.host?.liveUrl(slug) ?? '/') : given };
  if (ctx.host && given === '/')
    return {
      delivery: { to: 'host', endpoint: `${ctx.host.endpoint}/sites/${slug}`, key: ctx.host.key },
      liveUrl: ctx.host.liveUrl(slug),
    };
  if (given === '/')
    throw invalid('Enter the address your site has now, so that the shop can lead shoppers back to it.');
  return { delivery: { to: 'download' }, liveUrl: given };
}

export const firstSite = async (ctx: Ctx) =>
  (await ctx.store.db.select().from(sites).orderBy(sites.createdAt).limit(1))[0];
export const siteById = async (ctx: Ctx, id: string) =>
  (await ctx.store.db.select().from(sites).where(eq(sites.id, id)))[0];
export const allSites = (ctx: Ctx) =>
  ctx.store.db.select({ slug: sites.slug, name: sites.name }).from(sites).orderBy(sites.createdAt);
