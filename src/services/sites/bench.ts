import { kinds } from '../../core/placement/kinds';
import type { Placement } from '../../core/placement/placement';
import { pagesIn, reachIn } from '../../core/placement/reach';
import { provenPitches } from '../../core/placement/tree-law';
import { listPitches, listRegions, type Pitch, type RegionPlace } from '../../core/site/pitch';
import type { Ctx } from '../context';
import { renderPage, rendering } from './render';
import { pageName } from './slip';
import { draftPlacements, loadPage, type Site } from './site';

export interface BenchView {
  readonly page: { readonly path: string; readonly address: string; readonly name: string };
  readonly pitches: readonly Pitch[];
  readonly regions: readonly (RegionPlace & { readonly pages: number })[];
  readonly placements: readonly (Placement & { readonly html: string; readonly pages: number })[];
  readonly lost: readonly { readonly id: string; readonly why: string }[];
  readonly shelf: readonly { readonly kind: string; readonly name: string; readonly hint: string; readonly pages: number; readonly usualPlace: string; readonly usualReach: string }[];
}

/** All that the bench knows of one page: where widgets may stand, which do, and how they are written. */
export async function benchView(ctx: Ctx, site: Site, path: string): Promise<BenchView> {
  const page = await loadPage(ctx, site, path);
  const all = await draftPlacements(ctx, site.row.id);
  const out = await renderPage(ctx, await rendering(ctx, site, { placements: all, menu: site.row.menu, shop: site.row.shop }), path);
  const within = reachIn(site.reading);
  const pagesOf = (p: Placement) => pagesIn(site.reading, p.reach).length;
  const htmlOf = (id: string) => new RegExp(`<!--stall ${id}-->(.*?)<!--/stall ${id}-->`, 's').exec(out.edits.find((e) => e.inserted.includes(`stall ${id}`))?.inserted ?? '')?.[1] ?? '';
  return {
    page: { path, address: site.reading.pages.find((p) => p.path === path)?.address ?? '', name: pageName(site, path) },
    pitches: provenPitches(page, listPitches(page)),
    regions: listRegions(page).map((r) => ({ ...r, pages: site.reading.pages.filter((p) => p.regions.some((x) => x.region === r.region)).length })),
    placements: all.filter((p) => within(p.reach, path)).map((p) => ({ ...p, html: htmlOf(p.id), pages: pagesOf(p) })),
    lost: out.lost,
    shelf: kinds.filter((k) => k.built).map((k) => ({ kind: k.kind, name: k.name, hint: k.hint, usualPlace: k.usualPlace, usualReach: k.usualReach, pages: new Set(all.filter((p) => p.kind === k.kind).flatMap((p) => pagesIn(site.reading, p.reach))).size })),
  };
}
