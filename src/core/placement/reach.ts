import { z } from 'zod';
import { pageKinds } from '../site/page-kind';
import type { SiteReading } from '../site/read-site';

const except = z.array(z.string()).default([]);

/** The pages a placement appears on. */
export const reach = z.discriminatedUnion('to', [
  z.object({ to: z.literal('page'), page: z.string().min(1) }),
  z.object({ to: z.literal('pages'), pages: z.array(z.string().min(1)).min(1) }),
  z.object({ to: z.literal('every'), except }),
  /** A section of the site, by the address it begins at: "/journal/". */
  z.object({ to: z.literal('section'), section: z.string().min(1), except }),
  /** A kind of page; "shop" are the pages that are built for the shop. */
  z.object({ to: z.literal('kind'), kind: z.enum([...pageKinds, 'shop']), except }),
  /** Pages that share header, menu and columns with this one. */
  z.object({ to: z.literal('chrome'), like: z.string().min(1), except }),
]);
export type Reach = z.infer<typeof reach>;

/** Whether a reach takes in a page of the site; asked often, so what it needs of the site is looked up once. */
export function reachIn(site: Pick<SiteReading, 'pages'>): (r: Reach, path: string) => boolean {
  const pages = new Map<string, SiteReading['pages'][number]>(site.pages.map((p) => [p.path, p]));
  return (r, path) => {
    if (r.to === 'page') return r.page === path;
    if (r.to === 'pages') return r.pages.includes(path);
    if (r.except.includes(path)) return false;
    const page = pages.get(path);
    if (r.to === 'every') return true;
    if (!page) return false;
    if (r.to === 'section') return page.section === r.section;
    if (r.to === 'kind') return page.kind === r.kind;
    return page.chrome === pages.get(r.like)?.chrome;
  };
}

/** Whether a reach takes in the pages that are built for the shop: chrome does, what sells in the main part does not. */
export const reachesShopPages = (r: Reach, region: string): boolean =>
  (r.to === 'kind' && r.kind === 'shop') ||
  (r.to === 'every' && region !== 'main' && region !== 'side' && region !== 'side-2');

/** The pages of a site that a reach takes in. */
export const pagesIn = (site: Pick<SiteReading, 'pages'>, r: Reach): string[] => {
  const within = reachIn(site);
  return site.pages.filter((p) => within(r, p.path)).map((p) => p.path);
};
