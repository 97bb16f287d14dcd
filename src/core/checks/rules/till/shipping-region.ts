import { goodsKinds } from '../../../goods/kinds';
import { inTill, list, openTill, type Rule } from '../../rule';
import type { Subject } from '../../subject';

/** Countries that the shop says it serves: its own, those it has tax rates for, those a way to pay is for. */
function served(s: Subject): string[] {
  const { rules } = s.till;
  const named = [
    s.site.country,
    rules.tax.home.country,
    ...rules.tax.rates.filter((r) => rules.tax.charged && r.country !== '*').map((r) => r.country),
    ...rules.pay.ways.filter((w) => w.active).flatMap((w) => w.countries),
  ];
  return [...new Set(named.filter(Boolean))];
}

/** Something is sent, and a country that is served has no way of shipping. */
export const shippingRegion: Rule = {
  name: 'shipping-region',
  about: 'Goods that are sent, and a country that the shop says it serves without any way of shipping there.',
  weight: 'sale',
  reads: ['till', 'goods'],
  *find(s) {
    const sent = s.goods.shown.filter((p) => goodsKinds[p.kind].ships && p.kind !== 'link');
    if (!s.sells || sent.length === 0) return;
    const { regions } = s.till.rules.shipping;
    const open = regions.filter((r) => r.ways.length > 0);
    const covers = (country: string) =>
      open.some((r) => r.areas.some((a) => a.country === country || a.country === '*'));
    if (open.length === 0) {
      yield {
        about: 'none',
        place: inTill('Shipping'),
        title: 'No way of shipping is set',
        meets: `Who buys ${list(
          sent.map((p) => p.name),
          2,
        )} is told that it cannot be sent.`,
        mends: [openTill('shipping', 'Open shipping', 'Name a region and what it costs to send there.')],
      };
      return;
    }
    const missing = served(s).filter((c) => !covers(c));
    if (missing.length)
      yield {
        about: 'served',
        place: inTill('Shipping'),
        title: `No shipping to ${list(missing.map(s.till.countryName))}`,
        meets: 'The checkout offers the country, and ends at “We cannot send this there”.',
        weight: missing.includes(s.site.country) ? 'sale' : 'away',
        facts: missing,
        mends: [
          openTill('shipping', 'Open shipping', `Add ${list(missing.map(s.till.countryName))} to a region.`),
        ],
      };
    for (const r of regions)
      if (r.ways.length === 0)
        yield {
          about: `empty ${r.id}`,
          place: inTill('Shipping'),
          title: `${r.name} has no way of shipping`,
          meets: 'Who lives there fills in everything, and cannot go on.',
          mends: [openTill('shipping', 'Open shipping', `Give ${r.name} a way, or take the region out.`)],
        };
  },
};
