import type { Product } from '../../core/goods/product';
import { decimalText, parseMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';

/** A product as it is being written: money and counts are what was typed. */
export interface Draft {
  readonly name: string;
  readonly description: string;
  readonly price: string;
  readonly stock: string;
  readonly pictureAlt: string;
}
export type Errors = Partial<Record<keyof Draft, string>>;

export const blank: Draft = { name: '', description: '', price: '', stock: '', pictureAlt: '' };

export const draftOf = (p: Product, currency: string): Draft => ({
  name: p.name, description: p.description, price: decimalText(p.price, currency), stock: p.stock === null ? '' : String(p.stock), pictureAlt: p.pictureAlt,
});

/** Reads a draft; every field in error says what to do. */
export function readDraft(d: Draft, currency: string): { input: { name: string; description: string; price: Minor; stock: number | null; pictureAlt: string } } | { errors: Errors } {
  const price = parseMoney(d.price, currency);
  const stock = d.stock.trim() === '' ? null : Number(d.stock);
  const errors: Errors = {
    ...(!d.name.trim() && { name: 'Give it a name; shoppers search by it.' }),
    ...(!price.ok && { price: price.error }),
    ...(price.ok && price.value < 0 && { price: 'A price is not below nought.' }),
    ...(stock !== null && (!Number.isInteger(stock) || stock < 0) && { stock: 'Write whole pieces, or nothing if nobody counts.' }),
  };
  if (!price.ok || Object.keys(errors).length) return { errors };
  return { input: { name: d.name.trim(), description: d.description, price: price.value, stock, pictureAlt: d.pictureAlt } };
}

/** Half-filled sheets outlive a reload and a lost connection. */
const keyOf = (slug: string, id: string) => `draft:${slug}:${id}`;
export const keepDraft = (slug: string, id: string, d: Draft | null): void =>
  d ? localStorage.setItem(keyOf(slug, id), JSON.stringify(d)) : localStorage.removeItem(keyOf(slug, id));
export function keptDraft(slug: string, id: string): Draft | null {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(slug, id)) ?? 'null');
    return kept && typeof kept === 'object' ? { ...blank, ...(kept as Partial<Draft>) } : null;
  } catch {
    return null;
  }
}
