import { pathsNow } from '../../core/goods/category';
import { kinds } from '../../core/placement/kinds';
import type { SettingField } from '../../core/placement/kind';
import { type Placement, writePlacement } from '../../core/placement/placement';
import { pagesIn, reachIn } from '../../core/placement/reach';
import { type Spelling, spellingNames, spellings } from '../../core/placement/spelling';
import type { LostPlacement } from '../../core/placement/place';
import { listRegions, type Pitch, type RegionPlace } from '../../core/site/pitch';
import { Recent } from '../cache';
import type { Ctx } from '../context';
import { pitchesInThread } from '../reading/pitches-in-thread';
import { listCategories } from '../goods/categories';
import { placeContext, renderPage, rendering } from './render';
import { pageName } from '../sites/names';
import { draftState } from '../sites/state';
import { loadPage, type Site } from '../sites/site';

export interface BenchView {
  readonly page: {
    readonly path: string;
    readonly address: string;
    readonly name: string;
    readonly section: string;
    readonly kind: string;
  };
  readonly regions: readonly (RegionPlace & { readonly pages: number })[];
  readonly placements: readonly PlacedView[];
  readonly lost: readonly LostPlacement[];
  readonly shelf: readonly ShelfItem[];
  readonly spellings: readonly { readonly name: Spelling; readonly label: string; readonly hint: string }[];
  /** The tag every page with elements or shortcodes needs, once. */
  readonly script: string;
  /** The same, pinned to this version by its hash; empty where none is served. */
  readonly sealedScript: string;
  readonly categories: readonly string[];
  /** Paths of categories that were renamed or moved, with what they are now. */
  readonly former: Readonly<Record<string, string>>;
  readonly pictures: readonly string[];
  readonly sections: readonly { readonly id: string; readonly name: string; readonly pages: number }[];
}

export interface PlacedView extends Placement {
  readonly pages: number;
  /** The placement in each of its spellings, as it would stand on this page. */
  readonly written: Readonly<Record<Spelling, string>>;
}

export interface ShelfItem {
  readonly kind: string;
  readonly name: string;
  readonly hint: string;
  readonly pages: number;
  readonly usualPlace: string;
  readonly usualReach: string;
  readonly fields: readonly SettingField[];
}

/** All that the bench knows of one page but its pitches, which take longer: what stands on it, and how it is written. */
export async function benchView(ctx: Ctx, site: Site, path: string): Promise<BenchView> {
  const page = await loadPage(ctx, site, path);
  const facts = site.reading.pages.find((p) => p.path === path);
  const state = await draftState(ctx, site);
  const all = state.placements;
  const r = await rendering(ctx, site, state);
  const [out, categories] = await Promise.all([renderPage(ctx, r, path), listCategories(ctx, site.row.id)]);
  const within = reachIn(site.reading);
  const anywhere = placeContext(ctx, r, page.path, 'anywhere');
  const written = (p: Placement) =>
    Object.fromEntries(
      spellingNames.map((spelling) => [spelling, writePlacement({ ...p, spelling }, anywhere) ?? '']),
    ) as PlacedView['written'];
  return {
    page: {
      path,
      address: facts?.address ?? '',
      name: pageName(site, path),
      section: facts?.section ?? '',
      kind: facts?.kind ?? 'other',
    },
    regions: listRegions(page).map((x) => ({
      ...x,
      pages: site.reading.pages.filter((p) => p.regions.some((y) => y.region === x.region)).length,
    })),
    placements: all
      .filter((p) => within(p.reach, path))
      .map((p) => ({ ...p, written: written(p), pages: pagesIn(site.reading, p.reach).length })),
    lost: out.lost,
    shelf: kinds
      .filter((k) => k.built)
      .map((k) => ({
        kind: k.kind,
        name: k.name,
        hint: k.hint,
        usualPlace: k.usualPlace,
        usualReach: k.usualReach,
        fields: k.fields,
        pages: new Set(all.filter((p) => p.kind === k.kind).flatMap((p) => pagesIn(site.reading, p.reach)))
          .size,
      })),
    spellings: spellingNames.map((name) => ({
      name,
      label: spellings[name].name,
      hint: spellings[name].hint,
    })),
    script: anywhere.scriptTag ?? '',
    sealedScript: ctx.pinned
      ? (anywhere.scriptTag ?? '').replace(
          /src="[^"]*"/,
          `src="${ctx.pinned.url}" integrity="${ctx.pinned.integrity}" crossorigin="anonymous"`,
        )
      : '',
    categories: categories.map((c) => c.path),
    former: Object.fromEntries(pathsNow(categories)),
    pictures: site.reading.pictures.map((p) => `/${p.path}`).slice(0, 500),
    sections: site.reading.sections.map((s) => ({
      id: s.id,
      name: s.name,
      pages: site.reading.pages.filter((p) => p.section === s.id).length,
    })),
  };
}

const pitchCache = new Recent<string, Pitch[]>(60);

/** Every pitch of a page, proven by parsing; kept, because it only changes with the page. */
export async function pitchesOf(ctx: Ctx, site: Site, path: string): Promise<Pitch[]> {
  const page = await loadPage(ctx, site, path);
  return pitchCache.get(`${site.row.snapshotId} ${path} ${JSON.stringify(site.row.regions)}`, () =>
    pitchesInThread(page),
  );
}
