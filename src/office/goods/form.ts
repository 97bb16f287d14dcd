import { readWeight } from '../../core/till/weight';
import type { Release } from '../../core/goods/downloads';
import {
  formOf,
  type Picture,
  type Product,
  type ProductForm,
  productFields,
  productInput,
} from '../../core/goods/product';
import { decimalText, parseMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import { momentOf, typedMoment } from './moment';
import { form as say } from '../words/goods';

/** A choice as it is being written in the grid; all that is typed is text. */
export interface Row {
  readonly id?: string;
  readonly values: readonly string[];
  /** A price of its own. */
  readonly price: string;
  /** "+6", "-14": to the product's price. */
  readonly difference: string;
  readonly sku: string;
  readonly gtin: string;
  /** Empty when stock is not counted. */
  readonly stock: string;
  /** Grams. */
  readonly weight: string;
  readonly picture: string | null;
}

type Kept = Pick<
  ProductForm,
  | 'kind'
  | 'name'
  | 'slug'
  | 'description'
  | 'taxClass'
  | 'shows'
  | 'badge'
  | 'searchWords'
  | 'sections'
  | 'related'
  | 'video'
  | 'film'
  | 'options'
  | 'bundle'
  | 'sample'
>;

/** A product as it is being written: money, counts and dates are what was typed. */
export interface Draft extends Kept {
  readonly price: string;
  readonly was: string;
  readonly cost: string;
  readonly offer: {
    readonly kind: 'amount' | 'percent';
    readonly value: string;
    readonly from: string;
    readonly until: string;
  } | null;
  /** The buyer names the amount; the price is then the least. */
  readonly open: boolean;
  readonly suggestions: string;
  readonly unit: {
    readonly amount: string;
    readonly measure: NonNullable<ProductForm['unit']>['measure'];
  } | null;
  readonly categories: string;
  readonly tags: string;
  readonly texts: readonly {
    readonly label: string;
    readonly most: string;
    readonly required: boolean;
    readonly price: string;
  }[];
  readonly linkPrices: readonly { readonly key: string; readonly name: string; readonly price: string }[];
  readonly pictures: readonly Picture[];
  readonly rows: readonly Row[];
  readonly low: string;
  readonly whenOut: ProductForm['stockRule']['whenOut'];
  readonly expected: string;
  readonly event: {
    readonly start: string;
    readonly end: string;
    readonly place: string;
    readonly address: string;
  } | null;
  readonly linkUrl: string;
  readonly linkSeller: string;
  readonly every: { readonly count: string; readonly unit: 'week' | 'month' | 'year' } | null;
  readonly voucherMonths: string;
  readonly downloads: {
    readonly limit: string;
    readonly days: string;
    readonly releases: readonly Release[];
  };
}
export type Errors = Readonly<Partial<Record<string, string>>>;

export const blankRow: Row = {
  values: [],
  price: '',
  difference: '',
  sku: '',
  gtin: '',
  stock: '',
  weight: '',
  picture: null,
};
const empty: ProductForm = productInput.parse({ name: 'x', price: 0 });

/** @param kind what a new product is taken to be. */
export const draftOf = (p: Product | undefined, currency: string, kind: Draft['kind'] = 'ships'): Draft =>
  draftFrom(p ? formOf(p) : { ...empty, name: '', kind }, currency, !p);

const kindsOf = { ships: 'ships', downloads: 'download', events: 'event', services: 'service' } as const;

/** What a new product is taken to be in a shop that sells these. */
export const firstKind = (sells: readonly (keyof typeof kindsOf)[]): Draft['kind'] =>
  kindsOf[sells[0] ?? 'ships'];

function draftFrom(f: ProductForm, currency: string, isNew: boolean): Draft {
  const money = (v: number | null) => (v === null ? '' : decimalText(v, currency));
  const {
    kind,
    name,
    slug,
    description,
    taxClass,
    shows,
    badge,
    searchWords,
    sections,
    related,
    video,
    film,
    options,
    bundle,
    sample,
  } = f;
  return {
    kind,
    name,
    slug,
    description,
    taxClass,
    shows,
    badge,
    searchWords,
    sections,
    related,
    video,
    film,
    options,
    bundle,
    sample,
    price: isNew ? '' : money(f.price),
    was: money(f.was),
    cost: money(f.cost),
    open: f.openLeast !== null,
    suggestions: f.openSuggestions.map((s) => money(s)).join(' '),
    offer: f.offer && {
      kind: f.offer.kind,
      value: f.offer.kind === 'percent' ? String(f.offer.value) : money(f.offer.value),
      from: typedMoment(f.offer.from),
      until: typedMoment(f.offer.until),
    },
    unit: f.unit && { amount: String(f.unit.amount), measure: f.unit.measure },
    categories: f.categories.join(', '),
    tags: f.tags.join(', '),
    texts: f.texts.map((t) => ({
      label: t.label,
      most: String(t.most),
      required: t.required,
      price: t.price ? money(t.price) : '',
    })),
    linkPrices: f.linkPrices.map((l) => ({ ...l, price: money(l.price) })),
    pictures: f.pictures,
    rows: f.variants.map(
      (v): Row => ({
        ...(v.id && { id: v.id }),
        values: v.values,
        price: money(v.price),
        difference: v.difference === null ? '' : signed(money(v.difference), v.difference),
        sku: v.sku,
        gtin: v.gtin,
        stock: v.stock === null ? '' : String(v.stock),
        weight: v.weight === null ? '' : String(v.weight),
        picture: v.picture,
      }),
    ),
    low: f.stockRule.low === null ? '' : String(f.stockRule.low),
    whenOut: f.stockRule.whenOut,
    expected: f.stockRule.expected ?? '',
    event: f.event && {
      start: typedMoment(f.event.start),
      end: typedMoment(f.event.end),
      place: f.event.place,
      address: f.event.address,
    },
    linkUrl: f.link?.url ?? '',
    linkSeller: f.link?.seller ?? '',
    // What is shown while nothing is set is what is saved: a month.
    every: f.every ? { count: String(f.every.count), unit: f.every.unit } : { count: '1', unit: 'month' },
    voucherMonths: f.voucherMonths === null ? '' : String(f.voucherMonths),
    downloads: {
      limit: f.downloads.limit === null ? '' : String(f.downloads.limit),
      days: f.downloads.days === null ? '' : String(f.downloads.days),
      releases: f.downloads.releases,
    },
  };
}

const signed = (text: string, value: number): string => (value > 0 ? `+${text}` : text);

export interface Patch {
  readonly fields: Readonly<Record<string, unknown>>;
  readonly counts: readonly {
    readonly variantId: string;
    readonly from: number | null;
    readonly to: number | null;
  }[];
}

/** Reads fields, and collects what is wrong by where it is. */
class Reader {
  readonly errors: Record<string, string> = {};
  constructor(readonly currency: string) {}

  fault(at: string, message: string): void {
    this.errors[at] ??= message;
  }
  money(at: string, text: string): Minor | null {
    if (text.trim() === '') return null;
    const read = parseMoney(text, this.currency);
    if (!read.ok) this.fault(at, read.error);
    else if (read.value < 0) this.fault(at, say.aPriceIsNotBelowNought);
    return read.ok ? read.value : null;
  }
  difference(at: string, text: string): number | null {
    const bare = text
      .trim()
      .replace(/^\u2212/, '-')
      .replace(/^\+/, '');
    if (bare === '' || bare === '\u2014') return null;
    const read = parseMoney(bare, this.currency);
    if (!read.ok) this.fault(at, read.error);
    return (read.ok && read.value) || null;
  }
  weight(at: string, text: string): number | null {
    if (text.trim() === '') return null;
    const grams = readWeight(text);
    if (grams === undefined) this.fault(at, say.enterAWeightLike3501);
    return grams ?? null;
  }
  whole(at: string, text: string, says: string): number | null {
    const bare = text.trim();
    if (bare === '') return null;
    if (!/^-?\d{1,9}$/.test(bare)) this.fault(at, says);
    return Number(bare);
  }
}

/** The whole form a draft stands for; every field in error says what to do. */
export function readDraft(d: Draft, currency: string): { form: ProductForm } | { errors: Errors } {
  const r = new Reader(currency);
  const form = {
    ...readHead(r, d),
    ...readPrices(r, d),
    unit: readUnit(r, d.unit),
    texts: readTexts(r, d),
    variants: readRows(r, d),
    stockRule: {
      low: r.whole('low', d.low, say.enterAWholeNumber),
      whenOut: d.whenOut,
      expected: d.whenOut === 'preorder' ? d.expected || null : null,
    },
    ...readKind(r, d),
    downloads: {
      limit: r.whole('downloads', d.downloads.limit, say.enterAWholeNumberOrNothing),
      days: r.whole('downloads', d.downloads.days, say.enterWholeDaysOrNothing),
      releases: d.downloads.releases,
    },
  };
  if (Object.keys(r.errors).length) return { errors: r.errors };
  const parsed = productInput.safeParse(form);
  if (parsed.success) return { form: parsed.data };
  const issue = parsed.error.issues[0];
  return { errors: { [placeOf(issue?.path ?? [])]: issue?.message ?? say.thisCannotBeKept } };
}

const listed = (text: string): string[] =>
  text
    .split(',')
    .map((c) => c.trim())
    .filter(Boolean);

/** What is kept as it stands, and the words a product is found by. */
function readHead(r: Reader, d: Draft) {
  if (!d.name.trim()) r.fault('name', say.giveItANameShoppersSearch);
  const { kind, description, taxClass, shows, badge, searchWords, sections, related, film } = d;
  const { options, bundle, sample, pictures } = d;
  return {
    ...{ kind, description, taxClass, shows, badge, searchWords, sections, related, film },
    ...{ options, bundle, sample, pictures },
    name: d.name.trim(),
    slug: d.slug.trim(),
    video: d.video.trim(),
    categories: listed(d.categories),
    tags: listed(d.tags),
  };
}

function readPrices(r: Reader, d: Draft) {
  const price = r.money('price', d.price);
  const missing =
    d.kind === 'link'
      ? say.enterWhatItCostsThereOr
      : say.writeThePriceInFiguresLike(decimalText(1250, r.currency));
  if (price === null) r.fault('price', missing);
  const was = r.money('was', d.was);
  if (was !== null && price !== null && was <= price) r.fault('was', say.thePriceBeforeIsMoreThan);
  const amounts = d.open ? d.suggestions.split(/[\s;]+/).filter(Boolean) : [];
  return {
    price,
    was,
    cost: r.money('cost', d.cost),
    openLeast: d.open ? price : null,
    openSuggestions: amounts.flatMap((s) => r.money('suggestions', s) ?? []),
    offer: readOffer(r, d.offer),
    linkPrices: readLinkPrices(r, d),
  };
}

function readOffer(r: Reader, offer: Draft['offer']) {
  if (!offer || offer.value.trim() === '') return null;
  return {
    kind: offer.kind,
    value: offer.kind === 'percent' ? percentIn(r, offer.value) : r.money('offer', offer.value),
    from: momentOf(offer.from),
    until: momentOf(offer.until),
  };
}

const readUnit = (r: Reader, unit: Draft['unit']) =>
  unit && unit.amount.trim() !== '' ? { amount: amountIn(r, unit.amount), measure: unit.measure } : null;

const readLinkPrices = (r: Reader, d: Draft) =>
  d.linkPrices.map((l, n) => {
    if (!l.name.trim()) r.fault(`linkPrices-${n}`, say.sayWhomThePriceIsFor);
    const price = r.money(`linkPrices-${n}`, l.price);
    if (price === null) r.fault(`linkPrices-${n}`, say.enterThePriceForThisLink);
    return { key: l.key, name: l.name.trim(), price };
  });

const readTexts = (r: Reader, d: Draft) =>
  d.texts.map((t, n) => ({
    label: t.label.trim(),
    most: r.whole(`texts-${n}`, t.most, say.enterHowManyLettersFit) ?? 40,
    required: t.required,
    price: r.money(`texts-${n}`, t.price) ?? 0,
  }));

const readRows = (r: Reader, d: Draft) =>
  d.rows.map((row, n) => {
    const stock = r.whole(`row-${n}-stock`, row.stock, say.enterAWholeNumberOrLeave);
    return {
      ...(row.id && { id: row.id }),
      values: row.values,
      price: r.money(`row-${n}-price`, row.price),
      difference: r.difference(`row-${n}-difference`, row.difference),
      sku: row.sku,
      gtin: row.gtin,
      // A count below nought is one that was sold on: the ledger has it, the form of a new product does not.
      stock: row.id && stock !== null ? Math.max(0, stock) : stock,
      weight: r.weight(`row-${n}-weight`, row.weight),
      picture: row.picture,
    };
  });

/** What only some kinds of goods have. */
function readKind(r: Reader, d: Draft) {
  const { event, every } = d;
  return {
    event:
      d.kind === 'event' && event?.start
        ? {
            start: momentOf(event.start),
            end: momentOf(event.end),
            place: event.place,
            address: event.address,
          }
        : null,
    link: d.kind === 'link' && d.linkUrl.trim() ? { url: d.linkUrl.trim(), seller: d.linkSeller } : null,
    every:
      d.kind === 'subscription' && every
        ? { count: r.whole('every', every.count, say.enterAWholeNumber) ?? 1, unit: every.unit }
        : null,
    voucherMonths:
      d.kind === 'voucher' ? r.whole('voucherMonths', d.voucherMonths, say.enterWholeMonths) : null,
  };
}

/** Where an error stands in the sheet: "variants.3.gtin" is a cell of the grid. */
const placeOf = (path: readonly PropertyKey[]): string => {
  const [field, n, part] = path;
  if (typeof n !== 'number') return String(field ?? 'name');
  if (field === 'variants') return `row-${n}-${String(part ?? 'stock')}`;
  return field === 'texts' || field === 'linkPrices' ? `${field}-${n}` : String(field ?? 'name');
};

const percentIn = (r: Reader, text: string): number => {
  const value = Number(text.replace(',', '.').replace('%', '').trim());
  if (!(value > 0 && value <= 100)) r.fault('offer', say.enterANumberFrom1To);
  return value;
};
const amountIn = (r: Reader, text: string): number => {
  const value = Number(text.replace(',', '.').trim());
  if (!(value > 0)) r.fault('unit', say.enterHowMuchOnePieceHolds);
  return value;
};

/** What a form changes of a product: fields that differ, and counts as they were seen and written. */
export function patchOf(product: Product, form: ProductForm, rows: readonly Row[]): Patch {
  const before = formOf(product);
  const bare = (f: ProductForm, field: keyof ProductForm): unknown => {
    if (field === 'variants') return f.variants.map(({ stock, ...v }) => (v.id ? v : { ...v, stock }));
    return field === 'slug' && !f.slug ? before.slug : f[field];
  };
  const fields = Object.fromEntries(
    productFields
      .filter((f) => JSON.stringify(sortKeys(bare(before, f))) !== JSON.stringify(sortKeys(bare(form, f))))
      .map((f) => [f, form[f]]),
  );
  const counts = product.variants.flatMap((v) => {
    const row = rows.find((r) => r.id === v.id);
    const to = row?.stock.trim() === '' ? null : Number(row?.stock);
    return row && to !== v.stock ? [{ variantId: v.id, from: v.stock, to }] : [];
  });
  return { fields, counts };
}

function sortKeys(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sortKeys);
  if (!value || typeof value !== 'object') return value;
  const known = Object.entries(value).filter(([, v]) => v !== undefined);
  return Object.fromEntries(known.sort(([a], [b]) => (a < b ? -1 : 1)).map(([k, v]) => [k, sortKeys(v)]));
}

/** Half-filled sheets outlive a reload and a lost connection. The number is the shape of what is kept. */
const keyOf = (slug: string, id: string) => `draft3:${slug}:${id}`;
export const keepDraft = (slug: string, id: string, d: Draft | null): void =>
  d ? localStorage.setItem(keyOf(slug, id), JSON.stringify(d)) : localStorage.removeItem(keyOf(slug, id));
export function keptDraft(slug: string, id: string): Draft | null {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(slug, id)) ?? 'null');
    return kept && typeof kept === 'object' && 'rows' in kept ? (kept as Draft) : null;
  } catch {
    return null;
  }
}
