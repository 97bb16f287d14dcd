import { imageSize } from 'image-size';

/** A picture file of the site with its real size in pixels. */
export interface PictureFacts {
  readonly path: string;
  readonly width: number;
  readonly height: number;
  readonly pages: number;
}

export const isPicturePath = (path: string): boolean =>
  /\.(png|jpe?g|gif|webp|avif|svg|bmp|ico|tiff?)$/i.test(path);

/** The size a picture's file has, turned as its camera says; nothing when the file is not what it claims to be. */
export function pictureSize(bytes: Uint8Array): { width: number; height: number } | undefined {
  try {
    const { width, height, orientation = 1 } = imageSize(bytes);
    if (!width || !height) return undefined;
    return orientation >= 5 ? { width: height, height: width } : { width, height };
  } catch {
    return undefined;
  }
}
