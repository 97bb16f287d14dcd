import { taxClasses, visibilities } from './choices';
import { decimalText, parseMoney } from '../money/format';
import type { Minor } from '../money/minor';
import { type GoodsKindId, goodsKindIds } from './kinds';
import { momentIn } from './moment';
import type { Product, ProductForm, VariantInput } from './product';

/**
 * Goods as rows of a table, one row to each choice: the first row of a product has all of it, further rows of the same
 * address only their choice. A cell that is empty in a further row means "as above"; a column that is not in the table
 * leaves what is there alone. Money is decimal text with a point, weights are grams, lists have " | " between.
 */
export type Row = Readonly<Record<string, string>>;

interface Column {
  readonly key: string;
  /** Heads it is known by, beside its own, in small letters; as spreadsheets and people name them. */
  readonly also: readonly string[];
  readonly of: 'product' | 'variant';
}

export const csvColumns: readonly Column[] = [
  { key: 'address', also: ['slug', 'handle', 'url'], of: 'product' },
  { key: 'name', also: ['title', 'product', 'product name', 'bezeichnung', 'nom'], of: 'product' },
  { key: 'kind', also: ['type', 'art'], of: 'product' },
  { key: 'shown', also: ['visibility', 'status'], of: 'product' },
  { key: 'description', also: ['text', 'beschreibung'], of: 'product' },
  { key: 'price', also: ['preis', 'prix', 'amount'], of: 'product' },
  { key: 'price before', also: ['was', 'compare price', 'regular price'], of: 'product' },
  { key: 'cost', also: ['cost price', 'kosten'], of: 'product' },
  { key: 'tax class', also: ['tax'], of: 'product' },
  { key: 'categories', also: ['category', 'kategorie'], of: 'product' },
  { key: 'tags', also: ['tag'], of: 'product' },
  { key: 'badge', also: ['label'], of: 'product' },
  { key: 'search words', also: ['keywords'], of: 'product' },
  { key: 'holds', also: ['unit amount', 'content'], of: 'product' },
  { key: 'unit', also: ['measure'], of: 'product' },
  { key: 'pictures', also: ['picture', 'image', 'images', 'bild'], of: 'product' },
  { key: 'picture texts', also: ['alt', 'alt text'], of: 'product' },
  { key: 'film', also: ['video'], of: 'product' },
  { key: 'at nought', also: ['when out'], of: 'product' },
  { key: 'expected', also: [], of: 'product' },
  { key: 'few', also: ['low stock'], of: 'product' },
  { key: 'starts', also: ['start', 'date', 'begins', 'beginn', 'datum'], of: 'product' },
  { key: 'ends', also: ['end', 'until', 'ende'], of: 'product' },
  { key: 'place', also: ['venue', 'location', 'ort'], of: 'product' },
  { key: 'place address', also: ['venue address'], of: 'product' },
  { key: 'every', also: ['interval', 'charged every'], of: 'product' },
  { key: 'sold at', also: ['seller url', 'external url'], of: 'product' },
  { key: 'sold by', also: ['seller'], of: 'product' },
  { key: 'least amount', also: ['minimum amount'], of: 'product' },
  { key: 'voucher months', also: ['valid for months'], of: 'product' },
  { key: 'option 1', also: ['option1 name'], of: 'product' },
  { key: 'option 2', also: ['option2 name'], of: 'product' },
  { key: 'option 3', also: ['option3 name'], of: 'product' },
  { key: 'value 1', also: ['option1 value', 'size'], of: 'variant' },
  { key: 'value 2', also: ['option2 value', 'colour', 'color'], of: 'variant' },
  { key: 'value 3', also: ['option3 value'], of: 'variant' },
  { key: 'difference', also: [], of: 'variant' },
  { key: 'own price', also: ['variant price'], of: 'variant' },
  { key: 'sku', also: ['article number', 'artikelnummer', 'code'], of: 'variant' },
  { key: 'gtin', also: ['ean', 'isbn', 'upc', 'barcode'], of: 'variant' },
  { key: 'stock', also: ['quantity', 'inventory', 'bestand', 'pieces'], of: 'variant' },
  { key: 'grams', also: ['weight', 'gewicht'], of: 'variant' },
];

/** Which column each head of a table stands for; nothing where it stands for none. */
export function guessMapping(heads: readonly string[]): (string | null)[] {
  const taken = new Set<string>();
  return heads.map((head) => {
    const bare = head.trim().toLowerCase().replace(/[_-]+/g, ' ').replace(/\s+/g, ' ');
    const found = csvColumns.find((c) => !taken.has(c.key) && (c.key === bare || c.also.includes(bare)));
    if (found) taken.add(found.key);
    return found?.key ?? null;
  });
}

const LIST = ' | ';
const unlist = (text: string): string[] =>
  text
    .split('|')
    .map((t) => t.trim())
    .filter(Boolean);
const inside = { refuse: 'sold out', 'sell-on': 'sell on', preorder: 'order ahead' } as const;

