import { and, asc, eq, lte } from 'drizzle-orm';
import { letters, orderEvents } from '../../data/schema';
import type { Ctx } from '../context';
import { compose } from './compose';

/** Minutes after which a letter that could not be handed over is tried again; after the last it is given up, and its order says so. Chosen by hand. */
const AGAIN_MINUTES = [1, 5, 30, 120, 480] as const;
/** Letters in one round. */
const AT_ONCE = 20;

/**
 * Writes and sends the letters that are due. One that a machine stopped in the middle of may go out twice, with the same
 * Message-ID, by which mail programs know it; it is never lost.
 */
export async function sendDue(ctx: Ctx): Promise<number> {
  if (!ctx.mail) return 0;
  const due = await ctx.store.db
    .select()
    .from(letters)
    .where(and(eq(letters.state, 'waiting'), lte(letters.notBefore, ctx.now())))
    .orderBy(asc(letters.notBefore))
    .limit(AT_ONCE);
  let sent = 0;
  for (const letter of due) if (await sendOne(ctx, letter)) sent++;
  return sent;
}

async function sendOne(ctx: Ctx, letter: typeof letters.$inferSelect): Promise<boolean> {
  const { now } = ctx;
  const minutes = AGAIN_MINUTES[letter.tries];
  // Taken by one round alone: whoever changes the count of tries has it.
  const [mine] = await ctx.store.write((tx) =>
    tx
      .update(letters)
      .set({ tries: letter.tries + 1, notBefore: new Date(now().getTime() + (minutes ?? 1) * 60_000) })
      .where(and(eq(letters.id, letter.id), eq(letters.tries, letter.tries), eq(letters.state, 'waiting')))
      .returning({ id: letters.id }),
  );
  if (!mine || !ctx.mail) return false;
  try {
    const written = await compose(ctx, letter);
    if (!written) {
      await ctx.store.write((tx) => tx.delete(letters).where(eq(letters.id, letter.id)));
      return false;
    }
    const { to, subject, text, html, calendar, fromName, replyTo } = written;
    await ctx.mail.send({ id: letter.id, to, fromName, replyTo, subject, text, html, calendar });
    await ctx.store.write(async (tx) => {
      await tx
        .update(letters)
        .set({ state: 'sent', sentAt: now(), to, subject, text, html, calendar })
        .where(eq(letters.id, letter.id));
      if (letter.orderId && letter.kind !== 'to-owner')
        await tx
          .insert(orderEvents)
          .values({ orderId: letter.orderId, at: now(), what: `Letter: ${subject}`, detail: `to ${to}` });
    });
    return true;
  } catch (error) {
    ctx.log.warn(
      { letter: letter.id, error: error instanceof Error ? error.message : String(error) },
      'a letter could not be sent',
    );
    if (minutes === undefined) await giveUp(ctx, letter);
    return false;
  }
}

async function giveUp(ctx: Ctx, letter: typeof letters.$inferSelect): Promise<void> {
  await ctx.store.write(async (tx) => {
    await tx.update(letters).set({ state: 'given-up' }).where(eq(letters.id, letter.id));
    if (letter.orderId)
      await tx.insert(orderEvents).values({
        orderId: letter.orderId,
        at: ctx.now(),
        what: 'A letter could not be sent',
        detail: `The mail server refused it ${letter.tries + 1} times. Look whether the address is right.`,
      });
  });
}
