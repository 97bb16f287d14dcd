import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { isCurrency } from '../../core/money/currency';
import { isPagePath, type PagePath } from '../../core/site/paths';
import { readSite, type SiteReading } from '../../core/site/read-site';
import { sites, snapshots } from '../../data/schema';
import type { Connection, Delivery, Manifest } from '../../data/schema/site';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import { newHostKey, newId } from '../ids';
import { packZip, sendToHost } from './host';
import { readHead } from '../reading/open-site';
import { surveyInThreads } from '../reading/survey-in-threads';
import { allowedFolder } from './folders';
import { readFolder } from '../reading/read-folder';
import { readZip } from '../reading/read-zip';

export const siteSettings = z.object({
  currency: z.string().refine(isCurrency, 'Choose a currency from the list.'),
  /** Empty: the address the demo's web host gives, else the owner fills it in. */
  liveUrl: z
    .union([
      z.literal(''),
      z.url({ protocol: /^https?$/, error: 'Enter the whole address, with https:// in front.' }),
    ])
    .default(''),
});
export type SiteSettings = z.infer<typeof siteSettings>;

export type Origin =
  | { how: 'zip'; fileName: string; bytes: Buffer | { readonly file: string } }
  | { how: 'folder'; folder: string };
export type Progress = (what: string, done: number, all: number) => void;

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
  const { manifest, notes } = await keepFiles(ctx, origin, progress, brought);
  const reading = await readManifest(ctx, manifest, notes, progress);
  if (reading.pages.length === 0) {
    throw invalid(
      `No page was found: none of the ${Object.keys(manifest).length} files is an HTML page. Choose the folder that holds index.html.`,
    );
  }
  const id = newId();
  const snapshotId = newId();
  const at = ctx.now();
  const slug = await ctx.store.write(async (tx) => {
    const taken = new Set(
      (await tx.select({ slug: sites.slug, connection: sites.connection }).from(sites)).map((s) => {
        if (
          s.connection.how === 'folder' &&
          origin.how === 'folder' &&
          s.connection.folder === origin.folder
        ) {
          throw conflict(
            `${origin.folder} is connected already. Open that site from the list beside the mark.`,
          );
        }
        return s.slug;
      }),
    );
    const name = siteSlug(reading.name, taken);
    const { connection, delivery, liveUrl } = wires(ctx, origin, settings, name);
    await tx.insert(snapshots).values({ id: snapshotId, siteId: id, manifest, reading, createdAt: at });
    await tx.insert(sites).values({
      id,
      slug: name,
      name: reading.name,
      currency: settings.currency,
      locale: reading.lang || 'en',
      liveUrl,
      connection,
      delivery,
      draftKey: newHostKey(),
      snapshotId,
      createdAt: at,
    });
    return name;
  });
  await showAsItIs(ctx, origin, id, slug, manifest);
  return { id, slug, reading };
}

/** At a host of ours the site is live from the start, as the owner made it. A host that does not answer changes nothing here. */
async function showAsItIs(
  ctx: Ctx,
  origin: Origin,
  id: string,
  slug: string,
  manifest: Manifest,
): Promise<void> {
  const site = await siteById(ctx, id);
  if (!ctx.host || site?.liveUrl !== ctx.host.liveUrl(slug)) return;
  const endpoint = `${ctx.host.endpoint}/sites/${slug}`;
  const sent =
    origin.how === 'folder'
      ? sendToHost(
          endpoint,
          ctx.host.key,
          'application/json',
          Buffer.from(JSON.stringify({ folder: origin.folder })),
        )
      : packZip(ctx, manifest).then((zip) =>
          sendToHost(endpoint, ctx.host?.key ?? '', 'application/zip', zip),
        );
  await sent.catch((error: unknown) =>
    ctx.log.warn({ error: String(error) }, 'the web host did not take the site as it is'),
  );
}

export async function keepFiles(
  ctx: Ctx,
  origin: Origin,
  progress: Progress,
  brought: Set<string>,
): Promise<{ manifest: Manifest; notes: string[] }> {
  const kept: [PagePath, string][] = [];
  const onFile = async (path: PagePath, bytes: Buffer) => {
    const { hash, isNew } = await ctx.blobs.putNew(bytes);
    if (isNew) brought.add(hash);
    kept.push([path, hash]);
    if (kept.length % 50 === 0) progress('Reading files', kept.length, 0);
  };
  const notes =
    origin.how === 'folder'
      ? await readFolder(await allowedFolder(ctx.folders, origin.folder), onFile)
      : await readZip(origin.bytes, onFile).then(() => []);
  return { manifest: Object.fromEntries(origin.how === 'zip' ? withoutCommonFolder(kept) : kept), notes };
}

/** A ZIP of a folder holds that folder: when all files share it and no page stands beside it, it is not the site's. */
function withoutCommonFolder(files: [PagePath, string][]): [PagePath, string][] {
  const top = files[0]?.[0].split('/')[0];
  if (!top || !files.every(([path]) => path.startsWith(`${top}/`))) return files;
  return withoutCommonFolder(files.map(([path, hash]) => [path.slice(top.length + 1) as PagePath, hash]));
}

/** Reads the pages of a manifest; lets other requests run between pages. */
export function readManifest(
  ctx: Ctx,
  manifest: Manifest,
  notes: readonly string[] = [],
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
      onPage: async (done, all) => {
        progress('Reading pages', done, all);
        await new Promise(setImmediate);
      },
    },
  ).then((reading) => ({ ...reading, notes: [...notes, ...reading.notes] }));
}

function siteSlug(name: string, taken: ReadonlySet<string>): string {
  const words = name
    .normalize('NFKD')
    .toLowerCase()
    .match(/[a-z0-9]+/g) ?? ['site'];
  const base = (words[0] ?? 'site').slice(0, 24);
  for (let n = 1; ; n++) {
    const slug = n === 1 ? base : `${base}${n}`;
    if (!taken.has(slug)) return slug;
  }
}

/** Without a host and without an address, publishing gives a ZIP to carry to wherever the site lives. */
function wires(
  ctx: Ctx,
  origin: Origin,
  settings: SiteSettings,
  slug: string,
): { connection: Connection; delivery: Delivery; liveUrl: string } {
  const given = settings.liveUrl.replace(/\/*$/, '/');
  if (origin.how === 'folder') {
    return {
      connection: { how: 'folder', folder: origin.folder },
      delivery: { to: 'folder', folder: origin.folder },
      liveUrl: given === '/' ? (ctx.host?.liveUrl(slug) ?? '/') : given,
    };
  }
  const connection: Connection = { how: 'zip', fileName: origin.fileName };
  if (ctx.host && given === '/')
    return {
      connection,
      delivery: { to: 'host', endpoint: `${ctx.host.endpoint}/sites/${slug}`, key: ctx.host.key },
      liveUrl: ctx.host.liveUrl(slug),
    };
  if (given === '/')
    throw invalid('Enter the address your site has now, so that the shop can lead shoppers back to it.');
  return { connection, delivery: { to: 'download' }, liveUrl: given };
}

export const firstSite = async (ctx: Ctx) =>
  (await ctx.store.db.select().from(sites).orderBy(sites.createdAt).limit(1))[0];
export const siteById = async (ctx: Ctx, id: string) =>
  (await ctx.store.db.select().from(sites).where(eq(sites.id, id)))[0];
export const allSites = (ctx: Ctx) =>
  ctx.store.db.select({ slug: sites.slug, name: sites.name }).from(sites).orderBy(sites.createdAt);
