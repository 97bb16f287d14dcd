import { readFolder } from '../../reading/read-folder';
import { allowedFolder } from '../folders';
import type { ConnectionKind } from './connection';

interface Folder {
  readonly folder: string;
}

/** A folder of this machine, read and written in place. */
export const folder: ConnectionKind<Folder, Folder> = {
  remembered: ({ folder }) => ({ folder }),
  read: async (ctx, { folder }, { onFile }) => ({
    notes: await readFolder(await allowedFolder(ctx.folders, folder), onFile),
  }),
  arranged: (kept) => kept,
  refusal: ({ folder }, known) =>
    folder === known.folder
      ? `${folder} is connected already. Open that site from the list beside the mark.`
      : undefined,
  delivery: ({ folder }) => ({ to: 'folder', folder }),
  forHost: async (_, { folder }) => ({
    type: 'application/json',
    body: Buffer.from(JSON.stringify({ folder })),
  }),
  again: ({ folder }) => ({ folder }),
  handIn: '',
};
