import { inTill, openTill, type Rule } from '../../rule';
import type { Subject } from '../../subject';
import type { DiscountRule } from '../../../till/rules';

/** Why a code can never be used; nothing where it can. */
function whyNever(d: DiscountRule, s: Subject): string | undefined {
  if (d.until && Date.parse(`${d.until}:00Z`) < s.now - 86_400_000)
    return `it ended on ${d.until.slice(0, 10)}`;
  const shown = s.goods.all.filter((p) => p.shows !== 'hidden');
  if (d.scope.to === 'goods' && !d.scope.goods.some((id) => shown.some((p) => p.id === id || p.slug === id)))
    return 'none of the goods it is for is on sale';
  if (
    d.scope.to === 'categories' &&
    !d.scope.categories.some((c) =>
      shown.some((p) => p.categories.some((x) => isWithin(x, s.goods.pathNow(c)))),
    )
  )
    return 'the categories it is for hold nothing';
  if (d.kind === 'percent' && d.percent === 0) return 'it takes 0 per cent off';
  if (d.kind === 'amount' && d.amount === 0) return 'it takes nothing off';
  return undefined;
}

const isWithin = (path: string, of: string): boolean => path === of || path.startsWith(`${of} / `);

export const codeNever: Rule = {
  name: 'code-never',
  about: 'A discount or code that is on, and can never be used.',
  weight: 'away',
  reads: ['till', 'goods'],
  *find(s) {
    for (const d of s.till.rules.discounts) {
      const why = d.active ? whyNever(d, s) : undefined;
      if (!why) continue;
      yield {
        about: d.id,
        place: inTill('Discounts'),
        title: d.code
          ? `The code ${d.code.toUpperCase()} can never be used: ${why}`
          : `“${d.name}” is never given: ${why}`,
        meets: d.code
          ? 'They type the code from your letter and read that it does not hold.'
          : 'Nobody gets it.',
        weight: d.code ? 'away' : 'untidy',
        mends: [
          openTill('discounts', 'Open discounts', 'Give it another end or other goods, or switch it off.'),
        ],
      };
    }
  },
};
