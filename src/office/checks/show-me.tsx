import { layoutSaid, usePageSays } from '../ui/page-says';
import { useEffect, useRef, useState } from 'react';
import { isHeavy, weightWords } from '../../core/checks/finding';
import type { FindingView } from '../../services/checks/checks';
import { benchHref } from '../places';
import { useBoot } from '../shop-context';
import { showMe as say } from '../words/checks';
import { boxIn, pageInDraft } from './place-picture';
import { Ring, type RingBox } from './ring';

/** Width that the page is laid out at, in px; it is drawn as wide as there is room. */
const LAID_OUT = 1180;

/** The page of the draft, large, with the spot ringed. */
export function ShowMe({ finding, onClose }: { finding: FindingView; onClose: () => void }) {
  const { site } = useBoot();
  const { place } = finding;
  const frame = useRef<HTMLIFrameElement>(null);
  const holder = useRef<HTMLElement>(null);
  const close = useRef<HTMLButtonElement>(null);
  const [space, setSpace] = useState(380);
  const [page, setPage] = useState<{ height: number; ring: RingBox | null }>({ height: 900, ring: null });
  const widget = place.on === 'page' ? place.widget : undefined;
  const scale = space / LAID_OUT;
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => entry && setSpace(entry.contentRect.width));
    if (holder.current) watch.observe(holder.current);
    close.current?.focus();
    return () => watch.disconnect();
  }, []);
  usePageSays(layoutSaid, [frame], (said) => {
    setPage({ height: Math.min(8_000, Math.max(400, said.height)), ring: boxIn(said, widget) });
  });
  const { ring } = page;
  const at = ring && { x: ring.x * scale, y: ring.y * scale, w: ring.w * scale, h: ring.h * scale };
  const top = at?.y;
  useEffect(() => {
    if (top !== undefined) holder.current?.scrollTo({ top: Math.max(0, top - 160) });
  }, [top]);
  if (place.on !== 'page') return null;
  return (
    <section className="ck-show" aria-label={say.thereInThePage}>
      <header>
        <h2>{place.name}</h2>
        <a className="btn sm" href={benchHref(site.slug, place.page)}>
          {say.onTheBench}
        </a>
        <button ref={close} type="button" className="btn quiet sm" onClick={onClose}>
          {say.close}
        </button>
      </header>
      <p>
        <span className={isHeavy(finding.weight) ? 'bad' : 'ck-warn'}>{weightWords[finding.weight]}.</span>{' '}
        {finding.title}
      </p>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keys */}
      <section className="page" ref={holder} tabIndex={0} aria-label={say.pageWithRing(place.name)}>
        <div style={{ position: 'relative', height: page.height * scale }}>
          <iframe
            ref={frame}
            key={finding.key}
            title={say.pageWithRing(place.name)}
            sandbox="allow-scripts"
            tabIndex={-1}
            src={pageInDraft(site.draftUrl, place)}
            style={{ width: LAID_OUT, height: page.height, transform: `scale(${scale})` }}
          />
          {at && <Ring box={at} tone={isHeavy(finding.weight) ? 'beet' : 'marigold'} />}
        </div>
      </section>
    </section>
  );
}
