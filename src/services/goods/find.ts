import MiniSearch from 'minisearch';
import stemmers from 'snowball-stemmers';
import type { Product } from '../../core/goods/product';

/** Languages with known word forms (Snowball algorithms), by the first part of a language tag (ISO 639-1). */
const stemmerOf: Readonly<Record<string, string>> = { da: 'danish', nl: 'dutch', en: 'english', fi: 'finnish', fr: 'french', de: 'german', hu: 'hungarian', it: 'italian', no: 'norwegian', nb: 'norwegian', pt: 'portuguese', ro: 'romanian', ru: 'russian', es: 'spanish', sv: 'swedish', tr: 'turkish' };

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

  constructor(lang: string) {
    const stemmer = stemmerOf[lang.slice(0, 2).toLowerCase()];
    const stem = stemmer ? stemmers.newStemmer(stemmer) : undefined;
    const processTerm = (term: string): string => bare(stem ? stem.stem(term.toLowerCase()) : term.toLowerCase());
    this.#index = new MiniSearch<Entry>({
      fields: ['name', 'words', 'description', 'codes'], processTerm,
      searchOptions: { boost: { name: 4, words: 2, codes: 3 }, combineWith: 'AND' },
    });
  }

  /** Takes in what is new or changed, and drops what is gone. */
  update(changed: readonly Product[], gone: readonly string[]): void {
    for (const id of gone) if (this.#index.has(id)) this.#index.discard(id);
    for (const p of changed) {
      if (this.#index.has(p.id)) this.#index.replace(entryOf(p));
      else this.#index.add(entryOf(p));
    }
  }

  /** Ids of products, the best first. A wrong letter is forgiven only where the words as typed find nothing: then it is one. */
  search(text: string): string[] {
    const hits = this.#index.search(text, { prefix: (term) => term.length > 1, weights: { fuzzy: 0.3, prefix: 0.6 } });
    const found = hits.length ? hits : this.#index.search(text, { prefix: (term) => term.length > 3, fuzzy: (term) => (term.length > 3 && /\p{L}/u.test(term) ? 0.25 : false) });
    return found.map((hit) => String(hit.id));
  }
}

/** Letters without their marks: "Korbchen" finds a Körbchen. */
const bare = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '');

const entryOf = (p: Product): Entry => ({
  id: p.id, name: p.name, description: `${p.plain} ${p.sections.map((s) => s.title).join(' ')}`,
  words: [...p.categories, ...p.tags, p.searchWords, ...p.options.flatMap((o) => o.values.map((v) => v.name))].join(' '),
  codes: p.variants.flatMap((v) => [v.sku, v.gtin]).filter(Boolean).join(' '),
});
