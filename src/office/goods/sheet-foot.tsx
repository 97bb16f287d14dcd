import { useMutation } from '@tanstack/react-query';
import { Copy, Trash2, Undo2 } from 'lucide-react';
import { toast } from 'sonner';
import type { Product } from '../../core/goods/product';
import { call, refresh } from '../api';
import { useBoot } from '../shop-context';
import { sheet as say } from '../words/goods';
import type { SheetState } from './use-sheet';

/** Saving, taking back, and what can be done with the whole product; how it stands is said between them. */
export function SheetFoot({
  sheet,
  product,
  onCopied,
  onRemoved,
}: {
  sheet: SheetState;
  product: Product | undefined;
  onCopied: (copy: Product) => void;
  onRemoved: () => void;
}) {
  const { changed, isSaving, waits, undo, canUndo, reset, errors } = sheet;
  const faults = Object.keys(errors).length;
  const saveWord = product ? say.save : say.addToTheGoods;
  return (
    <div className="gfoot">
      <button type="submit" className="btn leaf" disabled={!changed || isSaving}>
        {isSaving ? say.saving : saveWord}
      </button>
      {canUndo && (
        <button type="button" className="btn quiet" onClick={undo}>
          <Undo2 size={13} aria-hidden />
          {say.undo}
        </button>
      )}
      {changed && product && (
        <button type="button" className="btn quiet" onClick={reset}>
          {say.backToWhatIsSaved}
        </button>
      )}
      <span className={faults ? 'bad' : 'note'} role="status">
        {waits ? say.savedWhenTheFileIsHere : saveStatus(faults, changed, product !== undefined)}
      </span>
      {product && <WholeProduct id={product.id} onCopied={onCopied} onRemoved={onRemoved} />}
    </div>
  );
}

function saveStatus(faults: number, changed: boolean, saved: boolean): string {
  if (faults > 0) return say.anotherLook(faults === 1 ? say.oneFieldNeeds : say.fieldsNeed(faults));
  if (changed) return say.goesLiveWhenYouSave;
  return saved ? say.savedAndLive : '';
}

function WholeProduct({
  id,
  onCopied,
  onRemoved,
}: {
  id: string;
  onCopied: (copy: Product) => void;
  onRemoved: () => void;
}) {
  const { site } = useBoot();
  const done = (words: string) => {
    refresh('goods', 'slip', 'bench');
    toast.success(words);
  };
  const onError = (e: Error) => toast.error(e.message);
  const copy = useMutation({
    mutationFn: () => call(site.slug, 'POST goods/:id/copy', { id }),
    onSuccess: (made) => {
      onCopied(made);
      done(say.copiedTheCopyIsHiddenUntil);
    },
    onError,
  });
  const remove = useMutation({
    mutationFn: () => call(site.slug, 'DELETE goods/:id', { id }),
    onSuccess: () => {
      onRemoved();
      done(say.removedTheSlipHasTheUndo);
    },
    onError,
  });
  return (
    <>
      <button type="button" className="btn quiet ml-auto" onClick={() => copy.mutate()}>
        <Copy size={13} aria-hidden />
        {say.duplicate}
      </button>
      <button type="button" className="btn quiet beet" onClick={() => remove.mutate()}>
        <Trash2 size={13} aria-hidden />
        {say.remove}
      </button>
    </>
  );
}
