import iconv from 'iconv-lite';
import Papa from 'papaparse';
import { unzipSync, zipSync } from 'fflate';
import {
  csvColumns,
  type CsvProduct,
  defused,
  groupRows,
  guessMapping,
  readRows,
  type Row,
  toRows,
  undefused,
} from '../../core/goods/csv';
import { formOf, type Product, type ProductForm, type VariantInput } from '../../core/goods/product';
import type { Ctx } from '../context';
import { BeyondLimit, invalid, isRefusal } from '../errors';
import { limits, limitText } from '../../core/limits';
import type { Site } from '../sites/site';
import type { GoodsChange } from '../../data/schema/goods';
import { catalogueOf, productIn } from './catalogue';
import { moveStock, record, rowOf, type Writing, writeForm, writing, changesBetween } from './changes';
import { insertProducts, listGoods, parseProduct } from './goods';
import { takePicture } from './pictures';
import { readTill } from '../rules/rules';
import { newId } from '../ids';

/** All goods as CSV (RFC 4180: commas, CRLF, quotes doubled; UTF-8 with its mark, so that spreadsheet programs know it). */
export async function goodsCsv(ctx: Ctx, site: Site): Promise<string> {
  const rows = (await listGoods(ctx, site.row.id)).flatMap((p) =>
    toRows(p, site.row.currency, (hash) => `${hash.slice(0, 16)}.webp`),
  );
  const columns = csvColumns.map((c) => c.key);
  return `\uFEFF${Papa.unparse({ fields: columns, data: rows.map((r) => columns.map((c) => defused(r[c] ?? ''))) }, { newline: '\r\n' })}\r\n`;
}

/** The table with its pictures beside it. */
export async function goodsZip(ctx: Ctx, site: Site): Promise<Uint8Array> {
  const files: Record<string, Uint8Array> = {
    'goods.csv': new TextEncoder().encode(await goodsCsv(ctx, site)),
  };
  for (const p of await listGoods(ctx, site.row.id))
    for (const { hash } of p.pictures)
      files[`pictures/${hash.slice(0, 16)}.webp`] ??= await ctx.blobs.get(hash);
  return zipSync(files, { level: 0 });
}

export interface CsvTable {
  readonly heads: readonly string[];
  readonly mapping: readonly (string | null)[];
  readonly rows: readonly (readonly string[])[];
  readonly pictures: ReadonlyMap<string, Uint8Array>;
}

/** Reads a CSV file, or a ZIP with one and pictures: whatever separates its cells, UTF-8, UTF-16 or Windows-1252. */
export function readTable(bytes: Buffer): CsvTable {
  if (bytes.length > limits.table.most)
    throw new BeyondLimit('table', `The file is larger than ${limitText('table')}. Split it in two.`);
  const zipped = bytes[0] === 0x50 && bytes[1] === 0x4b;
  const files = zipped ? unzip(bytes) : undefined;
  const table = files ? Object.entries(files).find(([name]) => /\.csv$/i.test(name))?.[1] : bytes;
  if (!table) throw invalid('The ZIP holds no .csv file.');
  const parsed = Papa.parse<string[]>(textOf(Buffer.from(table)), { skipEmptyLines: 'greedy' });
  const bad = parsed.errors.find((e) => e.type === 'Quotes');
  if (bad)
    throw invalid(
      `Line ${(bad.row ?? 0) + 1}: a quotation mark is not closed. Open the file in a spreadsheet program and save it as CSV again.`,
    );
  const [heads, ...rows] = parsed.data;
  if (!heads || rows.length === 0)
    throw invalid(
      'The file has no rows. The first line names the columns, each further line is a product or a choice of one.',
    );
  if (rows.length > limits.tableRows.most)
    throw new BeyondLimit(
      'tableRows',
      `At most ${limitText('tableRows')} are taken in at once; this has ${rows.length.toLocaleString('en')}.`,
    );
  const pictures = new Map(
    Object.entries(files ?? {})
      .filter(([name]) => /\.(webp|jpe?g|png|gif|avif|svg)$/i.test(name))
      .map(([name, b]) => [name.split('/').pop() ?? name, b]),
  );
  return { heads, mapping: guessMapping(heads), rows, pictures };
}

