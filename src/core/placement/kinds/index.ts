import { plannedKind, type WidgetKind } from '../kind';
import { buyButton } from './buy-button';
import { cart } from './cart';
import { productCard } from './product-card';
import { productRow } from './product-row';
import { shopFront } from './shop-front';
import { accountLink } from './account';
import { categoryList } from './categories';
import { orderLookup } from './lookup';
import { inlinePrice } from './price';
import { notice } from './notice';
import { releases } from './releases';
import { reviews } from './reviews';
import { searchBox } from './search';

/** The shelf, in its order. One line to each kind; those to come are named, so that nobody looks for them in vain. */
export const kinds: readonly WidgetKind[] = [
  buyButton,
  cart,
  productCard,
  productRow,
  shopFront,
  categoryList,
  searchBox,
  orderLookup,
  accountLink,
  reviews,
  releases,
  inlinePrice,
  notice,
  plannedKind({
    kind: 'currency',
    name: 'Currency switch',
    hint: 'Prices in another currency, for comparison.',
  }),
  plannedKind({
    kind: 'questions',
    name: 'Questions and answers',
    hint: 'What shoppers asked, and what you answered.',
  }),
  plannedKind({
    kind: 'contact',
    name: 'Contact form',
    hint: 'A message to you, with the product it is about.',
  }),
];

export const kindOf = (kind: string): WidgetKind | undefined => kinds.find((k) => k.kind === kind);
