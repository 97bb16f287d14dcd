import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { backUpByNight, backupName, momentOf, type NightlyBackup } from './nightly-backup';

let dir: string;
let at = new Date();
const log = { info: () => {}, warn: () => {}, error: () => {} };
beforeEach(async () => {
  dir = await mkdtemp(join(tmpdir(), 'stall-nights-'));
  at = new Date('2026-12-02T03:00:00Z');
});
afterEach(() => rm(dir, { recursive: true, force: true }));

const nightly = (): NightlyBackup => ({ dir, phraseFile: undefined, keep: { days: 3, weeks: 2, months: 2 } });
const round = (make = (file: string) => writeFile(file, 'x')) =>
  backUpByNight({ now: () => at, log }, nightly(), make);

describe('the backup of the night', () => {
  it('is made once a night, and not by day before its hour', async () => {
    at = new Date('2026-12-02T01:59:00Z');
    expect(await round()).toBeUndefined();
    at = new Date('2026-12-02T02:01:00Z');
    expect(await round()).toBe(join(dir, 'stall-20261202T020100Z.backup'));
    at = new Date('2026-12-02T21:59:00Z');
    expect(await round()).toBeUndefined();
    at = new Date('2026-12-03T02:02:00Z');
    expect(await round()).toBeDefined();
  });
  it('that fails takes nothing away, and is tried again', async () => {
    await writeFile(join(dir, backupName(new Date('2026-11-01T03:00:00Z'))), 'old');
    await expect(round(() => Promise.reject(new Error('disk full')))).rejects.toThrow('disk full');
    expect(await readdir(dir)).toHaveLength(1);
    expect(await round()).toBeDefined();
  });
  it('leaves what the rule keeps, and files of others', async () => {
    await writeFile(join(dir, 'stall-notes.txt'), 'mine');
    await writeFile(join(dir, 'stall-20261399T990000Z.backup'), 'no date');
    for (let n = 0; n < 90; n++) {
      at = new Date(Date.UTC(2026, 8, 1, 3) + n * 86_400_000);
      await round();
    }
    const names = await readdir(dir);
    expect(names).toContain('stall-notes.txt');
    expect(names).toContain('stall-20261399T990000Z.backup');
    // Three days, of which the newest is the newest of its week and month as well; another week, another month.
    expect(names.filter((n) => momentOf(n))).toHaveLength(5);
  });
  it('has a name that says when', () => {
    expect(momentOf(backupName(at))).toEqual(at);
    expect(momentOf('stall.db')).toBeUndefined();
  });
});
