import type { ProductInput } from '../src/core/goods/product';

/** Goods as the demo has them: pictures by the names of drawings in demo/goods, parts of bundles by name. */
export interface DemoProduct extends Omit<ProductInput, 'pictures' | 'bundle'> {
  readonly files?: readonly { readonly file: string; readonly alt: string; readonly y?: number }[];
  /** Releases of a download, with what stands in its files. */
  readonly sheets?: typeof patternSheets;
  readonly parts?: readonly { readonly name: string; readonly quantity: number }[];
}

const counted = (stock: number | null, sku = '', weight: number | null = null): ProductInput['variants'] => [
  { stock, sku, weight },
];

/** Size and colour of the log basket, with what each has on hand. */
const logs: NonNullable<ProductInput['variants']> = [
  { values: ['S', 'natural'], difference: -1400, sku: 'RLB-S-N', stock: 5, weight: 1100 },
  { values: ['S', 'dyed'], difference: -800, sku: 'RLB-S-D', stock: 2, weight: 1100 },
  { values: ['M', 'natural'], sku: 'RLB-M-N', stock: 8, weight: 1600 },
  { values: ['M', 'dyed'], difference: 600, sku: 'RLB-M-D', stock: 0, weight: 1600 },
  { values: ['L', 'natural'], difference: 1800, sku: 'RLB-L-N', stock: 6, weight: 2300 },
  { values: ['L', 'dyed'], difference: 2400, sku: 'RLB-L-D', stock: 1, weight: 2300 },
];

const patternSheets = [
  {
    name: '1.1',
    date: '2026-10-02',
    notes: '<p>The border is drawn larger, and row 14 says which rod goes first.</p>',
    files: [
      { name: 'Oval shopper, A3.svg', drawing: 'pattern' },
      {
        name: 'Oval shopper, how to read it.txt',
        text: 'Begin at the base. Stakes are numbered clockwise, seen from inside.\n',
      },
    ],
  },
  {
    name: '1.0',
    date: '2026-03-14',
    notes: '<p>The first printing.</p>',
    files: [{ name: 'Oval shopper, first printing.txt', text: 'Row 14: the rod to the left goes first.\n' }],
  },
] as const;

/** What buyers said, by the order of {@link buyers}; the last one waits to be read. */
export const reviews = [
  {
    buyer: 0,
    goods: 'pattern-sheet-oval-shopper',
    rating: 5,
    title: 'Clear at last',
    text: 'Three books could not tell me how the border closes. This sheet did, on one evening.',
    shown: true,
    answer: '',
  },
  {
    buyer: 1,
    goods: 'round-log-basket',
    rating: 4,
    title: 'Stands like a rock',
    text: 'Holds more than the old crate did. One handle creaks a little when it is full.',
    shown: true,
    answer: 'Willow creaks until it has dried in with you: a month by the stove, and it is quiet.',
  },
  {
    buyer: 1,
    goods: 'willow-bundle-1-5-kg',
    rating: 5,
    title: '',
    text: 'Sorted as promised, hardly a crooked one among them.',
    shown: true,
    answer: '',
  },
  {
    buyer: 2,
    goods: 'willow-bundle-1-5-kg',
    rating: 3,
    title: 'Good rods, late post',
    text: 'The rods are fine. The parcel took nine days.',
    shown: false,
    answer: '',
  },
] as const;