/** A product as rows, every column of them. Pictures are told by file names, which the ZIP beside has. */
export function toRows(p: Product, currency: string, fileOf: (hash: string) => string): Row[] {
  const money = (v: number | null) => (v === null ? '' : decimalText(v, currency));
  const product: Row = {
    address: p.slug,
    name: p.name,
    kind: p.kind,
    shown: p.shows,
    description: p.description,
    price: money(p.price),
    'price before': money(p.was),
    cost: money(p.cost),
    'tax class': p.taxClass,
    categories: p.categories.join(LIST),
    tags: p.tags.join(LIST),
    badge: p.badge,
    'search words': p.searchWords,
    holds: p.unit ? String(p.unit.amount) : '',
    unit: p.unit?.measure ?? '',
    pictures: p.pictures.map((x) => fileOf(x.hash)).join(LIST),
    'picture texts': p.pictures
      .map((x) => x.alt)
      .join(LIST)
      .replace(/^( \| )+$/, ''),
    film: p.video,
    'at nought': inside[p.stockRule.whenOut],
    expected: p.stockRule.expected ?? '',
    few: p.stockRule.low === null ? '' : String(p.stockRule.low),
    starts: p.event?.start ?? '',
    ends: p.event?.end ?? '',
    place: p.event?.place ?? '',
    'place address': p.event?.address ?? '',
    every: p.every ? `${p.every.count} ${p.every.unit}` : '',
    'sold at': p.link?.url ?? '',
    'sold by': p.link?.seller ?? '',
    'least amount': money(p.openLeast),
    'voucher months': p.voucherMonths === null ? '' : String(p.voucherMonths),
    ...Object.fromEntries([0, 1, 2].map((n) => [`option ${n + 1}`, p.options[n]?.name ?? ''])),
  };
  return p.variants.map((v, n) => ({
    ...(n === 0 ? product : { address: p.slug }),
    ...Object.fromEntries([0, 1, 2].map((i) => [`value ${i + 1}`, v.values[i] ?? ''])),
    difference: money(v.difference),
    'own price': money(v.price),
    sku: v.sku,
    gtin: v.gtin,
    stock: v.stock === null ? '' : String(v.stock),
    grams: v.weight === null ? '' : String(v.weight),
  }));
}

/** What one product's rows say, over what is there: fields that the table has, and counts by the choice they are for. */
export interface CsvProduct {
  /** Lines of the file, the head being 1. */
  readonly lines: readonly number[];
  readonly address: string;
  readonly form: Partial<ProductForm>;
  readonly variants: readonly (Partial<VariantInput> & { readonly values: string[] })[];
  readonly pictures: readonly { readonly file: string; readonly alt: string }[] | null;
}
export type CsvFault = { readonly lines: readonly number[]; readonly fault: string };

/** Rows of a table that belong to one product: they share an address, or follow the row that has a name. */
export function groupRows(
  rows: readonly Row[],
): { readonly rows: readonly Row[]; readonly lines: readonly number[] }[] {
  const out: { rows: Row[]; lines: number[]; address: string }[] = [];
  for (const [n, row] of rows.entries()) {
    const address = (row.address ?? '').trim();
    const last = out.at(-1);
    const more = last && ((address && address === last.address) || (!address && !(row.name ?? '').trim()));
    if (more) {
      last.rows.push(row);
      last.lines.push(n + 2);
    } else out.push({ rows: [row], lines: [n + 2], address });
  }
  return out.map(({ rows: r, lines }) => ({ rows: r, lines }));
}

/**
 * Reads the rows of one product. @param zone IANA name of the time zone that dates without an offset are meant in.
 * @returns a fault in words, with the lines it is in.
 */
