import { useRef, useState } from 'react';
import { layoutSaid, PAGE_MAY, usePageSays } from '../ui/page-says';
import type { Layout } from './geometry';
import { pageFrame as say } from '../words/bench';

interface Props {
  readonly src: string;
  readonly title: string;
  readonly width: number;
  readonly scale: number;
  /** Set for a frame that scrolls by itself; else it is as tall as its page. */
  readonly height?: number;
  readonly onLayout: (layout: Layout) => void;
}

/** How often a page may grow because its frame grew (a hero of 100vh) before it is left as it is. */
const GROWTHS = 3;

/**
 * The draft's page in a frame of its own origin. When its address changes the old page stays until the new one has
 * told its layout, so that nothing flashes.
 */
export function PageFrame({ src, title, width, scale, height, onLayout }: Props) {
  const [shown, setShown] = useState(src);
  const [tall, setTall] = useState(800);
  const current = useRef<HTMLIFrameElement>(null);
  const next = useRef<HTMLIFrameElement>(null);
  const growths = useRef(0);
  const lastWidth = useRef(width);
  if (lastWidth.current !== width) {
    lastWidth.current = width;
    growths.current = 0;
  }
  usePageSays(layoutSaid, [next, current], (layout, frame) => {
    if (frame === next.current) setShown(src);
    if (Math.abs(layout.height - tall) > 1 && growths.current++ < GROWTHS)
      setTall(Math.max(400, layout.height));
    onLayout(layout);
  });
  // A page that tells nothing (as a shopper sees it) is shown as it is.
  const silent = height !== undefined;
  const h = height ?? tall;
  const style = { width, height: h, transform: `scale(${scale})` };
  return (
    <div className="pagebox" style={{ width: width * scale, height: h * scale }}>
      <iframe
        key={silent ? src : shown}
        ref={current}
        title={title}
        sandbox={PAGE_MAY}
        src={silent ? src : shown}
        style={style}
      />
      {!silent && src !== shown && (
        <iframe
          key={src}
          ref={next}
          className="next"
          sandbox={PAGE_MAY}
          title={say.coming(title)}
          aria-hidden="true"
          tabIndex={-1}
          src={src}
          style={style}
        />
      )}
    </div>
  );
}
