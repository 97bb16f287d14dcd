import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { sha256 } from '../../../data/blobs';
import { allowedFolder } from '../folders';
import { writeInPlace } from '../in-place';
import type { DeliveryKind } from './delivery';

/** Back into the folder that the site came from. */
export const folder: DeliveryKind<{ readonly folder: string }> = {
  async deliver(ctx, { folder }, { previous, manifest, journal, note }) {
    const place = { folder: await allowedFolder(ctx.folders, folder), journal, read: ctx.blobs.get };
    await writeInPlace(place, previous, manifest, note);
  },
  hashThere: ({ folder }, path) => readFile(join(folder, path)).then(sha256, () => ''),
  byHand: false,
};
