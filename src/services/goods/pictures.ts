import { pictureWidths } from '../../core/goods/picture-widths';
import { randomUUID } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp, { type Sharp } from 'sharp';
import type { Ctx } from '../context';
import { limits, limitText } from '../../core/limits';
import { BeyondLimit, invalid, missing } from '../errors';
import { drawApart } from './draw-in-process';

/**
 * Takes in a picture: read in a process of its own, turned upright, its metadata dropped, kept as WebP without loss of use. What
 * cannot be read as a picture is refused.
 */
export async function takePicture(ctx: Ctx, bytes: Buffer): Promise<string> {
  if (bytes.length > limits.picture.most)
    throw new BeyondLimit(
      'picture',
      `The picture is larger than ${limitText('picture')}. Save it smaller and choose it again.`,
    );
  const drawn = await drawApart(bytes);
  if ('made' in drawn) return ctx.blobs.put(drawn.made);
  throw invalid(
    drawn.is === 'too much'
      ? 'Drawing this picture takes too long, or too much memory. Save it smaller, or as PNG or JPEG, and choose it again.'
      : 'This file cannot be read as a picture. JPEG, PNG, WebP, GIF, AVIF and SVG are.',
  );
}

export interface MadePicture {
  readonly type: 'image/avif' | 'image/webp';
  readonly body: Buffer;
}

/**
 * A kept picture at one of {@link pictureWidths}, in the shape of the original: as AVIF for those who take it, once it has been
 * made (a third smaller, and slow to make); until then, and for all others, as WebP.
 * @param avif whether the asker takes AVIF.
 */
export async function pictureAt(ctx: Ctx, hash: string, width: number, avif = false): Promise<MadePicture> {
  const wanted = pictureWidths.find((w) => w >= width) ?? pictureWidths[pictureWidths.length - 1] ?? 1440;
  if (avif) {
    const name = `${hash}-${wanted}.avif`;
    const made = await ctx.pictures.get(name, () => fromFolder(ctx, name));
    if (made) return { type: 'image/avif', body: made };
    makeLater(ctx, name, hash, wanted);
  }
  const name = `${hash}-${wanted}.webp`;
  const body = await ctx.pictures.get(
    name,
    async () =>
      (await fromFolder(ctx, name)) ??
      intoFolder(ctx, name, await drawn(ctx, hash, wanted, (p) => p.webp({ quality: 80 }))),
  );
  if (!body) throw missing('There is no such picture.');
  return { type: 'image/webp', body };
}

async function drawn(ctx: Ctx, hash: string, width: number, as: (p: Sharp) => Sharp): Promise<Buffer> {
  const original = await ctx.blobs.get(hash).catch(() => undefined);
  if (!original) throw missing('There is no such picture.');
  // What is kept and no picture (a file of a download) is none here either.
  return as(
    sharp(original, { limitInputPixels: limits.picturePixels.most }).resize({
      width,
      withoutEnlargement: true,
    }),
  )
    .toBuffer()
    .catch(() => {
      throw missing('There is no such picture.');
    });
}

const fromFolder = async (ctx: Ctx, name: string): Promise<Buffer | null> =>
  ctx.made && /^[0-9a-f]{64}-\d+\.\w+$/.test(name) ? readFile(join(ctx.made, name)).catch(() => null) : null;

async function intoFolder(ctx: Ctx, name: string, body: Buffer): Promise<Buffer> {
  if (ctx.made) {
    await mkdir(ctx.made, { recursive: true });
    // Two who draw the same picture at once write beside each other, each under a name of its own.
    const part = join(ctx.made, `${name}.${randomUUID()}.part`);
    await writeFile(part, body);
    await rename(part, join(ctx.made, name));
  }
  return body;
}

/** AVIF is made one picture after another, behind everything else; what does not fit into the line is asked for again some day. */
const LINE = 200;
const line = new Set<string>();
let turn: Promise<void> = Promise.resolve();

function makeLater(ctx: Ctx, name: string, hash: string, width: number): void {
  if (line.has(name) || line.size >= LINE) return;
  line.add(name);
  turn = turn
    .then(async () => {
      // Effort 2 of 9: of what effort 4 saves it saves nine tenths, in a fifth of the time (measured here).
      const body = await drawn(ctx, hash, width, (p) => p.avif({ quality: 55, effort: 2 }));
      ctx.pictures.put(name, await intoFolder(ctx, name, body));
    })
    .catch((error: unknown) =>
      ctx.log.warn({ name, error: String(error) }, 'a picture could not be made as AVIF'),
    )
    .finally(() => line.delete(name));
}

/** When all pictures in line have been made; for tests. */
export const picturesMade = (): Promise<void> => turn;
