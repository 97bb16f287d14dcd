import { existsSync } from 'node:fs';
import sharp from 'sharp';
import { afterEach, beforeAll, describe, expect, it } from 'vitest';
import { ProcessDrawer } from './draw-in-process';

/** The built program: bin/test builds before it tests. */
const program = 'dist/workers/picture.js';
beforeAll(() => {
  if (!existsSync(program)) throw new Error('the worker is not built: node tools/build.mjs');
});

let drawer: ProcessDrawer;
const drawing = (ms: number, memory = 1_200_000_000): ProcessDrawer => {
  drawer = new ProcessDrawer(program, { ms, memory });
  return drawer;
};
afterEach(() => drawer.close());

const svg = (inside: string, width = 40) =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${width}" height="${width}">${inside}</svg>`,
  );
/** A few hundred bytes that ask for minutes: turbulence of many octaves over a large field, blurred. */
const costly = svg(
  '<filter id="f" x="0" y="0" width="1" height="1"><feTurbulence baseFrequency="0.9" numOctaves="400"/><feGaussianBlur stdDeviation="400"/></filter><rect width="4000" height="4000" filter="url(#f)"/>',
  4000,
);
const good = () =>
  sharp({ create: { width: 30, height: 20, channels: 3, background: 'red' } })
    .png()
    .toBuffer();

describe('a picture from outside', () => {
  it('is drawn, and what is none is told', async () => {
    const drawer = drawing(20_000);
    const drawn = await drawer.draw(await good());
    if (!('made' in drawn)) throw new Error(drawn.is);
    expect(await sharp(drawn.made).metadata()).toMatchObject({ format: 'webp', width: 30, height: 20 });
    expect(await drawer.draw(Buffer.from('no picture'))).toEqual({ is: 'no picture' });
  });
  it('that asks for minutes is ended in time, others meanwhile go on, and the next is drawn', async () => {
    const drawer = drawing(700);
    const began = Date.now();
    const slow = drawer.draw(costly);
    let ticks = 0;
    const tick = setInterval(() => ticks++, 20);
    expect(await slow).toEqual({ is: 'too much' });
    clearInterval(tick);
    expect(Date.now() - began).toBeLessThan(10_000);
    expect(ticks).toBeGreaterThan(10);
    const roomy = new ProcessDrawer(program);
    expect(await roomy.draw(await good())).toHaveProperty('made');
    roomy.close();
  });
  it('that takes too much memory is ended', async () => {
    // Its time would be over much later.
    const drawer = drawing(50_000, 200_000_000);
    expect(await drawer.draw(await good())).toHaveProperty('made');
    const began = Date.now();
    expect(await drawer.draw(costly)).toEqual({ is: 'too much' });
    expect(Date.now() - began).toBeLessThan(25_000);
  });
  it('that brings a file of the machine, or asks another, shows nothing of it', async () => {
    const asks = svg(
      '<image xlink:href="file:///etc/hostname" width="40" height="40"/><image xlink:href="http://127.0.0.1:1/x.png" width="9" height="9"/>',
    );
    const drawn = await drawing(20_000).draw(asks);
    if (!('made' in drawn)) throw new Error(drawn.is);
    expect((await sharp(drawn.made).stats()).isOpaque).toBe(false);
  });
});
