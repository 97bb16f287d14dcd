/**
 * Parts of the shop that the owner's own CSS may name: stable, documented in docs/parts.md (made from here, held by a test). Each is
 * the class `stall-NAME` of the fragments, or a `part` of an element; from outside, browsers know them as `::part(NAME)`.
 */
export const parts = {
  button: 'A button that sells or leads on: add to cart, go to the checkout, pay.',
  plain: 'A button that looks like a link: remove, work out.',
  alert: 'Something is wrong, or needs to be known at once.',
  note: 'A short word that matters: only two left, shipping costs nothing from an amount.',
  muted: 'Text that steps back.',
  lead: 'The first sentence of an empty page.',
  error: 'What is wrong with a field.',
  field: 'A field of a form with its label.',
  chip: 'One choice of an option.',
  options: 'The choices of one option.',

  row: 'Several products with their heading.',
  'row-heading': 'The heading of a row.',
  grid: 'The cards of a row or of the shop front.',
  slide: 'Back and on, of a slider.',
  list: 'Products below each other.',
  table: 'Products as a table.',
  card: 'One product in a row, in the shop front, alone.',
  'card-picture': 'The picture of a card, which leads to the product.',
  'card-text': 'All that stands below the picture of a card.',
  'card-name': 'The heading of a card.',
  'card-price': 'The price on a card.',
  'card-foot': 'Price and button of a card.',
  badge: 'The badge on a picture.',
  name: 'The name of a product where it is a link.',
  was: 'The price before.',
  short: 'The first words of a description.',
  left: 'What there is of a product.',
  few: 'The same where only a few are left.',
  glance: 'The button of the quick look, and the quick look itself.',
  'no-picture': 'What stands in the place of a picture.',

  shop: 'The shop front.',
  'shop-bar': 'Above the cards: categories, search, order.',
  categories: 'The categories above the cards.',
  'shop-tools': 'Search, order and narrowing.',
  narrow: 'Narrowing by price, stock and tags.',
  search: 'The field to search with.',
  pages: 'To the next page of the list.',
  found: 'How many were found.',

  product: 'The page of a product.',
  gallery: 'Its pictures.',
  picture: 'The large picture.',
  thumbs: 'Its further pictures.',
  'product-text': 'What stands beside the pictures.',
  price: 'The price of the product.',
  description: 'The description.',
  sections: 'Care, returns, sizes.',
  'buy-form': 'Choices, number and button.',

  cart: 'The cart, and the whole of the page it stands on.',
  lines: 'All lines of the cart.',
  line: 'One line of the cart.',
  stepper: 'Fewer and more.',
  sum: 'The sum beside the lines.',
  steps: 'The steps of the sum.',
  total: 'What there is to pay.',
  codes: 'Discount codes and vouchers.',
  amount: 'The amount of a line.',

  checkout: 'The checkout.',
  address: 'Who buys, and where it goes.',
  ways: 'Ways of sending and of paying.',
  summary: 'What is bought, beside the address; the cart in a side column.',
  brief: 'The lines in short.',
  thanks: 'The thank-you page.',
  failed: 'The page after a payment that failed.',
  account: 'A shopper’s own orders.',

  reviews: 'What buyers say.',
  stars: 'Stars of a review.',
  lookup: 'The order lookup.',

  link: 'The way to the cart, and to a shopper’s orders.',
  label: 'The words beside the sign of the cart.',
  drawer: 'The cart beside the page.',
  box: 'The button to buy with its field.',
} as const;

export type PartName = keyof typeof parts;
export const partNames = Object.keys(parts) as PartName[];
export const isPartName = (name: string): name is PartName => Object.hasOwn(parts, name);
