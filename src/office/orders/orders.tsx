import { useMutation, useQuery } from '@tanstack/react-query';
import { Fragment, useState } from 'react';
import { toast } from 'sonner';
import type { OrderView } from '../../services/till/orders';
import type { SubscriptionView } from '../../services/till/subscriptions';
import { call, refresh } from '../api';
import { pictureOf, useBoot, useMoney } from '../shop-context';
import { Awning } from '../ui/mark';
import { clock, day, when } from '../ui/when';

const groups: readonly { readonly title: string; readonly warn: boolean; readonly has: (o: OrderView) => boolean }[] = [
  { title: 'Look into', warn: true, has: (o) => o.short },
  { title: 'Paid', warn: false, has: (o) => o.state === 'paid' && !o.short },
  { title: 'Paying now', warn: true, has: (o) => o.state === 'waiting' },
  { title: 'Not paid', warn: false, has: (o) => o.state === 'failed' },
];

const REFRESH_MS = 15_000;

/** List and order in one view: lines, sum, payment, the placement each line came through, and what happened when. */
export function Orders() {
  const { site } = useBoot();
  const { data, error } = useQuery({ queryKey: ['orders'], queryFn: () => call<OrderView[]>(`/api/${site.slug}/orders`), refetchInterval: REFRESH_MS });
  const [id, setId] = useState(() => new URLSearchParams(location.search).get('id'));
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">Fetching the orders…</p>;
  if (data.length === 0) return <div className="empty"><h1>No orders yet</h1><p>The first one stands here the moment somebody goes to pay, with the page and the widget it came through.</p></div>;
  const open = data.find((o) => o.id === id) ?? data.find((o) => o.short) ?? data.find((o) => o.state === 'paid') ?? data[0];
  const choose = (to: string) => {
    setId(to);
    window.history.replaceState(null, '', `?id=${to}`);
  };
  return (
    <div className="orders">
      <section className="olist" aria-label="Orders">
        <div className="gh"><h1>Orders</h1></div>
        {groups.map((g) => {
          const inGroup = data.filter(g.has);
          return inGroup.length > 0 && (
            <Fragment key={g.title}>
              <h2 className={g.warn ? 'w' : ''}>{g.title} <span className="mono">{inGroup.length}</span></h2>
              <ul>{inGroup.map((o) => <Item key={o.id} order={o} current={o === open} onChoose={() => choose(o.id)} />)}</ul>
            </Fragment>
          );
        })}
      </section>
      {open && <One order={open} />}
      {open && <Timeline order={open} />}
    </div>
  );
}

function Item({ order, current, onChoose }: { order: OrderView; current: boolean; onChoose: () => void }) {
  const { site } = useBoot();
  const money = useMoney();
  const pictures = order.lines.map((l) => pictureOf(site.shopUrl, l.picture)).filter(Boolean).slice(0, 2);
  const pieces = order.lines.reduce((n, l) => n + l.quantity, 0);
  return (
    <li>
      <button type="button" aria-current={current} onClick={onChoose}>
        <span className="two" aria-hidden="true">{pictures.length ? pictures.map((src) => <img key={src} className="thumb" src={src} alt="" />) : <span className="thumb">–</span>}</span>
        <span className="ot"><b>{order.buyer.name}</b><em>{pieces === 1 ? '1 piece' : `${pieces} pieces`}, {day(order.createdAt)}</em></span>
        <span className="on mono"><b>{money(order.total, order.currency)}</b>{order.number ?? ''}</span>
      </button>
    </li>
  );
}

const regions = new Intl.DisplayNames('en', { type: 'region' });
/** Orders of before have a country by its name. */
const countryOf = (country: string): string => (/^[A-Z]{2}$/.test(country) ? (regions.of(country) ?? country) : country);

const stateWords = { paid: 'paid by card', waiting: 'paying now', failed: 'not paid' } as const;

