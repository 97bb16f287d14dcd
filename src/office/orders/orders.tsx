import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useState } from 'react';
import type { OrderView } from '../../services/till/read-order';
import { call, viewKey } from '../api';
import { useBoot, useHas } from '../shop-context';
import { Acts } from './acts';
import { OrderList } from './order-list';
import { OrderSheet } from './order-sheet';
import { ByPlacement } from './by-placement';
import { orders as say } from '../words/orders';

/** Drawn only when it is looked at: charts are heavy. */
const TakingsPage = lazy(() => import('./takings'));

const REFRESH_MS = 15_000;
/** While money is on its way back, what became of it is asked for more often. */
const SOON_MS = 2_000;
const atStart = () => new URLSearchParams(location.search);

/** Orders, and what they brought. The list, the order that is open, and the strip on which things are done with it. */
export function Orders() {
  const sees = useHas('see-books');
  const [shows, setShows] = useState<'orders' | 'takings'>(() =>
    atStart().has('takings') && sees ? 'takings' : 'orders',
  );
  const go = (to: typeof shows) => {
    setShows(to);
    history.replaceState(null, '', to === 'takings' ? '?takings' : location.pathname);
  };
  if (shows === 'takings')
    return (
      <Suspense fallback={<p className="empty note">{say.addingUp}</p>}>
        <TakingsPage onBack={() => go('orders')} />
      </Suspense>
    );
  return <OrderDesk onTakings={() => go('takings')} />;
}

const moneyOnItsWay = (order: OrderView | undefined): boolean =>
  Boolean(order?.refunds.some((r) => r.state === 'asked') || order?.surplus.some((s) => s.returning));

function OrderDesk({ onTakings }: { onTakings: () => void }) {
  const { site } = useBoot();
  const [id, setId] = useState(() => atStart().get('id'));
  const choose = (to: string) => {
    setId(to);
    history.replaceState(null, '', `?id=${to}`);
  };
  const order = useQuery({
    queryKey: viewKey('orders', id),
    queryFn: () => call(site.slug, 'GET orders/:id', { id: id ?? '' }),
    enabled: id !== null,
    refetchInterval: ({ state }) => (moneyOnItsWay(state.data) ? SOON_MS : REFRESH_MS),
    placeholderData: (before) => before,
  });
  return (
    <div className="orders">
      <OrderList current={id} onChoose={choose} onTakings={onTakings} refetchMs={REFRESH_MS} />
      {order.error && <p className="empty bad">{order.error.message}</p>}
      {order.data && (
        <>
          <div className="omid">
            <OrderSheet order={order.data} />
            <ByPlacement order={order.data} />
          </div>
          <Acts key={order.data.id} order={order.data} />
        </>
      )}
    </div>
  );
}
