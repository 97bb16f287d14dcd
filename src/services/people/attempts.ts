import { createHmac } from 'node:crypto';
import { eq, lt } from 'drizzle-orm';
import { FORGOTTEN_MS, lockAfter } from '../../core/people/lock';
import { signInAttempts } from '../../data/schema';
import type { Ctx } from '../context';

/** Letters about a lock do not come more often than that. */
const TOLD_AGAIN_MS = 24 * 60 * 60_000;

/**
 * Names whose tries are counted, without keeping what they are: an account, or a browser that is known to be
 * somebody's.
 */
export const attemptKey = (ctx: Ctx, ...of: readonly string[]): string =>
  createHmac('sha256', ctx.signing)
    .update(['tries', ...of].join('\n'))
    .digest('base64url');

export interface Try {
  /** Nobody may try until then; nothing was counted. */
  readonly lockedUntil: Date | undefined;
  /** Should this try be wrong, too, a lock begins that its owner was not told of yet. */
  readonly tell: boolean;
}

/**
 * Counts a try before it is known to be wrong, so that a hundred at once are no way around the lock: each is
 * one write at the gate. Whoever gets in says so by {@link attemptSucceeded}.
 */
export async function beginAttempt(ctx: Ctx, key: string): Promise<Try> {
  return ctx.store.write(async (tx) => {
    const now = ctx.now();
    const [known] = await tx.select().from(signInAttempts).where(eq(signInAttempts.key, key));
    if (known?.lockedUntil && known.lockedUntil > now) return { lockedUntil: known.lockedUntil, tell: false };
    const isFresh = known !== undefined && now.getTime() - known.lastAt.getTime() < FORGOTTEN_MS;
    const wrong = isFresh ? known.wrong + 1 : 1;
    const lock = lockAfter(wrong);
    const told = known?.toldAt?.getTime() ?? 0;
    const tell = lock > 0 && now.getTime() - told > TOLD_AGAIN_MS;
    const row = {
      wrong,
      lastAt: now,
      lockedUntil: lock > 0 ? new Date(now.getTime() + lock) : null,
      toldAt: tell ? now : (known?.toldAt ?? null),
    };
    await tx
      .insert(signInAttempts)
      .values({ key, ...row })
      .onConflictDoUpdate({ target: signInAttempts.key, set: row });
    return { lockedUntil: undefined, tell };
  });
}

/** The try was right: what was wrong before it is forgotten. */
export async function attemptSucceeded(ctx: Ctx, key: string): Promise<void> {
  await ctx.store.write((tx) => tx.delete(signInAttempts).where(eq(signInAttempts.key, key)));
}

/** Whether something that counts once is used for the first time today: of many at once one is told so. */
export async function isFirstUse(ctx: Ctx, key: string): Promise<boolean> {
  const made = await ctx.store.write((tx) =>
    tx
      .insert(signInAttempts)
      .values({ key, wrong: 0, lastAt: ctx.now() })
      .onConflictDoNothing()
      .returning({ key: signInAttempts.key }),
  );
  return made.length > 0;
}

/** Rows that no longer count. */
export async function forgetAttempts(ctx: Ctx): Promise<void> {
  const before = new Date(ctx.now().getTime() - FORGOTTEN_MS);
  await ctx.store.write((tx) => tx.delete(signInAttempts).where(lt(signInAttempts.lastAt, before)));
}
