import type { Landmark } from '../../site/regions';
import type { PagePath } from '../../site/paths';
import type { PageKind } from '../../site/page-kind';
import type { MenuItem } from '../../site/menu';
import type { PriceMention } from '../../money/mention';

/** Where something stands on a page. */
export interface At {
  readonly region: Landmark | 'page';
  /** The nearest block, by its path from the body, as regions.ts writes it. */
  readonly block: string;
  /** Line of the owner's own file, from 1. */
  readonly line: number;
}

export interface WrittenLink extends At {
  readonly href: string;
  /** The page of the written site it leads to. */
  readonly to?: PagePath;
  readonly text: string;
  readonly inMenu: boolean;
  /** Its start tag, where it leads to no page; else ''. */
  readonly source: string;
}

/** A widget as it stands in the written page, whoever wrote it. */
export interface WrittenWidget extends At {
  readonly kind: string;
  readonly spelling: 'element' | 'shortcode' | 'frame' | 'include';
  /** What was placed with Green Stall names its placement. */
  readonly placement: string;
  /** Nothing where they do not fit the widget. */
  readonly settings?: Readonly<Record<string, unknown>>;
  /** What is wrong with how it is written. */
  readonly problem: string;
  /** The shop it names; '' for that of the page's script. */
  readonly shop: string;
  /** Its source, where it stands in the owner's own file. */
  readonly source: string;
}

/** One of our scripts on the page. */
export interface WrittenScript extends At {
  readonly src: string;
  readonly ours: boolean;
  readonly source: string;
}

/** Something that was left behind for people to read: code as text, a text that only holds a place. */
export interface Leftover extends At {
  readonly is: 'code' | 'placeholder';
  readonly text: string;
}

export interface WrittenPicture extends At {
  readonly src: string;
  readonly path?: PagePath;
  readonly alt: string | null;
  /** The picture is all that a link holds. */
  readonly isLink: boolean;
  readonly source: string;
}

/** Something fetched without encryption. */
export interface Insecure extends At {
  readonly what: string;
  readonly address: string;
  readonly source: string;
}

/** A price in the page's text, with the words around it. */
export interface PriceText extends At {
  readonly mention: PriceMention;
  /** The whole run of text it stands in, white space folded. */
  readonly text: string;
  /** What is read before it in the same block of the page, and the heading above. */
  readonly before: readonly string[];
  readonly after: string;
}

/** One page as it is written: the owner's own with all that was put into it, as what a check asks of it. Plain data. */
export interface WrittenPage {
  readonly path: PagePath;
  readonly address: string;
  readonly name: string;
  readonly kind: PageKind;
  readonly lang: string;
  readonly chrome: number;
  /** Which page of the shop it is; '' for the owner's own. */
  readonly part: string;
  readonly links: readonly WrittenLink[];
  /** Names that fragments lead to. */
  readonly ids: readonly string[];
  readonly widgets: readonly WrittenWidget[];
  readonly scripts: readonly WrittenScript[];
  readonly leftovers: readonly Leftover[];
  readonly pictures: readonly WrittenPicture[];
  readonly insecure: readonly Insecure[];
  readonly prices: readonly PriceText[];
  /** Rules of the page's own content security policy. */
  readonly policies: readonly string[];
  /** Forms to write comments with. */
  readonly comments: readonly At[];
  /** As it is read on the page; nothing where there is none. */
  readonly menu: readonly MenuItem[] | null;
  /** How the menu shows which page one is on; nothing where the page is not in it. */
  readonly marksHere: 'by a mark' | 'by no link' | 'not at all' | null;
  /** Why the menu stayed as it was, though it was to change. */
  readonly menuProblem: string;
  readonly lost: readonly LostWidget[];
  readonly hasHeader: boolean;
  /** Letters of visible text, and whether a script is to fill the page. */
  readonly letters: number;
  readonly isShell: boolean;
  /** Nobody reads it: browsers go on to another page at once. */
  readonly forwards: boolean;
  /** Bytes as it is written, and how many of them were put in. */
  readonly bytes: number;
  readonly added: number;
}

/** A placement that is meant for the page and found no place. */
export interface LostWidget {
  readonly id: string;
  readonly why: string;
  readonly best: string;
}
