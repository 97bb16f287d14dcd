import { messageOf } from '../../core/result';
import { addressOf, isPagePath, type PagePath } from '../../core/site/paths';
import { sha256 } from '../../data/blobs';
import type { Ctx } from '../context';
import { conflict } from '../errors';
import { changedPaths } from './publish';
import { currentPublication, type Site } from '../sites/site';
import { liveAddress } from '../sites/addresses';
import { visit } from '../outside/visit';

/** How the live site stands beside what was published for the owner to put up. */
export interface PutUp {
  readonly looked: number;
  /** Pages that are live just as they were published. */
  readonly same: number;
  /** Pages that are not, each with what its address answers. */
  readonly other: readonly { readonly address: string; readonly message: string }[];
}

/** Pages that are looked at: enough to see whether all of it was put up. */
const LOOKED_AT = 12;

/**
 * Whether what was published has arrived at the site's own address: pages that publishing changed are fetched as visitors get them, and
 * compared byte for byte.
 */
export async function hasBeenPutUp(ctx: Ctx, site: Site): Promise<PutUp> {
  const published = await currentPublication(ctx, site.row);
  if (!published) throw conflict('Nothing was published yet.');
  if (!site.row.liveUrl.startsWith('http'))
    throw conflict('The address of the live site is not known, so nobody can look there.');
  const paths = changedPaths(site.manifest, published.manifest)
    .filter((p) => isPagePath(p) && published.manifest[p] !== undefined)
    .slice(0, LOOKED_AT);
  const seen = await Promise.all(
    paths.map(async (path) => {
      const address = addressOf(path as PagePath);
      try {
        const { bytes } = await visit(ctx.reach, liveAddress(site, path as PagePath));
        return sha256(bytes) === published.manifest[path]
          ? undefined
          : { address, message: 'is there, but not as it was published' };
      } catch (error) {
        return { address, message: messageOf(error) };
      }
    }),
  );
  const other = seen.filter((s) => s !== undefined);
  return { looked: paths.length, same: paths.length - other.length, other };
}
