import { fileTypeFromFile } from 'file-type';
import { limitText } from '../../core/limits';
import { filmTypes } from '../../core/goods/product';
import { type KeptFile, MAX_FILE } from '../../core/goods/downloads';
import { TooLarge } from '../../data/blobs';
import type { Ctx } from '../context';
import { BeyondLimit, invalid, missing } from '../errors';

/** A name to save under: no folders, no control characters, never empty. */
const cleanName = (name: string): string =>
  name
    .replace(/\p{Cc}/gu, '')
    .split(/[/\\]/)
    .at(-1)
    ?.trim()
    .slice(-200) || 'file';

/** Takes in a file of a download as its bytes come: it belongs to nothing until a product names it. */
export async function takeFile(ctx: Ctx, bytes: AsyncIterable<Uint8Array>, name: string): Promise<KeptFile> {
  try {
    const { hash, size } = await ctx.blobs.putStream(bytes, MAX_FILE);
    if (size === 0) throw invalid('This file is empty. Look whether it was saved, and choose it again.');
    return { hash, size, name: cleanName(name) };
  } catch (error) {
    if (error instanceof TooLarge)
      throw new BeyondLimit(
        'goodsFile',
        `${cleanName(name)} is larger than ${limitText('goodsFile')}. Pack it smaller, or in several files.`,
      );
    throw error;
  }
}

/** Takes in a film: what it is, its bytes say, not its name. */
export async function takeFilm(
  ctx: Ctx,
  bytes: AsyncIterable<Uint8Array>,
  name: string,
): Promise<KeptFile & { type: (typeof filmTypes)[number] }> {
  const kept = await takeFile(ctx, bytes, name);
  const type = await filmTypeOf(ctx, kept.hash);
  if (!type) throw invalid(`${kept.name} is no film that browsers play. MP4 and WebM are.`);
  return { ...kept, type };
}

/** The media type of a kept film. @throws Refusal when it is none: what is kept is not shown to everybody for being kept. */
export async function filmType(ctx: Ctx, hash: string): Promise<string> {
  const type = /^[0-9a-f]{64}$/.test(hash) ? await filmTypeOf(ctx, hash) : undefined;
  if (!type) throw missing('There is no such film.');
  return type;
}

const filmTypeOf = async (ctx: Ctx, hash: string): Promise<(typeof filmTypes)[number] | undefined> => {
  const found = await fileTypeFromFile(ctx.blobs.fileOf(hash)).catch(() => undefined);
  return filmTypes.find((t) => t === found?.mime);
};