/** What Withybed Weavers sell. Prices in pence. All of it is invented. */
export const catalogue: readonly DemoProduct[] = [
  {
    files: [
      { file: 'log', alt: 'A round willow basket full of split logs' },
      { file: 'log-dyed', alt: 'The same basket, woven of dyed willow' },
    ],
    name: 'Round log basket',
    price: 6800,
    cost: 2740,
    categories: ['Baskets'],
    tags: ['for the hearth', 'to give'],
    options: [
      { name: 'Size', values: [{ name: 'S' }, { name: 'M' }, { name: 'L' }] },
      {
        name: 'Colour',
        as: 'swatch',
        values: [
          { name: 'natural', colour: '#b5813f' },
          { name: 'dyed', colour: '#7a8a5c' },
        ],
      },
    ],
    variants: logs,
    texts: [{ label: 'Initials on the tag', most: 3, price: 400 }],
    sections: [
      {
        title: 'Care',
        text: '<p>Keep it dry and away from the stove door. A damp cloth once a year is all it wants.</p>',
      },
      {
        title: 'Sizes',
        text: '<table><tbody><tr><th scope="row">S</th><td>34 cm across, 28 tall</td></tr><tr><th scope="row">M</th><td>42 cm across, 38 tall</td></tr><tr><th scope="row">L</th><td>52 cm across, 44 tall</td></tr></tbody></table>',
      },
    ],
    description:
      '<p>A stout round basket for a night\u2019s logs, woven on twelve double stakes with two plaited handles. Stands 38 cm tall in size M.</p><p>Grown, cut and woven here.</p>',
  },
  {
    files: [{ file: 'trug', alt: 'An oval trug of blackberries' }],
    name: 'Berry trug',
    price: 3900,
    cost: 1450,
    categories: ['Baskets'],
    tags: ['for the garden', 'to give'],
    variants: counted(12, 'BT-34', 650),
    searchWords: 'blackberry garden',
    description: 'Oval, 34 cm, on one bowed handle that sits in the crook of an arm.',
  },
  {
    files: [{ file: 'backpack', alt: 'A tall basket with leather straps' }],
    name: 'Foraging backpack',
    price: 12000,
    was: 13500,
    cost: 5200,
    categories: ['Baskets'],
    tags: ['for the garden'],
    variants: counted(3, 'FB-1', 1900),
    description:
      'Tall and close-woven, with bridle-leather straps. For both hands free in the lane behind the church.',
  },
  {
    files: [{ file: 'feeder', alt: 'A woven bird feeder with a bird' }],
    name: 'Weave-a-bird-feeder kit',
    price: 2400,
    cost: 700,
    categories: ['Kits and patterns'],
    tags: ['to make', 'to give'],
    variants: counted(14, 'KIT-BF', 400),
    badge: 'For ages 8 up',
    description: 'An evening\u2019s work, from eight years up. Rods, a base, and a sheet that explains it.',
  },
  {
    files: [{ file: 'pattern', alt: 'A drawn pattern for a basket' }],
    name: 'Pattern sheet: oval shopper',
    kind: 'download',
    price: 650,
    categories: ['Kits and patterns'],
    tags: ['to make'],
    variants: counted(null, 'PAT-OS'),
    description: 'Both sides of one sheet: stakes, waling, border, handle.',
    sheets: patternSheets,
  },
  {
    files: [{ file: 'workshop', alt: 'Two hands at the start of a basket' }],
    name: 'Saturday workshop place',
    kind: 'event',
    price: 7500,
    categories: ['Workshops'],
    variants: counted(4),
    event: {
      start: '2026-12-12T10:00:00+00:00',
      end: '2026-12-12T16:00:00+00:00',
      place: 'The willow shed',
      address: 'Weir Lane, Osierham',
    },
    description: 'Ten to four, soup at one. You go home with a small round basket.',
  },
  {
    files: [{ file: 'bundle', alt: 'A tied bundle of willow rods' }],
    name: 'Willow bundle, 1.5 kg',
    price: 1400,
    cost: 310,
    unit: { amount: 1.5, measure: 'kg' },
    categories: ['Willow'],
    tags: ['to make'],
    variants: counted(32, 'WB-15', 1500),
    description: 'Sorted, dry, four to five feet. Enough for three small ones.',
  },
  {
    files: [{ file: 'feeder', alt: 'A woven bird feeder with a bird' }],
    name: 'First winter box',
    kind: 'bundle',
    price: 4200,
    categories: ['Kits and patterns'],
    tags: ['to make', 'to give'],
    description:
      'The bird feeder kit, a bundle of willow and the pattern sheet: for the weeks when it is dark at four.',
    parts: [
      { name: 'Weave-a-bird-feeder kit', quantity: 1 },
      { name: 'Willow bundle, 1.5 kg', quantity: 1 },
      { name: 'Pattern sheet: oval shopper', quantity: 1 },
    ],
  },
  {
    files: [{ file: 'bundle', alt: 'A tied bundle of willow rods' }],
    name: 'Rods by post',
    kind: 'subscription',
    price: 1650,
    every: { count: 1, unit: 'month' },
    categories: ['Willow'],
    tags: ['to make'],
    variants: counted(null, 'ROD-M', 1500),
    description: 'A sorted bundle each month, of whatever was cut last. Stop when your cupboard is full.',
  },
  {
    files: [{ file: 'voucher', alt: 'A card tied with green ribbon' }],
    name: 'Gift voucher',
    kind: 'voucher',
    price: 1000,
    openLeast: 1000,
    openSuggestions: [2500, 5000, 7500],
    voucherMonths: 36,
    categories: ['Vouchers'],
    variants: counted(null),
    description: 'On a card, by post. You name the amount.',
  },
];

