import { extractText, getDocumentProxy } from 'unpdf';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { printPage } from '../../core/papers/print';
import { eq } from 'drizzle-orm';
import { documents, sites } from '../../data/schema';
import { sendDue } from '../letters/outbox';
import { actOnOrder } from '../till/fulfil';
import { refundOrder } from '../till/refunds';
import { makeWorld, type World } from '../testing';
import { readOrder } from '../till/read-order';
import { documentPaper, packingSlips } from './papers';
import { pdfOf } from './pdf';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
  await w.addGoods('Trug', 4200, 200);
  await w.till('tax', {
    charged: true,
    included: true,
    home: { country: 'GB' },
    rates: [{ country: 'GB', class: 'standard', percent: 20 }],
  });
  await w.till('seller', {
    name: 'Withybed Weavers',
    address: '4 Weir Lane\nOsierham',
    taxNumber: 'GB 000',
    prefix: 'W-',
  });
});
afterEach(() => w.end());

const read = async (bytes: Buffer) => {
  const pdf = await getDocumentProxy(new Uint8Array(bytes));
  const { text } = await extractText(pdf, { mergePages: true });
  return { text, pages: pdf.numPages };
};

describe('papers of a German shop', () => {
  it('speak German: shipping, how it was paid, what was given back', async () => {
    const site = await w.site();
    await w.ctx.store.db.update(sites).set({ locale: 'de-DE' }).where(eq(sites.id, site.row.id));
    await w.till('shipping', {
      regions: [
        { id: 'r', name: 'R', areas: [{ country: '*' }], ways: [{ id: 'post', name: 'Paket', base: 490 }] },
      ],
    });
    await w.till('pay', { ways: [{ id: 't', kind: 'transfer', iban: 'DE89370400440532013000' }] });
    await w.order([{ goods: 'trug' }], 'a@x.example', { total: 4690 });
    const [order] = await w.orders();
    await actOnOrder(w.ctx, site, order?.id ?? '', { act: 'mark-paid' }, 'Marnie');
    await refundOrder(w.ctx, site, order?.id ?? '', { amount: 500 }, 'Marnie');
    const docs = await w.ctx.store.db.select().from(documents);
    const [invoice, credit] = await Promise.all(
      docs.map(async (d) => printPage([(await documentPaper(w.ctx, site, d.id)).paper])),
    );
    for (const words of ['Rechnung', 'Versand: Paket', 'Bezahlt: Überweisung', 'Ohne Steuer'])
      expect(invoice, words).toContain(words);
    for (const words of ['Gutschrift', 'Zur Rechnung', 'Erstattet']) expect(credit, words).toContain(words);
    expect(`${invoice}${credit}`).not.toMatch(/Shipping|Paid|Given back/);
    await sendDue(w.ctx);
    expect(w.letters.find((l) => l.to === 'a@x.example')?.text).toContain('Versand: Paket: 4,90');
  });
});

describe('papers', () => {
  it('an invoice says what invoices have to say, in the page and in the PDF (read back by PDF.js)', async () => {
    await w.buy([{ goods: 'trug', quantity: 2 }], 'ada@x.example', { name: 'Žofia Łąka' });
    const [doc] = await w.ctx.store.db.select().from(documents);
    const { paper, name } = await documentPaper(w.ctx, await w.site(), doc?.id ?? '');
    expect(name).toBe('Invoice W-1');
    const { text, pages } = await read(await pdfOf([paper]));
    expect(pages).toBe(1);
    for (const words of [
      'Invoice',
      'W-1',
      '24 November 2026',
      'Withybed Weavers',
      'GB 000',
      'Žofia Łąka',
      'Trug',
      '£84.00',
      '£70.00',
      '£14.00',
      'Tax 20 %',
    ]) {
      expect(text, words).toContain(words);
      expect(printPage([paper]), words).toContain(words);
    }
  });

  it('long ones go over several pages, each with its number', async () => {
    const rows = Array.from({ length: 120 }, (_, n) => [`Thing ${n}`, '1', '£1.00']);
    const { text, pages } = await read(
      await pdfOf([
        {
          title: 'Long',
          lang: 'en',
          from: ['A'],
          to: ['B'],
          facts: [],
          columns: [
            { name: 'What', right: false },
            { name: 'Pieces', right: true },
            { name: 'Each', right: true },
          ],
          rows,
          sums: [{ label: 'Total', value: '£120.00', strong: true }],
          notes: [],
        },
      ]),
    );
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
    await expect(documentPaper(w.ctx, await w.site(), doc?.id ?? '', 'another')).rejects.toThrow(
      'no such document',
    );
  });

  it('whatever is typed stays text on the page to print', () => {
    const html = printPage([
      {
        title: '<script>',
        lang: 'en"><script>',
        from: ['<b>'],
        to: [],
        facts: [],
        columns: [],
        rows: [['<img src=x>']],
        sums: [],
        notes: ['</style>'],
      },
    ]);
    expect(html).not.toMatch(/<script|<img|<b>/);
  });
});
