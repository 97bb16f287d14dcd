import { useEffect, useMemo, useState } from 'react';
import { type Boot, useBoot } from '../shop-context';

/** Families of the site are named anew in the office, so that none is taken for one of the office's own. */
const named = (family: string): string => `site ${family.toLowerCase()}`;
const plain = (family: string): string => family.trim().replace(/^["']|["']$/g, '');

type SiteFont = Boot['site']['fonts'][number];

/** Each file is fetched once, however many rows show a face of it. */
const loads = new Map<string, Promise<unknown>>();

function load(font: SiteFont): Promise<unknown> {
  const known = loads.get(font.url);
  if (known) return known;
  const face = new FontFace(named(font.family), `url(${JSON.stringify(font.url)})`, {
    weight: font.weight,
    style: font.style,
  });
  const loading = face.load().then((loaded) => document.fonts.add(loaded));
  loads.set(font.url, loading);
  return loading;
}

/** Brings the site's own fonts into the office. @returns a list of families with those that the site brings in their own names */
export function useSiteFaces(): (families: string) => string {
  const { site } = useBoot();
  const [here, setHere] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    let over = false;
    for (const font of site.fonts)
      load(font).then(
        () => over || setHere((known) => new Set([...known, font.family.toLowerCase()])),
        // A file that is not there leaves the next family of the list, as on the site.
        () => {},
      );
    return () => {
      over = true;
    };
  }, [site.fonts]);
  return useMemo(
    () => (families: string) =>
      families
        .split(',')
        .flatMap((f) => (here.has(plain(f).toLowerCase()) ? [`'${named(plain(f))}'`, f.trim()] : [f.trim()]))
        .join(', '),
    [here],
  );
}
