import { useEffect, useRef, useState } from 'react';
import type { Shelf } from '../../core/till/order-life';
import type { OrderRow, OrderShelf } from '../../services/till/order-list';
import { pictureOf, useBoot, useMoney, useMay } from '../shop-context';
import { day, when } from '../ui/when';
import { orderList as say } from '../words/orders';
import { OrderFilter } from './order-filter';
import { type OrderListState, useOrderList, useShelf } from './use-order-list';

const titles: Readonly<Record<Shelf, string>> = {
  'look-into': say.lookInto,
  'to-pack': say.toPack,
  'to-send': say.toSend,
  'to-collect': say.waitingToBeCollected,
  money: say.moneyNotInYet,
  paying: say.payingNow,
  done: say.done,
  nothing: say.cameToNothing,
};
const warned: readonly Shelf[] = ['look-into', 'money', 'paying'];

/** Orders by what is to be done with them; whoever looks for one writes its number, a name, a town, a product. */
export function OrderList({
  current,
  onChoose,
  onTakings,
  refetchMs,
}: {
  current: string | null;
  onChoose: (id: string) => void;
  onTakings: () => void;
  refetchMs: number;
}) {
  const list = useOrderList(refetchMs);
  const may = useMay();
  const { data, error, isNarrowed } = list;
  const first = data?.shelves[0]?.rows[0];
  useEffect(() => {
    if (first && current === null) onChoose(first.id);
  }, [first, current, onChoose]);
  return (
    <section className="olist" aria-label={say.orders}>
      <div className="gh">
        <h1>{say.orders}</h1>
        {may('GET takings') && (
          <button type="button" className="btn sm quiet" onClick={onTakings}>
            {say.takings}
          </button>
        )}
      </div>
      <OrderFilter list={list} />
      {error && <p className="bad px-5">{error.message}</p>}
      {data && data.shelves.length === 0 && (
        <p className="note px-5">{isNarrowed ? say.nothingWasFound : say.noOrdersYetTheFirstOne}</p>
      )}
      {data?.shelves.map((shelf) => (
        <ShelfOfOrders
          // What was narrowed anew begins at its first rows again.
          key={`${shelf.shelf} ${JSON.stringify(list.query)}`}
          query={list.query}
          shelf={shelf}
          current={current}
          onChoose={onChoose}
        />
      ))}
    </section>
  );
}

function ShelfOfOrders({
  query,
  shelf,
  current,
  onChoose,
}: {
  query: OrderListState['query'];
  shelf: OrderShelf;
  current: string | null;
  onChoose: (id: string) => void;
}) {
  const { rows, rest, step, showMore, isFetching, error } = useShelf(query, shelf);
  const list = useFocusOnNew(rows.length, error !== null);
  return (
    <>
      <h2 className={warned.includes(shelf.shelf) ? 'w' : ''}>
        {titles[shelf.shelf]} <span className="mono">{shelf.count}</span>
      </h2>
      <ul ref={list.ref}>
        {rows.map((o) => (
          <Item key={o.id} order={o} current={o.id === current} onChoose={() => onChoose(o.id)} />
        ))}
      </ul>
      {error && <p className="bad px-5">{error.message}</p>}
      {rest > 0 && (
        <p className="px-5 py-3">
          <button
            ref={list.button}
            type="button"
            className="btn sm"
            aria-disabled={isFetching}
            onClick={() => {
              if (isFetching) return;
              list.expect();
              showMore();
            }}
          >
            {say.showMore(step, rest)}
          </button>
        </p>
      )}
      {list.hasGrown && (
        <p className="sr-only" role="status">
          {say.shownOf(rows.length, shelf.count)}
        </p>
      )}
    </>
  );
}

/** Whoever asked for more rows goes on at the first new one, whether the button is still there or not. */
function useFocusOnNew(count: number, failed: boolean) {
  const ref = useRef<HTMLUListElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  const from = useRef<number | null>(null);
  const [hasGrown, setHasGrown] = useState(false);
  useEffect(() => {
    // An order that comes in later must not take the focus to it.
    if (failed) from.current = null;
    if (from.current === null || count <= from.current) return;
    // Who went on elsewhere meanwhile stays there.
    const { activeElement } = document;
    if (activeElement === button.current || activeElement === document.body)
      ref.current?.children[from.current]?.querySelector('button')?.focus();
    from.current = null;
    setHasGrown(true);
  }, [count, failed]);
  return {
    ref,
    button,
    hasGrown,
    expect: () => {
      from.current = count;
    },
  };
}

const goesWords = {
  '': say.nothingToSend,
  post: say.byPost,
  local: 'delivered',
  collect: 'collected',
} as const;

function Item({ order, current, onChoose }: { order: OrderRow; current: boolean; onChoose: () => void }) {
  const { site } = useBoot();
  const money = useMoney();
  const pictures = order.pictures.flatMap((p) => pictureOf(site.shopUrl, p) ?? []);
  const status = statusOf(order);
  return (
    <li>
      <button type="button" aria-current={current} onClick={onChoose}>
        <span className="two" aria-hidden="true">
          {pictures.length ? (
            pictures.map((src) => <img key={src} className="thumb" src={src} alt="" />)
          ) : (
            <span className="thumb">–</span>
          )}
        </span>
        <span className="ot">
          <b>{order.name || say.erased}</b>
          <em>{status}</em>
        </span>
        <span className="on mono">
          <b>{money(order.total, order.currency)}</b>
          {order.test ? say.test : ''}
          {order.number ?? ''}
        </span>
      </button>
    </li>
  );
}

/** How far an order has come, in a few words. */
function statusOf(order: OrderRow): string {
  if (order.shelf === 'to-send' && order.doneAt) return say.packedAt(when(order.doneAt));
  if (order.shelf === 'done' && order.doneAt) return say.doneOn(day(order.doneAt));
  if (order.shelf === 'nothing') return order.state === 'cancelled' ? 'cancelled' : say.notPaid;
  return `${order.pieces === 1 ? '1 good' : `${order.pieces} goods`}, ${goesWords[order.goes]}`;
}
