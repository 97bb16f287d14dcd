import { PackageOpen, ReceiptText, Palette } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { FindingView } from '../../services/checks/checks';
import { useGoods } from '../goods/use-goods';
import { pictureOf, useBoot } from '../shop-context';
import { findingRow as say } from '../words/checks';
import { type Layout, layoutSaid, usePageSays } from '../ui/page-says';
import { Ring, type RingBox } from './ring';

/** The picture's size, and how wide the page is laid out, in px. */
const WIDTH = 92;
const HEIGHT = 84;
const LAID_OUT = 1100;
/** How much of the page is shown around a spot, in px: enough to know where one is, and no more than can be made out. */
const LEAST = 440;
const MOST = 640;

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
  const [view, setView] = useState<View>(whole);
  const widget = place.on === 'page' ? place.widget : undefined;
  useEffect(() => {
    const watch = new IntersectionObserver((all) => all.some((e) => e.isIntersecting) && setInView(true), {
      rootMargin: '200px',
    });
    if (holder.current) watch.observe(holder.current);
    return () => watch.disconnect();
  }, []);
  usePageSays(layoutSaid, [frame], (said) => setView(viewOf(said, widget)));
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
            height: HEIGHT / view.scale + view.top,
            transform: `scale(${view.scale}) translate(${-view.left}px, ${-view.top}px)`,
          }}
        />
      )}
      {view.ring && <Ring box={view.ring} tone={tone} />}
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

type Box = NonNullable<Layout['spot']>;

/** What is meant: the widget, else the block. */
export const boxIn = (layout: Layout, widget: string | undefined): Box | null =>
  layout.widgets.find((w) => widget !== undefined && w.id === widget && w.w > 1) ?? layout.spot;

/** What of the page is seen, how large, and where the ring is. */
interface View {
  readonly scale: number;
  readonly left: number;
  readonly top: number;
  readonly ring: RingBox | null;
}
const whole: View = { scale: WIDTH / LAID_OUT, left: 0, top: 0, ring: null };

/** The spot in the middle, with as much of the page around it as fits. */
function viewOf(layout: Layout, widget: string | undefined): View {
  const box = boxIn(layout, widget);
  if (!box || box.w < 1) return whole;
  const wide = Math.min(MOST, Math.max(LEAST, box.w * 1.15));
  const scale = WIDTH / wide;
  const high = HEIGHT / scale;
  const middle = (from: number, size: number, room: number, all: number) =>
    Math.max(0, Math.min(from + Math.min(size, room) / 2 - room / 2, Math.max(0, all - room)));
  const left = middle(box.x, box.w, wide, LAID_OUT);
  const top = middle(box.y, box.h, high, layout.height);
  return {
    scale,
    left,
    top,
    ring: {
      x: (box.x - left) * scale,
      y: (box.y - top) * scale,
      w: Math.min(box.w, wide) * scale,
      h: Math.min(box.h, high) * scale,
    },
  };
}
