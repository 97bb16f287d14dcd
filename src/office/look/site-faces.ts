import { useEffect, useMemo, useState } from 'react';
import { useBoot } from '../shop-context';

/** Families of the site are named anew in the office, so that none is taken for one of the office's own. */
const named = (family: string): string => `site ${family.toLowerCase()}`;
const plain = (family: string): string => family.trim().replace(/^["']|["']$/g, '');

/** Brings the site's own fonts into the office. @returns a list of families with those that the site brings in their own names */
export function useSiteFaces(): (families: string) => string {
  const { site } = useBoot();
  const [here, setHere] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    let over = false;
    const faces = site.fonts.map((f) => ({
      family: f.family.toLowerCase(),
      face: new FontFace(named(f.family), `url(${JSON.stringify(f.url)})`, {
        weight: f.weight,
        style: f.style,
      }),
    }));
    for (const { family, face } of faces)
      face.load().then(
        () => {
          document.fonts.add(face);
          if (!over) setHere((known) => new Set([...known, family]));
        },
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
