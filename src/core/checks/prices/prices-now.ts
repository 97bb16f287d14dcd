import { fullPrice, offered, priceNow, pricePerUnit } from '../../goods/price';
import type { Product } from '../../goods/product';

/** Every amount that a text may rightly give for a product now: of each choice, of each link, by the unit, of its texts. In minor units. */
export function pricesNow(p: Product, at: number): ReadonlySet<number> {
  const amounts = new Set<number>();
  for (const v of p.variants) {
    const now = priceNow(p, v, at);
    amounts.add(now.price);
    amounts.add(fullPrice(p, v));
    if (now.was !== null) amounts.add(now.was);
    // An offer that begins soon is told of beforehand.
    const { offer } = p;
    if (offer?.from && Date.parse(offer.from) > at) amounts.add(offered(fullPrice(p, v), offer));
    if (p.unit) amounts.add(pricePerUnit(now.price, p.unit).price);
  }
  for (const l of p.linkPrices) amounts.add(l.price);
  for (const t of p.texts) amounts.add(t.price);
  for (const a of p.openSuggestions) amounts.add(a);
  if (p.openLeast !== null) amounts.add(p.openLeast);
  return amounts;
}