const tooMuch = `Unpacked, this ZIP is larger than ${limitText('tableUnpacked')}. Pack the table with fewer pictures.`;

function unzip(bytes: Buffer): Record<string, Uint8Array> {
  let size = 0;
  try {
    return unzipSync(bytes, {
      filter: (f) => {
        size += f.originalSize;
        if (size > limits.tableUnpacked.most) throw new BeyondLimit('tableUnpacked', tooMuch);
        return true;
      },
    });
  } catch (error) {
    if (error instanceof BeyondLimit) throw error;
    throw invalid('This ZIP cannot be read. Pack it again: one .csv file, and the pictures.');
  }
}

/** Marks first (WHATWG Encoding); without one UTF-8 where it is valid, else what spreadsheet programs of Windows write. */
function textOf(bytes: Buffer): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return iconv.decode(bytes, 'utf-16le');
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return iconv.decode(bytes, 'utf-16be');
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return iconv.decode(bytes, 'windows-1252');
  }
}

/** What becomes of the rows of one product. */
export interface CsvFate {
  readonly lines: readonly number[];
  readonly name: string;
  readonly fate: 'new' | 'changed' | 'same' | 'refused';
  /** Fields that change, or why it is refused. */
  readonly what: string;
}
export interface CsvReport {
  readonly heads: readonly string[];
  readonly mapping: readonly (string | null)[];
  readonly columns: readonly string[];
  readonly counts: Readonly<Record<CsvFate['fate'], number>>;
  /** Refused ones first, then new and changed; the rest is told as numbers. */
  readonly fates: readonly CsvFate[];
}

const FATES = 200;

/** What a table would do, row by row; nothing is written. @param mapping the owner's word on what each column is. */
export async function tryTable(
  ctx: Ctx,
  site: Site,
  table: CsvTable,
  mapping = table.mapping,
): Promise<CsvReport> {
  const fates = (await planTable(ctx, site, table, mapping)).map((p) => p.fate);
  const counts = { new: 0, changed: 0, same: 0, refused: 0 };
  for (const f of fates) counts[f.fate]++;
  const order = { refused: 0, new: 1, changed: 2, same: 3 };
  return {
    heads: table.heads,
    mapping,
    columns: csvColumns.map((c) => c.key),
    counts,
    fates: [...fates].sort((a, b) => order[a.fate] - order[b.fate]).slice(0, FATES),
  };
}

interface Plan {
  readonly fate: CsvFate;
  readonly before?: Product;
  readonly after?: ProductForm;
  readonly counts?: readonly {
    readonly variantId: string;
    readonly from: number | null;
    readonly to: number | null;
  }[];
  readonly pictures?: CsvProduct['pictures'];
}

/** A row by the names of its columns. */
const cellsByName = (cells: readonly string[], mapping: readonly (string | null)[]): Row =>
  Object.fromEntries(mapping.flatMap((key, n) => (key ? [[key, undefused(cells[n] ?? '')]] : [])));

async function planTable(
  ctx: Ctx,
  site: Site,
  table: CsvTable,
  mapping: readonly (string | null)[],
): Promise<Plan[]> {
  const rows = table.rows.map((cells) => cellsByName(cells, mapping));
  const [goods, till] = await Promise.all([listGoods(ctx, site.row.id), readTill(ctx.store.db, site.row.id)]);
  const { bySlug } = await catalogueOf(ctx, site.row.id);
  const byId = new Map(goods.map((p) => [p.id, p]));
  const bySku = new Map(
    goods.flatMap((p) => p.variants.flatMap((v) => (v.sku ? [[v.sku, p] as const] : []))),
  );
  const knownAs = (read: CsvProduct): Product | undefined => {
    const found = read.address ? bySlug.get(read.address) : bySku.get(read.variants[0]?.sku ?? '');
    return found && byId.get(found.id);
  };
  const met = new Set<string>();
  return groupRows(rows).map((group) => {
    const read = readRows(group, site.row.currency, till.rules.zone);
    const name = (group.rows[0]?.name ?? group.rows[0]?.address ?? '').trim();
    const refused = (what: string): Plan => ({ fate: { lines: group.lines, name, fate: 'refused', what } });
    if ('fault' in read) return refused(read.fault);
    const before = knownAs(read);
    const key = before?.id ?? (read.address || name);
    if (met.has(key)) return refused('This product stands in the table twice. Put its rows together.');
    met.add(key);
    try {
      return planOne(read, before, table, name);
    } catch (error) {
      if (isRefusal(error)) return refused(error.message);
      throw error;
    }
  });
}

