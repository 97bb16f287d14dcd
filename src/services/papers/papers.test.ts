import { extractText, getDocumentProxy } from 'unpdf';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { printPage } from '../../core/papers/print';
import { documents } from '../../data/schema';
import { makeWorld, type World } from '../testing';
import { readOrder } from '../till/orders';
import { documentPaper, packingSlips } from './papers';
import { pdfOf } from './pdf';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, 200);
  await w.till('tax', { charged: true, included: true, home: { country: 'GB' }, rates: [{ country: 'GB', class: 'standard', percent: 20 }] });
  await w.till('seller', { name: 'Withybed Weavers', address: '4 Weir Lane\nOsierham', taxNumber: 'GB 000', prefix: 'W-' });
});
afterEach(() => w.end());

const read = async (bytes: Buffer) => {
  const pdf = await getDocumentProxy(new Uint8Array(bytes));
  const { text } = await extractText(pdf, { mergePages: true });
  return { text, pages: pdf.numPages };
};

describe('papers', () => {
  it('an invoice says what invoices have to say, in the page and in the PDF (read back by PDF.js)', async () => {
    await w.buy([{ goods: 'trug', quantity: 2 }], 'ada@x.example', { name: 'Žofia Łąka' });
    const [doc] = await w.ctx.store.db.select().from(documents);
    const { paper, name } = await documentPaper(w.ctx, await w.site(), doc?.id ?? '');
    expect(name).toBe('Invoice W-1');
    const { text, pages } = await read(await pdfOf([paper]));
    expect(pages).toBe(1);
    for (const words of ['Invoice', 'W-1', '24 November 2026', 'Withybed Weavers', 'GB 000', 'Žofia Łąka', 'Trug', '£84.00', '£70.00', '£14.00', 'Tax 20 %']) {
      expect(text, words).toContain(words);
      expect(printPage([paper]), words).toContain(words);
    }
  });

  it('long ones go over several pages, each with its number', async () => {
    const rows = Array.from({ length: 120 }, (_, n) => [`Thing ${n}`, '1', '£1.00']);
    const { text, pages } = await read(await pdfOf([{ title: 'Long', lang: 'en', from: ['A'], to: ['B'], facts: [], columns: [{ name: 'What', right: false }, { name: 'Pieces', right: true }, { name: 'Each', right: true }], rows, sums: [{ label: 'Total', value: '£120.00', strong: true }], notes: [] }]));
    expect(pages).toBeGreaterThan(2);
    expect(text).toContain(`Page 1 of ${pages}`);
    expect(text).toContain('Thing 119');
  });

  it('packing slips tell no price, and that they were printed stands with each order', async () => {
    await w.buy([{ goods: 'trug' }], 'a@x.example', { note: 'a present' });
    await w.buy([{ goods: 'trug' }], 'b@x.example');
    const site = await w.site();
    const ids = (await w.orders()).map((o) => o.id);
    const papers = await packingSlips(w.ctx, site, ids);
    const { text, pages } = await read(await pdfOf(papers));
    expect(pages).toBe(2);
    expect(text).toContain('a present');
    expect(text).not.toContain('£');
    expect((await readOrder(w.ctx, site, ids[0] ?? '')).events.at(-1)?.what).toBe('Packing slip printed');
    await expect(packingSlips(w.ctx, site, ['nope'])).rejects.toThrow('not known');
  });

  it('of an order are nobody’s who has not its address', async () => {
    await w.buy([{ goods: 'trug' }]);
    const [doc] = await w.ctx.store.db.select().from(documents);
    await expect(documentPaper(w.ctx, await w.site(), doc?.id ?? '', 'another')).rejects.toThrow('no such document');
  });

  it('whatever is typed stays text on the page to print', () => {
    const html = printPage([{ title: '<script>', lang: 'en"><script>', from: ['<b>'], to: [], facts: [], columns: [], rows: [['<img src=x>']], sums: [], notes: ['</style>'] }]);
    expect(html).not.toMatch(/<script|<img|<b>/);
  });
});
