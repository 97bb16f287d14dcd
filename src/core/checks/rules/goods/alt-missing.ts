import type { Product } from '../../../goods/product';
import { onGoods, openGoods, type Rule } from '../../rule';

/** A file's name, or the like, in the place of what the picture shows. */
export const isFileName = (text: string): boolean =>
  /\.(?:jpe?g|png|gif|webp|avif|svg|heic|tiff?)$/i.test(text.trim()) ||
  /^(?:img|dsc|image|photo|pxl|screenshot|untitled|bild|foto)[\s_-]?\d*$/i.test(text.trim()) ||
  /^[\da-f]{16,}$/i.test(text.trim());

/** Pictures of goods that say nothing to those who do not see them. */
export const altMissing: Rule = {
  name: 'alt-missing',
  about:
    'A picture of a product without words for those who do not see it, or with a file name in their place.',
  many: 'products whose pictures have no words',
  weight: 'hard',
  reads: ['goods'],
  *find(s) {
    for (const p of s.goods.shown) {
      const bad = p.pictures.filter((x) => !x.alt.trim() || isFileName(x.alt));
      const [first] = bad;
      if (!first) continue;
      yield {
        about: p.id,
        place: onGoods(p),
        title:
          bad.length === p.pictures.length
            ? 'Its pictures have no words'
            : `${bad.length} of ${p.pictures.length} pictures have no words`,
        meets: first.alt
          ? `A screen reader reads “${first.alt}”.`
          : 'A screen reader says “picture”, and nothing else.',
        weight: bad.some((x) => x.alt) ? 'hard' : 'untidy',
        facts: bad.map((x) => x.hash),
        mends: [
          { do: 'goods', label: 'Use its name', id: p.id, set: { pictures: named(p) } },
          openGoods(p, 'Write what each picture shows.', 'Describe the pictures'),
        ],
      };
    }
  },
};

/** The product's name in the place of missing words; of several pictures with its number. */
const named = (p: Product): Product['pictures'] =>
  p.pictures.map((x, n) =>
    !x.alt.trim() || isFileName(x.alt)
      ? { ...x, alt: p.pictures.length > 1 ? `${p.name}, ${n + 1} of ${p.pictures.length}` : p.name }
      : x,
  );
