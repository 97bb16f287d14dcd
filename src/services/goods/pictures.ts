import sharp from 'sharp';
import type { Ctx } from '../context';
import { invalid, missing } from '../errors';

/** Bytes of an uploaded picture, and the pixels it may open to: a small file can claim a very large one. */
const MAX_BYTES = 20 * 1024 * 1024;
const MAX_PIXELS = 80_000_000;

/** The widths pictures are made in; a request for another gets the next larger. */
export const pictureWidths = [96, 240, 480, 960, 1440] as const;

/**
 * Takes in a picture: read by sharp, turned upright, its metadata dropped, kept as WebP without loss of use. What
 * cannot be read as a picture is refused.
 */
export async function takePicture(ctx: Ctx, bytes: Buffer): Promise<string> {
  if (bytes.length > MAX_BYTES) throw invalid(`The picture is larger than ${MAX_BYTES / 1024 / 1024} MB. Save it smaller and choose it again.`);
  const made = await sharp(bytes, { limitInputPixels: MAX_PIXELS, density: 144, failOn: 'error' })
    .rotate().resize({ width: 2000, height: 2000, fit: 'inside', withoutEnlargement: true }).webp({ quality: 88 })
    .toBuffer()
    .catch(() => undefined);
  if (!made) throw invalid('This file cannot be read as a picture. JPEG, PNG, WebP, GIF, AVIF and SVG are.');
  return ctx.blobs.put(made);
}

/** A kept picture as WebP at one of {@link pictureWidths}, in the shape of the original. */
export async function pictureAt(ctx: Ctx, hash: string, width: number): Promise<Buffer> {
  const wanted = pictureWidths.find((w) => w >= width) ?? pictureWidths[pictureWidths.length - 1];
  const original = await ctx.blobs.get(hash).catch(() => undefined);
  if (!original) throw missing('There is no such picture.');
  return sharp(original).resize({ width: wanted, withoutEnlargement: true }).webp({ quality: 80 }).toBuffer();
}
