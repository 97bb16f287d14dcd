import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { toast } from 'sonner';
import { isEmpty } from '../../core/change';
import { dress } from '../../core/look/wardrobe';
import type { LookView } from '../../services/sites/look-view';
import { call, queries, refresh, viewKey } from '../api';
import { useKeys } from '../keys';
import { useBoot } from '../shop-context';
import { useParting } from '../ui/use-parting';
import { useLook as say } from '../words/look';
import { begin, reduce } from './look-state';
import { measurePages } from './measure-pages';

export const useLookView = () => {
  const { site } = useBoot();
  return useQuery({ queryKey: viewKey('look'), queryFn: () => call(site.slug, 'GET look') });
};

/** Pause after which a change is sent: a hand on a colour moves many times a second. In milliseconds. */
const PAUSE_MS = 350;

/** The look that is being worked on: worn here at once, kept by the server a moment later. */
export function useLook(view: LookView) {
  const { site } = useBoot();
  const [state, act] = useReducer(reduce, view.decisions, begin);
  const { unsent, isSending } = state;
  const send = useMutation({
    // One after the other: a change is made over the one before it.
    scope: { id: 'look' },
    mutationFn: (change: typeof unsent) => call(site.slug, 'POST look', { body: change }),
    onSuccess: (now) => {
      act({ do: 'sent' });
      queries.setQueryData(viewKey('look'), now);
      refresh('slip', 'overview');
    },
    onError: (e) => {
      act({ do: 'sent' });
      toast.error(e.message, { duration: 9000 });
      refresh('look');
    },
  });
  const { mutate } = send;
  useEffect(() => {
    if (isEmpty(unsent) || isSending) return;
    const timer = setTimeout(() => {
      act({ do: 'send' });
      mutate(unsent);
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [unsent, isSending, mutate]);
  useParting(() => {
    if (isEmpty(unsent)) return;
    act({ do: 'send' });
    // Not through the mutation: that waits for its turn, and the page does not.
    void call(site.slug, 'POST look', { body: unsent }).then(() => refresh('look', 'slip'));
  });
  // What was undone on the slip, or changed in another window, comes in while nothing is on its way.
  useEffect(() => act({ do: 'refresh', decisions: view.decisions }), [view.decisions]);
  useKeys(
    useMemo(() => ({ 'Ctrl+Z': () => act({ do: 'undo' }), 'Ctrl+Shift+Z': () => act({ do: 'redo' }) }), []),
  );
  const worn = useMemo(() => dress(view.wardrobe, state.decisions), [view.wardrobe, state.decisions]);
  return { state, act, worn };
}
export type LookWork = ReturnType<typeof useLook>;

/** Measuring the pages: at once where nobody did, and whenever the owner asks. */
export function useMeasuring(view: LookView) {
  const { site } = useBoot();
  const [progress, setProgress] = useState<{
    readonly done: number;
    readonly all: number;
    readonly page: string;
  } | null>(null);
  const running = useRef<AbortController | null>(null);
  const start = async (): Promise<void> => {
    running.current?.abort();
    const stop = new AbortController();
    running.current = stop;
    setProgress({ done: 0, all: view.pages.length, page: '' });
    try {
      const found = await measurePages({
        draftUrl: site.draftUrl,
        pages: view.pages,
        onProgress: (done, all, page) => setProgress({ done, all, page }),
        signal: stop.signal,
      });
      // A page that could not be framed at all leaves what the style sheets say.
      if (found.pages === 0) toast.error(say.noPageCouldBeMeasured, { duration: 9000 });
      else {
        const body = { snapshot: view.snapshot, found };
        queries.setQueryData(viewKey('look'), await call(site.slug, 'PUT look/measured', { body }));
      }
      refresh('slip');
    } catch (error) {
      if (!stop.signal.aborted)
        toast.error(error instanceof Error ? error.message : String(error), { duration: 9000 });
    } finally {
      if (running.current === stop) setProgress(null);
    }
  };
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current || view.found.by === 'measured') return;
    begun.current = true;
    void start();
  });
  useEffect(() => () => running.current?.abort(), []);
  return { progress, start: () => void start(), stop: () => running.current?.abort() };
}
