import { mkdir, mkdtemp, readdir, readFile, rm, stat, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createGzip, gunzipSync, gzipSync } from 'node:zlib';
import { createClient } from '@libsql/client';
import fc from 'fast-check';
import { pack } from 'tar-stream';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { folderBlobs } from '../../data/blobs';
import { openStore, type Store } from '../../data/database';
import { backUp } from './back-up';
import { kept, usualKeep } from './keep';
import { restore, verify } from './restore';
import { seal, unseal } from './seal';

const phrase = 'seven lamps in a row';
const migrations = 'src/data/migrations';
const known = 999;

let dir: string;
let data: string;
let store: Store;
beforeEach(async () => {
  dir = await mkdtemp(join(tmpdir(), 'stall-backup-'));
  data = join(dir, 'data');
  await mkdir(data);
  await writeFile(join(data, 'secrets.json'), '{"auth":"the secret"}');
  store = await openStore(`file:${join(data, 'stall.db')}`, migrations);
  const client = createClient({ url: `file:${join(data, 'stall.db')}` });
  await client.execute('CREATE TABLE pairs (id integer primary key, half text)');
  client.close();
});
afterEach(async () => {
  store.close();
  await rm(dir, { recursive: true, force: true });
});

/** Writes two rows and a file in one go, as often as asked, or until told to stop. */
async function writePairs(until: () => boolean): Promise<number> {
  const blobs = folderBlobs(join(data, 'blobs'));
  const client = createClient({ url: `file:${join(data, 'stall.db')}`, timeout: 20_000 });
  let n = 0;
  while (!until()) {
    const hash = await blobs.put(Buffer.from(`picture ${n}`));
    await client.batch(
      [
        { sql: 'INSERT INTO pairs (half) VALUES (?)', args: [hash] },
        { sql: 'INSERT INTO pairs (half) VALUES (?)', args: [hash] },
      ],
      'write',
    );
    n++;
    await new Promise(setImmediate);
  }
  client.close();
  return n;
}

async function rowsIn(folder: string): Promise<string[]> {
  const client = createClient({ url: `file:${join(folder, 'stall.db')}` });
  const { rows } = await client.execute('SELECT half FROM pairs ORDER BY id');
  client.close();
  return rows.map((r) => String(r.half));
}

