import { readFileSync } from 'node:fs';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { framePage } from '../storefront/embedded';
import { makeWorld, type World, zipFrom } from '../testing';
import { frameFonts, mayBeEmbedded } from './frame-fonts';
import { bringInNewer } from './newer';

/** An open font that ships with the application, and the same with another word on embedding. */
const font = readFileSync('node_modules/dejavu-fonts-ttf/ttf/DejaVuSans.ttf');

/** OpenType: 12 bytes, then a record of 16 for each table; in OS/2 fsType is at byte 8. */
function withFsType(bytes: Buffer, fsType: number): Buffer {
  const out = Buffer.from(bytes);
  for (let n = 0; n < out.readUInt16BE(4); n++) {
    const at = 12 + n * 16;
    if (out.toString('latin1', at, at + 4) === 'OS/2')
      out.writeUInt16BE(fsType, out.readUInt32BE(at + 8) + 8);
  }
  return out;
}

describe('a font of the site', () => {
  it('may be embedded as it says itself (OpenType, OS/2, fsType)', async () => {
    for (const [fsType, may] of [
      [0x0000, true],
      [0x0002, false],
      [0x0004, false],
      [0x0008, true],
      [0x0200, false],
    ] as const)
      expect(await mayBeEmbedded(withFsType(font, fsType)), fsType.toString(16)).toBe(may);
    expect(await mayBeEmbedded(Buffer.from('no font at all'))).toBe(false);
  });
});

let w: World;
beforeEach(async () => {
  w = await makeWorld();
});
afterEach(async () => w.end());

describe('a frame', () => {
  it('wears the fonts of the site that may be embedded, and says which may not', async () => {
    const css = ['Open', 'Shut']
      .map((name) => `@font-face{font-family:"${name}";src:url(${name}.ttf)}`)
      .join('');
    await bringInNewer(w.ctx, await w.site(), {
      how: 'zip',
      fileName: 'n.zip',
      bytes: zipFrom({
        'index.html':
          '<title>x</title><link rel="stylesheet" href="s.css"><p>words of the page, enough of them',
        's.css': `${css} body{font-family:"Open",serif}`,
        'Open.ttf': font,
        'Shut.ttf': withFsType(font, 2),
      }),
    });
    await w.addGoods('Trug', 4200, 3);
    const site = await w.site();
    const fonts = await frameFonts(w.ctx, site);
    expect(fonts.refused).toEqual(['Shut']);
    const page = await framePage(w.ctx, site, { kind: 'row', attributes: new Map(), via: '' });
    expect(page).toContain(`@font-face{font-family:'Open'`);
    expect(page).toContain('/site/Open.ttf');
    expect(page).not.toContain('Shut.ttf');
  });
});
