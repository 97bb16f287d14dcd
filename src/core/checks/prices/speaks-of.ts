import type { Product } from '../../goods/product';
import type { PriceText } from '../written/facts';
import { mayHavePrice } from '../../money/mention';
import { goesOn, otherBefore, otherBehind, past } from './words';

/** Letters and digits alone, small, without accents: what names are compared by. */
export const folded = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** Names shorter than this stand in texts for other things, too. Chosen by hand. */
const SHORTEST = 4;
/** Letters between a name and its price in one run of text. Chosen by hand. */
const FAR = 110;
const FAR_BEHIND = 60;

interface Named {
  readonly product: Product;
  readonly words: readonly string[];
}

/** Finds products by their names in texts. Made once for all pages. */
export class NameIndex {
  readonly #byFirst = new Map<string, Named[]>();
  readonly #whole = new Map<string, Product>();

  constructor(products: readonly Product[]) {
    for (const product of products) {
      const name = folded(product.name);
      if (name.replace(/ /g, '').length < SHORTEST) continue;
      const words = name.split(' ');
      const known = this.#byFirst.get(begin(words[0] ?? ''));
      const named = { product, words };
      if (known) known.push(named);
      else this.#byFirst.set(begin(words[0] ?? ''), [named]);
      // Two of one name are told apart by nothing in a text.
      if (this.#whole.has(name)) this.#whole.delete(name);
      else this.#whole.set(name, product);
    }
    for (const list of this.#byFirst.values()) list.sort((a, b) => b.words.length - a.words.length);
  }

  /** The product that a text is the name of, all but. */
  named(text: string): Product | undefined {
    const name = folded(text);
    return this.#whole.get(name) ?? this.#onlyOne(name);
  }

  #onlyOne(name: string): Product | undefined {
    const words = name.split(' ');
    if (words.length > 14) return undefined;
    const [hit, other] = this.inWords(words);
    // A heading may say a little more than the name: "Berry trug, in stock".
    return hit && !other && words.length <= hit.length + 3 ? hit.product : undefined;
  }

  /** Where names stand in folded words, the longest at each place. */
  inWords(words: readonly string[]): { product: Product; at: number; length: number }[] {
    const found: { product: Product; at: number; length: number }[] = [];
    for (let at = 0; at < words.length; at++) {
      const hits = (this.#byFirst.get(begin(words[at] ?? '')) ?? []).filter((n) => isAt(n.words, words, at));
      const [best, second] = hits;
      if (!best || (second && second.words.length === best.words.length)) continue;
      found.push({ product: best.product, at, length: best.words.length });
      at += best.words.length - 1;
    }
    return found;
  }
}

/** Endings that make one word of many, in the languages of the sites; common practice. */
const endings = new Set(['', 's', 'es', 'e', 'en', 'n', 'er', 'i', 'a', 'o', 'x', 'ar', 'or']);
/** Letters that begin a word, by which names are looked up. */
const BEGIN = 3;
const begin = (word: string): string => word.slice(0, BEGIN);

/** Singular and plural are one word, as far as names go. */
function sameWord(a: string, b: string): boolean {
  if (a === b) return true;
  let same = 0;
  while (same < a.length && same < b.length && a[same] === b[same]) same++;
  return (
    same >= Math.max(BEGIN, Math.min(a.length, b.length) - 1) &&
    endings.has(a.slice(same)) &&
    endings.has(b.slice(same))
  );
}

const isAt = (name: readonly string[], words: readonly string[], at: number): boolean =>
  name.every((w, n) => sameWord(words[at + n] ?? '', w));

/** The sentence around a place of a text. */
function sentenceAt(text: string, from: number, to: number): string {
  const start = Math.max(0, ...['. ', '! ', '? ', '… '].map((end) => text.lastIndexOf(end, from) + 1));
  const ends = ['. ', '! ', '? '].map((end) => text.indexOf(end, to)).filter((n) => n >= 0);
  return text.slice(start, ends.length ? Math.min(...ends) : text.length);
}

/** Whether an amount is what something costs to buy now, by the words beside it. */
export function isPriceNow({ text, mention }: Pick<PriceText, 'text' | 'mention'>): boolean {
  const end = mention.at + mention.text.length;
  if (otherBefore.test(text.slice(Math.max(0, mention.at - 40), mention.at))) return false;
  if (otherBehind.test(text.slice(end, end + 24))) return false;
  if (
    /^\s*[-–—]\s*$/.test(text.slice(Math.max(0, mention.at - 3), mention.at)) &&
    /\d\s*[-–—]\s*$/.test(text.slice(0, mention.at))
  )
    return true;
  return !past.test(sentenceAt(text, mention.at, end));
}

/**
 * The product that a price in a text is the price of; nothing where that is not sure. In the run of text itself the nearest name before
 * it counts, with no other price between, then one just behind it; else the name that stands alone above it, as in a card or a table.
 */
export function speaksOf(
  p: PriceText,
  names: NameIndex,
  others: readonly PriceText[] = [],
): Product | undefined {
  return inRun(p, names, others) ?? above(p, names);
}

/** Letters of a sentence that is hardly more than a price. */
const BARE = 3;

/** The words that may name it: of its own sentence; of the one before where that is gone on with. */
function namingPart(text: string): string {
  const ends = [...text.matchAll(/[.!?]\s+(?=\p{Lu})/gu)].map((m) => m.index + m[0].length);
  const own = text.slice(ends.at(-1) ?? 0);
  return goesOn.test(own) || own.trim().length <= BARE ? text.slice(ends.at(-2) ?? 0) : own;
}

function inRun(p: PriceText, names: NameIndex, others: readonly PriceText[]): Product | undefined {
  const { at, text: written } = p.mention;
  const end = at + written.length;
  const between = others
    .filter((o) => o !== p && o.block === p.block && o.text === p.text && o.mention.at < at)
    .reduce((last, o) => Math.max(last, o.mention.at + o.mention.text.length), 0);
  const own = namingPart(p.text.slice(Math.max(between, at - FAR), at));
  const last = names.inWords(folded(own).split(' ')).at(-1);
  if (last) return last.product;
  const behind = p.text.slice(end, end + FAR_BEHIND).split(/[.!?;]\s|[£€$]/)[0] ?? '';
  const [next] = names.inWords(folded(behind).split(' '));
  // What stands behind is its own only where it follows at once: "£39 for the berry trug".
  if (next && next.at <= 3) return next.product;
  // "…, small £39, large £52": two prices of one name.
  const first = between > 0 ? names.inWords(folded(p.text.slice(0, at)).split(' ')) : [];
  return first.length === 1 ? first[0]?.product : undefined;
}

function above(p: PriceText, names: NameIndex): Product | undefined {
  const [heading = '', ...runs] = p.before;
  // A run that is more than a price and a few words is prose: it speaks of what it names, and of nothing above it.
  if (p.text.length - p.mention.text.length > 60) return undefined;
  for (const run of runs.toReversed()) {
    const product = names.named(run);
    if (product) return product;
    if (mayHavePrice(run)) return undefined;
  }
  return names.named(heading);
}
