/** Browsers and systems by what they say of themselves; the first that fits, because most name others as well. From memory. */
const browsers = [
  [/Edg\//, 'Edge'],
  [/OPR\//, 'Opera'],
  [/Firefox\//, 'Firefox'],
  [/Chrom(e|ium)\//, 'Chrome'],
  [/Safari\//, 'Safari'],
] as const;
const systems = [
  [/iPhone|iPad/, 'iOS'],
  [/Android/, 'Android'],
  [/Mac OS X/, 'macOS'],
  [/Windows/, 'Windows'],
  [/CrOS/, 'ChromeOS'],
  [/Linux|X11/, 'Linux'],
] as const;

const first = (list: readonly (readonly [RegExp, string])[], text: string): string | undefined =>
  list.find(([pattern]) => pattern.test(text))?.[1];

/** Which browser on which system it is, of its User-Agent; nothing for what says neither. */
export function browserName(userAgent: string): { browser: string; system: string } | undefined {
  const browser = first(browsers, userAgent);
  const system = first(systems, userAgent);
  return browser && system ? { browser, system } : undefined;
}
