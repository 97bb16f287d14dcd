import { eq } from 'drizzle-orm';
import type { MenuChange } from '../../core/placement/menu-change';
import type { Placement } from '../../core/placement/placement';
import type { Repair } from '../../core/placement/repair';
import type { ShopAddress } from '../../core/site/set-up';
import { placements as placementRows, sites } from '../../data/schema';
import type { Tx } from '../../data/database';
import { type Change, changeBetween, recordsOf } from '../../core/change';
import { sameJson } from '../../core/json';
import type { KeptLook, PublishedLook } from '../../data/schema/site';
import type { Ctx } from '../context';
import { draftPlacements, type Publication, type Site } from './site';

/**
 * All that is decided about a site beside the owner's own files. The draft is one, each publication keeps one; slip,
 * preview, publishing, roll-back and leaving are different looks at two of them.
 */
export interface SiteState {
  readonly placements: readonly Placement[];
  readonly menu: readonly MenuChange[];
  readonly shop: ShopAddress | null;
  /** Small changes of the owner's own pages. */
  readonly repairs: readonly Repair[];
  /** What was decided about the look; of a publication with what it was decided over. Nothing where it is all as it was found. */
  readonly look: KeptLook | PublishedLook | null;
}

/** The site as the owner made it. */
export const untouched: SiteState = { placements: [], menu: [], shop: null, repairs: [], look: null };

export async function draftState(ctx: Ctx, site: Site): Promise<SiteState> {
  const { menu, shop, repairs, look } = site.row;
  return { placements: await draftPlacements(ctx, site.row.id), menu, shop, repairs, look };
}

export const publishedState = (publication: Publication | undefined): SiteState =>
  publication
    ? {
        placements: publication.placements,
        menu: publication.menu,
        shop: publication.shop,
        repairs: publication.repairs,
        look: publication.look,
      }
    : untouched;

/** Makes the draft be a state, whole. */
export async function setDraft(ctx: Ctx, site: Site, state: SiteState): Promise<void> {
  await ctx.store.write((tx) => writeDraft(tx, site, state));
}

export async function writeDraft(
  tx: Tx,
  site: Site,
  { placements, menu, shop, repairs, look }: SiteState,
): Promise<void> {
  await tx.delete(placementRows).where(eq(placementRows.siteId, site.row.id));
  for (const p of placements) await tx.insert(placementRows).values({ ...p, siteId: site.row.id });
  await tx
    .update(sites)
    .set({ menu: [...menu], shop, repairs: [...repairs], look: look && keptLook(look) })
    .where(eq(sites.id, site.row.id));
}

/** A look without what it was published over; nothing where nothing was decided. */
function keptLook({ decisions, from }: KeptLook): KeptLook | null {
  if (Object.keys(decisions).length === 0 && from === undefined) return null;
  return { decisions, ...(from !== undefined && { from }) };
}

/** Shop pages stand as soon as anything sells. Words of the owner's own alone sell nothing. */
export const sellsIn = ({ placements, shop }: Pick<SiteState, 'placements' | 'shop'>): boolean =>
  shop !== null || placements.some((p) => p.kind !== 'notice');

/** Whether nothing at all is to be written into the owner's pages. */
export const isUntouched = (s: SiteState): boolean =>
  s.placements.length === 0 && s.menu.length === 0 && s.shop === null && s.repairs.length === 0;

/**
 * What is different between two states of placements, by id. Between two versions of the owner's files (`newer`) an address is written
 * anew for the same spot: that alone is no difference.
 */
export const difference = (
  before: readonly Placement[],
  after: readonly Placement[],
  newer = false,
): Change<Placement> =>
  changeBetween(byId(before), byId(after), (a, b) =>
    newer ? sameJson(withoutAddress(a), withoutAddress(b)) : sameJson(a, b),
  );

/** What is different between two states of the owner's pages' repairs, by id. */
export const repairsBetween = (before: readonly Repair[], after: readonly Repair[]): Change<Repair> =>
  changeBetween(
    recordsOf(before.map((r) => [r.id, r] as const)),
    recordsOf(after.map((r) => [r.id, r] as const)),
  );

/** Placements by their ids. */
export const byId = (placements: readonly Placement[]): Record<string, Placement> =>
  recordsOf(placements.map((p) => [p.id, p] as const));

const withoutAddress = ({ pitch, ...p }: Placement) => ({ ...p, region: pitch.region, side: pitch.side });
