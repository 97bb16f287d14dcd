import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { liveSeen, sites } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import { liveUrlSchema } from './bring-in';
import type { Site } from './site';

const asked = z.object({ liveUrl: liveUrlSchema });

/**
 * The site moved to another name, or was told wrongly: ways back, letters and whole addresses in pages go there from now on; pages that
 * are live follow when they are published.
 * @throws Refusal where the address is none, or the host gives it.
 */
export async function setLiveAddress(ctx: Ctx, site: Site, value: unknown): Promise<{ liveUrl: string }> {
  const parsed = asked.safeParse(value);
  if (!parsed.success)
    throw invalid(parsed.error.issues[0]?.message ?? 'Enter the whole address, with https:// in front.', {
      field: 'liveUrl',
    });
  if (site.row.delivery.to === 'host') throw conflict('Your host gives this address. Change it there.');
  if (site.row.connection.how === 'live')
    throw conflict('This site was read from its address. Where it moved, connect it anew at the new one.');
  const liveUrl = parsed.data.liveUrl.replace(/\/*$/, '/');
  await ctx.store.write(async (tx) => {
    await tx.update(sites).set({ liveUrl }).where(eq(sites.id, site.row.id));
    // What was seen there was seen at another address.
    await tx.delete(liveSeen).where(eq(liveSeen.siteId, site.row.id));
  });
  ctx.changed?.(site.row.id);
  return { liveUrl };
}
