import type { z } from 'zod';
import { menuSaid, PAGE_MAY, usePageSays } from '../ui/page-says';
import { useEffect, useMemo, useRef, useState } from 'react';
import { menuFrame as say } from '../words/site';

/** How a menu fits at one width, as measured in the real page with its real fonts. */
export interface MenuFit {
  readonly width: number;
  /** On one line; broken over several; one below the other; behind a button. */
  readonly shape: 'line' | 'wraps' | 'stacked' | 'folded';
  readonly needs: number;
  readonly room: number;
  readonly rows: number;
  readonly height: number;
  /** Whether a cart at the end of the header is inside the window; nothing where there is no header. */
  readonly cartFits: boolean | undefined;
  readonly items: readonly { readonly text: string; readonly x: number; readonly w: number }[];
  readonly widths: Readonly<Record<string, number>>;
  /** Room an item of that text would take, its distance included. */
  readonly widthOf: (text: string) => number;
}

type Told = z.output<typeof menuSaid>;

interface Props {
  readonly src: string;
  readonly width: number;
  readonly name: string;
  readonly fit: MenuFit | undefined;
  readonly trying: string | null;
  readonly onFit: (fit: MenuFit) => void;
}

/** The top of a page at one width, drawn from the draft, with a ruler that says what the menu needs and what there is. */
export function MenuFrame({ src, width, name, fit, trying, onFit }: Props) {
  const frame = useRef<HTMLIFrameElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [space, setSpace] = useState(width);
  const [bottom, setBottom] = useState(90);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => entry && setSpace(entry.contentRect.width));
    if (box.current) watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  usePageSays(menuSaid, [frame], (said) => {
    setBottom(Math.max(60, Math.min(420, said.bottom)));
    onFit(fitOf(said, width));
  });
  const scale = Math.min(1, space / width);
  const extra = trying && fit?.shape === 'line' ? fit.widthOf(trying) : 0;
  const over = fit ? fit.needs + extra - fit.room : 0;
  return (
    <figure className={`fit w${width}`}>
      <figcaption>
        <b className="mono">{width}</b> {name}
        <Verdict fit={fit} extra={extra} trying={trying} />
      </figcaption>
      <div ref={box} className="fit-box" style={{ height: Math.round(bottom * scale) }}>
        <iframe
          ref={frame}
          title={say.theMenuAt(width)}
          tabIndex={-1}
          sandbox={PAGE_MAY}
          src={src}
          style={{ width, height: 700, transform: `scale(${scale})` }}
        />
      </div>
      {fit && (fit.shape === 'line' || fit.shape === 'wraps') && (
        <Ruler fit={fit} scale={scale} extra={extra} />
      )}
      {fit && over > 0.5 && (fit.shape === 'line' || fit.shape === 'wraps') && (
        <Ways fit={fit} over={over} trying={trying} />
      )}
    </figure>
  );
}

function fitOf(t: Told, width: number): MenuFit {
  const pen = document.createElement('canvas').getContext('2d');
  if (pen) pen.font = t.font;
  const needs = t.items.reduce((n, i) => n + i.w, 0) + t.gap * Math.max(0, t.items.length - 1);
  // What the page's own font measures for a text we know scales what our canvas measures, where the font is only there.
  const sample = t.items.find((i) => i.text.length > 3);
  const bare = (text: string) =>
    (pen?.measureText(text).width ?? text.length * 8) + t.letterSpacing * text.length;
  const ratio = sample ? Math.max(0.5, Math.min(2, (sample.w - t.pad) / Math.max(1, bare(sample.text)))) : 1;
  return {
    width,
    shape: t.shape,
    needs,
    room: needs + t.free - t.over,
    rows: t.rows,
    height: t.height,
    cartFits: t.cartFits,
    items: t.items,
    widths: Object.fromEntries(t.items.map((i) => [i.text, i.w])),
    widthOf: (text) => bare(text) * ratio + t.pad + t.gap,
  };
}

const px = (n: number): string => `${Math.round(n)}`;

function Verdict({ fit, extra, trying }: { fit: MenuFit | undefined; extra: number; trying: string | null }) {
  if (!fit) return <span className="note">{say.measuring}</span>;
  if (fit.shape === 'folded') return <span className="ok">{say.behindAButton}</span>;
  if (fit.shape === 'stacked') return <span className="ok">{say.rowsPx(fit.rows, px(fit.height))}</span>;
  const needs = fit.needs + extra;
  const free = fit.room - needs;
  const words = say.needsOfPx(px(needs), px(fit.room), trying && extra ? ` with ${trying}` : '');
  return free >= -0.5 && fit.shape === 'line' ? (
    <span className="ok">{say.fitsFree(words, px(free))}</span>
  ) : (
    <span className="over">{say.overItWraps(words, px(-free))}</span>
  );
}

function Ruler({ fit, scale, extra }: { fit: MenuFit; scale: number; extra: number }) {
  const last = fit.items.at(-1);
  const end = last ? last.x + last.w : 0;
  const free = fit.room - fit.needs - extra;
  return (
    <div className="ruler" aria-hidden="true">
      {fit.items.map((i) => (
        <span key={`${i.text} ${i.x}`} style={{ left: i.x * scale, width: i.w * scale }}>
          {px(i.w)}
        </span>
      ))}
      {extra > 0 && (
        <span className={free < 0 ? 'try bad' : 'try'} style={{ left: end * scale, width: extra * scale }}>
          {px(extra)}
        </span>
      )}
    </div>
  );
}

/** What would make it fit: items whose nesting frees enough, and how much shorter the longest must be. */
function Ways({ fit, over, trying }: { fit: MenuFit; over: number; trying: string | null }) {
  const gap =
    fit.items.length > 1 ? (fit.needs - fit.items.reduce((n, i) => n + i.w, 0)) / (fit.items.length - 1) : 0;
  const enough = useMemo(
    () =>
      fit.items
        .slice(1)
        .filter((i) => i.w + gap >= over)
        .sort((a, b) => a.w - b.w)
        .slice(0, 2),
    [fit, over, gap],
  );
  const longest = [...fit.items].sort((a, b) => b.w - a.w)[0];
  return (
    <p className="warn">
      {trying ? say.withItWouldBreakIntoA(trying) : say.itBreaksIntoASecondLine}
      {enough.map((i) => (
        <span key={i.text}> {say.nestPx(i.text, px(fit.needs - i.w - gap))}</span>
      ))}
      {longest && <span> {say.orShortenLabelsByPxThe(px(over), longest.text, px(longest.w))}</span>}
    </p>
  );
}
