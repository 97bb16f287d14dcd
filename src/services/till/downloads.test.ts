import { Readable } from 'node:stream';
import { readFile } from 'node:fs/promises';
import { eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { MAX_FILE } from '../../core/goods/downloads';
import { downloadLinks, orderEvents, type orders } from '../../data/schema';
import { filmType, takeFile, takeFilm } from '../goods/files';
import { removeProduct } from '../goods/goods';
import { makeWorld, type World } from '../testing';
import { admit, downloadsOf, knowsBrowser, letFetchAgain, openFile, proofFor, wayToFile } from './downloads';
import { orderByToken } from './orders';

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(() => w.end());

const DAY = 86_400_000;
const file = (text: string, name: string) => takeFile(w.ctx, Readable.from([Buffer.from(text)]), name);
const pattern = async (more: { limit?: number | null; days?: number | null } = {}) => {
  const [newer, older, epub] = await Promise.all([
    file('newer', 'pattern.pdf'),
    file('older', 'pattern (1).pdf'),
    file('epub', 'pattern.epub'),
  ]);
  return w.addGoods('Pattern', 650, null, {
    kind: 'download',
    options: [{ name: 'As', values: [{ name: 'PDF' }, { name: 'EPUB' }] }],
    variants: [{ values: ['PDF'] }, { values: ['EPUB'] }],
    downloads: {
      limit: 2,
      days: null,
      ...more,
      releases: [
        { name: '1.0', date: '2026-01-01', files: [older] },
        {
          name: '1.1',
          date: '2026-06-01',
          notes: 'Larger <script>alert(1)</script>type',
          files: [newer, { ...epub, only: 'EPUB' }],
        },
      ],
    },
  });
};
const bought = async (goods: string, options: string[], quantity = 1) =>
  orderByToken(w.ctx, (await w.site()).row.id, await w.buy([{ goods, options, quantity }]));
const linkOf = (address: string) => {
  const url = new URL(address);
  return {
    link: url.pathname.split('/').at(-2) ?? '',
    until: url.searchParams.get('until') ?? '',
    sig: url.searchParams.get('sig') ?? '',
    starts: true,
  };
};
const fetchOne = async (order: typeof orders.$inferSelect, variantId: string, hash: string) =>
  openFile(w.ctx, order, linkOf(await wayToFile(w.ctx, await w.site(), order, variantId, hash)));

describe('files of an order', () => {
  it('are those of the choice that was bought, the newest release first, with clean notes', async () => {
    await pattern();
    const [pdf] = await downloadsOf(w.ctx, await bought('pattern', ['PDF']));
    expect(pdf?.releases.map((r) => [r.name, r.files.map((f) => f.name)])).toEqual([
      ['1.1', ['pattern.pdf']],
      ['1.0', ['pattern (1).pdf']],
    ]);
    expect(pdf?.releases[0]?.notes).not.toContain('script');
    const [epub] = await downloadsOf(w.ctx, await bought('pattern', ['EPUB']));
    expect(epub?.releases[0]?.files.map((f) => f.name)).toEqual(['pattern.pdf', 'pattern.epub']);
  });

  it('come with a bundle, and stay theirs when the product is no longer sold', async () => {
    const made = await pattern();
    const box = await w.addGoods('Box', 900, null, {
      kind: 'bundle',
      bundle: [{ goodsId: made.id, variantId: made.variants[0]?.id ?? '', quantity: 1 }],
    });
    const order = await bought('box', []);
    await removeProduct(w.ctx, await w.site(), made.id, 'test');
    await removeProduct(w.ctx, await w.site(), box.id, 'test');
    const [thing] = await downloadsOf(w.ctx, order);
    expect(thing?.name).toBe('Pattern');
    expect(
      (await fetchOne(order, thing?.variantId ?? '', thing?.releases[0]?.files[0]?.hash ?? '')).name,
    ).toBe('pattern.pdf');
  });

  it('are counted once for each time they are begun, exactly, however many ask at once', async () => {
    await pattern({ limit: 2 });
    const order = await bought('pattern', ['PDF'], 2);
    const [thing] = await downloadsOf(w.ctx, order);
    const hash = thing?.releases[0]?.files[0]?.hash ?? '';
    const ways = await Promise.all(
      Array.from({ length: 9 }, async () =>
        linkOf(await wayToFile(w.ctx, await w.site(), order, thing?.variantId ?? '', hash)),
      ),
    );
    const tried = await Promise.allSettled(ways.map((way) => openFile(w.ctx, order, way)));
    expect(tried.filter((t) => t.status === 'fulfilled')).toHaveLength(4);
    // Resumed: the same way again costs nothing.
    const first = ways[tried.findIndex((t) => t.status === 'fulfilled')] as (typeof ways)[number];
    for (let n = 0; n < 5; n++) await openFile(w.ctx, order, first);
    await expect(wayToFile(w.ctx, await w.site(), order, thing?.variantId ?? '', hash)).rejects.toThrow(
      'as often as was agreed',
    );
    // Another file has its own count.
    await expect(
      fetchOne(order, thing?.variantId ?? '', thing?.releases[1]?.files[0]?.hash ?? ''),
    ).resolves.toMatchObject({ name: 'pattern (1).pdf' });
    expect(
      (await w.ctx.store.db.select().from(orderEvents).where(eq(orderEvents.orderId, order.id))).filter(
        (e) => e.what === 'Fetched pattern.pdf',
      ),
    ).toHaveLength(4);
    await letFetchAgain(w.ctx, await w.site(), order.id);
    await expect(
      fetchOne(await orderByToken(w.ctx, order.siteId, order.token), thing?.variantId ?? '', hash),
    ).resolves.toBeTruthy();
  });

  it('are looked at by HEAD without being counted', async () => {
    await pattern({ limit: 1 });
    const order = await bought('pattern', ['PDF']);
    const [thing] = await downloadsOf(w.ctx, order);
    const way = linkOf(
      await wayToFile(
        w.ctx,
        await w.site(),
        order,
        thing?.variantId ?? '',
        thing?.releases[0]?.files[0]?.hash ?? '',
      ),
    );
    await openFile(w.ctx, order, { ...way, starts: false });
    expect(await w.ctx.store.db.$count(downloadLinks, eq(downloadLinks.id, way.link))).toBe(1);
    expect((await downloadsOf(w.ctx, order))[0]?.releases[0]?.files[0]?.may).toMatchObject({
      may: true,
      left: 1,
    });
  });

  it('end when their days are over, and an address after a day', async () => {
    await pattern({ days: 3 });
    const order = await bought('pattern', ['PDF']);
    const [thing] = await downloadsOf(w.ctx, order);
    const hash = thing?.releases[0]?.files[0]?.hash ?? '';
    const way = linkOf(await wayToFile(w.ctx, await w.site(), order, thing?.variantId ?? '', hash));
    w.clock.ms += DAY + 1;
    await expect(openFile(w.ctx, order, way)).rejects.toThrow('This address is over');
    await expect(fetchOne(order, thing?.variantId ?? '', hash)).resolves.toBeTruthy();
    w.clock.ms += 2 * DAY;
    await expect(fetchOne(order, thing?.variantId ?? '', hash)).rejects.toThrow(
      'The time to fetch this file is over',
    );
  });

  it('have addresses that nobody makes up: another order, another end, another name', async () => {
    await pattern();
    const [mine, yours] = [await bought('pattern', ['PDF']), await bought('pattern', ['PDF'])];
    const [thing] = await downloadsOf(w.ctx, mine);
    const way = linkOf(
      await wayToFile(
        w.ctx,
        await w.site(),
        mine,
        thing?.variantId ?? '',
        thing?.releases[0]?.files[0]?.hash ?? '',
      ),
    );
    await expect(openFile(w.ctx, mine, { ...way, until: String(Number(way.until) + 1) })).rejects.toThrow(
      'over',
    );
    await expect(
      openFile(w.ctx, mine, { ...way, sig: way.sig.replace(/^./, (c) => (c === 'A' ? 'B' : 'A')) }),
    ).rejects.toThrow('over');
    await expect(openFile(w.ctx, yours, way)).rejects.toThrow('no such file');
    await expect(
      wayToFile(w.ctx, await w.site(), mine, thing?.variantId ?? '', 'f'.repeat(64)),
    ).rejects.toThrow('not part of the order');
  });

  it('are for the browser that came first, and for whoever names the mail address or comes with a proof', async () => {
    await pattern();
    const order = await bought('pattern', ['PDF']);
    const first = await admit(w.ctx, order, '', {});
    expect(await knowsBrowser(w.ctx, order, first ?? '')).toBe(true);
    expect(await knowsBrowser(w.ctx, order, '')).toBe(false);
    expect(await admit(w.ctx, order, '', {})).toBeUndefined();
    expect(await admit(w.ctx, order, '', { email: 'somebody@else.example' })).toBeUndefined();
    expect(await admit(w.ctx, order, '', { email: ` ${order.buyer.email.toUpperCase()} ` })).toBeTruthy();
    const proof = proofFor(w.ctx, order);
    expect(await admit(w.ctx, order, '', { signed: proof })).toBeTruthy();
    expect(await admit(w.ctx, order, '', { signed: `z${proof}` })).toBeUndefined();
    w.clock.ms += 11 * 60_000;
    expect(await admit(w.ctx, order, '', { signed: proof })).toBeUndefined();
  });
});

describe('a file that is taken in', () => {
  it('is kept as it came, by what it is, under a name without folders', async () => {
    const kept = await file('hello', '../../etc/pass\u0000wd');
    expect(kept).toEqual({
      name: 'passwd',
      size: 5,
      hash: '2cf24dba5fb0a30e26e83b2ac5b9e29e1b161e5c1fa7425e73043362938b9824',
    });
    expect(await readFile(w.ctx.blobs.fileOf(kept.hash), 'utf8')).toBe('hello');
  });

  it('is refused when it is empty, too large, or broke off; and leaves nothing behind', async () => {
    await expect(takeFile(w.ctx, Readable.from([]), 'a.pdf')).rejects.toThrow('is empty');
    const huge = {
      async *[Symbol.asyncIterator]() {
        for (let n = 0; n <= MAX_FILE; n += 50_000_000) yield { length: 50_000_000 } as Uint8Array;
      },
    };
    const fake = {
      ...w.ctx,
      blobs: {
        ...w.ctx.blobs,
        putStream: async (bytes: AsyncIterable<Uint8Array>, most: number) => {
          let size = 0;
          for await (const chunk of bytes)
            if ((size += chunk.length) > most)
              throw Object.assign(new (await import('../../data/blobs')).TooLarge());
          return { hash: '', size };
        },
      },
    };
    await expect(takeFile(fake, huge, 'film.mov')).rejects.toThrow('larger than 2 GB');
    const broken = async function* () {
      yield Buffer.from('half');
      throw new Error('aborted');
    };
    await expect(takeFile(w.ctx, broken(), 'a.pdf')).rejects.toThrow('aborted');
    const { readdir } = await import('node:fs/promises');
    expect(
      (await readdir(w.ctx.blobs.fileOf('aa').replace(/\/aa\/aa$/, ''), { recursive: true })).filter((f) =>
        f.endsWith('.part'),
      ),
    ).toEqual([]);
  });

  it('is a film only when its bytes are; what is kept is not shown to all as one', async () => {
    await expect(
      takeFilm(w.ctx, Readable.from([Buffer.from('<html>no film</html>')]), 'film.mp4'),
    ).rejects.toThrow('MP4 and WebM are');
    // ISO/IEC 14496-12, 4.3: a file begins with a box "ftyp" that names its brand.
    const mp4 = Buffer.concat([
      Buffer.from([0, 0, 0, 24]),
      Buffer.from('ftypisom'),
      Buffer.from([0, 0, 2, 0]),
      Buffer.from('isomiso2'),
    ]);
    const kept = await takeFilm(w.ctx, Readable.from([mp4]), 'shed.mp4');
    expect(kept.type).toBe('video/mp4');
    expect(await filmType(w.ctx, kept.hash)).toBe('video/mp4');
    await expect(filmType(w.ctx, (await file('secret', 'x.pdf')).hash)).rejects.toThrow('no such film');
  });
});
