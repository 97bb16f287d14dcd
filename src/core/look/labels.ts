import type { Use } from './found/colour-uses';
import type { Hue } from './found/naming';
import type { SourceName } from './found/sources';
import type { PairName } from './pairs';
import type { ShapeName } from './shape';
import type { TokenGroup, TokenKind, TokenName } from './tokens';

/** What owners call what the look is made of: on the slip, in the office, on the command line. */
export const tokenLabels: Readonly<Record<TokenName, string>> = {
  ground: 'Page ground',
  ink: 'Text',
  surface: 'Card surface',
  field: 'Field',
  'field-ink': 'Text in fields',
  accent: 'Button',
  'accent-ink': 'Button text',
  'button-line': 'Button edge',
  over: 'Button under the pointer',
  'over-ink': 'Its text then',
  pressed: 'Button while it is pressed',
  'pressed-ink': 'Its text then',
  link: 'Links',
  'heading-ink': 'Headings',
  muted: 'Second text',
  price: 'Price',
  was: 'Old price',
  stock: 'Words on stock',
  low: 'Only a few left',
  danger: 'Errors',
  line: 'Lines',
  'field-line': 'Edge of fields',
  focus: 'Ring of the focus',
  second: 'Second button',
  'second-ink': 'Its text',
  'second-line': 'Its edge',
  'second-over': 'Under the pointer',
  'second-over-ink': 'Its text then',
  badge: 'Badge',
  'badge-ink': 'Badge text',
  'badge-line': 'Badge edge',
  font: 'Text font',
  'heading-font': 'Heading font',
  'button-font': 'Button font',
  'heading-weight': 'Weight of headings',
  'heading-case': 'Capitals in headings',
  'heading-spacing': 'Space between letters of headings',
  'heading-scale': 'Size of headings',
  'button-weight': 'Weight of buttons',
  'button-case': 'Capitals on buttons',
  'button-spacing': 'Space between letters of buttons',
  'button-size': 'Size of button text',
  'link-line': 'Line under links',
  radius: 'Button corners',
  'pad-x': 'Room beside button text',
  'pad-y': 'Room above button text',
  'button-height': 'Least height of buttons',
  'button-width': 'Width of the button edge',
  'button-shadow': 'Button shadow',
  'over-shadow': 'Button shadow under the pointer',
  'second-width': 'Width of its edge',
  'second-radius': 'Its corners',
  'field-radius': 'Field corners',
  'field-width': 'Width of field edges',
  'card-radius': 'Card corners',
  'card-width': 'Width of card edges',
  'card-shadow': 'Card shadow',
  'picture-radius': 'Picture corners',
  space: 'Spacing step',
  width: 'Content width',
};

export const groupLabels: Readonly<Record<TokenGroup, string>> = {
  surfaces: 'Surfaces',
  words: 'Words',
  lines: 'Lines',
  button: 'Button',
  second: 'Second button',
  badge: 'Badge',
  letters: 'Letters',
  shape: 'Shape',
};

export const pairLabels: Readonly<Record<PairName, string>> = {
  text: 'text',
  heading: 'headings',
  second: 'second text',
  link: 'links',
  price: 'prices',
  was: 'old prices',
  stock: 'words on stock',
  low: 'few left',
  error: 'errors',
  button: 'text on the button',
  'button-over': 'text on the button under the pointer',
  'button-pressed': 'text on the button while it is pressed',
  'second-button': 'text on the second button',
  'second-over': 'text on the second button under the pointer',
  badge: 'text on the badge',
  field: 'text in fields',
  'field-edge': 'edge of fields',
  focus: 'ring of the focus',
};

export const sourceLabels: Readonly<Record<SourceName, string>> = {
  ground: 'page ground',
  band: 'second ground',
  deep: 'dark ground',
  card: 'cards',
  field: 'fields',
  text: 'text',
  'second-text': 'second text',
  heading: 'headings',
  link: 'links',
  button: 'buttons',
  'button-text': 'button text',
  'button-edge': 'button edge',
  'button-over': 'buttons under the pointer',
  'button-over-text': 'button text under the pointer',
  'button-pressed': 'buttons while they are pressed',
  'button-pressed-text': 'button text while it is pressed',
  'second-button': 'second button',
  'second-button-text': 'text of the second button',
  'second-button-edge': 'edge of the second button',
  'second-button-over': 'second button under the pointer',
  'second-button-over-text': 'its text under the pointer',
  'field-text': 'text in fields',
  'field-edge': 'field edges',
  rule: 'lines',
  mark: 'marks',
  focus: 'focus',
  'text-face': 'text font',
  'heading-face': 'heading font',
  'button-face': 'button font',
  'text-size': 'text size',
  'text-line': 'line height',
  'heading-weight': 'weight of headings',
  'heading-case': 'capitals in headings',
  'heading-spacing': 'letter space of headings',
  'heading-line': 'line height of headings',
  'heading-scale': 'size of headings',
  'button-weight': 'weight of buttons',
  'button-case': 'capitals on buttons',
  'button-spacing': 'letter space of buttons',
  'button-size': 'size of button text',
  'button-corner': 'button corners',
  'button-pad-x': 'room beside button text',
  'button-pad-y': 'room above button text',
  'button-height': 'button height',
  'button-edge-width': 'width of button edges',
  'button-shadow': 'button shadow',
  'button-over-shadow': 'button shadow under the pointer',
  'button-over-underline': 'line under button text',
  'second-button-edge-width': 'edge of the second button',
  'second-button-corner': 'corners of the second button',
  'field-corner': 'field corners',
  'field-edge-width': 'width of field edges',
  'field-height': 'field height',
  'card-corner': 'card corners',
  'card-edge-width': 'width of card edges',
  'card-shadow': 'card shadow',
  'picture-corner': 'picture corners',
  'picture-shape': 'picture shape',
  space: 'spacing step',
  width: 'content width',
  root: 'size of a rem',
  'link-line': 'line under links',
};

