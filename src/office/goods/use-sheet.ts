import { useMutation } from '@tanstack/react-query';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Product, ProductForm } from '../../core/goods/product';
import { call, Problem, refresh } from '../api';
import { useBoot } from '../shop-context';
import { sheet as say } from '../words/goods';
import { draftOf, type Errors, firstKind, keepDraft, keptDraft, patchOf, readDraft } from './form';
import { useDraft } from './use-draft';
import { useUploading } from './use-upload';

interface Wanted {
  readonly product: Product | undefined;
  readonly onSaved: (p: Product) => void;
  readonly onDraft: (form: ProductForm | null) => void;
}

/** All that a sheet holds: what is written with its undo, what is wrong with it, and how it is saved. */
export function useSheet({ product, onSaved, onDraft }: Wanted) {
  const { site } = useBoot();
  const id = product?.id ?? 'new';
  const start = draftOf(product, site.currency, firstKind(site.sells));
  const { draft, set, change, undo, redo, restart, canUndo } = useDraft(
    () => keptDraft(site.slug, id) ?? start,
  );
  const [errors, setErrors] = useState<Errors>({});
  const changed = JSON.stringify(draft) !== JSON.stringify(start);
  // What was saved is no draft any more: the next new product begins empty.
  const done = useRef(false);
  useEffect(() => {
    if (!done.current) keepDraft(site.slug, id, changed ? draft : null);
  }, [draft, changed, id, site.slug]);
  useEffect(() => {
    const read = changed ? readDraft(draft, site.currency) : undefined;
    if (!read) onDraft(null);
    else if ('form' in read) onDraft(read.form);
  }, [draft, changed, site.currency, onDraft]);
  // What was said of a field is over once something is written.
  useEffect(() => setErrors((e) => (draft && Object.keys(e).length ? {} : e)), [draft]);

  const save = useMutation({
    mutationFn: async () => {
      const read = readDraft(draft, site.currency);
      if ('errors' in read) {
        setErrors(read.errors);
        throw new Problem(say.someFieldsNeedAnotherLook, 422);
      }
      return product
        ? call(site.slug, 'PUT goods/:id', { id, body: patchOf(product, read.form, draft.rows) })
        : call(site.slug, 'POST goods', { body: read.form });
    },
    onSuccess: (saved) => {
      done.current = !product;
      keepDraft(site.slug, id, null);
      if (product) restart(draftOf(saved, site.currency));
      refresh('goods', 'slip', 'bench');
      toast.success(say.isSavedAndLive(saved.name));
      onSaved(saved);
    },
    onError: (e) => {
      if (e instanceof Problem && e.field) setErrors({ [e.field]: e.message });
      else if (!(e instanceof Problem && e.status === 422)) toast.error(e.message, { duration: 9000 });
    },
  });
  // Pressed while a file is on its way it waits for it: saved without, the file would be lost without a word.
  const isUploading = useUploading();
  const [waits, setWaits] = useState(false);
  const { mutate } = save;
  useEffect(() => {
    if (!waits || isUploading) return;
    setWaits(false);
    mutate();
  }, [waits, isUploading, mutate]);
  const submit = () => (isUploading ? setWaits(true) : mutate());
  const reset = () => {
    restart(start);
    setErrors({});
  };
  const onKeyDown = sheetKeys({ s: submit, z: undo, y: redo });
  const isSaving = waits || save.isPending;
  return { draft, set, change, errors, changed, submit, isSaving, waits, undo, canUndo, reset, onKeyDown };
}

export type SheetState = ReturnType<typeof useSheet>;

/** Ctrl+S saves, Ctrl+Z takes back, Ctrl+Y and Ctrl+Shift+Z do it again; a rich text has an undo of its own. */
const sheetKeys =
  (does: Readonly<Record<'s' | 'z' | 'y', () => void>>) =>
  (e: KeyboardEvent): void => {
    if (!(e.ctrlKey || e.metaKey) || (e.target as HTMLElement).closest('.rich-text')) return;
    const letter = e.key.toLowerCase();
    if (letter !== 'z' && letter !== 'y' && letter !== 's') return;
    e.preventDefault();
    e.stopPropagation();
    does[letter === 'z' && e.shiftKey ? 'y' : letter]();
  };
