import MiniSearch from 'minisearch';
import stemmers from 'snowball-stemmers';
import type { Product } from '../../core/goods/product';

/** Languages with known word forms (Snowball algorithms), by the first part of a language tag (ISO 639-1). */
const stemmerOf: Readonly<Record<string, string>> = {
  da: 'danish',
  nl: 'dutch',
  en: 'english',
  fi: 'finnish',
  fr: 'french',
  de: 'german',
  hu: 'hungarian',
  it: 'italian',
  no: 'norwegian',
  nb: 'norwegian',
  pt: 'portuguese',
  ro: 'romanian',
  ru: 'russian',
  es: 'spanish',
  sv: 'swedish',
  tr: 'turkish',
};

interface Entry {
  readonly id: string;
  readonly name: string;
  readonly words: string;
  readonly description: string;
  readonly codes: string;
}

/**
 * Products by what a shopper typed: names count most, beginnings of words and a wrong letter are forgiven, and a word is
 * found in its other forms ("baskets" finds a basket) in the site's language.
 */
export class GoodsIndex {
  readonly #index: MiniSearch<Entry>;
  /** What is still to be taken in or out, by id; nothing for gone. */
  #waiting = new Map<string, Product | undefined>();
  #settling: Promise<void> | undefined;

  constructor(lang: string) {
    const stemmer = stemmerOf[lang.slice(0, 2).toLowerCase()];
    const stem = stemmer ? stemmers.newStemmer(stemmer) : undefined;
    const known = new Map<string, string>();
    const processTerm = (term: string): string => {
      const lower = term.toLowerCase();
      const found = known.get(lower);
      if (found !== undefined) return found;
      const made = bare(stem ? stem.stem(lower) : lower);
      if (known.size > WORDS) known.clear();
      known.set(lower, made);
      return made;
    };
    this.#index = new MiniSearch<Entry>({
      fields: ['name', 'words', 'description', 'codes'],
      processTerm,
      searchOptions: { boost: { name: 4, words: 2, codes: 3 }, combineWith: 'AND' },
    });
  }

  /** Takes in what is new or changed, and drops what is gone: a few at a time, while others are answered. */
  update(changed: readonly Product[], gone: readonly string[]): void {
    for (const id of gone) this.#waiting.set(id, undefined);
    for (const p of changed) this.#waiting.set(p.id, p);
    this.#begin();
  }

  /** One run at a time; what comes while it ends is taken in by the next. Nothing that has ended is kept, or nobody would begin again. */
  #begin(): void {
    if (this.#settling || this.#waiting.size === 0) return;
    const run = this.#settle().finally(() => {
      this.#settling = undefined;
      this.#begin();
    });
    // A failure is met by whoever searches.
    run.catch(() => {});
    this.#settling = run;
  }

  async #settle(): Promise<void> {
    while (this.#waiting.size) {
      const some = [...this.#waiting].slice(0, AT_ONCE);
      for (const [id, p] of some) {
        this.#waiting.delete(id);
        if (this.#index.has(id)) this.#index.discard(id);
        if (p) this.#index.add(entryOf(p));
      }
      await new Promise<void>((soon) => setImmediate(soon));
    }
  }

  /**
   * Ids of products, the best first. The word that is being typed may be begun only; a wrong letter is forgiven where the
   * words as typed find nothing.
   */
  async search(text: string): Promise<string[]> {
    while (this.#settling) await this.#settling;
    const last = (_: string, i: number, terms: readonly string[]) => i === terms.length - 1;
    const hits = this.#index.search(text, {
      prefix: (term, i, terms) => term.length > 1 && last(term, i, terms),
      weights: { fuzzy: 0.3, prefix: 0.6 },
    });
    const found = hits.length
      ? hits
      : this.#index.search(text, {
          prefix: (term) => term.length > 3,
          fuzzy: (term) => (term.length > 3 && /^\p{L}+$/u.test(term) ? 0.25 : false),
        });
    return found.map((hit) => String(hit.id));
  }
}

/** Stems that are remembered, and products taken in between two answers. Chosen by hand. */
const WORDS = 50_000;
const AT_ONCE = 100;

/** Letters without their marks: "Korbchen" finds a Körbchen. */
const bare = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '');

const entryOf = (p: Product): Entry => ({
  id: p.id,
  name: p.name,
  description: `${p.plain} ${p.sections.map((s) => s.title).join(' ')}`,
  words: [
    ...p.categories,
    ...p.tags,
    p.searchWords,
    ...p.options.flatMap((o) => o.values.map((v) => v.name)),
  ].join(' '),
  codes: p.variants
    .flatMap((v) => [v.sku, v.gtin])
    .filter(Boolean)
    .join(' '),
});
