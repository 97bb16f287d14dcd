import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createClient } from '@libsql/client';
import { eq, sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { Recent } from '../services/cache';
import { folderBlobs, sha256, writeDurably } from './blobs';
import { openStore, type Store } from './database';
import { idempotency, user } from './schema';

let dir: string;
beforeEach(async () => {
  dir = await mkdtemp(join(tmpdir(), 'stall-data-'));
});
afterEach(() => rm(dir, { recursive: true, force: true }));

describe('blobs', () => {
  it('are given back by their hash, and equal ones are stored once', async () => {
    const blobs = folderBlobs(join(dir, 'blobs'));
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 200 }), async (bytes) => {
        const hash = await blobs.put(bytes);
        expect(hash).toBe(sha256(bytes));
        expect(Buffer.from(await blobs.get(hash))).toEqual(Buffer.from(bytes));
        expect(await blobs.putNew(bytes)).toEqual({ hash, isNew: false });
      }),
      { numRuns: 30 },
    );
  });

  it('have the SHA-256 of the standard', () => {
    // FIPS 180-4, example "abc".
    expect(sha256(Buffer.from('abc'))).toBe(
      'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad',
    );
  });

  it('are never looked for outside their folder', async () => {
    const blobs = folderBlobs(join(dir, 'blobs'));
    for (const bad of ['', '../secrets.json', 'A'.repeat(64), 'a'.repeat(63)])
      await expect(blobs.get(bad)).rejects.toThrow(RangeError);
    await expect(blobs.get('a'.repeat(64))).rejects.toThrow();
  });

  it('taken out are gone; taking out what is not there is no error', async () => {
    const blobs = folderBlobs(join(dir, 'blobs'));
    const hash = await blobs.put(Buffer.from('x'));
    await blobs.remove(hash);
    await blobs.remove(hash);
    await expect(blobs.get(hash)).rejects.toThrow();
  });

  it('written over a file replace it whole, and leave nothing beside it', async () => {
    const file = join(dir, 'page.html');
    await writeFile(file, 'old and longer');
    await writeDurably(file, Buffer.from('new'));
    expect(await readFile(file, 'utf8')).toBe('new');
    expect(await readdir(dir)).toEqual(['page.html']);
  });
});

describe('the database', () => {
  let store: Store;
  const open = () => openStore(`file:${join(dir, 'stall.db')}`, 'src/data/migrations');
  beforeEach(async () => {
    store = await open();
  });
  afterEach(() => store.close());

  it('is durable on every connection, and has its foreign keys on', async () => {
    const asked = await Promise.all(
      Array.from({ length: 8 }, () => store.db.get<Record<string, number>>(sql`PRAGMA synchronous`)),
    );
    for (const row of asked) expect(Object.values(row)[0]).toBe(2);
    const mode = await store.db.get<Record<string, string>>(sql`PRAGMA journal_mode`);
    expect(Object.values(mode)[0]).toBe('wal');
    await expect(
      store.write((tx) =>
        tx.run(
          sql`INSERT INTO cart_lines (id, cart, goods_id, quantity, added_at) VALUES ('a', 'none', 'none', 1, 0)`,
        ),
      ),
    ).rejects.toThrow();
  });

  it('takes migrations once: opening again changes nothing', async () => {
    const count = () => store.db.get<{ n: number }>(sql`SELECT count(*) AS n FROM __drizzle_migrations`);
    const before = await count();
    store.close();
    store = await open();
    expect(await count()).toEqual(before);
  });

  it('writes all of a transaction or nothing, and the gate goes on after a failure', async () => {
    const put = (key: string) => ({ key, answer: key, at: new Date() });
    const failed = store.write(async (tx) => {
      await tx.insert(idempotency).values(put('half'));
      throw new Error('cut off');
    });
    const fine = store.write((tx) => tx.insert(idempotency).values(put('whole')));
    await expect(failed).rejects.toThrow('cut off');
    await fine;
    expect((await store.db.select().from(idempotency)).map((r) => r.key)).toEqual(['whole']);
  });

  it('keeps a hundred writes at once apart, each seeing those before it', async () => {
    await store.write((tx) => tx.insert(idempotency).values({ key: 'n', answer: 0, at: new Date() }));
    await Promise.all(
      Array.from({ length: 100 }, () =>
        store.write(async (tx) => {
          const [row] = await tx.select().from(idempotency).where(eq(idempotency.key, 'n'));
          await tx
            .update(idempotency)
            .set({ answer: Number(row?.answer) + 1 })
            .where(eq(idempotency.key, 'n'));
        }),
      ),
    );
    expect((await store.db.select().from(idempotency))[0]?.answer).toBe(100);
  });

  it('lets the sign-in library write through the same gate, beside transactions', async () => {
    const now = new Date();
    const owner = (n: number) => ({
      id: String(n),
      name: 'M',
      email: `${n}@x.example`,
      emailVerified: false,
      createdAt: now,
      updatedAt: now,
    });
    await Promise.all([
      store.write(async (tx) => {
        await tx.insert(idempotency).values({ key: 'a', answer: 1, at: now });
        await new Promise((soon) => setTimeout(soon, 20));
      }),
      ...Array.from({ length: 10 }, (_, n) => store.gated.insert(user).values(owner(n))),
    ]);
    expect(await store.db.$count(user)).toBe(10);
  });

  it('read by another program while it is written says the last that was committed', async () => {
    const other = createClient({ url: `file:${join(dir, 'stall.db')}` });
    let seen = -1;
    await store.write(async (tx) => {
      await tx.insert(idempotency).values({ key: 'a', answer: 1, at: new Date() });
      seen = Number((await other.execute('SELECT count(*) AS n FROM idempotency')).rows[0]?.n);
    });
    expect(seen).toBe(0);
    expect(Number((await other.execute('SELECT count(*) AS n FROM idempotency')).rows[0]?.n)).toBe(1);
    other.close();
  });
});

it('the values used last are kept, and made once', async () => {
  const recent = new Recent<string, number>(2);
  const made: string[] = [];
  const get = (key: string) =>
    recent.get(key, () => {
      made.push(key);
      return key.length;
    });
  for (const key of ['a', 'bb', 'a', 'ccc', 'a', 'bb']) expect(await get(key)).toBe(key.length);
  expect(made).toEqual(['a', 'bb', 'ccc', 'bb']);
});