function One({ order }: { order: OrderView }) {
  const { site } = useBoot();
  const money = useMoney();
  const { buyer } = order;
  return (
    <section className="osheet" aria-label={`Order ${order.number ?? ''}`}>
      <header>
        <div><h1>{buyer.name}</h1><p className="mono">{order.number ? `${order.number} · ` : ''}{when(order.createdAt)}</p></div>
        <div className="tt"><b className="mono">{money(order.total, order.currency)}</b><span>{stateWords[order.state]}</span></div>
      </header>
      {order.short && <p className="banner">Paid after its pieces had gone to others. Make more, or give the money back.</p>}
      <ul className="ol">
        {order.lines.map((l) => {
          const src = pictureOf(site.shopUrl, l.picture, 240);
          return (
            <li key={l.name + l.placementId}>
              {src ? <img className="thumb" src={src} alt="" /> : <span className="thumb" aria-hidden="true">–</span>}
              <div><b>{l.name}</b><em>{money(l.unit, order.currency)} each</em>{l.through && <span className="via"><Awning kind="buy" flat />{l.through}</span>}</div>
              <span className="q mono">{l.quantity}</span>
              <span className="p mono">{money(l.amount, order.currency)}</span>
            </li>
          );
        })}
      </ul>
      {order.files && <FetchAgain order={order} />}
      {order.subscriptions.map((x) => <Subscription key={x.id} of={x} />)}
      <dl className="os">
        {order.steps.map((s) => <div key={s.what} className={s.kind === 'included' ? 'note' : undefined}><dt>{s.what}<em>{s.rule}</em></dt><dd className="mono">{money(s.amount, order.currency)}</dd></div>)}
        <div><dt>Total</dt><dd className="mono">{money(order.total, order.currency)}</dd></div>
      </dl>
      <div className="to">
        <div><span className="lab">Send to</span><p>{buyer.name}<br />{buyer.street}<br />{buyer.town} <span className="mono">{buyer.postcode}</span><br />{countryOf(buyer.country)}</p><p className="mt-1"><a className="underline" href={`mailto:${buyer.email}`}>{buyer.email}</a></p></div>
        <div><span className="lab">Payment</span>{order.payments.map((p) => <p key={p.at + p.state}>{p.state === 'paid' ? 'Paid' : p.state === 'declined' ? 'Declined' : 'Started'}{p.detail && `, ${p.detail}`}<br /><span className="path">{p.ref}</span></p>)}</div>
      </div>
    </section>
  );
}

/** Times and days of the order's files begin anew, for a buyer who lost them. */
function FetchAgain({ order }: { order: OrderView }) {
  const { site } = useBoot();
  const again = useMutation({ mutationFn: () => call(`/api/${site.slug}/orders/${order.id}/downloads`, 'POST'), onSuccess: () => { refresh('orders'); toast.success('The buyer may fetch the files anew.'); }, onError: (e) => toast.error(e.message) });
  return <p className="mt-2 mb-3"><button type="button" className="btn sm" disabled={again.isPending} onClick={() => again.mutate()}>Let them fetch the files anew</button></p>;
}

/** Something of the order that is charged again: when next, and the way to stop it. */
function Subscription({ of: x }: { of: SubscriptionView }) {
  const { site } = useBoot();
  const money = useMoney();
  const set = useMutation({ mutationFn: (state: 'running' | 'stopped') => call(`/api/${site.slug}/subscriptions/${x.id}`, 'PUT', { state }), onSuccess: () => refresh('orders'), onError: (e) => toast.error(e.message) });
  const every = x.every.count === 1 ? x.every.unit : `${x.every.count} ${x.every.unit}s`;
  return (
    <div className="osub"><p><b>{x.name}</b>, {money(x.amount, x.currency)} every {every}</p><p className="note">{x.running ? `Charged next on ${day(x.nextAt)}` : x.reason}{x.charges > 0 && `, charged again ${x.charges === 1 ? 'once' : `${x.charges} times`} so far`}</p>
      <button type="button" className="btn sm" disabled={set.isPending} onClick={() => set.mutate(x.running ? 'stopped' : 'running')}>{x.running ? 'Stop charging' : 'Let it run again'}</button></div>
  );
}

function Timeline({ order }: { order: OrderView }) {
  return (
    <section className="orec" aria-label="So far">
      <header><h2>So far</h2><span>{day(order.createdAt)}</span></header>
      <ol className="rec">
        {order.events.map((e) => <li key={e.at + e.what}><span className="mono">{clock(e.at)}</span><div><b>{e.what}</b>{e.detail && <p>{e.detail}</p>}</div></li>)}
      </ol>
    </section>
  );
}
