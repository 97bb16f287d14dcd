import { z } from 'zod';

/** What a buyer may say of a product; what is wrong is told by the name of its sentence in the shopper's words. */
export const reviewInput = z.object({
  rating: z.coerce.number('needStars').int('needStars').min(1, 'needStars').max(5, 'needStars'),
  name: z.string('needReviewName').trim().min(1, 'needReviewName').max(60, 'tooLong'),
  title: z.string().trim().max(100, 'tooLong').default(''),
  text: z.string().trim().max(4000, 'tooLong').default(''),
});
export type ReviewInput = z.output<typeof reviewInput>;

export interface Rating {
  /** Mean of the stars, to one decimal. */
  readonly value: number;
  readonly count: number;
}

/** The mean of some stars; nothing where nobody gave any. @param sum of all stars, 1 to 5 each. */
export const ratingOf = (sum: number, count: number): Rating | null =>
  count === 0 ? null : { value: Math.round((sum / count) * 10) / 10, count };

export const reviewOrders = ['newest', 'best', 'worst'] as const;
export type ReviewOrder = (typeof reviewOrders)[number];

/** "Ada Penhallow" is suggested as "Ada P.": a buyer's whole name is theirs to give. */
export function shortName(name: string): string {
  const [first = '', ...rest] = name.trim().split(/\s+/);
  const last = rest.at(-1);
  return last ? `${first} ${[...last][0]}.` : first;
}
