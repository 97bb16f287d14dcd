import { z } from 'zod';
import { menuChange } from '../../../core/placement/menu-change';
import { endpoint } from '../../_endpoint';

export const GET = endpoint('GET menu', ({ app, site }) => app.services.menus.menuView(app.ctx, site));

/** All changes to the menu, in their order. */
export const PUT = endpoint('PUT menu', async ({ app, site, body }) => {
  const changes = z
    .array(menuChange)
    .max(200)
    .safeParse(await body());
  if (!changes.success)
    throw app.services.errors.invalid(changes.error.issues[0]?.message ?? 'These are no changes to a menu.');
  await app.services.menus.setMenuChanges(app.ctx, site, changes.data);
  return app.services.menus.menuView(app.ctx, await app.services.site.loadSite(app.ctx, { id: site.row.id }));
});
