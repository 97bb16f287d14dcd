import { useEffect } from 'react';
import type { Shelf } from '../../core/till/order-life';
import type { OrderRow } from '../../services/till/orders';
import { pictureOf, useBoot, useMoney } from '../shop-context';
import { day, when } from '../ui/when';
import { orderList as say } from '../words/orders';
import { OrderFilter } from './order-filter';
import { useOrderList } from './use-order-list';

const groups: readonly { readonly shelf: Shelf; readonly title: string; readonly warn?: boolean }[] = [
  { shelf: 'look-into', title: say.lookInto, warn: true },
  { shelf: 'to-pack', title: say.toPack },
  { shelf: 'to-send', title: say.toSend },
  { shelf: 'to-collect', title: say.waitingToBeCollected },
  { shelf: 'money', title: say.moneyNotInYet, warn: true },
  { shelf: 'paying', title: say.payingNow, warn: true },
  { shelf: 'done', title: say.done },
  { shelf: 'nothing', title: say.cameToNothing },
];
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
  const { rows, data, error, isNarrowed } = list;
  const first = groups.flatMap((g) => rows.filter((r) => r.shelf === g.shelf))[0];
  useEffect(() => {
    if (first && current === null) onChoose(first.id);
  }, [first, current, onChoose]);
  return (
    <section className="olist" aria-label={say.orders}>
      <div className="gh">
        <h1>{say.orders}</h1>
        <button type="button" className="btn sm quiet" onClick={onTakings}>
          {say.takings}
        </button>
      </div>
      <OrderFilter list={list} />
      {error && <p className="bad px-5">{error.message}</p>}
      {data && rows.length === 0 && (
        <p className="note px-5">{isNarrowed ? say.nothingWasFound : say.noOrdersYetTheFirstOne}</p>
      )}
      {groups.map((g) => (
        <Group
          key={g.shelf}
          title={g.title}
          warn={g.warn ?? false}
          rows={rows.filter((o) => o.shelf === g.shelf)}
          current={current}
          onChoose={onChoose}
        />
      ))}
      {list.fetchOlder && (
        <p className="px-5 py-3">
          <button type="button" className="btn sm" disabled={list.isFetchingOlder} onClick={list.fetchOlder}>
            {say.olderOnes}
          </button>
        </p>
      )}
    </section>
  );
}

function Group({
  title,
  warn,
  rows,
  current,
  onChoose,
}: {
  title: string;
  warn: boolean;
  rows: readonly OrderRow[];
  current: string | null;
  onChoose: (id: string) => void;
}) {
  if (rows.length === 0) return null;
  return (
    <>
      <h2 className={warn ? 'w' : ''}>
        {title} <span className="mono">{rows.length}</span>
      </h2>
      <ul>
        {rows.map((o) => (
          <Item key={o.id} order={o} current={o.id === current} onChoose={() => onChoose(o.id)} />
        ))}
      </ul>
    </>
  );
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
