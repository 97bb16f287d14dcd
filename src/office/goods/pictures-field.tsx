import { ArrowLeft, ArrowRight, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Picture } from '../../core/goods/product';
import { call } from '../api';
import { pictureOf, useBoot } from '../shop-context';
import { picturesField as say } from '../words/goods';

interface Props {
  readonly pictures: readonly Picture[];
  readonly onChange: (to: (now: readonly Picture[]) => readonly Picture[]) => void;
}

/** All pictures of a product: several at once, their order, words for each, and the point that stays in view. */
export function PicturesField({ pictures, onChange }: Props) {
  const { site } = useBoot();
  const [open, setOpen] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const [busy, setBusy] = useState<{ done: number; all: number } | null>(null);
  const take = async (files: readonly File[]) => {
    if (files.length === 0) return;
    setBusy({ done: 0, all: files.length });
    for (const [n, file] of files.entries()) {
      await call(site.slug, 'POST pictures', { body: file }).then(
        ({ hash }) =>
          onChange((now) =>
            now.some((p) => p.hash === hash) ? now : [...now, { hash, alt: '', x: 0.5, y: 0.5 }],
          ),
        (e: Error) => toast.error(`${file.name}: ${e.message}`, { duration: 9000 }),
      );
      setBusy({ done: n + 1, all: files.length });
    }
    setBusy(null);
  };
  const at = pictures.findIndex((p) => p.hash === open);
  const chosen = pictures[at];
  const move = (by: number) =>
    onChange((now) => {
      const to = [...now];
      const [one] = to.splice(at, 1);
      if (one) to.splice(Math.max(0, Math.min(to.length, at + by)), 0, one);
      return to;
    });
  const set = (change: Partial<Picture>) =>
    onChange((now) => now.map((p) => (p.hash === open ? { ...p, ...change } : p)));
  return (
    <div>
      <span className="lab">
        {say.pictures}
        {pictures.length > 0 && <span className="mono"> {pictures.length}</span>}
      </span>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: dropping files is a second way; the button beside is the first */}
      <div
        className={over ? 'pics over' : 'pics'}
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(e) => {
          e.preventDefault();
          setOver(false);
          void take([...e.dataTransfer.files].filter((f) => f.type.startsWith('image/')));
        }}
      >
        {pictures.map((p, n) => (
          <button
            key={p.hash}
            type="button"
            aria-pressed={p.hash === open}
            aria-label={say.picture(n + 1, p.alt || say.noWordsYet)}
            className={p.alt ? '' : 'wordless'}
            onClick={() => setOpen(p.hash === open ? null : p.hash)}
          >
            <img
              src={pictureOf(site.shopUrl, p.hash, 240)}
              alt=""
              style={{ objectPosition: `${p.x * 100}% ${p.y * 100}%` }}
            />
          </button>
        ))}
        <label className="add">
          <Plus size={18} aria-hidden />
          {pictures.length === 0 && <span>{say.dropPicturesOrPressToChoose}</span>}
          <input
            type="file"
            accept="image/*"
            multiple
            aria-label={say.picture2}
            onChange={(e) => {
              void take([...(e.target.files ?? [])]);
              e.target.value = '';
            }}
          />
        </label>
      </div>
      {busy && (
        <p className="note" role="status">
          {say.takingInPictureOf(Math.min(busy.done + 1, busy.all), busy.all)}
          <progress className="ml-2 h-1.5 w-24" max={busy.all} value={busy.done} />
        </p>
      )}
      {chosen && (
        <div className="pic-open">
          <FocusPoint picture={chosen} src={pictureOf(site.shopUrl, chosen.hash, 480) ?? ''} onChange={set} />
          <div>
            <label className="lab" htmlFor="g-alt">
              {say.inWordsForThoseWhoCannot}
            </label>
            <input
              id="g-alt"
              className="in"
              value={chosen.alt}
              maxLength={300}
              onChange={(e) => set({ alt: e.target.value })}
            />
            <p className="note">{say.pressThePictureOrMoveThe}</p>
            <div className="flex gap-1">
              <button type="button" className="btn sm" disabled={at === 0} onClick={() => move(-1)}>
                <ArrowLeft size={12} aria-hidden />
                {say.earlier}
              </button>
              <button
                type="button"
                className="btn sm"
                disabled={at === pictures.length - 1}
                onClick={() => move(1)}
              >
                {say.later}
                <ArrowRight size={12} aria-hidden />
              </button>
              <button
                type="button"
                className="btn sm quiet beet ml-auto"
                onClick={() => {
                  onChange((now) => now.filter((p) => p.hash !== open));
                  setOpen(null);
                }}
              >
                <Trash2 size={12} aria-hidden />
                {say.takeOut}
              </button>
            </div>
          </div>
        </div>
      )}
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
