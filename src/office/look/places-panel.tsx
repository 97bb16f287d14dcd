import { PAGE_MAY, readySaid, usePageSays } from '../ui/page-says';
import { useEffect, useRef, useState } from 'react';
import type { FoundColour } from '../../core/look/found/found';
import { colourName } from '../../core/look/labels';
import type { LookView } from '../../services/sites/look-view';
import { useBoot } from '../shop-context';
import { placesPanel as say } from '../words/look';

/** Width that the page is shown at, in px; it is drawn smaller. */
const WIDTH = 1280;

/** A page of the site with rings around where a colour is. */
export function PlacesPanel({
  colour,
  pages,
  onClose,
}: {
  colour: FoundColour;
  pages: LookView['pages'];
  onClose: () => void;
}) {
  const { site } = useBoot();
  const frame = useRef<HTMLIFrameElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [space, setSpace] = useState(300);
  const known = pages.filter((p) => colour.places.some((place) => place.page === p.path));
  const [path, setPath] = useState(known[0]?.path ?? '');
  const page = known.find((p) => p.path === path) ?? known[0];
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => entry && setSpace(entry.contentRect.width));
    if (box.current) watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  usePageSays(readySaid, [frame], () => {
    const show = colour.places.filter((p) => p.page === page?.path).map((p) => p.at);
    frame.current?.contentWindow?.postMessage({ stall: 'show', show }, '*');
  });
  const scale = space / WIDTH;
  return (
    <section className="lk-places" aria-label={say.whereItIs(colourName(colour))}>
      <header>
        <h2>{colourName(colour)}</h2>
        <button type="button" className="btn small" onClick={onClose}>
          {say.backToTheSample}
        </button>
      </header>
      {known.length > 1 && (
        <label className="own">
          {say.page}
          <select value={page?.path} onChange={(e) => setPath(e.target.value)}>
            {known.map((p) => (
              <option key={p.path} value={p.path}>
                {p.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <div className="page" ref={box}>
        {page ? (
          <iframe
            ref={frame}
            key={`${page.path} ${colour.value}`}
            title={say.pageWithRings(page.name)}
            sandbox={PAGE_MAY}
            src={`${site.draftUrl}${page.address}?stall=look`}
            style={{ width: WIDTH, height: 1600, transform: `scale(${scale})` }}
          />
        ) : (
          <p className="note">{say.nowhereAtRest}</p>
        )}
      </div>
    </section>
  );
}