const keyOf = (v: { readonly values: readonly string[] }): string => JSON.stringify(v.values);

const usualVariant: VariantInput = {
  values: [],
  price: null,
  difference: null,
  sku: '',
  gtin: '',
  stock: null,
  weight: null,
  picture: null,
};

/** Pictures that a row names: those the product has, whether new ones come, and one that is nowhere. */
function picturesOf(read: CsvProduct, before: Product | undefined, table: CsvTable) {
  const keptAs = (file: string) => before?.pictures.find((x) => file.startsWith(x.hash.slice(0, 16)));
  const named = (read.pictures ?? []).map((p) => ({ ...p, kept: keptAs(p.file) }));
  const strange = named.filter((p) => !p.kept);
  return {
    missing: strange.find((p) => !table.pictures.has(p.file)),
    fresh: strange.some((p) => table.pictures.has(p.file)),
    pictures:
      read.pictures && named.flatMap((p) => (p.kept ? [{ ...p.kept, alt: p.alt ?? p.kept.alt }] : [])),
  };
}

function planOne(read: CsvProduct, before: Product | undefined, table: CsvTable, name: string): Plan {
  const { missing, fresh, pictures } = picturesOf(read, before, table);
  const options = optionsOf(read, before);
  const after = parseProduct({
    ...(before ? formOf(before) : {}),
    ...read.form,
    ...(options && { options }),
    variants: variantsOf(read, before),
    ...(pictures && { pictures }),
    ...(before ? {} : { slug: read.address }),
  });
  const counts = before ? countsOf(read, before) : [];
  const fields = before ? changesBetween(before.id, formOf(before), after).map((c) => c.field) : [];
  const changes = [
    ...fields,
    ...(counts.length ? ['stock'] : []),
    ...(fresh && !fields.includes('pictures') ? ['pictures'] : []),
  ].join(', ');
  const what = changes + (missing ? `; the picture ${missing.file} is not in the ZIP and is left out` : '');
  const changed = what ? 'changed' : 'same';
  return {
    fate: { lines: read.lines, name: name || before?.name || '', fate: before ? changed : 'new', what },
    after,
    counts,
    ...(before && { before }),
    ...(read.pictures && { pictures: read.pictures }),
  };
}

/** Options as the table has them; what only the sheet knows of a value (its colour) stays. */
const optionsOf = (read: CsvProduct, before: Product | undefined) =>
  read.form.options?.map((o) => {
    const was = before?.options.find((x) => x.name === o.name);
    return was ? { ...was, values: o.values.map((v) => was.values.find((x) => x.name === v.name) ?? v) } : o;
  });

/** Variants as the table has them, each over what was known of it. Counts go by the ledger, not by the form. */
function variantsOf(read: CsvProduct, before: Product | undefined): object[] {
  const known = new Map(before?.variants.map((v) => [keyOf(v), v]));
  const rows = read.variants.map((v) => {
    const was = known.get(keyOf(v));
    return { ...(was ?? usualVariant), ...v, ...(was && { stock: was.stock }) };
  });
  if (read.form.options || !before) return rows;
  // A table without options speaks of the variants that there are.
  return before.variants.map((v) => {
    const row = rows.find((x) => keyOf(x) === keyOf(v));
    if (row || before.variants.length > 1) return row ?? v;
    return { ...rows[0], id: v.id, stock: v.stock };
  });
}

