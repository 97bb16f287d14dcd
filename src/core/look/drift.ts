import type { Found } from './found/found';
import { type SourceName, type Sources, sourceNames } from './found/sources';
import { type LookPlan, pinName } from './plan';
import { difference } from './remedy';
import { type PairName, pairNames } from './pairs';
import type { Wardrobe } from './wardrobe';
import { wear } from './wear';

/** A value of the site that is another by now. */
export interface DriftLine {
  readonly source: SourceName;
  /** '' where the site has none. */
  readonly was: string;
  readonly is: string;
  /** What following it does to pairs: contrast before and after, as the site has it. */
  readonly pairs: readonly {
    readonly pair: PairName;
    readonly was: number;
    readonly is: number;
    readonly need: number;
  }[];
}

/** A reading of each make, of the site as it was and as it is. */
export interface Readings {
  readonly worn: Found;
  readonly now: Found;
  /** From style sheets alone, for where only one of them was measured. */
  readonly computed: { readonly worn: Found; readonly now: Found };
}

/** Colours nobody tells apart and lengths within this many px are the same: readings of one page differ by so much. Chosen by hand. */
const SAME_COLOUR = 0.8;
const SAME_PX = 0.6;

function isSame(name: SourceName, was: string, is: string): boolean {
  if (was === is) return true;
  if (was === '' || is === '') return false;
  if (was.startsWith('#') && is.startsWith('#')) return difference(was, is) < SAME_COLOUR;
  const [a, b] = [Number(was), Number(is)];
  if (Number.isNaN(a) || Number.isNaN(b)) return false;
  // Widths, gaps and shapes of pictures hang on what is written on the pages, too.
  const slack: Partial<Record<SourceName, number>> = {
    width: 24,
    space: 6,
    'picture-shape': 0.2,
    'button-height': 2,
  };
  return Math.abs(a - b) <= (slack[name] ?? SAME_PX * (a < 5 ? 0.05 : 1));
}

/**
 * What of a site's look is another by now. Only readings of one make are compared: measured with measured, else style sheets with style
 * sheets, so that nothing is told where nothing changed.
 */
export function changedSources({ worn, now, computed }: Readings): SourceName[] {
  const [before, after] = worn.by === now.by ? [worn, now] : [computed.worn, computed.now];
  return sourceNames.filter((name) => !isSame(name, before.sources[name] ?? '', after.sources[name] ?? ''));
}

/** The list that the owner is shown: what was decided already is left out. */
export function driftLines(readings: Readings, worn: Wardrobe, plan: LookPlan): DriftLine[] {
  const open = changedSources(readings).filter((name) => plan[pinName(name)] === undefined);
  const before = wear(worn, plan);
  return open.map((source) => {
    const is = readings.now.sources[source] ?? '';
    const after = wear({ ...worn, sources: withSource(worn.sources, source, is) }, plan);
    return { source, was: worn.sources[source] ?? '', is, pairs: pairsMoved(before, after) };
  });
}

export function withSource(all: Sources, name: SourceName, value: string): Sources {
  const { [name]: _, ...others } = all;
  return value === '' ? others : { ...others, [name]: value };
}

function pairsMoved(before: ReturnType<typeof wear>, after: ReturnType<typeof wear>): DriftLine['pairs'] {
  return pairNames.flatMap((pair) => {
    const [was, is] = [before, after].map((w) => w.proofs.find((p) => p.pair === pair));
    if (!was || !is || Math.abs(was.asFound - is.asFound) < 0.05) return [];
    return [{ pair, was: was.asFound, is: is.asFound, need: is.need }];
  });
}
