import type { Product, ProductInput } from '../../core/goods/product';
import { decimalText, parseMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';

/** A product as it is being written: money and counts are what was typed. */
export interface Draft {
  readonly name: string;
  readonly description: string;
  readonly price: string;
  readonly was: string;
  /** "yes" where the buyer names the amount; the price is then the least. */
  readonly open: string;
  readonly categories: string;
  readonly stock: string;
  readonly pictureAlt: string;
}
export type Errors = Partial<Record<keyof Draft, string>>;

export const blank: Draft = { name: '', description: '', price: '', was: '', open: '', categories: '', stock: '', pictureAlt: '' };

export const draftOf = (p: Product, currency: string): Draft => ({
  name: p.name, description: p.description, price: decimalText(p.price, currency), was: p.was === null ? '' : decimalText(p.was, currency), open: p.openLeast === null ? '' : 'yes', categories: p.categories.join(', '), stock: p.stock === null ? '' : String(p.stock), pictureAlt: p.pictureAlt,
});

/** Reads a draft; every field in error says what to do. */
export function readDraft(d: Draft, currency: string): { input: ProductInput & { price: Minor } } | { errors: Errors } {
  const price = parseMoney(d.price, currency);
  const was = d.was.trim() === '' ? null : parseMoney(d.was, currency);
  const stock = d.stock.trim() === '' ? null : Number(d.stock);
  const errors: Errors = {
    ...(!d.name.trim() && { name: 'Give it a name; shoppers search by it.' }),
    ...(!price.ok && { price: price.error }),
    ...(price.ok && price.value < 0 && { price: 'A price is not below nought.' }),
    ...(was && !was.ok && { was: was.error }),
    ...(was?.ok && price.ok && was.value <= price.value && { was: 'The price before is more than the price now; leave it empty where there is none.' }),
    ...(stock !== null && (!Number.isInteger(stock) || stock < 0) && { stock: 'Write whole pieces, or nothing if nobody counts.' }),
  };
  if (!price.ok || Object.keys(errors).length) return { errors };
  const categories = d.categories.split(',').map((c) => c.trim()).filter(Boolean);
  return { input: { name: d.name.trim(), description: d.description, price: price.value, was: was?.ok ? was.value : null, openLeast: d.open ? price.value : null, categories, stock, pictureAlt: d.pictureAlt } };
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
