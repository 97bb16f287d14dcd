import { z } from 'zod';
import { seenPage } from '../../core/checks/seen';
import { pagesSeen } from '../../data/schema';
import type { Ctx } from '../context';
import { invalid } from '../errors';
import type { Site } from '../sites/site';
import { checker } from './in-thread';

const seen = z.array(seenPage).max(50);

/** Keeps what a browser saw of pages of the draft. What was seen of a page that is written otherwise by now is left out. */
export async function keepSeen(ctx: Ctx, site: Site, asked: unknown): Promise<void> {
  const parsed = seen.safeParse(asked);
  if (!parsed.success) throw invalid('This is nothing that was seen of pages.');
  const { versions } = await checker(ctx).run(site.row.id).done;
  const fresh = parsed.data.filter((p) => versions[p.path] === p.version);
  if (fresh.length === 0) return;
  await ctx.store.write(async (tx) => {
    for (const one of fresh)
      await tx
        .insert(pagesSeen)
        .values({ siteId: site.row.id, path: one.path, seen: one, at: ctx.now() })
        .onConflictDoUpdate({
          target: [pagesSeen.siteId, pagesSeen.path],
          set: { seen: one, at: ctx.now() },
        });
  });
}
