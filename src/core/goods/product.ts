import { z } from 'zod';
import type { Minor } from '../money/minor';

/** A product of the catalogue. Prices in minor units of the shop's currency. */
export interface Product {
  readonly id: string;
  readonly slug: string;
  readonly name: string;
  readonly description: string;
  readonly price: Minor;
  /** The price before, while the product is on offer. */
  readonly was: Minor | null;
  /** The least a buyer may name, where the amount is left to them. */
  readonly openLeast: Minor | null;
  /** Names of the categories it is in, each with those above it: "Baskets / Trugs". */
  readonly categories: readonly string[];
  /** When it came to the goods, in milliseconds since 1970. */
  readonly addedAt: number;
  /** Pieces on hand; null when nobody counts. */
  readonly stock: number | null;
  readonly picture: string | null;
  readonly pictureAlt: string;
}

/** What an owner may write about a product. Money arrives as minor units: the form parses what was typed. */
export const productInput = z.object({
  name: z.string().trim().min(1, 'Give it a name; shoppers search by it.').max(140, 'A name has at most 140 characters.'),
  description: z.string().trim().max(8000, 'A description has at most 8,000 characters.').default(''),
  price: z.number().int('Write the price in whole minor units.').min(0, 'A price is not below nought.').max(Number.MAX_SAFE_INTEGER, 'That price is too large to be kept exactly.'),
  was: z.number().int('Write the price before in whole minor units.').min(1, 'A price before is more than nought; leave it empty where there is none.').max(Number.MAX_SAFE_INTEGER).nullable().default(null),
  openLeast: z.number().int('Write the least amount in whole minor units.').min(0, 'The least amount is not below nought.').max(Number.MAX_SAFE_INTEGER).nullable().default(null),
  categories: z.array(z.string().trim().min(1).max(200)).max(20, 'A product stands in at most 20 categories.').default([]),
  stock: z.number().int('Count whole pieces.').min(0, 'Stock is not below nought.').max(1_000_000).nullable(),
  pictureAlt: z.string().trim().max(300).default(''),
});
/** Whether a product is on offer: its price before is more than its price. */
export const isOnOffer = (p: Pick<Product, 'price' | 'was'>): boolean => p.was !== null && p.was > p.price;

export type ProductInput = z.input<typeof productInput>;

/** "Round log basket" → "round-log-basket"; letters of any script stay, so that other languages have readable addresses. */
export function slugOf(name: string, taken: (slug: string) => boolean): string {
  const base = name.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-+|-+$/g, '').slice(0, 60) || 'product';
  for (let n = 1; ; n++) {
    const slug = n === 1 ? base : `${base}-${n}`;
    if (!taken(slug)) return slug;
  }
}

/** Pieces that are few enough to say so; chosen by hand. */
export const FEW = 3;