describe('a backup', () => {
  it('made while others write is one moment: every row has its other half, and every file it names', async () => {
    let stop = false;
    const writing = writePairs(() => stop);
    await new Promise((soon) => setTimeout(soon, 100));
    const before = (await rowsIn(data)).length;
    const file = join(dir, 'a.backup');
    await backUp(data, file, { phrase });
    const after = (await rowsIn(data)).length;
    stop = true;
    await writing;
    const target = join(dir, 'restored');
    await restore(file, target, { phrase, migrations: known });
    const rows = await rowsIn(target);
    expect(rows.length % 2).toBe(0);
    expect(rows.length).toBeGreaterThanOrEqual(before);
    expect(rows.length).toBeLessThanOrEqual(after);
    const blobs = folderBlobs(join(target, 'blobs'));
    for (const [n, hash] of rows.entries()) {
      expect(hash).toBe(rows[n - (n % 2)]);
      expect((await blobs.get(hash)).toString()).toBe(`picture ${Math.floor(n / 2)}`);
    }
    expect(await readFile(join(target, 'secrets.json'), 'utf8')).toBe('{"auth":"the secret"}');
    // What was restored is opened by the program, and written to.
    const again = await openStore(`file:${join(target, 'stall.db')}`, migrations);
    again.close();
  });

  it('leaves nothing behind in the data folder, and writes over nothing', async () => {
    const file = join(dir, 'a.backup');
    await backUp(data, file, { phrase });
    expect((await readdir(data)).filter((f) => /backup|part/.test(f))).toEqual([]);
    await expect(backUp(data, file, { phrase })).rejects.toThrow('is there already');
    await expect(backUp(join(dir, 'none'), join(dir, 'b'), { phrase })).rejects.toThrow(
      'There is no stall.db',
    );
    await expect(backUp(data, join(dir, 'c'), { phrase: 'short' })).rejects.toThrow('12 characters');
    expect((await readdir(dir)).sort()).toEqual(['a.backup', 'data']);
    expect((await stat(file)).mode & 0o077).toBe(0);
  });

  it('is never restored over data, nor with another pass phrase, and nothing is left of the attempt', async () => {
    const file = join(dir, 'a.backup');
    await backUp(data, file, { phrase });
    await expect(restore(file, data, { phrase, migrations: known })).rejects.toThrow('is not empty');
    await expect(
      restore(file, join(dir, 'r'), { phrase: 'eight lamps in a row', migrations: known }),
    ).rejects.toThrow('does not open');
    await expect(restore(file, join(dir, 'r'), { phrase, migrations: 3 })).rejects.toThrow('later release');
    expect((await readdir(dir)).sort()).toEqual(['a.backup', 'data']);
  });

  it('without a pass phrase holds no secret, and with one tells none', async () => {
    const [open, closed] = [join(dir, 'open'), join(dir, 'closed')];
    await backUp(data, open);
    await backUp(data, closed, { phrase });
    for (const file of [open, closed])
      expect(gunzipSync(await readFile(file)).includes('the secret')).toBe(false);
    expect(await verify(open, { migrations: known })).toMatchObject({ secrets: false, opened: false });
    expect(await verify(closed, { migrations: known })).toMatchObject({ secrets: true, opened: false });
    expect(await verify(closed, { migrations: known, phrase })).toMatchObject({
      secrets: true,
      opened: true,
    });
  });

  it('that is damaged anywhere is told', async () => {
    let pairs = 0;
    await writePairs(() => pairs++ >= 5);
    const file = join(dir, 'a.backup');
    await backUp(data, file, { phrase });
    const whole = await readFile(file);
    // Cut off anywhere.
    for (const share of [0, 0.3, 0.9, 0.999]) {
      await writeFile(join(dir, 'cut'), whole);
      await truncate(join(dir, 'cut'), Math.floor(whole.length * share));
      await expect(verify(join(dir, 'cut'), { migrations: known })).rejects.toThrow(/Take an earlier one/);
    }
    // One byte of what is unpacked, whole for gzip: found by the hashes, the archive's own sums or the database's.
    const tar = gunzipSync(whole);
    const at = fc.integer({ min: 0, max: tar.length - 1 });
    await fc.assert(
      fc.asyncProperty(at, async (n) => {
        const other = Buffer.from(tar);
        other[n] = (other[n] ?? 0) ^ 0x20;
        await writeFile(join(dir, 'bent'), gzipSync(other, { level: 1 }));
        const found = await verify(join(dir, 'bent'), { migrations: known, phrase }).then(
          (v) => v,
          () => undefined,
        );
        // What changes neither name, length nor content (a date in the archive's heads) is no damage.
        if (found) expect(await sameAfter(join(dir, 'bent'))).toBe(true);
      }),
      { numRuns: 25 },
    );
  });

  async function sameAfter(file: string): Promise<boolean> {
    const target = join(dir, `r${Math.random()}`);
    await restore(file, target, { phrase, migrations: known });
    const same = JSON.stringify(await rowsIn(target)) === JSON.stringify(await rowsIn(data));
    await rm(target, { recursive: true });
    return same;
  }

  it.each(['../out', '/etc/cron.d/x', 'blobs/../../x', 'secrets.json', `blobs/aa/${'b'.repeat(64)}`])(
    'that names %s puts nothing there',
    async (name) => {
      const archive = pack();
      archive.entry({ name }, 'x');
      archive.finalize();
      const chunks: Buffer[] = [];
      for await (const chunk of archive.pipe(createGzip())) chunks.push(chunk as Buffer);
      await writeFile(join(dir, 'evil'), Buffer.concat(chunks));
      await expect(restore(join(dir, 'evil'), join(dir, 'r'), { migrations: known })).rejects.toThrow(
        'does not belong there',
      );
      expect((await readdir(dir)).sort()).toEqual(['data', 'evil']);
    },
  );

  it('that holds a link is refused', async () => {
    const archive = pack();
    archive.entry({ name: 'stall.db', type: 'symlink', linkname: '/etc/passwd' });
    archive.finalize();
    const chunks: Buffer[] = [];
    for await (const chunk of archive.pipe(createGzip())) chunks.push(chunk as Buffer);
    await writeFile(join(dir, 'evil'), Buffer.concat(chunks));
    await expect(verify(join(dir, 'evil'), { migrations: known })).rejects.toThrow('which is no file');
  });

  it('is a tar archive that other programs read', async () => {
    const file = join(dir, 'a.backup');
    await backUp(data, file, { phrase });
    const { execFileSync } = await import('node:child_process');
    const names = execFileSync('tar', ['-tzf', file], { encoding: 'utf8' }).trim().split('\n');
    expect(names).toEqual(['stall.db', 'secrets.sealed', 'backup.json']);
  });
});

describe('a sealed secret', () => {
  it('is opened by its pass phrase and by no other, and by nobody once it was changed', async () => {
    const text = await seal(Buffer.from('secret'), phrase);
    expect((await unseal(text, phrase)).toString()).toBe('secret');
    await expect(unseal(text, `${phrase} `)).rejects.toThrow('does not open');
    const changed = JSON.parse(text) as { data: string };
    changed.data = Buffer.from('zzzzzz').toString('base64');
    await expect(unseal(JSON.stringify(changed), phrase)).rejects.toThrow('does not open');
  });
});

describe('backups that are kept', () => {
  const DAY = 86_400_000;
  const times = fc.array(
    fc.integer({ min: 0, max: 900 * 24 }).map((h) => new Date(h * 3_600_000)),
    { maxLength: 60 },
  );
  const rule = fc.record({ days: fc.nat(10), weeks: fc.nat(6), months: fc.nat(14) });
  it('are never more than the rule says, and the newest is always one', () => {
    fc.assert(
      fc.property(times, rule, (all, r) => {
        const keep = kept(all, r);
        expect(keep.size).toBeLessThanOrEqual(r.days + r.weeks + r.months + 1);
        const newest = Math.max(...all.map((t) => t.getTime()));
        if (all.length) expect([...keep].some((t) => t.getTime() === newest)).toBe(true);
      }),
    );
  });
  it('stay when the rule is asked again, whether night after night or at once', () => {
    fc.assert(
      fc.property(times, rule, (all, r) => {
        const keep = kept(all, r);
        expect(kept([...keep], r)).toEqual(keep);
      }),
    );
  });
  it('after two years of nights are seven days, five weeks, twelve months', () => {
    let there: Date[] = [];
    for (let n = 0; n < 730; n++) {
      there.push(new Date(Date.UTC(2026, 0, 1, 4) + n * DAY));
      const keep = kept(there, usualKeep);
      there = there.filter((t) => keep.has(t));
    }
    expect(there.length).toBeGreaterThanOrEqual(18);
    expect(there.length).toBeLessThanOrEqual(24);
    expect((there.at(-1)?.getTime() ?? 0) - (there[0]?.getTime() ?? 0)).toBeGreaterThan(300 * DAY);
  });
});
