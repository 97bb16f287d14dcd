import { plannedKind, type WidgetKind } from '../kind';
import { buyButton } from './buy-button';
import { cart } from './cart';

/** The shelf, in its order. One line to each kind; those to come are named, so that nobody looks for them in vain. */
export const kinds: readonly WidgetKind[] = [
  buyButton,
  cart,
  plannedKind({ kind: 'card', name: 'Product card', hint: 'One product with picture, price and button.' }),
  plannedKind({ kind: 'row', name: 'Product row', hint: 'Several products side by side: newest, chosen, on offer, related.' }),
  plannedKind({ kind: 'shop', name: 'Shop front', hint: 'The whole catalogue with categories, search and product pages inside.' }),
  plannedKind({ kind: 'categories', name: 'Category list', hint: 'The ways into the catalogue; empty ones hidden.' }),
  plannedKind({ kind: 'search', name: 'Search', hint: 'A box to find products, and what it finds with filters.' }),
  plannedKind({ kind: 'lookup', name: 'Order lookup', hint: 'Where an order is, by number and mail address.' }),
  plannedKind({ kind: 'account', name: 'Account link', hint: 'Sign-in, past orders and downloads.' }),
  plannedKind({ kind: 'currency', name: 'Currency switch', hint: 'Prices in another currency, for comparison.' }),
  plannedKind({ kind: 'reviews', name: 'Reviews', hint: 'What buyers say of a product they bought.' }),
  plannedKind({ kind: 'releases', name: 'Release notes', hint: 'What is new in a product that is downloaded.' }),
  plannedKind({ kind: 'questions', name: 'Questions and answers', hint: 'What shoppers asked, and what you answered.' }),
  plannedKind({ kind: 'contact', name: 'Contact form', hint: 'A message to you, with the product it is about.' }),
  plannedKind({ kind: 'notice', name: 'Notice', hint: 'Words of your own, on the pages of the shop only.' }),
];
export const kindOf = (kind: string): WidgetKind | undefined => kinds.find((k) => k.kind === kind);