/** What the owners of the other demo sites sell. */
export const others: readonly {
  readonly folder: string;
  readonly currency: string;
  readonly goods: readonly ProductInput[];
}[] = [
  {
    folder: 'hollin',
    currency: 'EUR',
    goods: [
      {
        name: 'Curlew, linocut',
        price: 9500,
        variants: counted(11),
        categories: ['Linocuts'],
        description: 'Two blocks on cotton paper, 30 by 21 cm. Edition of forty, signed.',
      },
      {
        name: 'Turnstone, linocut',
        price: 12000,
        variants: counted(2),
        categories: ['Linocuts'],
        description: 'Three blocks, rust over grey, 30 by 21 cm.',
      },
      {
        name: 'Six cards of the tideline',
        price: 1800,
        was: 2100,
        variants: counted(60),
        categories: ['Cards'],
        description: 'Six birds, six envelopes.',
      },
    ],
  },
  {
    folder: 'brombeerhof',
    currency: 'EUR',
    goods: [
      {
        name: 'Brombeere, 220 g',
        price: 650,
        unit: { amount: 220, measure: 'g' },
        variants: counted(40),
        categories: ['Im Glas'],
        description: 'Mit Kernen, wie sie sich geh\u00f6ren.',
      },
      {
        name: 'Quittengelee, 220 g',
        price: 720,
        unit: { amount: 220, measure: 'g' },
        variants: counted(0),
        categories: ['Im Glas'],
        description: 'Zwei N\u00e4chte durchgezogen.',
      },
    ],
  },
  {
    folder: 'quillfeather',
    currency: 'GBP',
    goods: [
      {
        name: 'Mainspring, cut to length',
        price: 1450,
        variants: counted(null),
        categories: ['Springs'],
        description: 'Blue steel, 14 to 30 mm. Tell me the clock.',
      },
      {
        name: 'Gut line, a yard',
        price: 320,
        unit: { amount: 91.44, measure: 'cm' },
        variants: counted(25),
        categories: ['Line'],
        description: 'For long case clocks.',
      },
    ],
  },
];

/** What the till of Withybed Weavers says. Rates and prices are the demo's own. */
export const till = {
  tax: {
    charged: true,
    included: true,
    home: { country: 'GB' },
    rates: [
      { country: 'GB', class: 'standard', percent: 20 },
      { country: 'GB', class: 'reduced', percent: 5 },
      { country: 'GB', class: 'books', percent: 0 },
    ],
    confirmed: '2026-11-02',
  },
  shipping: {
    closedWeekdays: [0, 6],
    regions: [
      {
        id: 'uk',
        name: 'United Kingdom',
        areas: [{ country: 'GB' }],
        ways: [
          {
            id: 'uk-post',
            name: 'By post',
            by: 'weight',
            bands: [
              { upTo: 2000, price: 420 },
              { upTo: 5000, price: 695 },
              { upTo: 10_000, price: 980 },
              { upTo: 20_000, price: 1450 },
            ],
            freeFrom: 8000,
            days: { least: 3, most: 5 },
          },
        ],
      },
      {
        id: 'near',
        name: 'The valley',
        areas: [{ country: 'GB', postcodes: ['WB4*', 'WB2*'] }],
        ways: [{ id: 'van', name: 'In our van', kind: 'local', base: 250, hint: 'Thursdays' }],
      },
      {
        id: 'europe',
        name: 'Ireland and Europe',
        areas: ['IE', 'FR', 'DE', 'NL', 'BE', 'ES', 'IT', 'AT', 'DK', 'SE'].map((country) => ({ country })),
        ways: [
          {
            id: 'eu-post',
            name: 'By post',
            by: 'weight',
            bands: [
              { upTo: 2000, price: 1150 },
              { upTo: 5000, price: 1700 },
              { upTo: 10_000, price: 2600 },
            ],
            days: { least: 6, most: 12 },
          },
        ],
      },
      {
        id: 'world',
        name: 'Everywhere else',
        areas: [{ country: '*' }],
        ways: [
          {
            id: 'world-post',
            name: 'By air',
            by: 'weight',
            bands: [
              { upTo: 2000, price: 2200 },
              { upTo: 5000, price: 3800 },
            ],
            hint: 'You pay the import tax',
          },
        ],
      },
      {
        id: 'here',
        name: 'The workshop',
        areas: [{ country: 'GB' }],
        ways: [{ id: 'collect', name: 'Collect in person', kind: 'collect', hint: 'Fridays, 10 to 4' }],
      },
    ],
  },
  discounts: [
    {
      id: 'coppice',
      name: 'Coppice',
      code: 'COPPICE',
      kind: 'percent',
      percent: 10,
      scope: { to: 'categories', categories: ['Willow'] },
    },
    {
      id: 'three',
      name: 'Three for the shed',
      kind: 'buy-get',
      buy: 2,
      get: 1,
      off: 50,
      scope: { to: 'categories', categories: ['Willow'] },
    },
  ],
  pay: {
    ways: [
      { id: 'card', kind: 'card' },
      { id: 'wallet', kind: 'wallet' },
      // The IBAN is the one that ISO 13616 gives as an example: no account behind it.
      {
        id: 'transfer',
        kind: 'transfer',
        countries: ['GB'],
        words: 'Please transfer within seven days. We start weaving when the money is here.',
        iban: 'GB29NWBK60161331926819',
      },
      {
        id: 'workshop',
        kind: 'person',
        name: 'In the workshop',
        words: 'Cash or card, Fridays from 10 to 4.',
      },
    ],
  },
  checkout: {
    policies: [
      {
        id: 'terms',
        name: 'Terms of sale',
        text: 'We weave to order. What you buy from us you may send back within thirty days, unused, at your own cost; what we wove to your measure stays with you.\n\nWillow moves a little as it dries. That is no fault.',
      },
    ],
    thanks:
      'Every basket is finished by hand and sent on a Friday. If it is a present, write us and we leave the bill out.',
    failed: 'If it goes wrong again, ring the workshop: 01632 960 411.',
  },
  // Telephone numbers from 01632 960 000 are kept for drama (Ofcom): nobody has them.
  seller: {
    name: 'Withybed Weavers',
    address: '4 Weir Lane\nOsierham\nWB4 2TR',
    taxNumber: 'GB 000 0000 00',
    email: 'hello@withybed.example',
    prefix: 'W-',
    foot: 'Withybed Weavers, grown and woven at Osierham.',
  },
  letters: { review: { on: true, days: 14 }, 'left-behind': { on: true, days: 1 } },
  exchange: {
    date: '2026-11-20',
    rates: [
      { currency: 'EUR', rate: '1.14' },
      { currency: 'USD', rate: '1.31' },
    ],
  },
} as const;

