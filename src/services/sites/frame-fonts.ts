import type { SiteReading } from '../../core/site/read-site';
import { Recent } from '../cache';
import type { Ctx } from '../context';
import { shopUrl } from './addresses';
import type { Site } from './site';

/** The site's own fonts for frames, which stand on the shop's origin and know nothing of the site's style sheets. */
export interface FrameFonts {
  /** `@font-face` rules; '' where there are none. */
  readonly css: string;
  /** Families that say of themselves that they may not be embedded: frames wear the next one of the list. */
  readonly refused: readonly string[];
}

type Font = SiteReading['fonts'][number];

const known = new Recent<string, FrameFonts>(30);

/** Made once for a snapshot: fonts are read from their first byte to their last. */
export const frameFonts = (ctx: Ctx, site: Site): Promise<FrameFonts> =>
  known.get(site.row.snapshotId, async () => {
    const rules: string[] = [];
    const refused = new Set<string>();
    for (const font of site.reading.fonts) {
      const hash = site.manifest[font.file];
      if (font.missing || !hash) continue;
      if (await mayBeEmbedded(await ctx.blobs.get(hash))) rules.push(faceRule(ctx, site, font));
      else refused.add(font.family);
    }
    return { css: rules.join(''), refused: [...refused] };
  });

/**
 * What a font says of embedding (OpenType, OS/2 table, fsType): restricted, for viewing and printing alone, or as bitmaps alone are not for
 * pages of others. What cannot be read is not taken along.
 */
export async function mayBeEmbedded(bytes: Uint8Array): Promise<boolean> {
  // Loaded when it is first needed: nobody wants a font read while the machine starts.
  const { create } = await import('fontkit');
  try {
    const font = create(Buffer.from(bytes));
    const { noEmbedding, viewOnly, bitmapOnly } = licenceOf(font);
    return !noEmbedding && !viewOnly && !bitmapOnly;
  } catch {
    return false;
  }
}

interface Licence {
  readonly noEmbedding: boolean;
  readonly viewOnly: boolean;
  readonly bitmapOnly: boolean;
}

/** The types of the library know the table, not what stands in it. A font without one says nothing against it. */
function licenceOf(font: unknown): Licence {
  const table = (font as { 'OS/2'?: { fsType?: Partial<Licence> } })['OS/2']?.fsType ?? {};
  const { noEmbedding = false, viewOnly = false, bitmapOnly = false } = table;
  return { noEmbedding, viewOnly, bitmapOnly };
}

/** Names and weights come from a stranger's style sheet. */
function faceRule(ctx: Ctx, site: Site, { family, weight, style, file }: Font): string {
  if (!/^[\w\s.-]{1,100}$/.test(family)) return '';
  const address = `${shopUrl(ctx, site)}/site/${file.split('/').map(encodeURIComponent).join('/')}`;
  const of = /^[\d\s]{3,9}$|^(bold|normal)$/.test(weight) ? weight : '400';
  return `@font-face{font-family:'${family}';font-weight:${of};font-style:${style === 'italic' ? 'italic' : 'normal'};font-display:swap;src:url("${address}")}`;
}
