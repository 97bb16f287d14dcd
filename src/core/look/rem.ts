/**
 * How large a rem of the shop's is on a site, in the site's own rem. Our measures take a rem for 16 px,
 * which it is where nothing else is
 * set (CSS Values 4, "rem"; 16 px is common practice of browsers). Sites that set their root to 10 px, or
 * 62.5 %, get 1.6 of theirs.
 */

/**
 * Style that is written into pages, where no script and no sheet of ours may have come yet: its rem in the
 * site's own.
 */
export const inSiteRem = (style: string, rem: number): string =>
  rem === 1 ? style : eachRem(style, (n) => `${Math.round(n * rem * 1000) / 1000}rem`);

/** Style in the shop's rem as pixels: for pages elsewhere, whose root nobody has seen. */
export const inPixels = (style: string): string =>
  eachRem(style, (n) => `${Math.round(n * 16 * 100) / 100}px`);

/** What a site says in its own rem, in the shop's. */
export const fromSiteRem = (style: string, rem: number): string => inSiteRem(style, 1 / rem);

const eachRem = (style: string, write: (n: number) => string): string =>
  style.replace(/(\d*\.?\d+)rem\b/g, (_, n: string) => write(Number(n)));
