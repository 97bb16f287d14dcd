import { and, eq, inArray } from 'drizzle-orm';
import { printLook } from '../../core/look/print-look';
import { packingSlip, type Paper, paperOf } from '../../core/papers/paper';
import { documents, orderEvents, orders, variants } from '../../data/schema';
import type { Ctx } from '../context';
import { invalid, missing } from '../errors';
import { liveLook } from '../sites/look';
import type { Site } from '../sites/site';
import { addressLines } from '../rules/address';
import { wallClock } from '../till/pricing';
import { readRules } from '../rules/rules';

/** Packing slips printed at once: a season's worth of parcels. */
const AT_ONCE = 5000;
/** Rows that are written by one statement. */
const ROWS = 500;

/** A document of a site, laid out. @param token the order's, where a buyer asks; nobody reads another's papers. */
export async function documentPaper(
  ctx: Ctx,
  site: Site,
  id: string,
  token?: string,
): Promise<{ paper: Paper; name: string }> {
  const [found] = await ctx.store.db
    .select({ doc: documents, token: orders.token })
    .from(documents)
    .innerJoin(orders, eq(orders.id, documents.orderId))
    .where(and(eq(documents.siteId, site.row.id), eq(documents.id, id)));
  if (!found || (token !== undefined && found.token !== token)) throw missing('There is no such document.');
  const paper = { ...paperOf(found.doc.content), look: printLook(await liveLook(ctx, site)) };
  return { paper, name: `${paper.title} ${found.doc.content.number}` };
}

/** Packing slips of some orders, in the order they were asked for; that they were made is kept in each order's timeline. */
export async function packingSlips(ctx: Ctx, site: Site, ids: readonly string[]): Promise<Paper[]> {
  if (ids.length === 0) throw missing('No order is left that is to be packed.');
  if (ids.length > AT_ONCE)
    throw invalid(
      `${ids.length} packing slips are more than ${AT_ONCE}: narrow the orders by their days first.`,
    );
  const rules = await readRules(ctx.store.db, site.row.id);
  const found = new Map(
    (
      await ctx.store.db
        .select()
        .from(orders)
        .where(and(eq(orders.siteId, site.row.id), inArray(orders.id, [...ids])))
    ).map((o) => [o.id, o]),
  );
  const all = ids.flatMap((id) => found.get(id) ?? []);
  if (all.length === 0) throw missing('These orders are not known here.');
  const skus = new Map(
    (
      await ctx.store.db
        .select({ id: variants.id, sku: variants.sku })
        .from(variants)
        .where(inArray(variants.id, [...new Set(all.flatMap((o) => o.worked.lines.map((l) => l.variantId)))]))
    ).map((v) => [v.id, v.sku]),
  );
  await ctx.store.write(async (tx) => {
    const printed = all.map((o) => ({
      orderId: o.id,
      at: ctx.now(),
      what: 'Packing slip printed',
      detail: '',
    }));
    for (let n = 0; n < printed.length; n += ROWS)
      await tx.insert(orderEvents).values(printed.slice(n, n + ROWS));
  });
  const { locale } = site.row;
  const look = printLook(await liveLook(ctx, site));
  const slips = all.map((o) => {
    const way = o.worked.ways?.find((w) => w.id === o.worked.way);
    return packingSlip({
      number: String(o.number ?? ''),
      day: wallClock(o.createdAt, rules.zone).slice(0, 10),
      lang: locale,
      way: way?.name ?? '',
      note: o.note,
      from: [rules.seller.name || site.row.name, ...rules.seller.address.split('\n').filter(Boolean)],
      to: addressLines(o.buyer, rules.tax.home.country, locale),
      // What is fetched or written is not in the parcel.
      lines: o.worked.lines
        .filter((l) => l.ships !== false)
        .map((l) => ({
          name: l.name,
          particulars: l.particulars,
          quantity: l.quantity,
          sku: skus.get(l.variantId) ?? '',
        })),
    });
  });
  return slips.map((paper) => ({ ...paper, look }));
}
