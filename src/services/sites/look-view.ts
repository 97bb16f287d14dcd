import type { DriftLine } from '../../core/look/drift';
import type { Found } from '../../core/look/found/found';
import type { LookPlan } from '../../core/look/plan';
import { type Wardrobe, wardrobeOf } from '../../core/look/wardrobe';
import type { WidgetShape } from '../../core/look/shape';
import { departuresOf, firstPageOf } from '../../core/placement/departures';
import { describePlacement } from '../../core/placement/placement';
import { addressOf } from '../../core/site/paths';
import type { Ctx } from '../context';
import { frameFonts } from './frame-fonts';
import { foundLook, wardrobeFor } from './look';
import { driftOf } from './look-changes';
import { pagesToSee } from './read-look';
import { pageName } from './names';
import { currentPublication, draftPlacements, productNames, type Site } from './site';

/** What the place Look shows. */
export interface LookView {
  /** The state of the site's files that all this is of. */
  readonly snapshot: string;
  readonly found: Found;
  /** What the draft's look is worn over, where that is not what was found now: the owner has not followed yet. */
  readonly wardrobe: Wardrobe;
  readonly decisions: LookPlan;
  readonly drift: readonly DriftLine[];
  /** What is live, for "as it is live" beside a change. */
  readonly published: LookPlan | null;
  /** Fonts that frames do not wear, because they say of themselves that they may not be embedded. */
  readonly notInFrames: readonly string[];
  /** Widgets that have something of the shop's shape of their own. */
  readonly departures: readonly Departure[];
  /** Pages to be measured, and their addresses on the draft. */
  readonly pages: readonly { readonly path: string; readonly name: string; readonly address: string }[];
}

export interface Departure {
  /** The widget in words, the page it stands on (the first, where it stands on several), and what it has of its own. */
  readonly what: string;
  readonly page: string;
  readonly pageName: string;
  readonly own: readonly { readonly name: WidgetShape; readonly value: string }[];
}

async function departuresIn(ctx: Ctx, site: Site): Promise<Departure[]> {
  const [placed, names] = await Promise.all([
    draftPlacements(ctx, site.row.id),
    productNames(ctx, site.row.id),
  ]);
  return placed.flatMap((p) => {
    const own = departuresOf(p.settings).map(([name, value]) => ({ name, value }));
    if (own.length === 0) return [];
    const page = firstPageOf(p) || (site.reading.pages[0]?.path ?? '');
    return [
      { what: describePlacement(p, (slug) => names.get(slug)), page, pageName: pageName(site, page), own },
    ];
  });
}

export async function lookView(ctx: Ctx, site: Site): Promise<LookView> {
  const found = await foundLook(ctx, site);
  const { look } = site.row;
  const publication = await currentPublication(ctx, site.row);
  return {
    snapshot: site.row.snapshotId,
    found,
    wardrobe: look?.from === undefined ? wardrobeOf(found) : await wardrobeFor(ctx, site, look),
    decisions: look?.decisions ?? {},
    drift: await driftOf(ctx, site),
    published: publication ? (publication.look?.decisions ?? {}) : null,
    departures: await departuresIn(ctx, site),
    notInFrames: (await frameFonts(ctx, site)).refused,
    pages: pagesToSee(site.reading.pages).map((p) => ({
      path: p.path,
      name: p.heading || p.title || p.path,
      address: addressOf(p.path),
    })),
  };
}
