// The shop's measures are written in rem, and a rem is 16 px. Sites that set their root to 10 px mean
// something else by it: there
// everything would be shrunk. So every rem of ours is written as a multiple of --stall-rem, which the look
// sets (core/look/rem.ts).
import { readFile } from 'node:fs/promises';

/** Conditions of media queries stay: a rem in them is that of the browser, whatever the page sets. */
export const inSiteRem = (css) =>
  css.replace(/@(?:media|container)[^{]*|(\d*\.?\d+)rem\b/g, (all, n) =>
    n === undefined ? all : `calc(${n}*var(--stall-rem,1rem))`,
  );

/** For esbuild: what the widgets carry of CSS. */
export const siteRem = {
  name: 'site-rem',
  setup(build) {
    build.onLoad(
      { filter: /src\/(widgets\/[\w-]+\.ts|core\/storefront\/(storefront\.css|cart-sign\.ts))$/ },
      async ({ path }) => ({
        contents: inSiteRem(await readFile(path, 'utf8')),
        loader: path.endsWith('.css') ? 'text' : 'ts',
      }),
    );
  },
};
