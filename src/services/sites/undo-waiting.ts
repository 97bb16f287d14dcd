import type { Ctx } from '../context';
import { missing } from '../errors';
import { undoShop } from './add-selling';
import { setMenuChanges } from './menus';
import { goBackToSnapshot } from './newer';
import * as placing from './placing';
import { MENU, NEWER, SHOP } from './slip';
import { publishedState } from './state';
import { currentPublication, draftPlacements, type Site } from './site';

/** Takes one waiting line back: the draft gets what is published. */
export async function undoWaiting(ctx: Ctx, site: Site, placementId: string): Promise<void> {
  const publication = await currentPublication(ctx, site.row);
  if (placementId === MENU) return setMenuChanges(ctx, site, publication?.menu ?? []);
  if (placementId === SHOP) return undoShop(ctx, site, publishedState(publication));
  if (placementId === NEWER && publication) return goBackToSnapshot(ctx, site, publication.snapshotId);
  const published = publication?.placements.find((p) => p.id === placementId);
  const draft = (await draftPlacements(ctx, site.row.id)).find((p) => p.id === placementId);
  if (!published && !draft) throw missing('This line is not on the slip any more.');
  if (published) await placing.putBack(ctx, site, published);
  else await placing.takeAway(ctx, site, placementId);
}
