import type { ProductInput } from '../src/core/goods/product';

/** What Withybed Weavers sell. Prices in pence. All of it is invented. */
export const catalogue: readonly (ProductInput & { readonly file: string })[] = [
  { file: 'log', name: 'Round log basket', price: 6800, categories: ['Baskets'], stock: 8, pictureAlt: 'A round willow basket full of split logs', description: 'A stout round basket for a night\u2019s logs, woven on twelve double stakes with two plaited handles. Stands 38 cm tall.\n\nGrown, cut and woven here.' },
  { file: 'trug', name: 'Berry trug', price: 3900, categories: ['Baskets'], stock: 12, pictureAlt: 'An oval trug of blackberries', description: 'Oval, 34 cm, on one bowed handle that sits in the crook of an arm.' },
  { file: 'backpack', name: 'Foraging backpack', price: 12000, was: 13500, categories: ['Baskets'], stock: 3, pictureAlt: 'A tall basket with leather straps', description: 'Tall and close-woven, with bridle-leather straps. For both hands free in the lane behind the church.' },
  { file: 'feeder', name: 'Weave-a-bird-feeder kit', price: 2400, categories: ['Kits and patterns'], stock: 14, pictureAlt: 'A woven bird feeder with a bird', description: 'An evening\u2019s work, from eight years up. Rods, a base, and a sheet that explains it.' },
  { file: 'pattern', name: 'Pattern sheet: oval shopper', price: 650, categories: ['Kits and patterns'], stock: null, pictureAlt: 'A drawn pattern for a basket', description: 'Both sides of one sheet: stakes, waling, border, handle.' },
  { file: 'workshop', name: 'Saturday workshop place', price: 7500, categories: ['Workshops'], stock: 4, pictureAlt: 'Two hands at the start of a basket', description: 'Saturday 12 December, ten to four, soup at one. You go home with a small round basket.' },
  { file: 'bundle', name: 'Willow bundle, 1.5 kg', price: 1400, categories: ['Willow'], stock: 32, pictureAlt: 'A tied bundle of willow rods', description: 'Sorted, dry, four to five feet. Enough for three small ones.' },
  { file: 'voucher', name: 'Gift voucher', price: 1000, openLeast: 1000, categories: ['Vouchers'], stock: null, pictureAlt: 'A card tied with green ribbon', description: 'On a card, by post. You name the amount.' },
];

/** What the owners of the other demo sites sell. */
export const others: readonly { readonly folder: string; readonly currency: string; readonly goods: readonly ProductInput[] }[] = [
  { folder: 'hollin', currency: 'EUR', goods: [
    { name: 'Curlew, linocut', price: 9500, stock: 11, categories: ['Linocuts'], description: 'Two blocks on cotton paper, 30 by 21 cm. Edition of forty, signed.' },
    { name: 'Turnstone, linocut', price: 12000, stock: 2, categories: ['Linocuts'], description: 'Three blocks, rust over grey, 30 by 21 cm.' },
    { name: 'Six cards of the tideline', price: 1800, was: 2100, stock: 60, categories: ['Cards'], description: 'Six birds, six envelopes.' },
  ] },
  { folder: 'brombeerhof', currency: 'EUR', goods: [
    { name: 'Brombeere, 220 g', price: 650, stock: 40, categories: ['Im Glas'], description: 'Mit Kernen, wie sie sich geh\u00f6ren.' },
    { name: 'Quittengelee, 220 g', price: 720, stock: 0, categories: ['Im Glas'], description: 'Zwei N\u00e4chte durchgezogen.' },
  ] },
  { folder: 'quillfeather', currency: 'GBP', goods: [
    { name: 'Mainspring, cut to length', price: 1450, stock: null, categories: ['Springs'], description: 'Blue steel, 14 to 30 mm. Tell me the clock.' },
    { name: 'Gut line, a yard', price: 320, stock: 25, categories: ['Line'], description: 'For long case clocks.' },
  ] },
];

/** Who bought what, and how many hours ago. Invented people. */
export const buyers = [
  { name: 'June Ashworth', street: '9 Mill Row', town: 'Nether Withy', postcode: 'NW4 1AB', hoursAgo: 74, lines: [['pattern-sheet-oval-shopper', 1]] },
  { name: 'Wilf Hathersage', street: '2 The Cut', town: 'Osierham', postcode: 'WB2 6QE', hoursAgo: 51, lines: [['round-log-basket', 1], ['willow-bundle-1-5-kg', 2]] },
  { name: 'Ines Quarrie', street: '41 Bank Street', town: 'Sallowford', postcode: 'SF1 9KT', hoursAgo: 26, lines: [['willow-bundle-1-5-kg', 3]] },
  { name: 'Ada Penhallow', street: '4 Weir Lane', town: 'Osierham', postcode: 'WB4 2TR', hoursAgo: 3, lines: [['round-log-basket', 1], ['berry-trug', 1]] },
] as const;
