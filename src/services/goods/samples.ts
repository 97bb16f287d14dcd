import { productInput, type ProductInput } from '../../core/goods/product';
import { minorDigits } from '../../core/money/currency';
import type { Ctx } from '../context';
import type { Site } from '../sites/site';
import { record, writing } from './changes';
import { insertProducts, parseProduct, slugsIn } from './goods';
import { takePicture } from './pictures';

/** A drawing that nobody takes for a photograph of real goods: a shape on a plain ground, and the word. */
const drawing = (ground: string, shape: string): Buffer =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="960" height="720" viewBox="0 0 96 72"><rect width="96" height="72" fill="${ground}"/>${shape}<text x="48" y="66" font-family="sans-serif" font-size="5" text-anchor="middle" fill="#3b3b36">SAMPLE</text></svg>`,
  );

interface Sample {
  readonly form: Omit<ProductInput, 'price'> & { readonly major: number };
  readonly picture: Buffer;
  readonly alt: string;
}

/** One of each kind that most shops have, so that an owner sees what a row, a choice, a reduced price and a date look like. */
const samples = (now: Date): readonly Sample[] => [
  {
    alt: 'A drawing of a mug',
    picture: drawing(
      '#e8e2d4',
      '<path d="M32 20h26v26a8 8 0 0 1-8 8H40a8 8 0 0 1-8-8z" fill="#7c9cb0"/><path d="M58 26h5a7 7 0 0 1 0 16h-5" fill="none" stroke="#7c9cb0" stroke-width="4"/>',
    ),
    form: {
      name: 'Sample: mug',
      major: 18,
      categories: ['Samples'],
      description: '<p>This is sample text. It shows where your own words will stand.</p>',
      options: [
        {
          name: 'Colour',
          as: 'swatch',
          values: [
            { name: 'Blue', colour: '#7c9cb0' },
            { name: 'Cream', colour: '#efe3c2' },
          ],
        },
      ],
      variants: [
        { values: ['Blue'], stock: 8 },
        { values: ['Cream'], stock: 2 },
      ],
    },
  },
  {
    alt: 'A drawing of a folded blanket',
    picture: drawing(
      '#e6ebe2',
      '<rect x="24" y="22" width="48" height="30" rx="4" fill="#a9745b"/><path d="M24 32h48M24 42h48" stroke="#e6ebe2" stroke-width="2"/>',
    ),
    form: {
      name: 'Sample: blanket',
      major: 64,
      categories: ['Samples'],
      description:
        '<p>This sample is on offer: the price before is struck through, with the lowest price of thirty days beneath.</p>',
      offer: { kind: 'percent', value: 20 },
      variants: [{ stock: 5 }],
    },
  },
  {
    alt: 'A drawing of a sheet of paper',
    picture: drawing(
      '#ece5ea',
      '<path d="M34 14h20l10 10v34H34z" fill="#fff" stroke="#8b7d8f" stroke-width="2"/><path d="M40 30h18M40 37h18M40 44h12" stroke="#8b7d8f" stroke-width="2"/>',
    ),
    form: {
      name: 'Sample: pattern to download',
      major: 9,
      kind: 'download',
      taxClass: 'digital',
      categories: ['Samples'],
      description: '<p>Buyers get the files of a download at once. This sample has none yet.</p>',
    },
  },
  {
    alt: 'A drawing of a calendar page',
    picture: drawing(
      '#f0e6d6',
      '<rect x="30" y="16" width="36" height="38" rx="3" fill="#fff" stroke="#9c7b3f" stroke-width="2"/><path d="M30 26h36" stroke="#9c7b3f" stroke-width="6"/><circle cx="48" cy="41" r="5" fill="#9c7b3f"/>',
    ),
    form: {
      name: 'Sample: a Saturday course',
      major: 75,
      kind: 'event',
      categories: ['Samples'],
      description: '<p>A place at an event has a date and seats.</p>',
      event: { start: new Date(now.getTime() + 30 * 86_400_000).toISOString(), place: 'Here' },
      variants: [{ stock: 6 }],
    },
  },
];

/** Puts in a few products that are clearly samples: marked, one line on the slip, gone at one press. */
export async function addSamples(ctx: Ctx, site: Site, by: string): Promise<number> {
  const minor = 10 ** minorDigits(site.row.currency);
  const forms = await Promise.all(
    samples(ctx.now()).map(async ({ form: { major, ...form }, picture, alt }) =>
      parseProduct({
        ...productInput.parse({ ...form, price: major * minor }),
        sample: true,
        pictures: [{ hash: await takePicture(ctx, picture), alt }],
      }),
    ),
  );
  await ctx.store.write(async (tx) => {
    const w = await writing(ctx, tx, site, by);
    const ids = await insertProducts(w, forms, await slugsIn(tx, site.row.id));
    await record(w, {
      act: `${ids.length} samples added`,
      changes: ids.map((goodsId) => ({ goodsId, field: 'added', from: null, to: null })),
    });
  });
  ctx.changed(site.row.id);
  return forms.length;
}