function countsOf(read: CsvProduct, before: Product): NonNullable<Plan['counts']> {
  const only = before.variants.length === 1 ? read.variants[0] : undefined;
  return before.variants.flatMap((v) => {
    const row = read.variants.find((x) => keyOf(x) === keyOf(v)) ?? only;
    return row && 'stock' in row && row.stock !== v.stock
      ? [{ variantId: v.id, from: v.stock, to: row.stock ?? null }]
      : [];
  });
}

/** Takes a table in: all of it or none, one line on the slip, one undo. A single row that is refused stops it, unless the owner leaves those out. */
export async function takeTable(
  ctx: Ctx,
  site: Site,
  table: CsvTable,
  mapping: readonly (string | null)[],
  leaveOut: boolean,
  by: string,
): Promise<CsvReport['counts']> {
  const plans = await planTable(ctx, site, table, mapping);
  const refused = plans.filter((p) => p.fate.fate === 'refused');
  if (refused.length && !leaveOut)
    throw invalid(
      `${refused.length === 1 ? 'One product is' : `${refused.length} products are`} refused, so nothing was taken in. Mend ${refused.length === 1 ? 'it' : 'them'} in the table, or leave ${refused.length === 1 ? 'it' : 'them'} out.`,
    );
  const hashes = new Map<string, string>();
  for (const file of new Set(plans.flatMap((p) => p.pictures?.map((x) => x.file) ?? []))) {
    const bytes = table.pictures.get(file);
    if (bytes) hashes.set(file, await takePicture(ctx, Buffer.from(bytes)));
  }
  const counts = { new: 0, changed: 0, same: 0, refused: refused.length };
  await ctx.store.write(async (tx) => {
    const w = await writing(ctx, tx, site, by);
    const { bySlug } = await catalogueOf(ctx, site.row.id);
    const taken = new Set(bySlug.keys());
    const changes: GoodsChange[] = [];
    for (const p of plans) if (p.fate.fate !== 'refused') counts[p.fate.fate]++;
    const fresh = await insertProducts(
      w,
      plans.flatMap((p) => (p.after && p.fate.fate === 'new' ? [withPictures(p, hashes)] : [])),
      taken,
    );
    changes.push(...fresh.map((goodsId): GoodsChange => ({ goodsId, field: 'added', from: null, to: null })));
    for (const p of plans)
      if (p.before && p.after && p.fate.fate === 'changed')
        changes.push(...(await takeOne(w, p, p.before, withPictures(p, hashes))));
    if (changes.length)
      await record(w, { act: `A table: ${counts.new} new, ${counts.changed} changed`, changes });
  });
  ctx.changed(site.row.id);
  return counts;
}

function withPictures(p: Plan, hashes: ReadonlyMap<string, string>): ProductForm {
  const after = p.after as ProductForm;
  if (!p.pictures) return after;
  const pictures = p.pictures.flatMap(({ file, alt }) => {
    const kept = after.pictures.find((x) => file.startsWith(x.hash.slice(0, 16)));
    if (kept) return [kept];
    const hash = hashes.get(file);
    return hash ? [{ hash, alt, x: 0.5, y: 0.5 }] : [];
  });
  return { ...after, pictures };
}

async function takeOne(w: Writing, p: Plan, known: Product, after: ProductForm): Promise<GoodsChange[]> {
  const before = await productIn(w.tx, w.site.row.id, await rowOf(w, known.id));
  const form = {
    ...after,
    slug: before.slug,
    variants: after.variants.map((v) => ({ ...v, id: v.id ?? newId() })),
  };
  const changes = changesBetween(before.id, formOf(before), form);
  if (changes.length) await writeForm(w, before.id, before, form);
  for (const c of p.counts ?? []) {
    const moved = await moveStock(w, before.id, c.variantId, c.from, c.to, 'counted');
    if (moved) changes.push(moved);
  }
  return changes;
}
