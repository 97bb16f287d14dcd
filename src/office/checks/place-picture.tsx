import { PackageOpen, ReceiptText, Palette } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { FindingView } from '../../services/checks/checks';
import { useGoods } from '../goods/use-goods';
import { pictureOf, useBoot } from '../shop-context';
import { findingRow as say } from '../words/checks';
import { Ring, type RingBox } from './ring';

/** The picture's size, and how wide the page is laid out in it, in px. */
const WIDTH = 92;
const HEIGHT = 84;
const LAID_OUT = 1100;
const SCALE = WIDTH / LAID_OUT;

interface Props {
  readonly finding: FindingView;
  /** Pages that lie behind it. */
  readonly others: number;
  readonly tone: 'beet' | 'marigold';
}

/** The real place, drawn small, with the spot ringed; of a product its picture. */
export function PlacePicture({ finding, others, tone }: Props) {
  const { place } = finding;
  return (
    <span className="ck-pic" data-behind={others}>
      {place.on === 'page' && <PagePicture finding={finding} tone={tone} />}
      {place.on === 'goods' && <GoodsPicture id={place.id} />}
      {place.on === 'till' && (
        <span className="ck-plain">
          <ReceiptText size={30} strokeWidth={1.2} aria-hidden />
        </span>
      )}
      {place.on === 'site' && (
        <span className="ck-plain">
          <Palette size={30} strokeWidth={1.2} aria-hidden />
        </span>
      )}
    </span>
  );
}

function GoodsPicture({ id }: { id: string }) {
  const { site } = useBoot();
  const line = useGoods().data?.find((g) => g.id === id);
  const src = pictureOf(site.shopUrl, line?.picture ?? null);
  return (
    <span className="ck-plain">
      {src ? <img src={src} alt="" /> : <PackageOpen size={30} strokeWidth={1.2} aria-hidden />}
    </span>
  );
}

function PagePicture({ finding: { place }, tone }: Pick<Props, 'finding' | 'tone'>) {
  const { site } = useBoot();
  const frame = useRef<HTMLIFrameElement>(null);
  const holder = useRef<HTMLSpanElement>(null);
  const [inView, setInView] = useState(false);
  const [spot, setSpot] = useState<{ ring: RingBox | null; top: number }>({ ring: null, top: 0 });
  const widget = place.on === 'page' ? place.widget : undefined;
  useEffect(() => {
    const watch = new IntersectionObserver((all) => all.some((e) => e.isIntersecting) && setInView(true), {
      rootMargin: '200px',
    });
    if (holder.current) watch.observe(holder.current);
    return () => watch.disconnect();
  }, []);
  useEffect(() => {
    const hear = (e: MessageEvent) => {
      if (e.source !== frame.current?.contentWindow || e.data?.stall !== 'layout') return;
      setSpot(spotIn(e.data, widget));
    };
    addEventListener('message', hear);
    return () => removeEventListener('message', hear);
  }, [widget]);
  if (place.on !== 'page') return null;
  return (
    <span ref={holder} className="mini" style={{ width: WIDTH, height: HEIGHT }}>
      {inView && (
        <iframe
          ref={frame}
          title={say.pictureOf(place.name)}
          aria-hidden="true"
          tabIndex={-1}
          sandbox="allow-scripts"
          src={pageInDraft(site.draftUrl, place)}
          style={{
            width: LAID_OUT,
            height: HEIGHT / SCALE + spot.top,
            transform: `scale(${SCALE}) translateY(${-spot.top}px)`,
          }}
        />
      )}
      {spot.ring && <Ring box={spot.ring} tone={tone} />}
    </span>
  );
}

/** A page of the draft as the office looks at it, with the block that is meant. */
export function pageInDraft(
  draftUrl: string,
  place: { readonly page: string; readonly block?: string | undefined },
): string {
  const query = new URLSearchParams({ stall: 'mini', ...(place.block && { at: place.block }) });
  return `${draftUrl}/${encodeURI(place.page)}?${query}`;
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}
export interface Layout {
  readonly height: number;
  readonly spot: Box | null;
  readonly widgets: readonly (Box & { readonly id: string })[];
}

/** What is meant: the widget, else the block. */
export const boxIn = (layout: Layout, widget: string | undefined): Box | null =>
  layout.widgets.find((w) => widget !== undefined && w.id === widget && w.w > 1) ?? layout.spot;

/** Where the ring is in the small picture, and how far the page is pushed up so that it is seen. */
function spotIn(layout: Layout, widget: string | undefined): { ring: RingBox | null; top: number } {
  const box = boxIn(layout, widget);
  if (!box || box.w < 1) return { ring: null, top: 0 };
  const visible = HEIGHT / SCALE;
  const top = Math.max(
    0,
    Math.min(box.y + Math.min(box.h, visible) / 2 - visible / 2, layout.height - visible),
  );
  return {
    top,
    ring: {
      x: box.x * SCALE,
      y: (box.y - top) * SCALE,
      w: box.w * SCALE,
      h: Math.min(box.h, visible) * SCALE,
    },
  };
}
