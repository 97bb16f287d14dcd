import type { Place } from '../shop-context';

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
    name: 'Name that shoppers read',
    place: 'till',
    at: '?basics',
    words: ['shop name', 'business name', 'title', 'brand'],
  },
  { name: 'Currency', place: 'till', at: '?basics', words: ['money', 'euro', 'pound', 'dollar', 'price in'] },
  {
    name: 'What is sold',
    place: 'till',
    at: '?basics',
    words: ['kind', 'physical', 'digital', 'services', 'type'],
  },
  {
    name: 'Tax rates',
    place: 'till',
    at: '?tax',
    words: ['vat', 'sales tax', 'gst', 'rate', 'below threshold'],
  },
  {
    name: 'Prices with or without tax',
    place: 'till',
    at: '?tax',
    words: ['included', 'net', 'gross', 'vat'],
  },
  {
    name: 'Shipping methods',
    place: 'till',
    at: '?shipping',
    words: [
      'postage',
      'delivery',
      'freight',
      'courier',
      'region',
      'country',
      'free shipping',
      'collect',
      'pickup',
    ],
  },
  { name: 'Weights', place: 'till', at: '?shipping', words: ['kg', 'lb', 'pounds', 'grams', 'unit'] },
  {
    name: 'Discounts and codes',
    place: 'till',
    at: '?discounts',
    words: ['coupon', 'voucher', 'promotion', 'sale', 'promo code', 'percent off'],
  },
  {
    name: 'Ways to pay',
    place: 'till',
    at: '?pay',
    words: [
      'payment',
      'card',
      'bank transfer',
      'iban',
      'account',
      'cash',
      'invoice',
      'on delivery',
      'way to pay',
    ],
  },
  { name: 'Only trying out', place: 'till', at: '?pay', words: ['test', 'test mode', 'sandbox', 'try'] },
  {
    name: 'Thank-you words',
    place: 'till',
    at: '?checkout',
    words: ['thank', 'thanks', 'confirmation', 'after paying', 'success'],
  },
  {
    name: 'What buyers agree to',
    place: 'till',
    at: '?checkout',
    words: ['terms', 'conditions', 'privacy', 'returns', 'withdrawal', 'policy', 'policies', 'legal'],
  },
  {
    name: 'What the checkout asks',
    place: 'till',
    at: '?checkout',
    words: ['telephone', 'phone', 'company', 'note', 'address', 'fields'],
  },
  {
    name: 'Letters',
    place: 'till',
    at: '?letters',
    words: ['email', 'e-mail', 'mail', 'notification', 'reminder', 'abandoned', 'template'],
  },
  {
    name: 'Who sells',
    place: 'till',
    at: '?seller',
    words: ['business', 'company', 'address', 'vat number', 'tax number', 'invoice number', 'imprint'],
  },
  { name: 'Time zone', place: 'till', at: '?seller', words: ['clock', 'time', 'midnight'] },
  {
    name: 'Other currencies',
    place: 'till',
    at: '?exchange',
    words: ['exchange rate', 'convert', 'currency'],
  },
  {
    name: 'Name and address of the shop',
    place: 'site',
    at: '?lens=menus',
    words: ['shop name', 'title', 'slug', 'url', 'heading', 'front page', 'rename', 'move'],
  },
  {
    name: 'Menu',
    place: 'site',
    at: '?lens=menus',
    words: ['navigation', 'item', 'order', 'nest', 'rename'],
  },
  {
    name: 'Colours, fonts and buttons',
    place: 'look',
    at: '',
    words: ['color', 'colour', 'font', 'style', 'design', 'theme', 'css', 'corner', 'radius'],
  },
  { name: 'Categories', place: 'goods', at: '?categories', words: ['collection', 'group', 'sort', 'nested'] },
  {
    name: 'Prices and stock as a table',
    place: 'goods',
    at: '?table',
    words: ['bulk', 'csv', 'import', 'export', 'spreadsheet'],
  },
  { name: 'Reviews', place: 'goods', at: '?reviews', words: ['ratings', 'stars', 'comments', 'moderate'] },
  {
    name: 'Leave, go back, history',
    place: 'site',
    at: '?lens=publishing',
    words: ['undo', 'restore', 'roll back', 'remove', 'uninstall', 'delete'],
  },
];
