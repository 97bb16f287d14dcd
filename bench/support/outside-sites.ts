import { execFile } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';

const run = promisify(execFile);

/** A package of a registry that holds a website: a set of documents, or a template. Fetched by name, never committed. */
export interface OutsidePackage {
  readonly from: 'debian' | 'npm';
  readonly name: string;
}

const cache = process.env.STALL_BENCH_SITES ?? join(tmpdir(), 'stall-bench-sites');

/** Fetches and unpacks a package once; returns its folder, or undefined where the registry does not answer. */
export async function fetchPackage({ from, name }: OutsidePackage): Promise<string | undefined> {
  const folder = join(cache, from, name);
  if (existsSync(folder)) return folder;
  const work = `${folder}.part`;
  await rm(work, { recursive: true, force: true });
  await mkdir(work, { recursive: true });
  try {
    if (from === 'debian') {
      await run('apt-get', ['download', '-qq', name], { cwd: work });
      const deb = (await readdir(work)).find((f) => f.endsWith('.deb'));
      await run('dpkg', ['-x', join(work, deb ?? ''), join(work, 'files')]);
    } else {
      await run('npm', ['pack', name, '--silent'], { cwd: work });
      const tgz = (await readdir(work)).find((f) => f.endsWith('.tgz'));
      await mkdir(join(work, 'files'));
      await run('tar', ['xzf', join(work, tgz ?? ''), '-C', join(work, 'files')]);
    }
    await rename(join(work, 'files'), folder);
    return folder;
  } catch (error) {
    process.stderr.write(`  ${name} could not be fetched: ${String(error).split('\n')[0]}\n`);
    return undefined;
  } finally {
    await rm(work, { recursive: true, force: true });
  }
}
