import { readFile } from 'node:fs/promises';
import { gzipSync } from 'node:zlib';
import { buildSync } from 'esbuild';
import { figure, kb, type Measurement } from './support/figure';

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
  ];
};
