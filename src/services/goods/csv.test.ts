import { zipSync } from 'fflate';
import fc from 'fast-check';
import Papa from 'papaparse';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { csvColumns, defused, guessMapping, undefused } from '../../core/goods/csv';
import { readSlip } from '../sites/slip';
import { makeWorld, type World } from '../testing';
import { goodsCsv, goodsZip, readTable, takeTable, tryTable } from './csv';
import { addProduct, listGoods, undoLive } from './goods';
import { takePicture } from './pictures';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(() => w.end());

const svg = (colour: string) =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"><rect width="40" height="30" fill="${colour}"/></svg>`,
  );
const take = async (text: string | Buffer, leaveOut = false) => {
  const table = readTable(Buffer.from(text));
  return takeTable(w.ctx, await w.site(), table, table.mapping, leaveOut, 'm');
};
const dry = async (text: string | Buffer) => tryTable(w.ctx, await w.site(), readTable(Buffer.from(text)));

async function fill(): Promise<void> {
  const site = await w.site();
  const hash = await takePicture(w.ctx, svg('red'));
  await addProduct(
    w.ctx,
    site,
    {
      name: 'Log "round", basket',
      price: 6800,
      was: 7000,
      cost: 2740,
      description: '<p>Two\nlines, "quoted"</p>',
      categories: ['Baskets / Round', 'Willow'],
      tags: ['a', 'b'],
      badge: '=New',
      pictures: [{ hash, alt: 'Red, wide' }],
      unit: { amount: 1.5, measure: 'kg' },
      stockRule: { whenOut: 'preorder', expected: '2027-03-01', low: 2 },
      options: [
        { name: 'Size', values: [{ name: 'S' }, { name: 'L' }] },
        { name: 'Colour', as: 'swatch', values: [{ name: 'natural', colour: '#b5813f' }] },
      ],
      variants: [
        {
          values: ['S', 'natural'],
          difference: -1400,
          sku: '-5',
          gtin: '4006381333931',
          stock: 5,
          weight: 1100,
        },
        { values: ['L', 'natural'], price: 9000, stock: 0 },
      ],
    },
    'm',
  );
  await addProduct(
    w.ctx,
    site,
    { name: '+44 trug', price: 4200, variants: [{ stock: null }], shows: 'link' },
    'm',
  );
}

describe('goods as a table', () => {
  it('out and in again changes nothing, with and without pictures', async () => {
    await fill();
    const before = await listGoods(w.ctx, (await w.site()).row.id);
    const site = await w.site();
    expect((await dry(await goodsCsv(w.ctx, site))).counts).toEqual({
      new: 0,
      changed: 0,
      same: 2,
      refused: 0,
    });
    expect(await take(await goodsCsv(w.ctx, site))).toMatchObject({ same: 2 });
    expect(await take(Buffer.from(await goodsZip(w.ctx, site)))).toMatchObject({ new: 0, changed: 0 });
    expect(await listGoods(w.ctx, site.row.id)).toEqual(before);
  });

  it('into an empty shop makes the same goods, pictures and counts and all', async () => {
    await fill();
    const zip = Buffer.from(await goodsZip(w.ctx, await w.site()));
    const other = await makeWorld();
    const site = await other.site();
    const table = readTable(zip);
    expect(await takeTable(other.ctx, site, table, table.mapping, false, 'm')).toMatchObject({
      new: 2,
      refused: 0,
    });
    const bare = (list: Awaited<ReturnType<typeof listGoods>>) =>
      list.map(({ id: _, addedAt: __, variants, pictures, options, ...p }) => ({
        ...p,
        variants: variants.map(({ id: ___, ...v }) => v),
        pictures: pictures.map((x) => x.alt),
        options: options.map((o) => [o.name, o.values.map((v) => v.name)]),
      }));
    expect(bare(await listGoods(other.ctx, site.row.id))).toEqual(
      bare(await listGoods(w.ctx, (await w.site()).row.id)),
    );
    await other.end();
  });

  it('is RFC 4180: CRLF, quotes doubled; and read back by an independent reader it has the same cells', async () => {
    await fill();
    const text = await goodsCsv(w.ctx, await w.site());
    expect(text.startsWith('\uFEFFaddress,name,')).toBe(true);
    expect(text.replace(/\r\n/g, '').includes('\r')).toBe(false);
    const cells = Papa.parse<string[]>(text.slice(1), { skipEmptyLines: true }).data;
    expect(cells.every((r) => r.length === csvColumns.length)).toBe(true);
    expect(cells[1]?.[1]).toBe('Log "round", basket');
  });

  it('a cell that a spreadsheet would run is defused, and comes back as it was (OWASP, CSV Injection)', () => {
    for (const cell of ['=1+1', '+44', '-cmd', '@SUM(A1)', '\tx', '\rx', "'=x"])
      expect(defused(cell)[0]).toBe("'");
    for (const plain of ['-14.00', 'a=b', '12', "'tis", '']) expect(defused(plain)).toBe(plain);
    fc.assert(
      fc.property(fc.string(), (cell) => {
        expect(undefused(defused(cell))).toBe(cell);
      }),
    );
  });
});

