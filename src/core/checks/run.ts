import { asFinding, byWeight, type Finding } from './finding';
import type { Rule } from './rule';
import { rules } from './rules';
import type { Reads, Subject } from './subject';

/** Findings of one rule that are kept: more of one kind tell an owner nothing more. */
const MOST_OF_ONE = 3_000;

/**
 * Asks every rule. @param touched parts that changed: rules that read none of them keep what they found before.
 * @param before what was found then, for those.
 */
export function findAll(
  s: Subject,
  touched?: ReadonlySet<Reads>,
  before: readonly Finding[] = [],
): Finding[] {
  const out: Finding[] = [];
  for (const rule of rules) {
    const again = !touched || rule.reads.some((r) => touched.has(r));
    out.push(...(again ? findingsOf(rule, s) : before.filter((f) => f.rule === rule.name)));
  }
  return out.sort(byWeight);
}

export function findingsOf(rule: Rule, s: Subject): Finding[] {
  const found = new Map<string, Finding>();
  for (const one of rule.find(s)) {
    const finding = asFinding(rule, one);
    if (!found.has(finding.key)) found.set(finding.key, finding);
    if (found.size >= MOST_OF_ONE) break;
  }
  return [...found.values()];
}

/** What is known of a finding from runs before. */
export interface KnownFinding {
  readonly key: string;
  readonly gone: boolean;
}

export interface Difference {
  readonly fresh: readonly Finding[];
  readonly back: readonly Finding[];
  readonly mended: readonly string[];
}

/** What came, what came back and what went since the run before. */
export function compareRuns(known: readonly KnownFinding[], now: readonly Finding[]): Difference {
  const before = new Map(known.map((k) => [k.key, k]));
  const keys = new Set(now.map((f) => f.key));
  return {
    fresh: now.filter((f) => !before.has(f.key)),
    back: now.filter((f) => before.get(f.key)?.gone),
    mended: known.filter((k) => !k.gone && !keys.has(k.key)).map((k) => k.key),
  };
}
