import type { FoundBy, Landmark } from '../regions';
import type { Bands, Found } from './bands';
import { menusWeighed } from './menu';

/** Why a region is where it is said to be, in figures of the page. */
export interface Explained {
  readonly region: Landmark;
  readonly confidence: number;
  readonly by: FoundBy;
  readonly blocks: readonly BlockFigures[];
  /** Of a menu: the blocks that were weighed, the likeliest first. */
  readonly weighed?: readonly (BlockFigures & { readonly score: number })[];
}

export interface BlockFigures {
  /** As regions are written: below the body. */
  readonly path: string;
  /** What it is by its element or role, and by the names its maker gave it; '' for nothing. */
  readonly says: string;
  readonly named: string;
  /** Visible letters, and the share of them (0 to 1) that other pages hold as well, and that are links. */
  readonly letters: number;
  readonly shared: number;
  readonly linked: number;
  /** Links, other pages of the site they lead to, and ways to the page before, the next or the one above. */
  readonly links: number;
  readonly pages: number;
  readonly ways: number;
}

/** So many menus that were weighed are told. */
const MENUS = 4;

export function explain(page: Bands, region: Landmark, { blocks, confidence, by }: Found): Explained {
  return {
    region,
    confidence,
    by,
    blocks: blocks.map((b) => figures(page, b)),
    ...(region === 'menu' && { weighed: weighed(page) }),
  };
}

const weighed = (page: Bands) =>
  menusWeighed(page)
    .sort((a, b) => b.score - a.score)
    .slice(0, MENUS)
    .map(({ i, score }) => ({ ...figures(page, i), score: hundredths(score) }));

function figures(page: Bands, b: number): BlockFigures {
  const { o } = page;
  const share = (n: number) => hundredths(n / Math.max(1, o.weight(b)));
  return {
    path: o.path(b),
    says: o.meaning(b) ?? '',
    named: page.named(b) ?? '',
    letters: o.weight(b),
    shared: page.compared ? share(page.chrome(b)) : 0,
    linked: share(o.linked(b)),
    links: o.links(b),
    pages: o.pages(b),
    ways: o.ways(b),
  };
}

const hundredths = (n: number): number => Math.round(n * 100) / 100;