describe('a table from elsewhere', () => {
  it('of what spreadsheet programs write: semicolons, UTF-16, Windows-1252, other heads', async () => {
    const text = 'Bezeichnung;Preis;Bestand;Kategorie\r\nKörbchen;12,50;3;Körbe\r\n';
    for (const bytes of [
      Buffer.from(text, 'utf8'),
      Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, 'utf16le')]),
      Buffer.from(text, 'latin1'),
    ]) {
      const report = await dry(bytes);
      expect(report.mapping).toEqual(['name', 'price', 'stock', 'categories']);
      expect(report.counts).toEqual({ new: 1, changed: 0, same: 0, refused: 0 });
      expect(report.fates[0]?.name).toBe('Körbchen');
    }
    await take(Buffer.from(text, 'latin1'));
    expect((await listGoods(w.ctx, (await w.site()).row.id))[0]).toMatchObject({
      name: 'Körbchen',
      price: 1250,
      categories: ['Körbe'],
      variants: [{ stock: 3 }],
    });
    expect(guessMapping(['Title', 'EAN', 'Nonsense', 'title'])).toEqual(['name', 'gtin', null, null]);
  });

  it('tells every row’s fate, and takes in all of it or none', async () => {
    await w.addGoods('Trug', 4200, 5);
    const text =
      'address,name,price,stock,gtin\ntrug,Trug,45.00,7,\n,Creel,12.00,,4006381333932\n,Peg,dear,,\n,Rod,1.00,2,\n';
    const report = await dry(text);
    expect(report.counts).toEqual({ new: 1, changed: 1, same: 0, refused: 2 });
    expect(report.fates.map((f) => [f.lines, f.name, f.fate, f.what])).toEqual([
      [
        [3],
        'Creel',
        'refused',
        'The last digit checks the others and should be 1. Look at the digits again.',
      ],
      [[4], 'Peg', 'refused', 'price “dear” is no amount.'],
      [[5], 'Rod', 'new', ''],
      [[2], 'Trug', 'changed', 'price, stock'],
    ]);
    await expect(take(text)).rejects.toThrow('2 products are refused, so nothing was taken in');
    expect((await listGoods(w.ctx, (await w.site()).row.id)).map((p) => [p.name, p.price])).toEqual([
      ['Trug', 4200],
    ]);
    expect(await take(text, true)).toEqual({ new: 1, changed: 1, same: 0, refused: 2 });
    const { live } = await readSlip(w.ctx, await w.site());
    expect(live[0]?.what).toBe('A table: 1 new, 1 changed');
    await undoLive(w.ctx, await w.site(), live[0]?.id ?? 0, 'm');
    expect(
      (await listGoods(w.ctx, (await w.site()).row.id)).map((p) => [p.name, p.price, p.variants[0]?.stock]),
    ).toEqual([['Trug', 4200, 5]]);
  });

  it('leaves alone what it has no column for', async () => {
    await fill();
    const [log] = await listGoods(w.ctx, (await w.site()).row.id);
    const text = `address,price before\n${log?.slug},75.00\n`;
    expect((await dry(text)).fates).toMatchObject([{ fate: 'changed', what: 'was' }]);
    await take(text);
    expect((await listGoods(w.ctx, (await w.site()).row.id))[0]).toEqual({ ...log, was: 7500 });
  });

  it('that cannot be read says what to do', async () => {
    expect(() => readTable(Buffer.from(''))).toThrow('no rows');
    expect(() => readTable(Buffer.from('name\n"open'))).toThrow('quotation mark is not closed');
    expect(() => readTable(Buffer.from(zipSync({ 'a.txt': new Uint8Array(3) })))).toThrow('no .csv file');
    expect(() => readTable(Buffer.from('PK\u0003\u0004broken'))).toThrow('cannot be read');
    expect((await dry('name,price\nTrug,1\nTrug,2\n')).fates.map((f) => f.fate)).toEqual(['refused', 'new']);
    expect((await dry('name,price,pictures\nTrug,1,gone.png\n')).fates[0]?.what).toContain(
      'gone.png is not in the ZIP',
    );
  });
});
