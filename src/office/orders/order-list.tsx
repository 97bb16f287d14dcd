import { useMutation, useQuery } from '@tanstack/react-query';
import { Fragment, useDeferredValue, useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { Shelf } from '../../core/till/order-life';
import type { OrderRow } from '../../services/till/orders';
import { address } from '../../contract/address';
import { call, filledIn, refresh } from '../api';
import { pictureOf, useBoot, useMoney } from '../shop-context';
import { day, when } from '../ui/when';
import { orderList as say } from '../words/orders';

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
const states = [
  ['', say.allOrders],
  ['open', say.stillOpen],
  ['paid', say.paid],
  ['placed', say.moneyNotInYet],
  ['refunded', say.withMoneyGivenBack],
  ['cancelled', say.cancelled],
  ['unpaid', say.neverPaid],
] as const;

interface Asked {
  readonly find: string;
  readonly state: string;
  readonly from: string;
  readonly to: string;
  readonly test: string;
}

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
  const { site } = useBoot();
  const [asked, setAsked] = useState<Asked>({ find: '', state: '', from: '', to: '', test: '' });
  const [pages, setPages] = useState<readonly OrderRow[]>([]);
  const put = (change: Partial<Asked>) => {
    setPages([]);
    setAsked((now) => ({ ...now, ...change }));
  };
  const query = filledIn(useDeferredValue(asked));
  const { data, error } = useQuery({
    queryKey: ['orders', 'list', query],
    queryFn: () => call(site.slug, 'GET orders', { query }),
    refetchInterval: refetchMs,
    placeholderData: (before) => before,
  });
  const older = useMutation({
    mutationFn: (before: string) => call(site.slug, 'GET orders', { query: { ...query, before } }),
    onSuccess: (more) => setPages([...pages, ...more.rows]),
    onError: (e) => toast.error(e.message),
  });
  const forget = useMutation({
    mutationFn: () => call(site.slug, 'DELETE orders'),
    onSuccess: ({ gone }) => {
      refresh('orders', 'goods');
      put({ test: '' });
      toast.success(gone === 1 ? say.oneTestOrderIsGone : say.testOrdersAreGone(gone));
    },
    onError: (e) => toast.error(e.message),
  });
  const rows = data ? [...data.rows, ...pages] : [];
  const first = groups.flatMap((g) => rows.filter((r) => r.shelf === g.shelf))[0];
  useEffect(() => {
    if (first && current === null) onChoose(first.id);
  }, [first, current, onChoose]);
  const toPack = rows.filter((r) => r.shelf === 'to-pack');
  const last = rows.at(-1);
  const narrowed = Object.keys(query).length > 0;
  return (
    <section className="olist" aria-label={say.orders}>
      <div className="gh">
        <h1>{say.orders}</h1>
        <button type="button" className="btn sm quiet" onClick={onTakings}>
          {say.takings}
        </button>
      </div>
      <div className="ofind">
        <div className="in">
          <input
            type="search"
            aria-label={say.findAnOrder}
            placeholder={say.numberNameProduct}
            value={asked.find}
            onChange={(e) => put({ find: e.target.value })}
          />
        </div>
        <details>
          <summary className="note">
            {asked.state || asked.from || asked.to ? say.narrowed : say.narrowOrTakeAlong}
          </summary>
          <select
            className="in"
            aria-label={say.whichOrders}
            value={asked.state}
            onChange={(e) => put({ state: e.target.value })}
          >
            {states.map(([v, name]) => (
              <option key={v} value={v}>
                {name}
              </option>
            ))}
          </select>
          <div className="g-2">
            <label className="lab">
              {say.from}
              <input
                className="in"
                type="date"
                value={asked.from}
                onChange={(e) => put({ from: e.target.value })}
              />
            </label>
            <label className="lab">
              {say.to}
              <input
                className="in"
                type="date"
                value={asked.to}
                onChange={(e) => put({ to: e.target.value })}
              />
            </label>
          </div>
          <p>
            <a className="btn sm" href={address(site.slug, 'GET orders/csv', { query })} download>
              {say.theseAsCsv}
            </a>
            {narrowed && (
              <button
                type="button"
                className="btn sm quiet"
                onClick={() => put({ find: '', state: '', from: '', to: '', test: '' })}
              >
                {say.showAllOrders}
              </button>
            )}
          </p>
        </details>
        {(data?.tests ?? 0) > 0 && (
          <p className="note">
            {asked.test ? (
              <>
                <button type="button" className="lnk" onClick={() => put({ test: '' })}>
                  {say.backToRealOrders}
                </button>{' '}
                <button
                  type="button"
                  className="lnk beet"
                  disabled={forget.isPending}
                  onClick={() => forget.mutate()}
                >
                  {say.throwTheTestOrdersAway}
                </button>
              </>
            ) : (
              <button type="button" className="lnk" onClick={() => put({ test: '1' })}>
                {data?.tests === 1 ? say.oneTestOrder : say.testOrders(data?.tests)}
              </button>
            )}
          </p>
        )}
        {toPack.length > 0 && (
          <p>
            <a
              className="btn sm"
              href={address(site.slug, 'GET papers/slips', {
                query: { ids: toPack.map((r) => r.id).join(',') },
              })}
              target="_blank"
              rel="noopener"
            >
              {say.packingSlipsOf(toPack.length === 1 ? say.one : say.all(toPack.length))}
            </a>
          </p>
        )}
      </div>
      {error && <p className="bad px-5">{error.message}</p>}
      {data && rows.length === 0 && (
        <p className="note px-5">{narrowed ? say.nothingWasFound : say.noOrdersYetTheFirstOne}</p>
      )}
      {groups.map((g) => {
        const inGroup = rows.filter((o) => o.shelf === g.shelf);
        return (
          inGroup.length > 0 && (
            <Fragment key={g.shelf}>
              <h2 className={g.warn ? 'w' : ''}>
                {g.title} <span className="mono">{inGroup.length}</span>
              </h2>
              <ul>
                {inGroup.map((o) => (
                  <Item key={o.id} order={o} current={o.id === current} onChoose={() => onChoose(o.id)} />
                ))}
              </ul>
            </Fragment>
          )
        );
      })}
      {(pages.length ? (older.data?.more ?? false) : (data?.more ?? false)) && last && (
        <p className="px-5 py-3">
          <button
            type="button"
            className="btn sm"
            disabled={older.isPending}
            onClick={() => older.mutate(last.createdAt)}
          >
            {say.olderOnes}
          </button>
        </p>
      )}
    </section>
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
  const says = standingOf(order);
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
          <em>{says}</em>
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
function standingOf(order: OrderRow): string {
  if (order.shelf === 'to-send' && order.doneAt) return say.packedAt(when(order.doneAt));
  if (order.shelf === 'done' && order.doneAt) return say.doneOn(day(order.doneAt));
  if (order.shelf === 'nothing') return order.state === 'cancelled' ? 'cancelled' : say.notPaid;
  return `${order.pieces === 1 ? '1 good' : `${order.pieces} goods`}, ${goesWords[order.goes]}`;
}
