import { and, eq } from 'drizzle-orm';
import { fill, type StepWords } from '../../core/languages/languages';
import type { TillRules } from '../../core/till/rules';
import type { Agreed } from '../../data/schema/till';
import { sha256 } from '../../data/blobs';
import { orders } from '../../data/schema';
import type { Ctx } from '../context';
import { missing } from '../errors';
import type { Site } from '../sites/site';
import { liveUrlOf, shopUrl } from '../sites/addresses';

export interface PolicyView {
  readonly id: string;
  readonly name: string;
  readonly href: string;
  /** SHA-256 of what stands there now: of the text, or of the page's file. */
  readonly version: string;
}

/** What a buyer has to agree to, as it stands now. A page that is no longer there is left out: nobody agrees to nothing. */
export function policiesOf(ctx: Ctx, site: Site, rules: TillRules): PolicyView[] {
  return rules.checkout.policies.flatMap((p) => {
    if (!p.page)
      return [
        {
          id: p.id,
          name: p.name,
          version: sha256(Buffer.from(p.text)),
          href: `${shopUrl(ctx, site)}/policies/${p.id}`,
        },
      ];
    const page = site.reading.pages.find((x) => x.address === p.page);
    const version = page && site.manifest[page.path];
    return version ? [{ id: p.id, name: p.name, version, href: liveUrlOf(site, p.page) }] : [];
  });
}

/** Policies that were not ticked, or in a version that is no longer the one; each told by the name of its box. */
export const notAgreed = (
  policies: readonly PolicyView[],
  agreed: Readonly<Record<string, string>>,
  w: StepWords,
): Record<string, string> =>
  Object.fromEntries(
    policies.flatMap((p) =>
      agreed[p.id] === p.version
        ? []
        : [[`agree-${p.id}`, agreed[p.id] ? fill(w.agreeChanged, { x: p.name }) : w.needAgree]],
    ),
  );

/** Keeps the texts that were agreed to, so that each order's own version can be read as long as the order is kept. */
export async function keepAgreed(
  ctx: Ctx,
  rules: TillRules,
  agreed: readonly PolicyView[],
  at: Date,
): Promise<Agreed[]> {
  for (const p of rules.checkout.policies) if (p.text && !p.page) await ctx.blobs.put(Buffer.from(p.text));
  return agreed.map((p) => ({ name: p.name, version: p.version, at: at.toISOString() }));
}

/** A policy of the owner's own text. */
export function policyText(rules: TillRules, id: string): { readonly name: string; readonly text: string } {
  const found = rules.checkout.policies.find((p) => p.id === id && p.text);
  if (!found) throw missing('This text is not kept here.');
  return found;
}

/** A text in the version that a buyer agreed to. Only what an order of this site names is handed out. */
export async function agreedText(ctx: Ctx, site: Site, orderId: string, version: string): Promise<string> {
  const [order] = await ctx.store.db
    .select({ policies: orders.policies })
    .from(orders)
    .where(and(eq(orders.siteId, site.row.id), eq(orders.id, orderId)));
  const found = order?.policies.find((p) => p.version === version);
  if (!found) throw missing('This order knows no such text.');
  return (await ctx.blobs.get(version)).toString('utf8');
}
