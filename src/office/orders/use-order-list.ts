import { useMutation, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { toast } from 'sonner';
import type { OrderRow } from '../../services/till/orders';
import { call, filledIn, refresh, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { orderList as say } from '../words/orders';

/** What the list is narrowed by; empty is no matter. */
export interface OrderQuery {
  readonly find: string;
  readonly state: string;
  readonly from: string;
  readonly to: string;
  readonly test: string;
}
export const anyOrder: OrderQuery = { find: '', state: '', from: '', to: '', test: '' };

/** The orders that are looked for, older ones as they are asked for, and what can be done with test orders. */
export function useOrderList(refetchMs: number) {
  const { site } = useBoot();
  const [asked, setAsked] = useState(anyOrder);
  const [older, setOlder] = useState<{ rows: readonly OrderRow[]; more: boolean } | null>(null);
  const put = (change: Partial<OrderQuery>) => {
    setOlder(null);
    setAsked((now) => ({ ...now, ...change }));
  };
  const query = filledIn(useDeferredValue(asked));
  const { data, error } = useQuery({
    queryKey: viewKey('orders', 'list', query),
    queryFn: () => call(site.slug, 'GET orders', { query }),
    refetchInterval: refetchMs,
    placeholderData: (before) => before,
  });
  const fetchOlder = useMutation({
    mutationFn: (before: string) => call(site.slug, 'GET orders', { query: { ...query, before } }),
    onSuccess: (page) => setOlder({ rows: [...(older?.rows ?? []), ...page.rows], more: page.more }),
    onError: (e) => toast.error(e.message),
  });
  const forgetTests = useMutation({
    mutationFn: () => call(site.slug, 'DELETE orders'),
    onSuccess: ({ gone }) => {
      refresh('orders', 'goods');
      put({ test: '' });
      toast.success(gone === 1 ? say.oneTestOrderIsGone : say.testOrdersAreGone(gone));
    },
    onError: (e) => toast.error(e.message),
  });
  const rows = data ? [...data.rows, ...(older?.rows ?? [])] : [];
  const last = rows.at(-1);
  const hasMore = older ? older.more : (data?.more ?? false);
  return {
    asked,
    put,
    query,
    isNarrowed: Object.keys(query).length > 0,
    data,
    error,
    rows,
    /** Undefined where there are none. */
    fetchOlder: hasMore && last ? () => fetchOlder.mutate(last.createdAt) : undefined,
    isFetchingOlder: fetchOlder.isPending,
    forgetTests,
  };
}

export type OrderListState = ReturnType<typeof useOrderList>;
