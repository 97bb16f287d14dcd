import { namesOf } from '../entries';
/**
 * Kinds of goods: what each is, and what follows from it. One line to a kind; the sheet, the till and the shopper's pages
 * read this table.
 */
export interface GoodsKind {
  readonly name: string;
  readonly hint: string;
  /** Goes by post: has a weight, needs an address. */
  readonly ships: boolean;
  /** Has options and variants. */
  readonly options: boolean;
  /** Is counted as it stands; a bundle's count follows from its parts, a link has none. */
  readonly counted: 'may be' | 'by parts' | 'never';
  /** What the owner calls the pieces: "seats" of a workshop. */
  readonly pieces: 'pieces' | 'seats';
}

export const goodsKinds = {
  ships: {
    name: 'Ships',
    hint: 'A thing that is sent or collected.',
    ships: true,
    options: true,
    counted: 'may be',
    pieces: 'pieces',
  },
  download: {
    name: 'Download',
    hint: 'Files the buyer gets at once.',
    ships: false,
    options: true,
    counted: 'may be',
    pieces: 'pieces',
  },
  event: {
    name: 'Place at an event',
    hint: 'A date, a place, and seats.',
    ships: false,
    options: true,
    counted: 'may be',
    pieces: 'seats',
  },
  service: {
    name: 'Service',
    hint: 'Work that you do; nothing is sent.',
    ships: false,
    options: true,
    counted: 'may be',
    pieces: 'pieces',
  },
  voucher: {
    name: 'Gift voucher',
    hint: 'Money to spend here later.',
    ships: false,
    options: true,
    counted: 'may be',
    pieces: 'pieces',
  },
  bundle: {
    name: 'Bundle',
    hint: 'Several of your products as one; its stock follows theirs.',
    ships: true,
    options: false,
    counted: 'by parts',
    pieces: 'pieces',
  },
  link: {
    name: 'Link to another seller',
    hint: 'Shown here, bought there.',
    ships: false,
    options: false,
    counted: 'never',
    pieces: 'pieces',
  },
  subscription: {
    name: 'Subscription',
    hint: 'Charged again each week, month or year.',
    ships: true,
    options: true,
    counted: 'may be',
    pieces: 'pieces',
  },
} as const satisfies Record<string, GoodsKind>;

export type GoodsKindId = keyof typeof goodsKinds;
export const goodsKindIds = namesOf(goodsKinds);