const hueLabels: Readonly<Record<Hue, string>> = {
  white: 'White',
  cream: 'Cream',
  grey: 'Grey',
  charcoal: 'Charcoal',
  black: 'Black',
  brown: 'Brown',
  red: 'Red',
  pink: 'Pink',
  orange: 'Orange',
  sand: 'Sand',
  yellow: 'Yellow',
  olive: 'Olive',
  green: 'Green',
  teal: 'Teal',
  sky: 'Sky blue',
  blue: 'Blue',
  navy: 'Navy',
  violet: 'Violet',
};

export const useLabels: Readonly<Record<Use, string>> = {
  page: 'page',
  button: 'buttons',
  'second-button': 'second button',
  link: 'links',
  heading: 'headings',
  text: 'text',
  'second-text': 'second text',
  band: 'bands',
  footer: 'footer',
  header: 'header',
  card: 'cards',
  field: 'fields',
  rule: 'lines',
  menu: 'menu',
  mark: 'marks',
  picture: 'pictures',
};

/** "Brown of the buttons"; of several alike "Brown of the buttons 2". */
export function colourName({
  hue,
  uses,
  nth,
}: {
  readonly hue: Hue;
  readonly uses: readonly Use[];
  readonly nth: number;
}): string {
  const [first] = uses;
  const name = first ? `${hueLabels[hue]} of the ${useLabels[first]}` : hueLabels[hue];
  return nth > 1 ? `${name} ${nth}` : name;
}

/** What owners call the shape of the shop, and each way of it. */
export const shapeLabels: Readonly<Record<ShapeName, string>> = {
  cards: 'Cards',
  hover: 'Under the pointer',
  dividers: 'Lines between cards',
  phone: 'Columns on a phone',
  tablet: 'Columns on a tablet',
  desk: 'Columns on a desk',
  least: 'Least width of a card',
  gap: 'Gap between cards',
  picture: 'Shape of pictures',
  fit: 'Pictures',
  tallest: 'Greatest height of pictures',
  badge: 'Badge',
  'badge-corner': 'Corner of the badge',
  product: 'Product page',
  gallery: 'Further pictures',
  glance: 'Quick look',
  sign: 'Sign of the cart',
  'sign-count': 'Count of the cart',
  'sign-size': 'Size of the sign',
  'sign-fill': 'Ground of the sign',
  'sign-colour': 'Colour of the sign',
};

const shapeValues: Readonly<Partial<Record<ShapeName, Readonly<Record<string, string>>>>> = {
  cards: {
    plain: 'Plain',
    tray: 'On a tray',
    ticket: 'Ticket',
    shelf: 'On a shelf',
    caption: 'Dark caption',
  },
  hover: {
    none: 'Nothing',
    lift: 'Lifts',
    nearer: 'Comes nearer',
    second: 'Second picture',
    quiet: 'Others go quiet',
  },
  dividers: { no: 'No', yes: 'Yes' },
  picture: {
    '4-3': '4 to 3',
    '1-1': 'Square',
    '3-4': 'Upright, 3 to 4',
    '3-2': '3 to 2',
    '16-9': 'Wide, 16 to 9',
    own: 'As they are',
  },
  fit: { fill: 'Fill their shape', whole: 'Whole, on a ground' },
  badge: { label: 'A label', band: 'A corner band', round: 'Round' },
  'badge-corner': {
    'top-left': 'Top left',
    'top-right': 'Top right',
    'bottom-left': 'Bottom left',
    'bottom-right': 'Bottom right',
  },
  product: { two: 'Two columns where there is room', one: 'One column' },
  gallery: { below: 'Below the first', beside: 'Beside the first' },
  glance: { yes: 'Where a widget has it', no: 'Nowhere' },
  sign: { basket: 'Basket', bag: 'Bag', crate: 'Crate', barrow: 'Barrow' },
  'sign-count': { beside: 'Beside it', on: 'On it', in: 'In it' },
  'sign-fill': { filled: 'Filled', bare: 'Bare' },
  'sign-colour': { text: 'Of the text', button: 'Of the buttons' },
};

/** A way of a shape in the owner's words. */
export function shapeValueLabel(name: ShapeName, value: string): string {
  const named = shapeValues[name]?.[value];
  if (named !== undefined) return named;
  if (name === 'phone' || name === 'tablet' || name === 'desk')
    return value === '6' ? 'as many as fit' : value;
  return name === 'tallest' && value === '0' ? 'any' : `${value} px`;
}

const first = (family: string): string => (family.split(',')[0] ?? '').replace(/["']/g, '').trim();

const caseWords: Readonly<Record<string, string>> = {
  none: 'as written',
  uppercase: 'all capitals',
  lowercase: 'no capitals',
  capitalize: 'each word',
};

/** A token's value in the owner's words: "#79491B", "4 px", "Alegreya Sans". */
export function valueLabel(kind: TokenKind, value: string): string {
  if (kind === 'colour') return value.toUpperCase();
  if (kind === 'face') return first(value) === 'inherit' ? 'as around it' : first(value);
  if (kind === 'corner' && Number(value) >= 999) return 'round';
  if (kind === 'corner' || kind === 'length') return `${value} px`;
  if (kind === 'case') return caseWords[value] ?? value;
  if (kind === 'shadow') return value === 'none' ? 'none' : 'as on the site';
  return value;
}

/** "Cards: Ticket". */
export const ownWords = (name: ShapeName, value: string): string =>
  `${shapeLabels[name]}: ${shapeValueLabel(name, value)}`;
