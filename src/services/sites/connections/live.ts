import { isPagePath } from '../../../core/site/paths';
import { withoutPasted } from '../../../core/placement/hand-out/without-pasted';
import { readLive } from '../../reading/live/read-live';
import { packZip } from '../host';
import type { ConnectionKind } from './connection';

interface Live {
  readonly url: string;
}

/** A site read from its live address. Nothing can be written there: its owner pastes code. */
export const live: ConnectionKind<Live, Live> = {
  remembered: ({ url }) => ({ url }),
  async read(ctx, { url }, { onFile, progress, before }) {
    const { notes, ...live } = await readLive(ctx.reach, url, {
      // What was pasted there is ours: the draft puts it where it stands now.
      onFile: (path, bytes) =>
        onFile(path, isPagePath(path) ? withoutPasted(path, bytes, ctx.addresses.shop) : bytes),
      onProgress: (done, known) => progress('Reading the live site', done, known),
      before: before && {
        validators: before.validators,
        file: async (path) => {
          const hash = before.manifest[path];
          return hash === undefined ? undefined : ctx.blobs.get(hash);
        },
      },
    });
    return { notes, live };
  },
  arranged: (kept) => kept,
  refusal: ({ url }, known) =>
    sameSite(url, known.url)
      ? `${new URL(url).host} is connected already. Open that site from the list beside the mark.`
      : undefined,
  delivery: () => ({ to: 'paste' }),
  forHost: async (ctx, _, manifest) => ({ type: 'application/zip', body: await packZip(ctx, manifest) }),
  again: ({ url }) => ({ url }),
  handIn: '',
};

const sameSite = (a: string, b: string): boolean => {
  const plain = (url: string) => url.replace(/^https?:\/\/(www\.)?/i, '').replace(/\/+$/, '');
  return plain(a) === plain(b);
};
