import { dateFormat } from '../../core/intl';
import { and, desc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { letterFacts, type LetterKind, letterKinds, unknownFields } from '../../core/letters/kinds';
import { letterOf, type Written, writeLetter } from '../../core/letters/render';
import { printLook } from '../../core/look/print-look';
import { lettersIn } from '../../core/languages/languages';
import { formatMoney } from '../../core/money/format';
import { letters, orders } from '../../data/schema';
import type { Ctx } from '../context';
import { invalid } from '../errors';
import { draftLook } from '../sites/look';
import type { Site } from '../sites/site';
import { shopUrl } from '../sites/addresses';
import { readRules } from '../rules/rules';
import { orderFigures } from './compose';
import { lettersWaiting } from '../mail/letters-waiting';

export interface LettersView {
  readonly kinds: readonly {
    readonly kind: LetterKind;
    readonly on: boolean;
    readonly subject: string;
    readonly text: string;
    readonly days: number | null;
    readonly fields: readonly string[];
    readonly usual: { readonly subject: string; readonly text: string };
  }[];
  readonly queue: Awaited<ReturnType<typeof lettersWaiting>>;
  readonly recent: readonly {
    readonly kind: string;
    readonly to: string;
    readonly subject: string;
    readonly at: string;
  }[];
}

export async function lettersView(ctx: Ctx, site: Site): Promise<LettersView> {
  const rules = await readRules(ctx.store.db, site.row.id);
  const usual = lettersIn(site.row.locale);
  const recent = await ctx.store.db
    .select()
    .from(letters)
    .where(and(eq(letters.siteId, site.row.id), eq(letters.state, 'sent')))
    .orderBy(desc(letters.sentAt))
    .limit(12);
  return {
    kinds: letterKinds.map((kind) => ({
      kind,
      ...letterOf(kind, rules.letters, site.row.locale),
      fields: letterFacts[kind].fields,
      usual: usual[kind],
    })),
    queue: await lettersWaiting(ctx, site.row.id),
    recent: recent.map((l) => ({
      kind: l.kind,
      to: l.to,
      subject: l.subject,
      at: (l.sentAt ?? l.notBefore).toISOString(),
    })),
  };
}

const asked = z.object({
  kind: z.enum(letterKinds),
  subject: z.string().max(200),
  text: z.string().max(8_000),
});
export type LetterAsked = z.input<typeof asked>;

/** A letter as it would go out, filled from the latest order; or from an invented one while there is none. */
export async function previewLetter(
  ctx: Ctx,
  site: Site,
  input: unknown,
): Promise<Written & { readonly unknown: readonly string[] }> {
  const parsed = asked.safeParse(input);
  if (!parsed.success) throw invalid('This letter is too long to be shown.');
  const { kind, subject, text } = parsed.data;
  const [order] = await ctx.store.db
    .select()
    .from(orders)
    .where(and(eq(orders.siteId, site.row.id), eq(orders.state, 'paid')))
    .orderBy(desc(orders.createdAt))
    .limit(1);
  const { locale, currency, name } = site.row;
  const money = (amount: number) => formatMoney({ amount, currency }, locale);
  const base = shopUrl(ctx, site);
  const rules = await readRules(ctx.store.db, site.row.id);
  const real = order && (await orderFigures(ctx, site, rules, order, {}, kind === 'to-owner'));
  const goods = real?.goods ?? [{ name: '1 × Round basket', amount: money(4200) }];
  // Invented: an order while there is none, and what only one kind of letter tells.
  const invented: Record<string, string> = {
    shop: name,
    buyer: 'Ada Penhallow',
    email: 'ada@penhallow.example',
    number: '1001',
    total: money(4200),
    order: `${base}/thanks/…`,
    files: `${base}/downloads/…`,
    day: dateFormat(locale, { dateStyle: 'long' }).format(ctx.now()),
    when: dateFormat(locale, { dateStyle: 'full' }).format(new Date(ctx.now().getTime() + 2 * 86_400_000)),
    tracking: 'RR473124829GB',
    amount: money(1000),
    event: order?.worked.lines[0]?.name ?? 'Round basket',
    review: `${base}/reviews/…`,
    cart: `${base}/cart/…`,
  };
  return {
    ...writeLetter(
      { subject, text },
      {
        text: {
          ...invented,
          ...real?.text,
          ...(kind === 'files' && !real?.text.files && { files: invented.files ?? '' }),
        },
        goods,
        links: ['order', 'files', 'review', 'cart'],
      },
      printLook(await draftLook(ctx, site)),
    ),
    unknown: unknownFields(kind, `${subject} ${text}`),
  };
}
