import { useMutation, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { toast } from 'sonner';
import type { OrderRow, OrderShelf } from '../../services/till/order-list';
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

/** The orders that are looked for, by what they wait for, and what can be done with test orders. */
export function useOrderList(refetchMs: number) {
  const { site } = useBoot();
  const [asked, setAsked] = useState(anyOrder);
  const put = (change: Partial<OrderQuery>) => setAsked((now) => ({ ...now, ...change }));
  const query = filledIn(useDeferredValue(asked));
  const { data, error } = useQuery({
    queryKey: viewKey('orders', 'list', query),
    queryFn: () => call(site.slug, 'GET orders', { query }),
    refetchInterval: refetchMs,
    placeholderData: (before) => before,
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
  return {
    asked,
    put,
    query,
    isNarrowed: Object.keys(query).length > 0,
    data,
    error,
    forgetTests,
  };
}

export type OrderListState = ReturnType<typeof useOrderList>;

/** Rows that the first press adds; each further one doubles what is there, so that thousands are a few presses away. */
const STEP = 200;

/** A shelf with as many of its rows as were asked for; every row of it can be reached. */
export function useShelf(query: OrderListState['query'], { shelf, rows: first, count, next }: OrderShelf) {
  const { site } = useBoot();
  const [take, setTake] = useState(0);
  // From where the first rows end: when they move on, what comes after them is asked for again.
  const more = useQuery({
    queryKey: viewKey('orders', 'more', query, shelf, next, take),
    queryFn: () =>
      call(site.slug, 'GET orders', { query: { ...query, shelf, after: next ?? '', take: String(take) } }),
    enabled: take > 0 && next !== null,
    placeholderData: (before) => before,
  });
  const known = new Set(first.map((o) => o.id));
  const others = next === null ? [] : (more.data?.shelves[0]?.rows ?? []);
  const rows: readonly OrderRow[] = [...first, ...others.filter((o) => !known.has(o.id))];
  const rest = Math.max(0, count - rows.length);
  return {
    rows,
    rest,
    step: Math.min(Math.max(STEP, take), rest),
    showMore: () => setTake((n) => n + Math.max(STEP, n)),
    isFetching: more.isFetching,
    error: more.error,
  };
}
