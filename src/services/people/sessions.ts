import { and, desc, eq, gt, ne } from 'drizzle-orm';
import { session } from '../../data/schema';
import type { Ctx } from '../context';
import { missing } from '../errors';

export interface SessionLine {
  readonly id: string;
  readonly current: boolean;
  readonly since: Date;
  readonly lastSeen: Date;
  readonly address: string;
  /** What the browser says of itself. */
  readonly browser: string;
}

/** Where a person is signed in: the session that asks first. */
export async function listSessions(ctx: Ctx, userId: string, current: string): Promise<SessionLine[]> {
  const rows = await ctx.store.db
    .select()
    .from(session)
    .where(and(eq(session.userId, userId), gt(session.expiresAt, ctx.now())))
    .orderBy(desc(session.updatedAt));
  const lines = rows.map((s) => ({
    id: s.id,
    current: s.id === current,
    since: s.createdAt,
    lastSeen: s.updatedAt,
    address: s.ipAddress ?? '',
    browser: s.userAgent ?? '',
  }));
  return [...lines.filter((s) => s.current), ...lines.filter((s) => !s.current)];
}

/** Ends one of a person's own sessions, or all but one. @returns how many ended. */
export async function endSessions(
  ctx: Ctx,
  userId: string,
  which: { readonly id: string } | { readonly allBut: string },
): Promise<number> {
  const chosen = 'id' in which ? eq(session.id, which.id) : ne(session.id, which.allBut);
  const gone = await ctx.store.write((tx) =>
    tx
      .delete(session)
      .where(and(eq(session.userId, userId), chosen))
      .returning({ id: session.id }),
  );
  if ('id' in which && gone.length === 0) throw missing('This session is over already.');
  return gone.length;
}
