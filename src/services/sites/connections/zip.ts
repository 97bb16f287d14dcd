import { pagePath } from '../../../core/site/paths';
import { readZip } from '../../reading/read-zip';
import { packZip } from '../host';
import type { ConnectionKind, Kept } from './connection';

interface Uploaded {
  readonly fileName: string;
  readonly bytes: Buffer | { readonly file: string };
}

export const zip: ConnectionKind<Uploaded, { readonly fileName: string }> = {
  remembered: ({ fileName }) => ({ fileName }),
  async read(_, { bytes }, { onFile }) {
    await readZip(bytes, onFile);
    return { notes: [] };
  },
  arranged: withoutCommonFolder,
  refusal: () => undefined,
  delivery: () => undefined,
  forHost: async (ctx, _, manifest) => ({ type: 'application/zip', body: await packZip(ctx, manifest) }),
  again: () => undefined,
  handIn: 'This site came as a ZIP. Choose the ZIP of its newer version.',
};

/** A ZIP of a folder holds that folder: when all files share it and no page stands beside it, it is not the site's. */
function withoutCommonFolder(files: Kept): Kept {
  const top = files[0]?.[0].split('/')[0];
  if (!top || !files.every(([path]) => path.startsWith(`${top}/`))) return files;
  return withoutCommonFolder(files.map(([path, hash]) => [pagePath(path.slice(top.length + 1)), hash]));
}
