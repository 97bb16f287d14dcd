import { address } from '../../contract/address';
import { Film, Plus, X } from 'lucide-react';
import { sizeWords } from '../../core/goods/downloads';
import type { ProductForm } from '../../core/goods/product';
import { useBoot } from '../shop-context';
import { TextField } from './fields';
import { Progress } from './files-field';
import type { Draft, Errors } from './form';
import type { SetField } from './use-draft';
import { useUpload } from './use-upload';
import { filmField as say } from '../words/goods';

/** A film: a file of the owner's own, or the address of one elsewhere. Nothing of it is loaded before a shopper presses. */
export function FilmField({ draft, set, errors }: { draft: Draft; set: SetField; errors: Errors }) {
  const { site } = useBoot();
  const { now, take, stop } = useUpload<NonNullable<ProductForm['film']>>(
    (file) => address(site.slug, 'POST files', { query: { as: 'film', name: file.name } }),
    (kept) => set('film', kept),
  );
  if (draft.film)
    return (
      <ul className="gparts">
        <li>
          <Film size={14} aria-hidden />
          <span>{draft.film.name}</span>
          <span className="note mono">{sizeWords(draft.film.size, site.locale)}</span>
          <button type="button" aria-label={say.takeOut(draft.film.name)} onClick={() => set('film', null)}>
            <X size={13} />
          </button>
        </li>
      </ul>
    );
  return (
    <>
      <TextField
        label={say.addressOfTheFilmNothingIs}
        type="url"
        value={draft.video}
        placeholder={say.https}
        onChange={(v) => set('video', v)}
        error={errors.video}
      />
      {now ? (
        <Progress now={now} onStop={stop} />
      ) : (
        <label className="btn sm">
          <Plus size={12} aria-hidden />
          {say.orAFilmOfYourOwn}
          <input
            className="sr-only"
            type="file"
            accept="video/mp4,video/webm"
            onChange={(e) => {
              void take([...(e.target.files ?? [])].slice(0, 1));
              e.target.value = '';
            }}
          />
        </label>
      )}
    </>
  );
}
