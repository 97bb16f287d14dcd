import { escapeHtml } from '../../html/escape';
import type { Placement } from '../placement';
import type { Spelling } from '../spelling';
import type { HostOffers } from './pasted';

/** Where a piece of code goes on a site that only its owner can write. */
export type PlaceForCode = 'foot' | 'page' | 'menu';

/** One thing that the owner pastes, or sets, on their host. */
export interface Piece {
  /** "script", "shop", "menu:Shop", or the placement's id. */
  readonly id: string;
  readonly what: 'script' | 'shop' | 'widget' | 'menu';
  readonly kind: string;
  readonly name: string;
  readonly goes: PlaceForCode;
  /** Where on the page, in words: "after the heading Baskets". */
  readonly spot: string;
  readonly spelling: Spelling;
  /** What is copied. */
  readonly code: string;
  /** Where visitors find the pages that it goes to. */
  readonly pages: readonly string[];
  /** How many pages it goes to in all; of many only some are looked at. */
  readonly of: number;
  /** For an item of the menu: what it says, and where it leads. */
  readonly label?: string;
  readonly to?: string;
}

/** A placement as it has to be known for its code. */
export interface HandedPlacement {
  readonly placement: Placement;
  readonly name: string;
  readonly pages: readonly string[];
  readonly everywhere: boolean;
  readonly write: (spelling: Spelling) => string;
}

export interface HandedState {
  readonly offers: HostOffers;
  /** The tag of the one script. */
  readonly script: string;
  readonly front: string;
  readonly placements: readonly HandedPlacement[];
  /** Where the shop front is pasted; '' where the owner named no page. */
  readonly shopPage: string;
  readonly shopName: string;
  readonly shopUrl: string;
  /** Where the shop can be reached whether it has a page or not. */
  readonly shopHome: string;
  readonly sells: boolean;
  /** Items that the menu gets. */
  readonly menu: readonly { readonly label: string; readonly to: string }[];
}

/** Pages of a piece that are looked at; of a widget on every page these few stand for all. */
const LOOKED_AT = 5;

/**
 * All that an owner pastes so that the site sells as the draft does, in the order in which it is best done: what stands on every page
 * first, then the shop's own page, then widgets page by page, then the menu.
 */
export function piecesOf(state: HandedState): Piece[] {
  if (!state.sells && state.placements.length === 0) return [];
  return [
    ...footPiece(state),
    ...shopPiece(state),
    ...state.placements.filter((p) => !isInFoot(state, p)).map((p) => widgetPiece(state, p)),
    ...menuPieces(state),
  ];
}

/** What floats stands nowhere on a page: where every page has a foot of the owner's own, it comes with the script. */
const isInFoot = ({ offers }: HandedState, { placement, everywhere }: HandedPlacement): boolean =>
  offers.foot && everywhere && placement.settings.floats === true;

function footPiece(state: HandedState): Piece[] {
  if (!state.offers.foot) return [];
  const carts = state.placements.filter((p) => isInFoot(state, p));
  const codes = carts.map((p) => p.write('element'));
  return [
    {
      id: 'script',
      what: 'script',
      kind: 'script',
      name: carts.length ? 'The script, and the cart' : 'The script',
      goes: 'foot',
      spot: '',
      spelling: 'element',
      code: [state.script, ...codes].join('\n'),
      pages: [...new Set([state.front, ...(state.shopPage ? [state.shopPage] : [])])],
      of: 0,
    },
  ];
}

/** The shop's page: only where code can be pasted into a page, or text that becomes a widget. */
function shopPiece({ offers, shopPage, shopName, shopUrl, shopHome, sells, script }: HandedState): Piece[] {
  if (!sells || !shopPage || (!offers.blocks && !offers.foot)) return [];
  const element = `<stall-shop shop="${escapeHtml(shopUrl)}" page="${escapeHtml(shopPage)}" style="display:flow-root;min-height:100vh"><p><a href="${escapeHtml(shopHome)}">${escapeHtml(shopName)}</a></p></stall-shop>`;
  const spelling = offers.blocks ? 'element' : 'shortcode';
  return [
    {
      id: 'shop',
      what: 'shop',
      kind: 'shop',
      name: 'The shop front',
      goes: 'page',
      spot: '',
      spelling,
      code: offers.blocks ? withScript(element, offers, script) : '[stall shop]',
      pages: [shopPage],
      of: 1,
    },
  ];
}

function widgetPiece(state: HandedState, { placement, name, pages, write }: HandedPlacement): Piece {
  const spelling = spellingFor(state.offers, placement.spelling);
  const code = write(spelling);
  return {
    id: placement.id,
    what: 'widget',
    kind: placement.kind,
    name,
    goes: 'page',
    spot: placement.pitchLabel,
    spelling,
    code:
      spelling === 'shortcode' ? plainText(code) : withScript(code, state.offers, scriptFor(spelling, state)),
    pages: pages.slice(0, LOOKED_AT),
    of: pages.length,
  };
}

/** What the host lets through: what the owner chose where it is no element, else an element, text, or a link. */
function spellingFor({ blocks, foot }: HostOffers, chosen: Spelling): Spelling {
  if (!blocks) return foot ? 'shortcode' : 'link';
  return chosen;
}

const scriptFor = (spelling: Spelling, { script }: HandedState): string =>
  spelling === 'element' || spelling === 'frame' ? script : '';

/** Where no page has a foot of its own, each piece brings the script; brought twice it does nothing the second time. */
const withScript = (code: string, { foot }: HostOffers, script: string): string =>
  foot || !script ? code : `${code}\n${script}`;

/** The text that an owner pastes: without the span that carries it on pages of ours. */
export const plainText = (html: string): string =>
  html
    .replace(/^<span[^>]*>|<\/span>$/g, '')
    .replace(/&quot;/g, '"')
    .replace(/&#39;/g, "'")
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&amp;/g, '&');

const menuPieces = ({ menu, front }: HandedState): Piece[] =>
  menu.map(({ label, to }) => ({
    id: `menu:${label}`,
    what: 'menu',
    kind: 'menu',
    name: `Menu item \u201c${label}\u201d`,
    goes: 'menu',
    spot: '',
    spelling: 'link',
    code: to,
    pages: [front],
    of: 0,
    label,
    to,
  }));
