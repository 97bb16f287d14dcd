import sharp from 'sharp';
import { limits } from '../../core/limits';

/** A picture as it is kept: turned upright, without its metadata, no larger than is ever shown. Nothing where it cannot be read as one. */
export function drawPicture(bytes: Uint8Array): Promise<Buffer | undefined> {
  return sharp(bytes, { limitInputPixels: limits.picturePixels.most, density: 144, failOn: 'error' })
    .rotate()
    .resize({ width: 2000, height: 2000, fit: 'inside', withoutEnlargement: true })
    .webp({ quality: 88 })
    .toBuffer()
    .catch(() => undefined);
}
