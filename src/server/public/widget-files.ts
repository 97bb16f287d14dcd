import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Ctx } from '../../services/context';
import { type Prepared, prepare, pressing } from './prepared';

/**
 * The widgets' files. Beside the address that always has the newest, both scripts stand at one named by what they are:
 * a page that gives their hash (subresource integrity) names that one, and is told when there is a newer.
 * @param folder where the build put them
 * @param shop the origin that they are asked of
 */
export async function loadWidgets(
  folder: string,
  shop: string,
): Promise<{ files: Map<string, Prepared>; frame: Prepared; pinned: NonNullable<Ctx['pinned']> }> {
  const script = {
    'content-type': 'text/javascript; charset=utf-8',
    'cache-control': 'public, max-age=300, stale-while-revalidate=86400',
    'access-control-allow-origin': '*',
    'cross-origin-resource-policy': 'cross-origin',
  };
  const files = new Map<string, Prepared>();
  const [first, more] = await Promise.all(
    ['stall.js', 'stall-more.js'].map((name) => readFile(join(folder, name))),
  );
  if (!first || !more) throw new Error('the widgets are not built');
  const version = createHash('sha256').update(first).update(more).digest('hex').slice(0, 12);
  for (const [name, bytes] of [
    ['stall.js', first],
    ['stall-more.js', more],
  ] as const) {
    files.set(`/${name}`, prepare(bytes, script, pressing.lasting));
    files.set(
      `/v/${version}/${name}`,
      prepare(bytes, { ...script, 'cache-control': 'public, max-age=31536000, immutable' }, pressing.lasting),
    );
  }
  const pinned = {
    url: `${shop}/v/${version}/stall.js`,
    integrity: `sha384-${createHash('sha384').update(first).digest('base64')}`,
  };
  files.set(
    '/stall.css',
    prepare(await readFile(join(folder, 'stall.css')), {
      ...script,
      'content-type': 'text/css; charset=utf-8',
    }),
  );
  return {
    files,
    pinned,
    frame: prepare(await readFile(join(folder, 'frame.js')), {
      ...script,
      'cache-control': 'no-cache',
    }),
  };
}
