import type { Found } from '../../finding';
import { inTill, list, openTill, type Rule } from '../../rule';
import type { Subject } from '../../subject';

export const classWithoutRate: Rule = {
  name: 'class-without-rate',
  about: 'Tax is charged, and a class of goods has no rate of its own at home.',
  weight: 'two',
  reads: ['till', 'goods'],
  *find(s) {
    const { tax } = s.till.rules;
    if (!tax.charged || !s.sells) return;
    const home = tax.rates.filter(
      (r) => r.country === tax.home.country && (!r.state || r.state === tax.home.state),
    );
    if (home.length === 0) {
      yield noRateAtHome(s);
      return;
    }
    const used = classesUsed(s);
    for (const [name, products] of used)
      if (name !== 'standard' && !home.some((r) => r.class === name))
        yield {
          about: name,
          place: inTill('Tax'),
          title: `The class “${name}” has no rate; the standard one is charged`,
          meets: `${list(products)} ${products.length === 1 ? 'is' : 'are'} taxed higher than you meant.`,
          mends: [openTill('tax', 'Open tax', `Enter the rate of “${name}”.`)],
        };
  },
};

/** Classes of what is shown, each with the names of its goods; what is free of tax needs no rate. */
function classesUsed(s: Subject): Map<string, string[]> {
  const used = new Map<string, string[]>();
  for (const p of s.goods.shown)
    if (p.taxClass !== 'zero') used.set(p.taxClass, [...(used.get(p.taxClass) ?? []), p.name]);
  return used;
}

const noRateAtHome = (s: Subject): Found => ({
  about: 'home',
  place: inTill('Tax'),
  title: s.till.rules.tax.home.country
    ? `Tax is charged, and ${s.till.countryName(s.till.rules.tax.home.country)} has no rate`
    : 'Tax is charged, and nobody said where',
  meets: 'Prices and invoices hold no tax at all.',
  mends: [openTill('tax', 'Open tax', 'Enter the rates of your country.')],
});
