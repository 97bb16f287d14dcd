import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Client, createClient } from '@libsql/client';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { keepStatements } from './kept-statements';

let dir: string;
let client: Client;
beforeEach(async () => {
  keepStatements();
  dir = await mkdtemp(join(tmpdir(), 'stall-kept-'));
  client = createClient({ url: `file:${join(dir, 'k.db')}` });
  await client.execute('CREATE TABLE t (id INTEGER PRIMARY KEY, a TEXT UNIQUE, n INTEGER)');
});
afterEach(async () => {
  client.close();
  await rm(dir, { recursive: true, force: true });
});

const all = async () =>
  (await client.execute('SELECT id, a, n FROM t ORDER BY id')).rows.map((r) => [r.id, r.a, r.n]);

describe('statements that are kept', () => {
  it('answer like new ones, however often and with whatever they are asked', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.string(), fc.option(fc.integer())), { maxLength: 12 }),
        async (rows) => {
          await client.execute('DELETE FROM t');
          const told = new Map<string, number | null>();
          for (const [a, n] of rows) {
            const { rowsAffected } = await client.execute({
              sql: 'INSERT INTO t (a, n) VALUES (?, ?) ON CONFLICT (a) DO UPDATE SET n = excluded.n',
              args: [a, n],
            });
            expect(rowsAffected).toBe(1);
            told.set(a, n);
          }
          expect((await all()).map(([, a, n]) => [a, n])).toEqual([...told]);
          const back = await client.execute('DELETE FROM t RETURNING a');
          expect([back.columns, back.rows.length]).toEqual([['a'], told.size]);
        },
      ),
      { numRuns: 30 },
    );
  });

  it('one that failed works the next time, and leaves nothing half-done behind', async () => {
    const put = (a: string) => client.execute({ sql: 'INSERT INTO t (a, n) VALUES (?, 1)', args: [a] });
    await put('x');
    await expect(put('x')).rejects.toThrow(/UNIQUE/);
    await put('y');
    expect((await all()).map(([, a]) => a)).toEqual(['x', 'y']);
    const tx = await client.transaction('write');
    await tx.execute({ sql: 'INSERT INTO t (a, n) VALUES (?, 1)', args: ['z'] });
    await tx.rollback();
    expect(await all()).toHaveLength(2);
  });

  it('follow a table that changed meanwhile', async () => {
    expect(await all()).toEqual([]);
    await client.execute("ALTER TABLE t ADD COLUMN more TEXT DEFAULT 'm'");
    await client.execute("INSERT INTO t (a, n) VALUES ('q', 2)");
    expect(await all()).toEqual([[1, 'q', 2]]);
    expect((await client.execute('SELECT more FROM t')).rows[0]?.more).toBe('m');
  });

  it('are not shared by two connections, each of which sees its own transaction', async () => {
    const other = createClient({ url: `file:${join(dir, 'k.db')}`, timeout: 2000 });
    const tx = await client.transaction('write');
    await tx.execute("INSERT INTO t (a, n) VALUES ('mine', 1)");
    expect((await other.execute('SELECT id, a, n FROM t ORDER BY id')).rows).toHaveLength(0);
    await tx.commit();
    expect((await other.execute('SELECT id, a, n FROM t ORDER BY id')).rows).toHaveLength(1);
    other.close();
  });
});
