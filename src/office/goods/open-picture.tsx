import { ArrowLeft, ArrowRight, Trash2 } from 'lucide-react';
import type { Picture } from '../../core/goods/product';
import { pictureOf, useBoot } from '../shop-context';
import { picturesField as say } from '../words/goods';

/** One picture: its words, the point that stays in view, its place among the others. */
export function OpenPicture({
  picture,
  at,
  all,
  put,
  onMove,
  onRemove,
}: {
  picture: Picture;
  /** Its place, of how many. */
  at: number;
  all: number;
  put: (change: Partial<Picture>) => void;
  onMove: (by: -1 | 1) => void;
  onRemove: () => void;
}) {
  const { site } = useBoot();
  return (
    <div className="pic-open">
      <FocusPoint picture={picture} src={pictureOf(site.shopUrl, picture.hash, 480) ?? ''} onChange={put} />
      <div>
        <label className="lab" htmlFor="g-alt">
          {say.inWordsForThoseWhoCannot}
        </label>
        <input
          id="g-alt"
          className="in"
          value={picture.alt}
          maxLength={300}
          onChange={(e) => put({ alt: e.target.value })}
        />
        <p className="note">{say.pressThePictureOrMoveThe}</p>
        <div className="flex gap-1">
          <button type="button" className="btn sm" disabled={at === 0} onClick={() => onMove(-1)}>
            <ArrowLeft size={12} aria-hidden />
            {say.earlier}
          </button>
          <button type="button" className="btn sm" disabled={at === all - 1} onClick={() => onMove(1)}>
            {say.later}
            <ArrowRight size={12} aria-hidden />
          </button>
          <button type="button" className="btn sm quiet beet ml-auto" onClick={onRemove}>
            <Trash2 size={12} aria-hidden />
            {say.takeOut}
          </button>
        </div>
      </div>
    </div>
  );
}

function FocusPoint({
  picture,
  src,
  onChange,
}: {
  picture: Picture;
  src: string;
  onChange: (p: { x: number; y: number }) => void;
}) {
  const within = (n: number) => Math.round(Math.max(0, Math.min(1, n)) * 20) / 20;
  return (
    <button
      type="button"
      className="focus-point"
      aria-label={say.pointThatStaysInViewFrom(Math.round(picture.x * 100), Math.round(picture.y * 100))}
      onClick={(e) => {
        if (e.detail === 0) return;
        const box = e.currentTarget.getBoundingClientRect();
        onChange({
          x: within((e.clientX - box.left) / box.width),
          y: within((e.clientY - box.top) / box.height),
        });
      }}
      onKeyDown={(e) => {
        const by = {
          ArrowLeft: [-0.05, 0],
          ArrowRight: [0.05, 0],
          ArrowUp: [0, -0.05],
          ArrowDown: [0, 0.05],
        }[e.key];
        if (!by) return;
        e.preventDefault();
        onChange({ x: within(picture.x + (by[0] ?? 0)), y: within(picture.y + (by[1] ?? 0)) });
      }}
    >
      <img src={src} alt="" />
      <i style={{ left: `${picture.x * 100}%`, top: `${picture.y * 100}%` }} />
    </button>
  );
}