export function readRows(
  { rows, lines }: { readonly rows: readonly Row[]; readonly lines: readonly number[] },
  currency: string,
  zone = 'UTC',
): CsvProduct | CsvFault {
  const first = rows[0] ?? {};
  const faults: string[] = [];
  const has = (key: string) => first[key] !== undefined;
  const cell = (key: string, row: Row = first) => (row[key] ?? '').trim();
  const money = (key: string, row: Row = first): Minor | null => {
    if (cell(key, row) === '') return null;
    const negative = cell(key, row).startsWith('-');
    const read = parseMoney(cell(key, row), currency);
    if (!read.ok || (negative && key !== 'difference'))
      faults.push(`${key} \u201c${cell(key, row)}\u201d is no amount`);
    return read.ok ? read.value : null;
  };
  const whole = (key: string, row: Row = first): number | null => {
    if (cell(key, row) === '') return null;
    const n = Number(cell(key, row));
    if (!Number.isInteger(n)) faults.push(`${key} \u201c${cell(key, row)}\u201d is no whole number`);
    return Number.isInteger(n) ? n : null;
  };
  const oneOf = <T extends string>(key: string, known: readonly T[], usual: T): T => {
    const text = cell(key).toLowerCase();
    if (text === '') return usual;
    const found = known.find((k) => k === text);
    if (!found) faults.push(`${key} \u201c${cell(key)}\u201d is none of ${known.join(', ')}`);
    return found ?? usual;
  };
  const moment = (key: string): string | null => {
    if (cell(key) === '') return null;
    const read = momentIn(cell(key), zone);
    if (!read) faults.push(`${key} \u201c${cell(key)}\u201d is no date and time like 2026-12-12 10:00`);
    return read ?? null;
  };
  const interval = (key: string): ProductForm['every'] => {
    if (cell(key) === '') return null;
    const [, count = '1', unit] = /^(\d{1,2})?\s*(week|month|year)s?$/i.exec(cell(key)) ?? [];
    if (!unit) faults.push(`${key} \u201c${cell(key)}\u201d is no interval like 1 month`);
    return { count: Number(count), unit: (unit?.toLowerCase() ?? 'month') as 'week' | 'month' | 'year' };
  };
  const form: Record<string, unknown> = {};
  const put = (field: keyof ProductForm, key: string, value: () => unknown) => {
    if (has(key)) form[field] = value();
  };
  put('name', 'name', () => cell('name'));
  put('kind', 'kind', () => oneOf<GoodsKindId>('kind', goodsKindIds, 'ships'));
  put('shows', 'shown', () => oneOf('shown', visibilities, 'shown'));
  put('description', 'description', () => cell('description'));
  if (has('price') && cell('price') !== '') form.price = money('price');
  put('was', 'price before', () => money('price before'));
  put('cost', 'cost', () => money('cost'));
  put('taxClass', 'tax class', () => oneOf('tax class', taxClasses, 'standard'));
  put('categories', 'categories', () => unlist(cell('categories')));
  put('tags', 'tags', () => unlist(cell('tags')));
  put('badge', 'badge', () => cell('badge'));
  put('searchWords', 'search words', () => cell('search words'));
  put('unit', 'holds', () =>
    cell('holds') ? { amount: Number(cell('holds').replace(',', '.')), measure: cell('unit') || 'kg' } : null,
  );
  put('video', 'film', () => cell('film'));
  put('event', 'starts', () => {
    const start = moment('starts');
    return start && { start, end: moment('ends'), place: cell('place'), address: cell('place address') };
  });
  put('every', 'every', () => interval('every'));
  put('link', 'sold at', () => (cell('sold at') ? { url: cell('sold at'), seller: cell('sold by') } : null));
  put('openLeast', 'least amount', () => money('least amount'));
  put('voucherMonths', 'voucher months', () => whole('voucher months'));
  if (has('at nought') || has('few')) {
    const [whenOut] = Object.entries(inside).find(
      ([, words]) => words === cell('at nought').toLowerCase(),
    ) ?? ['refuse'];
    form.stockRule = { whenOut, expected: cell('expected') || null, low: whole('few') };
  }
  const names = [1, 2, 3].map((n) => cell(`option ${n}`)).filter(Boolean);
  const valued = rows.map((r) => [1, 2, 3].slice(0, names.length).map((n) => cell(`value ${n}`, r)));
  if (has('option 1'))
    form.options = names.map((name, i) => ({
      name,
      as: 'list',
      values: [...new Set(valued.map((v) => v[i]).filter(Boolean))].map((value) => ({
        name: value,
        colour: '',
      })),
    }));
  const variants = rows.map((row, n) => ({
    values: (valued[n] ?? []) as string[],
    ...(row.difference !== undefined && { difference: money('difference', row) || null }),
    ...(row['own price'] !== undefined && { price: money('own price', row) }),
    ...(row.sku !== undefined && { sku: cell('sku', row) }),
    ...(row.gtin !== undefined && { gtin: cell('gtin', row) }),
    ...(row.stock !== undefined && { stock: whole('stock', row) }),
    ...(row.grams !== undefined && { weight: whole('grams', row) }),
  }));
  if (names.length === 0 && rows.length > 1) faults.push('several rows, but no option that tells them apart');
  if (valued.some((v) => v.some((x) => !x))) faults.push('a row without a value for each option');
  const files = has('pictures') ? unlist(cell('pictures')) : null;
  const alts = cell('picture texts')
    .split('|')
    .map((t) => t.trim());
  if (faults.length) return { lines, fault: `${faults.join('; ')}.` };
  return {
    lines,
    address: cell('address'),
    form: form as Partial<ProductForm>,
    variants,
    pictures: files?.map((file, n) => ({ file, alt: alts[n] ?? '' })) ?? null,
  };
}

/**
 * A cell that a spreadsheet program would take for a formula gets an apostrophe before it, and loses it when it is read:
 * OWASP, "CSV Injection". Plain negative numbers stay as they are.
 */
export const defused = (cell: string): string =>
  /^[=+@\t\r]|^-(?!\d+([.,]\d+)?$)|^'[=+@\t\r'-]/.test(cell) ? `'${cell}` : cell;
export const undefused = (cell: string): string => (/^'(?=[=+@\t\r'-])/.test(cell) ? cell.slice(1) : cell);
