import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';

/**
 * What the browser's scripts have to know of the widget kinds: their names, by the script that defines their elements. Read
 * from the table itself, so that a new kind is no line there; put in as constants, because the table brings its schemas with it.
 * @returns {Promise<Record<string, string>>} constants for esbuild and vitest: JSON by name.
 */
export async function widgetKinds() {
  const dir = 'node_modules/.cache/green-stall';
  await mkdir(dir, { recursive: true });
  const made = await build({
    entryPoints: ['src/core/placement/kinds/index.ts'],
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    write: false,
    logLevel: 'error',
  });
  const file = join(process.cwd(), dir, `kinds-${process.pid}.mjs`);
  await writeFile(file, made.outputFiles[0].contents);
  const { kinds } = await import(pathToFileURL(file).href);
  const named = (script) =>
    JSON.stringify(kinds.filter((k) => k.built && k.script === script).map((k) => k.kind));
  return { STALL_FIRST_KINDS: named('first'), STALL_MORE_KINDS: named('more') };
}
