import { invert, isEmpty, only } from '../../core/change';
import type { Ctx } from '../context';
import { missing } from '../errors';
import { undoShop } from './add-selling';
import { setMenuChanges } from './menus';
import { goBackToSnapshot } from './newer';
import { applyChange } from './placing';
import { undoLook } from './look-changes';
import { LOOK, MENU, NEWER, REPAIR, SHOP } from './slip';
import { undoRepair } from './repairs';
import { difference, publishedState } from './state';
import { currentPublication, draftPlacements, type Site } from './site';

/** Takes one waiting line back: the draft gets what is published. */
export async function undoWaiting(ctx: Ctx, site: Site, placementId: string): Promise<void> {
  const publication = await currentPublication(ctx, site.row);
  if (placementId === MENU) return setMenuChanges(ctx, site, publication?.menu ?? []);
  if (placementId === SHOP) return undoShop(ctx, site, publishedState(publication));
  if (placementId.startsWith(LOOK)) return undoLook(ctx, site, publication, placementId.slice(LOOK.length));
  if (placementId.startsWith(REPAIR))
    return undoRepair(ctx, site, publishedState(publication).repairs, placementId);
  if (placementId === NEWER && publication) return goBackToSnapshot(ctx, site, publication.snapshotId);
  const draft = await draftPlacements(ctx, site.row.id);
  const line = only(difference(publication?.placements ?? [], draft), placementId);
  if (isEmpty(line)) throw missing('This line is not on the slip any more.');
  await applyChange(ctx, site, invert(line), { asIs: true });
}
