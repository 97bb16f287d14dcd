import { realpath, stat } from 'node:fs/promises';
import { isAbsolute, relative, resolve, sep } from 'node:path';
import { invalid } from '../errors';

/** Folders of this machine that may be connected as sites, and those that never are. */
export interface FolderRoots {
  /** Sites lie below one of these; none at all where the server's settings name none. */
  readonly roots: readonly string[];
  /** Where the program and its data are. */
  readonly own: readonly string[];
}

/** Whether a path is a folder itself or lies in it. */
export const isWithin = (folder: string, path: string): boolean => {
  const way = relative(folder, path);
  return way === '' || (way !== '..' && !way.startsWith(`..${sep}`) && !isAbsolute(way));
};

const real = (path: string): Promise<string> => realpath(path).catch(() => resolve(path));

/**
 * A folder that may be connected, as it really is: links in its path are followed first, so that none leads out. The program's own
 * folders are taken out of every root that holds them; a root that lies inside them was named on purpose.
 * @throws Refusal that says what to do.
 */
export async function allowedFolder({ roots, own }: FolderRoots, folder: string): Promise<string> {
  if (!isAbsolute(folder))
    throw invalid(
      `Enter the folder's whole path, from the root of this machine. "${folder}" is only part of one.`,
    );
  if (roots.length === 0)
    throw invalid(
      'Folders of this machine cannot be connected here: the server\u2019s settings name none (STALL_FOLDERS). Upload a ZIP instead.',
    );
  const wanted = await real(folder);
  const reached: string[] = [];
  for (const root of roots) {
    const at = await real(root);
    if (isWithin(at, wanted)) reached.push(at);
  }
  if (reached.length === 0)
    throw invalid(
      `Sites are connected from ${roots.join(' or ')}. ${folder} is not in there: move the site, or have STALL_FOLDERS name its folder.`,
    );
  for (const place of own) {
    const mine = await real(place);
    const onPurpose = reached.some((root) => root !== mine && isWithin(mine, root));
    if (isWithin(wanted, mine) || (isWithin(mine, wanted) && !onPurpose))
      throw invalid(
        `${folder} is where Green Stall keeps itself and its data. Choose the folder of the site.`,
      );
  }
  if (!(await stat(wanted).catch(() => undefined)))
    throw invalid(`There is no folder at ${folder}. Look for a typing error, or upload a ZIP instead.`);
  return wanted;
}
