import { oldestKey } from '../../core/entries';
import type { Product, Variant } from '../../core/goods/product';
import type { Store } from '../../data/database';
import type { Ctx } from '../context';
import { missing } from '../errors';
import { newToken } from '../ids';
import type { Site } from '../sites/site';
import { catalogueOf } from './catalogue';
import { parseProduct } from './goods';
import { plainText } from './rich-text';

/** Products as they are being written, seen as a shopper would: kept in memory for a while, under addresses nobody guesses. */
interface Kept {
  readonly siteId: string;
  readonly product: Product;
}
const KEPT = 40;
const kept = new WeakMap<Store, Map<string, Kept>>();

/** Keeps what is in the sheet, unsaved. @returns the last part of its address. @throws Refusal while something in it is wrong. */
export async function keepPreview(
  ctx: Ctx,
  site: Site,
  id: string,
  asked: unknown,
): Promise<{ token: string }> {
  const form = parseProduct(asked);
  const now = (await catalogueOf(ctx, site.row.id)).byId.get(id);
  const variants = form.variants.map((v, n): Variant => ({ ...v, id: v.id ?? `new-${n}` }));
  const product: Product = {
    ...form,
    id: now?.id ?? 'new',
    slug: form.slug || now?.slug || 'new',
    variants,
    plain: plainText(form.description),
    addedAt: now?.addedAt ?? ctx.now().getTime(),
    order: now?.order ?? 0,
    rating: now?.rating ?? null,
  };
  const own = kept.get(ctx.store) ?? new Map<string, Kept>();
  kept.set(ctx.store, own);
  const token = newToken();
  own.set(token, { siteId: site.row.id, product });
  if (own.size > KEPT) own.delete(oldestKey(own) ?? '');
  return { token };
}

export function previewOf(ctx: Ctx, site: Site, token: string): Product {
  const found = kept.get(ctx.store)?.get(token);
  if (!found || found.siteId !== site.row.id)
    throw missing('This preview is over. Change something in the sheet to see it anew.');
  return found.product;
}
