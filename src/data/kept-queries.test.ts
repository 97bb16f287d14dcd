import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { and, asc, eq, gt, sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openStore, type Store } from './database';
import { keep, keepInsert, many } from './kept-queries';
import { idempotency, orderEvents, orders, sites, tills } from './schema';

let dir: string;
let store: Store;
beforeEach(async () => {
  dir = await mkdtemp(join(tmpdir(), 'stall-kept-queries-'));
  store = await openStore(`file:${join(dir, 'q.db')}`, 'src/data/migrations');
});
afterEach(async () => {
  store.close();
  await rm(dir, { recursive: true, force: true });
});

type Answer = typeof idempotency.$inferInsert;
const answers = (): fc.Arbitrary<Answer[]> =>
  fc.uniqueArray(
    fc.record({
      key: fc.string({ maxLength: 20 }),
      answer: fc.jsonValue({ maxDepth: 2 }).filter((v) => v !== null),
      at: fc.date({ noInvalidDate: true, min: new Date(0), max: new Date(4e12) }),
    }),
    { selector: (a) => a.key, maxLength: 45 },
  );
const clear = () => store.db.delete(idempotency);

describe('queries that are kept', () => {
  const put = keepInsert(idempotency);
  const since = keep({ at: idempotency.at }, (q, { at }) =>
    q.select().from(idempotency).where(gt(idempotency.at, at)).orderBy(asc(idempotency.key)),
  );
  const among = keep({ keys: many(idempotency.key) }, (q, { keys }) =>
    q
      .select({ key: idempotency.key })
      .from(idempotency)
      .where(sql`${idempotency.key} in ${keys}`)
      .orderBy(asc(idempotency.key)),
  );

  it('write and read what the builder itself writes and reads: JSON, times, any text, any number of rows', async () => {
    await fc.assert(
      fc.asyncProperty(answers(), fc.integer({ min: 0, max: 4e12 }), async (rows, from) => {
        await clear();
        await put(store.db, ...rows);
        const at = new Date(from);
        const asBuilt = await store.db
          .select()
          .from(idempotency)
          .where(gt(idempotency.at, at))
          .orderBy(asc(idempotency.key));
        expect(await since(store.db, { at })).toEqual(asBuilt);
        const some = rows.filter((_, i) => i % 2).map((r) => r.key);
        expect((await among(store.db, { keys: some })).map((r) => r.key).sort()).toEqual([...some].sort());
        await clear();
        if (rows.length) await store.db.insert(idempotency).values(rows);
        expect(await since(store.db, { at })).toEqual(asBuilt);
      }),
      { numRuns: 40 },
    );
  });

  it('run in the transaction they are asked in, and go back with it', async () => {
    const row = { key: 'k', answer: 1, at: new Date(5) };
    await expect(
      store.write(async (tx) => {
        await put(tx, row);
        expect(await among(tx, { keys: ['k'] })).toHaveLength(1);
        expect(await among(store.db, { keys: ['k'] })).toHaveLength(0);
        throw new Error('changed my mind');
      }),
    ).rejects.toThrow('changed my mind');
    expect(await among(store.db, { keys: ['k'] })).toHaveLength(0);
    await store.write((tx) => put(tx, row));
    expect(await among(store.db, { keys: ['k'] })).toHaveLength(1);
  });

  it('fill in what a row leaves out, as the table says', async () => {
    const now = new Date(1_700_000_000_000);
    const insertOrder = keepInsert(orders);
    const order = {
      id: 'o',
      token: 't',
      siteId: 'x',
      cart: '',
      state: 'waiting',
      buyer: { email: 'a@b.example' } as never,
      worked: { lines: [] } as never,
      total: 1,
      currency: 'GBP',
      way: 'site',
      createdAt: now,
    } as const;
    const kept = await store.write(async (tx) => {
      await tx.run(sql`PRAGMA defer_foreign_keys = ON`);
      await insertOrder(tx, order);
      const [byKept] = await tx.select().from(orders).where(eq(orders.id, 'o'));
      await tx.delete(orders);
      await tx.insert(orders).values(order);
      const [byBuilder] = await tx.select().from(orders).where(eq(orders.id, 'o'));
      await tx.delete(orders);
      return { byKept, byBuilder };
    });
    expect(kept.byKept).toEqual(kept.byBuilder);
    expect(kept.byKept).toMatchObject({ test: false, parcels: [], note: '', number: null, createdAt: now });
  });

  it('leave a row alone whose key is there, or fail, as was asked', async () => {
    const putOnce = keepInsert(idempotency, 'is left');
    await put(store.db, { key: 'k', answer: 'first', at: new Date(1) });
    await putOnce(
      store.db,
      { key: 'k', answer: 'second', at: new Date(2) },
      { key: 'l', answer: 'new', at: new Date(2) },
    );
    expect((await since(store.db, { at: new Date(0) })).map((r) => r.answer)).toEqual(['first', 'new']);
    await expect(put(store.db, { key: 'k', answer: 'third', at: new Date(3) })).rejects.toThrow(/UNIQUE/);
  });

  it('an error holds none of the values', async () => {
    await put(store.db, { key: 'k', answer: 'a secret of a shopper', at: new Date(1) });
    const error: unknown = await put(store.db, {
      key: 'k',
      answer: 'a secret of a shopper',
      at: new Date(1),
    }).catch((e: unknown) => e);
    expect(`${String(error)} ${JSON.stringify(error)}`).not.toContain('secret');
  });

  it('say how many rows they changed, and read what changed rows give back', async () => {
    const later = keep({ key: idempotency.key, at: idempotency.at }, (q, { key, at }) =>
      q.update(idempotency).set({ at }).where(eq(idempotency.key, key)),
    );
    const told = keep({ key: idempotency.key, answer: idempotency.answer }, (q, { key, answer }) =>
      q
        .update(idempotency)
        .set({ answer })
        .where(eq(idempotency.key, key))
        .returning({ answer: idempotency.answer, at: idempotency.at }),
    );
    await put(store.db, { key: 'k', answer: 1, at: new Date(1) });
    expect((await later(store.db, { key: 'k', at: new Date(9) })).rowsAffected).toBe(1);
    expect((await later(store.db, { key: 'none', at: new Date(9) })).rowsAffected).toBe(0);
    expect(await told(store.db, { key: 'k', answer: { a: [1] } })).toEqual([
      { answer: { a: [1] }, at: new Date(9) },
    ]);
  });

  it('read joined rows into an object for each table, and refuse what may be missing as a whole', async () => {
    const joined = keep({ id: orders.id }, (q, { id }) =>
      q
        .select({ order: orders, event: orderEvents })
        .from(orderEvents)
        .innerJoin(orders, eq(orders.id, orderEvents.orderId))
        .where(eq(orders.id, id)),
    );
    expect(await joined(store.db, { id: 'none' })).toEqual([]);
    const half = keep({ id: sites.id }, (q, { id }) =>
      q
        .select({ site: sites, till: tills })
        .from(sites)
        .leftJoin(tills, eq(tills.siteId, sites.id))
        .where(and(eq(sites.id, id))),
    );
    await expect(half(store.db, { id: 'x' })).rejects.toThrow(/one by one/);
  });
});
