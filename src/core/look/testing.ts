import { parsePage } from '../html/tree';
import { readSource } from '../html/source';
import type { Viewing } from './cascade/media';
import { readSeen } from './cascade/read-seen';
import { findLook, type Found } from './found/found';
import { lookOfAttributes } from './old-pages';
import type { SeenRegion } from './seen';
import { type Dressed, dress, wardrobeOf } from './wardrobe';
import type { LookPlan } from './plan';

const desktop: Viewing = { width: 1280, height: 800, scheme: 'light' };
const regionOfTag: Readonly<Record<string, SeenRegion>> = {
  header: 'header',
  nav: 'menu',
  main: 'main',
  aside: 'side',
  footer: 'footer',
};

/** What is found on pages written for a test. */
export function foundOn(css: string | readonly string[], ...pages: readonly string[]): Found {
  const all = (pages.length ? pages : [PAGE]).flatMap((html, n) => {
    const source = readSource(Buffer.from(html));
    const doc = parsePage(source);
    const sheets = [lookOfAttributes(doc, source), ...(typeof css === 'string' ? [css] : css)];
    const see = (at: Viewing) => readSeen({ page: `${n}.html`, doc, sheets, regionOf: regionIn }, at);
    const light = see(desktop);
    return light.hasDark ? [light, see({ ...desktop, scheme: 'dark' })] : [light];
  });
  return findLook(all, 'computed');
}

function regionIn(el: { tagName: string; parentNode?: unknown }): SeenRegion {
  for (let up: unknown = el; up; up = (up as { parentNode?: unknown }).parentNode) {
    const found = regionOfTag[(up as { tagName?: string }).tagName ?? ''];
    if (found) return found;
  }
  return 'page';
}

export const dressedBy = (
  css: string | readonly string[],
  plan: LookPlan = {},
  ...pages: readonly string[]
): Dressed => dress(wardrobeOf(foundOn(css, ...pages)), plan);

/** A page with one of each. */
export const PAGE = `<!doctype html><html><head><title>x</title></head><body><header><nav><a href="/">Home</a> <a href="/b">Baskets</a></nav></header>
<main><h1>Woven here by hand</h1><p>Each basket is cut, soaked and woven by two people in a shed beside the bed of willow, all year round.</p>
<h2>What we make</h2><p>Read <a href="/more">how they are made</a> and look at them in the shop.</p><p class="small">Since 1998.</p>
<p><a class="btn button" href="/buy">Buy a basket</a></p><form><input type="text" name="q"><button class="btn">Send</button></form><hr></main>
<footer><p>Withybed Weavers, Somerset, and <a href="/c">how to find us</a></p></footer></body></html>`;
