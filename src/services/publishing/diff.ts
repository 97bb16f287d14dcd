import { readSource, textOf } from '../../core/html/source';
import { isPagePath } from '../../core/site/paths';
import type { Ctx } from '../context';
import { missing } from '../errors';
import { changedPaths, computeManifest } from './publish';
import { draftState } from '../sites/state';
import { currentPublication, type Site } from '../sites/site';

export interface ChangedFile {
  readonly path: string;
  readonly what: 'added' | 'changed' | 'removed';
  readonly isPage: boolean;
}

function fateOf(before: string | undefined, after: string | undefined): ChangedFile['what'] {
  if (before === undefined) return 'added';
  return after === undefined ? 'removed' : 'changed';
}

/** Files that publishing would write, and what would be left out and why. */
export async function changedFiles(
  ctx: Ctx,
  site: Site,
): Promise<{ files: ChangedFile[]; lost: readonly { readonly page: string; readonly why: string }[] }> {
  const { live, next, lost } = await both(ctx, site);
  const files = changedPaths(live, next)
    .sort()
    .map(
      (path): ChangedFile => ({
        path,
        isPage: isPagePath(path),
        what: fateOf(live[path], next[path]),
      }),
    );
  return { files, lost };
}

/** Longest text that is shown; beyond it a comparison is no longer read by anybody. */
const LONGEST = 1_500_000;

/** A page's text as it is live and as it would be, decoded by its own encoding. */
export async function fileTexts(
  ctx: Ctx,
  site: Site,
  path: string,
): Promise<{ before: string; after: string }> {
  const { live, next } = await both(ctx, site);
  if (live[path] === undefined && next[path] === undefined)
    throw missing(`There is no file ${path} in this version or the one before.`);
  const text = async (hash: string | undefined) => {
    if (hash === undefined) return '';
    const source = readSource(await ctx.blobs.get(hash));
    return textOf(source, source.structure).slice(0, LONGEST);
  };
  return { before: await text(live[path]), after: await text(next[path]) };
}

async function both(ctx: Ctx, site: Site) {
  const live = (await currentPublication(ctx, site.row))?.manifest ?? site.manifest;
  const { manifest: next, lost } = await computeManifest(ctx, site, await draftState(ctx, site));
  return { live, next, lost };
}
