import { Plus } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Picture } from '../../core/goods/product';
import { call } from '../api';
import { pictureOf, useBoot } from '../shop-context';
import { picturesField as say } from '../words/goods';
import { OpenPicture } from './open-picture';
import { whileUploading } from './use-upload';

interface Props {
  readonly pictures: readonly Picture[];
  readonly onChange: (to: (now: readonly Picture[]) => readonly Picture[]) => void;
}

/** All pictures of a product: several at once, their order, words for each, and the point that stays in view. */
export function PicturesField({ pictures, onChange }: Props) {
  const { site } = useBoot();
  const [open, setOpen] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const { take, busy } = useTakePictures(onChange);
  const at = pictures.findIndex((p) => p.hash === open);
  const chosen = pictures[at];
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
        <OpenPicture
          picture={chosen}
          at={at}
          all={pictures.length}
          put={(change) =>
            onChange((now) => now.map((p) => (p.hash === chosen.hash ? { ...p, ...change } : p)))
          }
          onMove={(by) => onChange((now) => moved(now, at, by))}
          onRemove={() => {
            onChange((now) => now.filter((p) => p.hash !== chosen.hash));
            setOpen(null);
          }}
        />
      )}
    </div>
  );
}

function moved(pictures: readonly Picture[], at: number, by: number): Picture[] {
  const to = [...pictures];
  const [one] = to.splice(at, 1);
  if (one) to.splice(Math.max(0, Math.min(to.length, at + by)), 0, one);
  return to;
}

/** Takes pictures in one after the other, and tells how far it is. */
function useTakePictures(onChange: Props['onChange']) {
  const { site } = useBoot();
  const [busy, setBusy] = useState<{ done: number; all: number } | null>(null);
  const add = (hash: string) =>
    onChange((now) => (now.some((p) => p.hash === hash) ? now : [...now, { hash, alt: '', x: 0.5, y: 0.5 }]));
  const take = (files: readonly File[]) => whileUploading(takeAll(files));
  const takeAll = async (files: readonly File[]): Promise<void> => {
    for (const [done, file] of files.entries()) {
      setBusy({ done, all: files.length });
      await call(site.slug, 'POST pictures', { body: file }).then(
        ({ hash }) => add(hash),
        (e: Error) => toast.error(`${file.name}: ${e.message}`, { duration: 9000 }),
      );
    }
    setBusy(null);
  };
  return { take, busy };
}
