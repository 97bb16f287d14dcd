import { useEffect, useState } from 'react';
import { type Boot, useBoot } from '../shop-context';
import { useSiteFont as say } from '../words/goods';

/** Families are named anew here, so that a site's font is never taken for one of the office's own. */
const named = (family: string): string => say.ofTheSite(family.toLowerCase());

const first = (list: string): string => (list.split(',')[0] ?? '').trim().replace(/^["']|["']$/g, '');

/** The fonts of a family, those that stand for bold first: badges are bold. */
export function facesOf(site: Pick<Boot['site'], 'font' | 'fonts'>): Boot['site']['fonts'] {
  const family = first(site.font).toLowerCase();
  return site.fonts.filter((f) => f.family.toLowerCase() === family && f.style !== 'italic');
}

/** The site's own text font, for measuring: a CSS list of families once its files are here, the usual ones until then. */
export function useSiteFont(): { readonly font: string; readonly own: string } {
  const { site } = useBoot();
  const [here, setHere] = useState(false);
  useEffect(() => {
    const faces = facesOf(site).map(
      (f) =>
        new FontFace(named(f.family), `url(${JSON.stringify(f.url)})`, { weight: f.weight, style: f.style }),
    );
    let over = false;
    void Promise.all(faces.map((f) => f.load())).then(
      (loaded) => {
        for (const f of loaded) document.fonts.add(f);
        // A family that the machine has needs no file.
        if (!over) setHere(true);
      },
      () => {},
    );
    return () => {
      over = true;
    };
  }, [site]);
  const own = first(site.font);
  const usable = here && own !== '' && own !== 'inherit';
  return { font: usable ? `"${named(own)}", ${site.font}` : 'sans-serif', own: usable ? own : '' };
}
