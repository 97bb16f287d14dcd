import { z } from 'zod';

/** What the host of a site that only its owner can write lets one paste. */
export const hostOffers = z.object({
  /** A block of code within a page. */
  blocks: z.boolean(),
  /** Code that stands at the foot (or in the head) of every page. */
  foot: z.boolean(),
});
export type HostOffers = z.infer<typeof hostOffers>;

/** What the owner said of such a site, and whether the shop was seen on its own page. */
export interface Pasted {
  readonly offers: HostOffers;
  /** The owner's page that the shop front is pasted into; '' where there is none. */
  readonly shopPage: string;
  /** The shop front was seen there when it was last looked for: shoppers may be led there. */
  readonly stands: boolean;
}

/** Nothing was said yet: most hosts take both. */
export const usualPasted: Pasted = { offers: { blocks: true, foot: true }, shopPage: '', stands: false };

/** Parts of the shop that stand inside the one shop front that was pasted, by what its address says. */
export const frontSteps = ['cart', 'checkout', 'thanks', 'failed', 'lookup', 'account'] as const;
export type FrontStep = (typeof frontSteps)[number];

/** The address of a part of the shop inside the shop front on a page. What the page's own address asks stays. */
export function stepAddress(shopPage: string, part: FrontStep | 'shop'): string {
  if (part === 'shop') return shopPage;
  const url = new URL(shopPage);
  url.searchParams.set('step', part);
  return url.href;
}
