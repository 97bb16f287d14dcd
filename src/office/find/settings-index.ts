import type { Place } from '../shop-context';
import { settingsIndex as say } from '../words/find';

/** A setting as people look for it: by the words they have for it, not by ours alone. */
export interface FoundSetting {
  readonly name: string;
  readonly place: Place;
  /** What stands behind the place's address: the part that is open. */
  readonly at: string;
  readonly words: readonly string[];
}

/** Every setting of the office, where it is, and what people call it; common practice. */
export const settingsIndex: readonly FoundSetting[] = [
  {
    name: say.nameThatShoppersRead,
    place: 'till',
    at: '?basics',
    words: [say.shopName, say.businessName, 'title', 'brand'],
  },
  {
    name: say.currency,
    place: 'till',
    at: '?basics',
    words: ['money', 'euro', 'pound', 'dollar', say.priceIn],
  },
  {
    name: say.whatIsSold,
    place: 'till',
    at: '?basics',
    words: ['kind', 'physical', 'digital', 'services', 'type'],
  },
  {
    name: say.taxRates,
    place: 'till',
    at: '?tax',
    words: ['vat', say.salesTax, 'gst', 'rate', say.belowThreshold],
  },
  {
    name: say.pricesWithOrWithoutTax,
    place: 'till',
    at: '?tax',
    words: ['included', 'net', 'gross', 'vat'],
  },
  {
    name: say.shippingMethods,
    place: 'till',
    at: '?shipping',
    words: [
      'postage',
      'delivery',
      'freight',
      'courier',
      'region',
      'country',
      say.freeShipping,
      'collect',
      'pickup',
    ],
  },
  { name: say.weights, place: 'till', at: '?shipping', words: ['kg', 'lb', 'pounds', 'grams', 'unit'] },
  {
    name: say.discountsAndCodes,
    place: 'till',
    at: '?discounts',
    words: ['coupon', 'voucher', 'promotion', 'sale', say.promoCode, say.percentOff],
  },
  {
    name: say.waysToPay,
    place: 'till',
    at: '?pay',
    words: [
      'payment',
      'card',
      say.bankTransfer,
      'iban',
      'account',
      'cash',
      'invoice',
      say.onDelivery,
      say.wayToPay,
    ],
  },
  { name: say.onlyTryingOut, place: 'till', at: '?pay', words: ['test', say.testMode, 'sandbox', 'try'] },
  {
    name: say.thankYouWords,
    place: 'till',
    at: '?checkout',
    words: ['thank', 'thanks', 'confirmation', say.afterPaying, 'success'],
  },
  {
    name: say.whatBuyersAgreeTo,
    place: 'till',
    at: '?checkout',
    words: ['terms', 'conditions', 'privacy', 'returns', 'withdrawal', 'policy', 'policies', 'legal'],
  },
  {
    name: say.whatTheCheckoutAsks,
    place: 'till',
    at: '?checkout',
    words: ['telephone', 'phone', 'company', 'note', 'address', 'fields'],
  },
  {
    name: say.letters,
    place: 'till',
    at: '?letters',
    words: ['email', 'e-mail', 'mail', 'notification', 'reminder', 'abandoned', 'template'],
  },
  {
    name: say.whoSells,
    place: 'till',
    at: '?seller',
    words: ['business', 'company', 'address', say.vatNumber, say.taxNumber, say.invoiceNumber, 'imprint'],
  },
  { name: say.timeZone, place: 'till', at: '?seller', words: ['clock', 'time', 'midnight'] },
  {
    name: say.otherCurrencies,
    place: 'till',
    at: '?exchange',
    words: [say.exchangeRate, 'convert', 'currency'],
  },
  {
    name: say.nameAndAddressOfTheShop,
    place: 'site',
    at: '?lens=menus',
    words: [say.shopName, 'title', 'slug', 'url', 'heading', say.frontPage, 'rename', 'move'],
  },
  {
    name: say.menu,
    place: 'site',
    at: '?lens=menus',
    words: ['navigation', 'item', 'order', 'nest', 'rename'],
  },
  {
    name: say.coloursFontsAndButtons,
    place: 'look',
    at: '',
    words: ['color', 'colour', 'font', 'style', 'design', 'theme', 'css', 'corner', 'radius'],
  },
  {
    name: say.categories,
    place: 'goods',
    at: '?categories',
    words: ['collection', 'group', 'sort', 'nested'],
  },
  {
    name: say.pricesAndStockAsATable,
    place: 'goods',
    at: '?table',
    words: ['bulk', 'csv', 'import', 'export', 'spreadsheet'],
  },
  { name: say.reviews, place: 'goods', at: '?reviews', words: ['ratings', 'stars', 'comments', 'moderate'] },
  {
    name: say.leaveGoBackHistory,
    place: 'site',
    at: '?lens=publishing',
    words: ['undo', 'restore', say.rollBack, 'remove', 'uninstall', 'delete'],
  },
];
