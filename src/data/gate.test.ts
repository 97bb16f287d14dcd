import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openStore, type Store, type Tx } from './database';
import { Gate } from './gate';
import { idempotency } from './schema';

let dir: string;
let store: Store;
beforeEach(async () => {
  dir = await mkdtemp(join(tmpdir(), 'stall-gate-'));
  store = await openStore(`file:${join(dir, 'g.db')}`, 'src/data/migrations');
});
afterEach(async () => {
  store.close();
  await rm(dir, { recursive: true, force: true });
});

const put = (tx: Tx, key: string) => tx.insert(idempotency).values({ key, answer: key, at: new Date() });
const keys = async () =>
  (await store.db.select({ key: idempotency.key }).from(idempotency)).map((r) => r.key).sort();
const count = async (tx: Tx) => (await tx.select({ key: idempotency.key }).from(idempotency)).length;

describe('the gate', () => {
  it('lets one in at a time, in order, also after one failed', async () => {
    const gate = new Gate();
    const seen: number[] = [];
    const work = (n: number) =>
      gate.run(async () => {
        await new Promise((soon) => setTimeout(soon, 6 - n));
        seen.push(n);
        if (n === 2) throw new Error('two');
        return n;
      });
    const all = await Promise.allSettled([1, 2, 3, 4].map(work));
    expect(seen).toEqual([1, 2, 3, 4]);
    expect(all.map((r) => r.status)).toEqual(['fulfilled', 'rejected', 'fulfilled', 'fulfilled']);
    expect(gate.waiting).toBe(0);
  });
});

describe('writes that share a commit', () => {
  it('hold what those hold that did not fail, in the order they came, among writes that stand alone', async () => {
    const kind = fc.record({ together: fc.boolean(), fails: fc.boolean() });
    await fc.assert(
      fc.asyncProperty(fc.array(kind, { maxLength: 30 }), async (writes) => {
        await store.db.delete(idempotency);
        const seen: number[] = [];
        const ended = await Promise.allSettled(
          writes.map(({ together, fails }, n) =>
            (together ? store.writeTogether : store.write)(async (tx) => {
              const before = await count(tx);
              await put(tx, String(n).padStart(3, '0'));
              if (fails) throw new Error(`write ${n}`);
              seen.push(before);
              return n;
            }),
          ),
        );
        const kept = writes.flatMap((w, n) => (w.fails ? [] : [String(n).padStart(3, '0')]));
        expect(await keys()).toEqual(kept);
        // Each saw all before it that did not fail, and nothing of those that did.
        expect(seen).toEqual(kept.map((_, n) => n));
        expect(ended.map((e) => (e.status === 'fulfilled' ? e.value : String(e.reason)))).toEqual(
          writes.map((w, n) => (w.fails ? `Error: write ${n}` : n)),
        );
      }),
      { numRuns: 25 },
    );
  });

  it('are told as done when others can see them, and not before', async () => {
    await Promise.all(
      Array.from({ length: 20 }, (_, n) =>
        store
          .writeTogether((tx) => put(tx, `k${n}`))
          .then(async () => {
            // Asked on another connection.
            expect(
              await store.db
                .select()
                .from(idempotency)
                .where(eq(idempotency.key, `k${n}`)),
            ).toHaveLength(1);
          }),
      ),
    );
  });

  it('a statement the database refuses takes only its own write back', async () => {
    const ended = await Promise.allSettled(
      ['a', 'a', 'b'].map((key) => store.writeTogether((tx) => put(tx, key))),
    );
    expect(ended.map((e) => e.status)).toEqual(['fulfilled', 'rejected', 'fulfilled']);
    expect(await keys()).toEqual(['a', 'b']);
  });

  it('are all told when the commit they share fails', async () => {
    const commands: string[] = [];
    const gate = new Gate<string>({
      transaction: async (work) => {
        await work('tx');
        throw new Error('the disk is full');
      },
      command: async (_, sql) => void commands.push(sql),
    });
    const ended = await Promise.allSettled([1, 2, 3].map((n) => gate.join(async () => n)));
    expect(ended.map((e) => (e.status === 'rejected' ? String(e.reason) : e.value))).toEqual(
      Array(3).fill('Error: the disk is full'),
    );
    expect(commands).toEqual(Array(3).fill(['SAVEPOINT job', 'RELEASE job']).flat());
    expect(gate.waiting).toBe(0);
  });

  it('do not wait for others that are not there', async () => {
    const commands: string[] = [];
    const gate = new Gate<string>({
      transaction: (work) => work('tx'),
      command: async (_, sql) => void commands.push(sql),
    });
    expect(await gate.join(async (tx) => `${tx} alone`)).toBe('tx alone');
    expect(commands).toEqual([]);
    await expect(gate.join(() => Promise.reject(new Error('no')))).rejects.toThrow('no');
    const atOnce = () => {
      throw new Error('before it began');
    };
    await expect(gate.join(atOnce)).rejects.toThrow('before it began');
    await expect(gate.run(atOnce)).rejects.toThrow('before it began');
    expect(await gate.run(async () => 'and goes on')).toBe('and goes on');
    await expect(new Gate().join(async () => 1)).rejects.toThrow('none to share');
  });
});
