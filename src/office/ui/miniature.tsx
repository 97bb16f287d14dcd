import { useEffect, useRef, useState } from 'react';
import { Awning } from './mark';
import { type Layout, layoutSaid, usePageSays } from './page-says';
import { miniature as say } from '../words/ui';

/** The page is laid out this wide and drawn small; a height beyond `tallest` is cut. */
const LAID_OUT = 1240;

interface Props {
  readonly src: string;
  readonly width: number;
  readonly tallest: number;
  readonly built: boolean;
  readonly kinds: ReadonlyMap<string, string>;
  /** The only widget that is marked, where not all are meant. */
  readonly only?: string;
}

/** A page of the draft, drawn small: the real one, in a frame that runs no script but ours and reaches nothing. Loaded when it comes into view. */
export function Miniature({ src, width, tallest, built, kinds, only }: Props) {
  const box = useRef<HTMLSpanElement>(null);
  const frame = useRef<HTMLIFrameElement>(null);
  const [seen, setSeen] = useState(false);
  const [layout, setLayout] = useState<Layout | null>(null);
  useEffect(() => {
    const watch = new IntersectionObserver(
      (entries) => entries.some((e) => e.isIntersecting) && setSeen(true),
      { rootMargin: '300px' },
    );
    if (box.current) watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  usePageSays(layoutSaid, [frame], setLayout);
  const scale = width / LAID_OUT;
  const height = Math.round(Math.min(tallest, Math.max(60, (layout?.height ?? 760) * scale)));
  return (
    <span className="relative block">
      <span ref={box} className={layout ? 'mini' : 'mini wait'} style={{ width, height }}>
        {seen && (
          <iframe
            ref={frame}
            title={say.miniature}
            aria-hidden="true"
            tabIndex={-1}
            sandbox="allow-scripts"
            src={src}
            style={{ width: LAID_OUT, height: Math.ceil(height / scale), transform: `scale(${scale})` }}
          />
        )}
        {built && <span className="stripe" />}
      </span>
      {layout?.widgets
        .filter((w) => w.y * scale < height && (only === undefined || w.id === only))
        .map((w) => (
          <Awning
            key={w.id}
            kind={kinds.get(w.id) ?? 'buy'}
            style={{
              left: Math.min(width - 4, (w.x + w.w) * scale + 2),
              top: Math.max(5, (w.y + w.h / 2) * scale),
            }}
          />
        ))}
    </span>
  );
}
