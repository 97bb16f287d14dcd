import { goodsKinds } from '../../../goods/kinds';
import { priceFrom } from '../../../goods/price';
import { measureText } from '../../../till/measures';
import { formatMoney } from '../../../money/format';
import { inTill, list, openTill, type Rule } from '../../rule';
import type { Subject } from '../../subject';

/** A single piece that is heavier or dearer than every band, in a region that has no other way. */
export const shippingGaps: Rule = {
  name: 'shipping-gaps',
  about:
    'Bands of shipping that end below what a single product weighs or costs, and overlaps of areas between regions.',
  weight: 'away',
  reads: ['till', 'goods'],
  *find(s) {
    const sent = s.goods.shown.filter((p) => goodsKinds[p.kind].ships && p.kind !== 'link');
    const { unit, regions } = s.till.rules.shipping;
    const money = (amount: number) => formatMoney({ amount, currency: s.site.currency }, s.site.locale);
    for (const r of regions) {
      const open = r.ways.filter(
        (w) => w.by === 'flat' || w.bands.some((b) => b.upTo === null) || w.kind === 'collect',
      );
      if (open.length > 0) continue;
      for (const w of r.ways) {
        const end = Math.max(0, ...w.bands.map((b) => b.upTo ?? 0));
        if (w.by === 'flat' || end === 0) continue;
        const over = sent.filter((p) => single(s, p, w.by) > end);
        if (over.length === 0) continue;
        yield {
          about: `${r.id} ${w.id}`,
          place: inTill('Shipping'),
          title: `No shipping rule covers ${r.name} over ${measureText(w.by, end, { unit, money })}`,
          meets: `${list(over.map((p) => p.name))} cannot be sent there at all.`,
          facts: over.map((p) => p.id),
          mends: [
            openTill('shipping', `Add a band to ${r.name}`, 'Add a band, or let the last one have no end.'),
          ],
        };
      }
    }
    yield* overlaps(s);
  },
};

function single(s: Subject, p: Subject['goods']['shown'][number], by: string): number {
  if (by === 'weight') return Math.max(0, ...p.variants.map((v) => v.weight ?? 0));
  return by === 'value' ? priceFrom(p, s.now).least : 1;
}

/** The same country twice, for all of it: they are offered both. */
function* overlaps(s: Subject) {
  const first = new Map<string, string>();
  for (const { region, country } of wholeCountries(s)) {
    const other = first.get(country);
    if (other === undefined) first.set(country, region);
    else if (other !== region)
      yield {
        about: `overlap ${region} ${country}`,
        place: inTill('Shipping'),
        title: `${country === '*' ? 'The rest of the world' : s.till.countryName(country)} stands in ${other} and in ${region}`,
        meets: 'They are offered both, and one of the prices is not what you meant.',
        weight: 'untidy' as const,
        mends: [openTill('shipping', 'Open shipping', 'Leave the country in one region.')],
      };
  }
}

/** Countries that a region sends to by post, with nothing of them left out. */
const wholeCountries = (s: Subject): { region: string; country: string }[] =>
  s.till.rules.shipping.regions
    .filter((r) => r.ways.some((w) => w.kind === 'post'))
    .flatMap((r) =>
      r.areas
        .filter((a) => a.states.length === 0 && a.postcodes.length === 0)
        .map((a) => ({ region: r.name, country: a.country })),
    );
