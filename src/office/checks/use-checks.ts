import { useMutation, useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { MendAsked } from '../../services/checks/mend';
import { call, refresh, viewKey, type ViewName } from '../api';
import { useBoot } from '../shop-context';
import { useChecks as say } from '../words/checks';

/** How often progress is asked for, in milliseconds. */
const POLL_MS = 500;

/** What a mend may change. */
const touched: readonly ViewName[] = [
  'checks',
  'checks-count',
  'slip',
  'overview',
  'coverage',
  'menu',
  'bench',
  'goods',
  'look',
  'status',
  'till',
];

export function useChecksView() {
  const { site } = useBoot();
  return useQuery({
    queryKey: viewKey('checks'),
    queryFn: () => call(site.slug, 'GET checks'),
    refetchInterval: (q) => (q.state.data?.running ? POLL_MS : false),
  });
}

export function useMend() {
  const { site } = useBoot();
  return useMutation({
    mutationFn: (mends: readonly MendAsked[]) => call(site.slug, 'POST checks/mend', { body: { mends } }),
    onSuccess: ({ done, refused }) => {
      refresh(...touched);
      toast.success(say.mended(done.length > 2 ? `${done.slice(0, 2).join('; ')} …` : done.join('; ')), {
        description: say.undoOnTheSlip,
      });
      for (const why of refused.slice(0, 3)) toast.warning(say.notMended(why), { duration: 12_000 });
    },
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
}

export function useLeave() {
  const { site } = useBoot();
  return useMutation({
    mutationFn: (body: { keys: readonly string[]; word: string | null }) =>
      call(site.slug, 'POST checks/leave', { body }),
    onSuccess: () => refresh('checks', 'checks-count'),
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
}

export function useRun() {
  const { site } = useBoot();
  const run = useMutation({
    mutationFn: () => {
      // It may take long: how far it is is told by the view.
      setTimeout(() => refresh('checks'), POLL_MS);
      return call(site.slug, 'POST checks', { body: { live: true } });
    },
    onSettled: () => refresh('checks', 'checks-count'),
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
  const stop = useMutation({
    mutationFn: () => call(site.slug, 'DELETE checks'),
    onSettled: () => refresh('checks', 'checks-count'),
  });
  return { run, stop };
}
