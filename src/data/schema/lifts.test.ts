import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isEmpty, partOf } from '../../core/change';
import { setUp, shopAddress } from '../../core/site/set-up';
import { openStore, type Store } from '../database';
import { lifted } from '../versioned';
import { liveChanges, sites, snapshots } from '.';
import { liveChangeLifts, setUpLifts, shopLifts, workedLifts } from './lifts';

/** What older releases wrote, letter by letter: their schemas' output, or rows of a database that they made. */
const written = {
  // 2026-11-22: what set-up asked first.
  setUp:
    '{"country":"GB","currency":"GBP","units":"metric","sells":["ships"],"taxIncluded":true,"takesMoney":["card","in-person"]}',
  // 2026-11-22: a shop whose pages nobody could leave out.
  shop: '{"slug":"shop","name":"Shop","front":false,"made":{"cart":"abcdefgh12","menu":true},"old":["baskets"]}',
  // 2026-11-21: orders of before choices.
  worked:
    '{"currency":"GBP","pieces":1,"total":650,"lines":[{"id":"0d7a177bc3","goodsId":"ca6755dc38","slug":"pattern-sheet","name":"Pattern sheet","unit":650,"quantity":1,"available":null,"amount":650}],"steps":[],"codes":[{"code":"TEN","says":"applied"}]}',
  // 2026-11-27: a row of the demo's database.
  till: '{"act":"Who sells","changes":[],"till":{"part":"seller","from":{"name":"","address":"","taxNumber":"","email":"","prefix":"","foot":""},"to":{"name":"Withybed Weavers","address":"4 Weir Lane\\nOsierham\\nWB4 2TR","taxNumber":"GB 000 0000 00","email":"hello@withybed.example","prefix":"W-","foot":"Withybed Weavers, grown and woven at Osierham."}}}',
  // 2026-11-24: categories without the paths they once had.
  tree: '{"act":"Category “Kits” renamed","changes":[],"tree":{"from":{"rows":[{"id":"a1","slug":"kits","name":"Kits","parent":null,"order":1}],"within":[]},"to":{"rows":[{"id":"a1","slug":"kits","name":"Sets","parent":null,"order":1}],"within":[]}}}',
  // A product's price, as it was written from the first day on.
  price: '{"goodsId":"g1","field":"price","from":3900,"to":4200}',
};
const read = (text: string) => JSON.parse(text) as Record<string, unknown>;

describe('what older releases wrote', () => {
  it('is lifted to what this one would have written', () => {
    const answers = lifted(read(written.setUp), setUpLifts);
    expect(answers.takesMoney).toEqual(['card', 'person']);
    expect(setUp.safeParse(answers).success).toBe(true);
    const shop = lifted(read(written.shop), shopLifts);
    expect(shop).toMatchObject({ pages: ['lookup', 'account'], made: { cart: 'abcdefgh12', line: null } });
    expect(shopAddress.parse(shop)).toEqual(shop);
    expect(lifted(read(written.worked), workedLifts)).toMatchObject({
      total: 650,
      lines: [{ name: 'Pattern sheet', particulars: [] }],
      codes: [{ code: 'TEN', status: 'applied' }],
    });
    expect(lifted(read(written.tree), liveChangeLifts)).toMatchObject({
      tree: { from: { rows: [{ name: 'Kits', former: [] }] }, to: { rows: [{ name: 'Sets', former: [] }] } },
    });
    expect(lifted(read(written.price), liveChangeLifts)).toEqual(read(written.price));
  });

  it('lifted once stays as it is; what is written today is not lifted', () => {
    for (const [text, lifts] of [
      [written.setUp, setUpLifts],
      [written.shop, shopLifts],
      [written.worked, workedLifts],
      [written.till, liveChangeLifts],
      [written.tree, liveChangeLifts],
    ] as const) {
      const today = lifted(read(text), lifts);
      expect(lifted({ ...today, v: lifts.length }, lifts)).toEqual(today);
      expect(lifted(today, lifts), 'each lift leaves alone what has its shape already').toEqual(today);
    }
  });

  it('of a later release is refused, and not guessed at', () => {
    expect(() => lifted({ v: 9 }, shopLifts)).toThrow('later release');
    expect(() => lifted({ v: 'x' }, shopLifts)).toThrow(RangeError);
  });
});

describe('in a database', () => {
  let dir: string;
  let store: Store;
  beforeAll(async () => {
    dir = await mkdtemp(join(tmpdir(), 'stall-lifts-'));
    store = await openStore(`file:${join(dir, 'stall.db')}`, 'src/data/migrations');
    const at = new Date(0);
    await store.db.insert(snapshots).values({
      id: 's',
      siteId: 'a',
      manifest: {},
      reading: {} as never,
      createdAt: at,
    });
    await store.db.insert(sites).values({
      id: 'a',
      slug: 'a',
      name: 'A',
      currency: 'GBP',
      locale: 'en',
      liveUrl: 'https://a.example/',
      connection: { how: 'zip', fileName: 'a.zip' },
      delivery: { to: 'download' },
      draftKey: 'k',
      snapshotId: 's',
      createdAt: at,
    });
  });
  afterAll(async () => {
    store.close();
    await rm(dir, { recursive: true, force: true });
  });

  it('old rows are read as today’s, and today’s say so', async () => {
    await store.db.run(sql`UPDATE sites SET set_up = ${written.setUp}, shop = ${written.shop}`);
    await store.db.run(
      sql`INSERT INTO live_changes (site_id, detail, by, at) VALUES ('a', ${written.till}, 'm', 0)`,
    );
    const [site] = await store.db.select().from(sites);
    expect(site?.setUp?.takesMoney).toEqual(['card', 'person']);
    expect(site?.shop?.pages).toEqual(['lookup', 'account']);
    const [line] = await store.db.select().from(liveChanges);
    const change = line && 'act' in line.detail ? line.detail.till : undefined;
    expect(change && !isEmpty(change)).toBe(true);
    expect(change && partOf(change, 'seller').after).toMatchObject({ prefix: 'W-' });
    await store.db
      .update(sites)
      .set({ shop: site?.shop ?? null })
      .where(eq(sites.id, 'a'));
    const [raw] = await store.db.all<{ shop: string }>(sql`SELECT shop FROM sites`);
    expect(read(raw?.shop ?? '')).toMatchObject({ v: 1, slug: 'shop', old: ['baskets'] });
  });
});
