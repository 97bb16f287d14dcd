import { groupKey, isHeavy, type Weight, weights } from '../../core/checks/finding';
import type { FindingView } from '../../services/checks/checks';

/** Findings that say the same of several places, told once. */
export interface Group {
  readonly key: string;
  readonly weight: Weight;
  readonly title: string;
  readonly findings: readonly FindingView[];
}

export type Order = 'weight' | 'page';

/** Findings in groups: the heaviest first, or page by page as the site has them. */
export function groupsOf(findings: readonly FindingView[], order: Order): Group[] {
  const groups = new Map<string, FindingView[]>();
  for (const f of findings) {
    const key = order === 'weight' ? groupKey(f) : f.key;
    const known = groups.get(key);
    if (known) known.push(f);
    else groups.set(key, [f]);
  }
  const all = [...groups].flatMap(([key, list]): Group[] => {
    const [first] = list;
    return first ? [{ key, weight: first.weight, title: titleOf(first, list), findings: list }] : [];
  });
  if (order === 'weight') return all.sort((a, b) => weights.indexOf(a.weight) - weights.indexOf(b.weight));
  return all.sort((a, b) => placeOf(a).localeCompare(placeOf(b)));
}

/** Several that say different things are told by their number and what they are. */
const titleOf = (first: FindingView, all: readonly FindingView[]): string =>
  first.many !== undefined && all.some((f) => f.title !== first.title)
    ? `${all.length} ${first.many}`
    : first.title;

const placeOf = ({ findings: [f] }: Group): string =>
  f?.place.on === 'page' ? `0 ${f.place.page}` : `1 ${f?.place.name}`;

export const heavyOf = (groups: readonly Group[]): Group[] => groups.filter((g) => isHeavy(g.weight));
export const lightOf = (groups: readonly Group[]): Group[] => groups.filter((g) => !isHeavy(g.weight));

/** What "Mend all" makes: the first mend of each that Green Stall makes by itself. */
export function mendsOf(
  findings: readonly FindingView[],
): { key: string; n: number; label: string; name: string }[] {
  return findings.flatMap((f) => {
    const n = f.mends.findIndex((m) => m.do !== 'go');
    const m = f.mends[n];
    return m ? [{ key: f.key, n, label: m.label, name: f.place.name }] : [];
  });
}

/** What is pressed to mend a whole group in the nth way: where each is mended otherwise, words that are true of all. */
export function mendLabel({ findings }: Pick<Group, 'findings'>, n: number): string {
  const [first, ...others] = findings.flatMap((f) => f.mends[n] ?? []);
  if (!first) return '';
  return others.every((m) => m.label === first.label) ? first.label : (first.labelOfMany ?? first.label);
}
