import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { TillRules } from '../../core/till/rules';
import { call, refresh, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { useTill as say } from '../words/till';

export const useTill = () => {
  const { site } = useBoot();
  return useQuery({ queryKey: viewKey('till'), queryFn: () => call(site.slug, 'GET till') });
};

/** One part of the till as it is being written: live when it is saved. */
export function usePart<P extends keyof TillRules>(part: P, saved: TillRules[P]) {
  const { site } = useBoot();
  const [draft, setDraft] = useState(saved);
  const [base, setBase] = useState(saved);
  const changed = JSON.stringify(draft) !== JSON.stringify(base);
  // What was saved elsewhere comes in while nothing is being written here.
  useEffect(() => {
    if (JSON.stringify(saved) === JSON.stringify(base) || changed) return;
    setBase(saved);
    setDraft(saved);
  }, [saved, base, changed]);
  const save = useMutation({
    mutationFn: () => call(site.slug, 'PUT till', { body: { part, value: draft, from: base } }),
    onSuccess: (rules) => {
      setBase(rules[part]);
      setDraft(rules[part]);
      refresh('till', 'slip', 'status', 'letters');
      toast.success(say.savedAndLiveTheSlipHas);
    },
    onError: (e) => toast.error(e.message, { duration: 9000 }),
  });
  return { draft, set: setDraft, changed, save, reset: () => setDraft(base) };
}
export type Part<P extends keyof TillRules> = ReturnType<typeof usePart<P>>;
