import { readFile } from 'node:fs/promises';
import { gzipSync } from 'node:zlib';
import { buildSync } from 'esbuild';
import { groundsCss, lookCss } from '../src/core/look/look';
import { foundOn } from '../src/core/look/testing';
import { dress, wardrobeOf } from '../src/core/look/wardrobe';
import { figure, kb, type Measurement } from './support/figure';

/** The style sheet of plain pages before shops had a look of their own (commit be989a3^), in bytes, gzip. */
const SHEET_BEFORE = 5_800;

/** What a page of the demo is sent for its look. */
async function lookOfDemo(): Promise<string> {
  const [sheet, page] = await Promise.all(
    ['demo/withybed/css/withybed.css', 'demo/withybed/index.html'].map((f) => readFile(f, 'utf8')),
  );
  const { look } = dress(wardrobeOf(foundOn(sheet ?? '', page ?? '')), {});
  return lookCss(look) + JSON.stringify(groundsCss(look));
}

/** Bytes of the first script, beside a bare custom element that only shows a button. */
export const script: Measurement = async () => {
  const bare =
    buildSync({
      stdin: {
        contents:
          'customElements.define("x-bare",class extends HTMLElement{connectedCallback(){this.attachShadow({mode:"open"}).innerHTML="<button>Buy</button>"}})',
      },
      minify: true,
      write: false,
      bundle: true,
      format: 'iife',
    }).outputFiles[0]?.contents ?? Buffer.alloc(0);
  const size = (bytes: Uint8Array) => gzipSync(bytes, { level: 9 }).length;
  const [ours, page, css] = await Promise.all(
    ['stall.js', 'stall-more.js', 'stall.css'].map((f) => readFile(`dist/widgets/${f}`)),
  );
  return [
    figure(
      'first script: loader, buy button, cart (gzip)',
      kb(size(ours ?? Buffer.alloc(0))),
      `bare custom element ${kb(size(bare))}`,
      (size(ours ?? Buffer.alloc(0)) / size(bare)).toFixed(1),
      'at most 6 kB',
    ),
    figure(
      'second script: all other widgets, drawer, shop pages; only where one stands (gzip)',
      kb(size(page ?? Buffer.alloc(0))),
    ),
    figure(
      'all scripts together (gzip)',
      kb(size(ours ?? Buffer.alloc(0)) + size(page ?? Buffer.alloc(0))),
      '',
      '',
      'at most 30 kB',
    ),
    figure('style sheet of plain pages (gzip)', kb(size(css ?? Buffer.alloc(0)))),
    figure(
      'what the look adds to a live page: tokens, other grounds, and what the sheet grew by (gzip)',
      kb(size(Buffer.from(await lookOfDemo())) + size(css ?? Buffer.alloc(0)) - SHEET_BEFORE),
      `the sheet before there was a look ${kb(SHEET_BEFORE)}`,
      '',
      'at most 2 kB',
    ),
  ];
};
