import type { Proof } from '../look/wear';
import type { Product } from '../goods/product';
import type { Placement } from '../placement/placement';
import type { MenuChange } from '../placement/menu-change';
import type { Repair } from '../placement/repair';
import type { PagePath } from '../site/paths';
import type { TillRules } from '../till/rules';
import type { WrittenPage } from './written/facts';
import type { SeenPage } from './seen';

/** A page that was built for the shop. */
export interface ShopPageFact {
  readonly part: string;
  readonly path: PagePath;
  readonly address: string;
  readonly name: string;
}

export interface SiteFacts {
  readonly slug: string;
  readonly name: string;
  readonly liveUrl: string;
  readonly currency: string;
  readonly locale: string;
  /** ISO 3166-1 of the shop's country; '' where nobody said. */
  readonly country: string;
  readonly shopUrl: string;
  readonly scriptUrl: string;
  /** The site turns pages by script. */
  readonly switches: boolean;
  readonly isLive: boolean;
  /** What the owner has to hand in before the site can be read again; '' where it is read by itself. */
  readonly handIn: string;
  /** Pages are put up by the owner's own hand. */
  readonly byHand: boolean;
  readonly shopName: string;
  /** What a site map of the owner's names. */
  readonly mapped: readonly string[];
  /** What the owner's host says to browsers by a file: rules of a policy. */
  readonly policies: readonly string[];
}

export interface GoodsFacts {
  readonly all: readonly Product[];
  readonly shown: readonly Product[];
  readonly bySlug: ReadonlyMap<string, Product>;
  /** Paths of categories as they are, and what an old one means now. */
  readonly categories: readonly { readonly path: string; readonly slug: string; readonly count: number }[];
  readonly pathNow: (path: string) => string;
  /** Highest price that was ever charged for a product before the one of now; by id. */
  readonly chargedBefore: ReadonlyMap<string, number>;
  /** Pictures of goods, by hash: width and height in px. */
  readonly pictures: ReadonlyMap<string, { readonly width: number; readonly height: number }>;
}

export interface TillFacts {
  readonly rules: TillRules;
  /** Providers that are set up on this server. */
  readonly connected: readonly string[];
  /** Letters to buyers: those that wait, those of them that the mail server refused before, those given up in the last weeks. */
  readonly letters: {
    readonly waiting: number;
    readonly refused: number;
    readonly givenUpLately: number;
    /** A mail server is set. */
    readonly connected: boolean;
  };
  /** The owner has set the till up: rules are theirs, not what is usual. */
  readonly countryName: (code: string) => string;
}

/** The live site, as it was fetched. */
export interface LiveFacts {
  /** Pages that answer otherwise than what was published. */
  readonly pages: readonly {
    readonly path: string;
    readonly name: string;
    readonly is: 'changed' | 'missing' | 'silent';
    readonly why: string;
  }[];
  /** The origin that the site's address leads on to; '' where it answers itself. */
  readonly elsewhere?: string;
  /** Why the shop does not answer where pages ask it; '' where it does. */
  readonly shop: string;
  /** Milliseconds that the live front page took, and what it takes as a rule; nothing where nobody knows. */
  readonly took: number | null;
  readonly usual: number | null;
  /** Widgets that were handed out and are gone. */
  readonly handOuts: readonly { readonly url: string; readonly kind: string; readonly message: string }[];
}

/** All that rules read. Pages are as they are written; nothing is as it was meant. */
export interface Subject {
  readonly now: number;
  readonly site: SiteFacts;
  readonly pages: readonly WrittenPage[];
  readonly page: (path: string) => WrittenPage | undefined;
  readonly shopPages: readonly ShopPageFact[];
  readonly placements: ReadonlyMap<string, Placement>;
  readonly menu: readonly MenuChange[];
  readonly repairs: readonly Repair[];
  readonly sells: boolean;
  readonly goods: GoodsFacts;
  readonly till: TillFacts;
  readonly look: {
    readonly proofs: readonly Proof[];
    /** Threads whose source moved. */
    readonly drift: number;
    /** The shape of pictures, as the shop has it: 'own' shows each as it is. */
    readonly picture: string;
    /** Letters that a badge has room for on the narrowest card. */
    readonly badgeRoom: number;
  };
  readonly live: LiveFacts | null;
  /** What a browser saw of pages, by path; none where nobody looked. */
  readonly seen: ReadonlyMap<string, SeenPage>;
}

/** Parts of the subject; a rule says which it reads, so that only those are asked again that a change can touch. */
export type Reads = 'pages' | 'goods' | 'till' | 'look' | 'live' | 'seen';