/** Who bought after the till was set, by which way, how they pay, and what was done since. */
export const laterBuyers = [
  {
    name: 'Mill Lane School',
    street: 'Mill Lane',
    town: 'Sallowford',
    postcode: 'SF1 2DD',
    hoursAgo: 60,
    lines: [['round-log-basket', 3]],
    way: 'uk-post',
    payBy: 'transfer',
    done: [],
    note: 'For the reading corner. The order comes from the office, the baskets go to Room 4.',
  },
  {
    name: 'Bea Normanton',
    street: '7 Weir Lane',
    town: 'Osierham',
    postcode: 'WB4 2TS',
    hoursAgo: 30,
    lines: [['berry-trug', 1]],
    way: 'collect',
    payBy: 'card',
    done: ['pack'],
    note: '',
  },
  {
    name: 'Tomas Riddle',
    street: '18 Kiln Street',
    town: 'Nether Withy',
    postcode: 'NW4 1QT',
    hoursAgo: 20,
    lines: [['willow-bundle-1-5-kg', 1]],
    way: 'uk-post',
    payBy: 'wallet',
    done: [],
    note: '',
  },
  {
    name: 'Perry Lund',
    street: '3 Quay Side',
    town: 'Sallowford',
    postcode: 'SF1 4BB',
    hoursAgo: 46,
    lines: [['berry-trug', 1]],
    way: 'uk-post',
    payBy: 'card',
    done: ['pack', 'send'],
    note: 'A present: no price in the box please.',
  },
] as const;

/** Who bought what, and how many hours ago. Invented people. */
export const buyers = [
  {
    name: 'June Ashworth',
    street: '9 Mill Row',
    town: 'Nether Withy',
    postcode: 'NW4 1AB',
    hoursAgo: 74,
    lines: [['pattern-sheet-oval-shopper', 1]],
  },
  {
    name: 'Wilf Hathersage',
    street: '2 The Cut',
    town: 'Osierham',
    postcode: 'WB2 6QE',
    hoursAgo: 51,
    lines: [
      ['round-log-basket', 1],
      ['willow-bundle-1-5-kg', 2],
    ],
  },
  {
    name: 'Ines Quarrie',
    street: '41 Bank Street',
    town: 'Sallowford',
    postcode: 'SF1 9KT',
    hoursAgo: 26,
    lines: [['willow-bundle-1-5-kg', 3]],
  },
  {
    name: 'Ada Penhallow',
    street: '4 Weir Lane',
    town: 'Osierham',
    postcode: 'WB4 2TR',
    hoursAgo: 3,
    lines: [
      ['round-log-basket', 1],
      ['berry-trug', 1],
    ],
  },
] as const;
