import type { Found, Place, Way, Weight, Mend } from './finding';
import type { Reads, Subject } from './subject';
import type { At, WrittenPage } from './written/facts';

/** One thing that is looked for. Adding one is a file like those in rules/, and a line in rules/index.ts. */
export interface Rule {
  /** In small letters with hyphens: "way-to-cart". */
  readonly name: string;
  /** What it looks for, for docs/checks.md. */
  readonly about: string;
  /** What several of them are called where they are told together, after their number: "links that lead nowhere". */
  readonly many?: string;
  readonly weight: Weight;
  readonly reads: readonly Reads[];
  readonly find: (s: Subject) => Iterable<Found>;
}

/** A place on a page. */
export const onPage = (p: WrittenPage, at?: At & { readonly placement?: string }): Place => ({
  on: 'page',
  page: p.path,
  name: p.name,
  ...(at?.block && { block: at.block }),
  ...(at && at.line > 0 && { line: at.line }),
  ...(at?.placement && { widget: at.placement }),
});
export const onGoods = (p: { readonly id: string; readonly name: string }): Place => ({
  on: 'goods',
  id: p.id,
  name: p.name,
});
export const inTill = (name: string): Place => ({ on: 'till', name });

/** A button that leads to where only the owner can. */
export const go = (label: string, place: Way['place'], query: Way['query'], step: string): Mend => ({
  do: 'go',
  label,
  to: { place, ...(query && { query }) },
  step,
});
export const openGoods = (p: { readonly id: string }, step: string, label = 'Open the product'): Mend =>
  go(label, 'goods', { id: p.id }, step);
export const openTill = (sheet: string, label: string, step: string): Mend =>
  go(label, 'till', { rule: sheet }, step);
export const openBench = (page: string, step: string, label = 'Open the page'): Mend =>
  go(label, 'bench', { page }, step);

/** Each of a kind of thing on some pages, with its page. */
export function* each<T>(
  pages: Iterable<WrittenPage>,
  pick: (p: WrittenPage) => readonly T[],
): Generator<[WrittenPage, T]> {
  for (const p of pages) for (const one of pick(p)) yield [p, one];
}

/** Takes a widget away; nothing where nobody placed it with Green Stall. */
export const takeAway = (s: Subject, placement: string, label: string): Mend[] =>
  s.placements.has(placement) ? [{ do: 'take-away', label, placement }] : [];

/** Gives a widget other settings; nothing where nobody placed it with Green Stall. */
export function settle(
  s: Subject,
  placement: string,
  label: string,
  set: Readonly<Record<string, unknown>>,
): Mend[] {
  const own = s.placements.get(placement);
  return own ? [{ do: 'settings', label, placement, settings: { ...own.settings, ...set } }] : [];
}

/** Changes a spot of the owner's page. @param labelOfMany what is pressed for several, where each says something of its own */
export const repaired = (
  label: string,
  repair: Extract<Mend, { do: 'repair' }>['repair'],
  labelOfMany?: string,
): Mend => ({ do: 'repair', label, repair, ...(labelOfMany && { labelOfMany }) });

/** The owner's own pages: those that the site had before. */
export const ownPages = (s: Subject): WrittenPage[] => s.pages.filter((p) => p.part === '');

/** "3 pages", "1 page". */
export const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
/** "a, b and 3 more". */
export function list(names: readonly string[], most = 3): string {
  const shown = names.slice(0, most);
  const rest = names.length - shown.length;
  if (rest > 0) return `${shown.join(', ')} and ${rest} more`;
  return shown.length > 1 ? `${shown.slice(0, -1).join(', ')} and ${shown.at(-1)}` : (shown[0] ?? '');
}
