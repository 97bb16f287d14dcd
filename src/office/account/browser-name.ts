/**
 * Browsers and systems by what they say of themselves; the first that fits, because most name others as
 * well. From memory.
 */
const browsers = [
  { is: /Edg\//, name: 'Edge' },
  { is: /OPR\//, name: 'Opera' },
  { is: /Firefox\//, name: 'Firefox' },
  { is: /Chrom(e|ium)\//, name: 'Chrome' },
  { is: /Safari\//, name: 'Safari' },
] as const;
const systems = [
  { is: /iPhone|iPad/, name: 'iOS' },
  { is: /Android/, name: 'Android' },
  { is: /Mac OS X/, name: 'macOS' },
  { is: /Windows/, name: 'Windows' },
  { is: /CrOS/, name: 'ChromeOS' },
  { is: /Linux|X11/, name: 'Linux' },
] as const;

const first = (
  list: readonly { readonly is: RegExp; readonly name: string }[],
  text: string,
): string | undefined => list.find(({ is }) => is.test(text))?.name;

/** Which browser on which system it is, of its User-Agent; nothing for what says neither. */
export function browserName(userAgent: string): { browser: string; system: string } | undefined {
  const browser = first(browsers, userAgent);
  const system = first(systems, userAgent);
  return browser && system ? { browser, system } : undefined;
}
