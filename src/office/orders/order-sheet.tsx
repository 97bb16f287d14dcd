import { useMutation } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { OrderView } from '../../services/till/read-order';
import type { SubscriptionView } from '../../services/till/subscriptions';
import { address } from '../../contract/address';
import { call, refresh } from '../api';
import { pictureOf, useBoot, useMoney, useMay } from '../shop-context';
import { Awning } from '../ui/mark';
import { Miniature } from '../ui/miniature';
import { isPayKind, payKindOf } from '../../core/till/pay-kinds';
import { clock, day, when } from '../ui/when';
import { orderSheet as say } from '../words/orders';

const paymentStates: ReadonlyMap<string, string> = new Map([
  ['paid', say.paid],
  ['declined', say.declined],
]);
const buyerTitles: ReadonlyMap<string, string> = new Map([
  ['collect', say.whoCollectsIt],
  ['', say.buyer],
]);

/** "by card"; a kind of an older release is told by its name. */
const byWay = (kind: string): string => (isPayKind(kind) ? payKindOf(kind).owner.ofOrder : kind);

/** Why an order did not want some money, in words. */
function whyUnwanted(o: OrderView, of: OrderView['surplus'][number]) {
  if (of.amount !== o.total) return say.anotherAmountCame;
  return o.state === 'cancelled' ? say.cameAfterCancelling : say.cameTwice;
}

/** Money that came and the order did not want: one press refunds it. */
function Surplus({ order: o, of }: { order: OrderView; of: OrderView['surplus'][number] }) {
  const { site } = useBoot();
  const may = useMay();
  const amount = useMoney()(of.amount, o.currency);
  const by = byWay(of.provider);
  const back = useMutation({
    mutationFn: () => call(site.slug, 'POST orders/:id/surplus', { id: o.id, body: { payment: of.payment } }),
    onSuccess: () => void toast.success(say.surplusOnItsWay(amount)),
    onError: (e) => void toast.error(e.message, { duration: 9000 }),
    onSettled: () => refresh('orders', 'status'),
  });
  if (of.returning) return <p className="banner">{say.surplusIsGoingBack(amount, by)}</p>;
  return (
    <div className="banner surplus">
      <p>{whyUnwanted(o, of)(amount, by)}</p>
      {may('POST orders/:id/surplus') && (
        <button type="button" className="btn" disabled={back.isPending} onClick={() => back.mutate()}>
          {say.refundSurplus(amount)}
        </button>
      )}
    </div>
  );
}

function paymentStatus(o: OrderView): string {
  const by = o.pay.name || byWay(o.pay.kind);
  if (o.state === 'paid') return o.total === 0 ? say.nothingWasLeftToPay : `paid ${by}`;
  return {
    waiting: say.payingNow(by),
    placed: say.moneyNotInYet(by),
    failed: say.notPaid,
    cancelled: 'cancelled',
  }[o.state];
}

/** One order: what was bought and through what, the sum with its rules, where it goes, and its papers. */
export function OrderSheet({ order: o }: { order: OrderView }) {
  const money = useMoney();
  const may = useMay();
  return (
    <section className="osheet" aria-label={say.order(o.number ?? '')}>
      <header>
        <div>
          <h1>{o.buyer.name || say.erased}</h1>
          <p className="mono">
            {o.number ? `${o.number} · ` : ''}
            {when(o.createdAt)}
          </p>
        </div>
        <div className="tt">
          <b className="mono">{money(o.total, o.currency)}</b>
          <span>{paymentStatus(o)}</span>
        </div>
      </header>
      {o.test && <p className="banner test">{say.aTestOrderNothingWasCharged}</p>}
      <LookInto order={o} />
      {o.surplus.map((p) => (
        <Surplus key={p.payment} order={o} of={p} />
      ))}
      <Lines order={o} />
      {o.files && may('POST orders/:id/downloads') && <FetchAgain order={o} />}
      {o.subscriptions.map((x) => (
        <Subscription key={x.id} of={x} />
      ))}
      <Sum order={o} />
      <CameIn order={o} />
      <div className="to">
        <Buyer order={o} />
        <div>
          {o.note && (
            <>
              <h2 className="lab">{say.noteWithTheOrder}</h2>
              <p>“{o.note}”</p>
            </>
          )}
          <h2 className="lab">{say.papers}</h2>
          <Papers order={o} />
          <h2 className="lab">{say.payment}</h2>
          {o.payments.map((p) => (
            <p key={p.at + p.state}>
              {paymentStates.get(p.state) ?? say.started}
              {p.detail && `, ${p.detail}`}
              <br />
              <span className="path">{p.ref}</span>
            </p>
          ))}
        </div>
      </div>
    </section>
  );
}

/** Why nothing is handed out yet, or why the order should be looked into. */
function LookInto({ order: o }: { order: OrderView }) {
  const money = useMoney();
  return (
    <>
      {o.lacks ? (
        <p className="banner">
          {say.nothingIsHandedOutYet(
            o.lacks.missing > 0 && say.wereGoneFromItsVoucher(money(o.lacks.missing, o.currency)),
            o.lacks.over
              .map((d) => say.hadReachedItsLimit(d.name, money(d.amount, o.currency)))
              .join(', and '),
          )}
        </p>
      ) : (
        o.short && o.surplus.length === 0 && <p className="banner">{say.lookIntoThisOneItWas}</p>
      )}
    </>
  );
}

function Lines({ order: o }: { order: OrderView }) {
  const { site } = useBoot();
  const money = useMoney();
  return (
    <ul className="ol">
      {o.lines.map((l) => {
        const src = pictureOf(site.shopUrl, l.picture, 240);
        return (
          <li key={l.id}>
            {src ? (
              <img className="thumb" src={src} alt="" />
            ) : (
              <span className="thumb" aria-hidden="true">
                –
              </span>
            )}
            <div>
              <b>{l.name}</b>
              <em>
                {say.each(money(l.unit, o.currency))}
                {l.returned > 0 && say.givenBack(l.returned)}
              </em>
              {l.through && (
                <span className="via">
                  <Awning kind="buy" flat />
                  {l.through}
                </span>
              )}
            </div>
            <span className="q mono">{l.quantity}</span>
            <span className="p mono">{money(l.amount, o.currency)}</span>
          </li>
        );
      })}
    </ul>
  );
}

function Sum({ order: o }: { order: OrderView }) {
  const money = useMoney();
  return (
    <dl className="os">
      {o.steps.map((s) => (
        <div key={s.what} className={s.kind === 'included' ? 'note' : undefined}>
          <dt>
            {s.what}
            <em>{s.rule}</em>
          </dt>
          <dd className="mono">{money(s.amount, o.currency)}</dd>
        </div>
      ))}
      <div>
        <dt>{say.total}</dt>
        <dd className="mono">{money(o.total, o.currency)}</dd>
      </div>
      {o.refunds.map((r) => (
        <div key={r.at} className="note">
          <dt>
            {refundWords[r.state] ?? say.givenBack2}
            <em>{[day(r.at), r.reason].filter(Boolean).join(', ')}</em>
          </dt>
          <dd className="mono">{money(r.state === 'failed' ? r.amount : -r.amount, o.currency)}</dd>
        </div>
      ))}
    </dl>
  );
}

function Buyer({ order: o }: { order: OrderView }) {
  return (
    <div>
      <h2 className="lab">{buyerTitles.get(o.goes) ?? say.sendTo}</h2>
      <p>
        {o.address.map((line) => (
          <span key={line} className="block">
            {line}
          </span>
        ))}
      </p>
      {o.buyer.email && (
        <p className="mt-1">
          <a className="underline" href={`mailto:${o.buyer.email}`}>
            {o.buyer.email}
          </a>
        </p>
      )}
      {o.buyer.phone && <p className="mono">{o.buyer.phone}</p>}
    </div>
  );
}

function Papers({ order: o }: { order: OrderView }) {
  const { site } = useBoot();
  return (
    <ul className="papers">
      {o.papers.map((p) => (
        <li key={p.id}>
          <a href={address(site.slug, 'GET papers/:id', { id: p.id })} target="_blank" rel="noopener">
            {p.series === 'invoice' ? say.invoice : say.creditNote} {p.number}
          </a>{' '}
          <a
            href={address(site.slug, 'GET papers/:id', { id: p.id, query: { pdf: '1' } })}
            target="_blank"
            rel="noopener"
          >
            {say.pdf}
          </a>
        </li>
      ))}
      {o.goes !== '' && (
        <li>
          <a
            href={address(site.slug, 'GET papers/slips', { query: { ids: o.id } })}
            target="_blank"
            rel="noopener"
          >
            {say.packingSlip}
          </a>{' '}
          <a
            href={address(site.slug, 'GET papers/slips', { query: { ids: o.id, pdf: '1' } })}
            target="_blank"
            rel="noopener"
          >
            {say.pdf}
          </a>
        </li>
      )}
      {o.policies.map((p) => (
        <li key={p.version}>
          {p.text ? (
            <a
              href={address(site.slug, 'GET orders/:id/policy', {
                id: o.id,
                query: { version: p.version },
              })}
              target="_blank"
              rel="noopener"
            >
              {p.name}
            </a>
          ) : (
            p.name
          )}
          {say.agreedToAsOf(day(p.at))} <span className="path">{p.version.slice(0, 8)}</span>
        </li>
      ))}
    </ul>
  );
}

/** The pages and widgets a sale came through, in the order things went into the cart. */
function CameIn({ order: o }: { order: OrderView }) {
  const steps = o.lines
    .flatMap((l) => (l.through ? [{ ...l, through: l.through }] : []))
    .sort((a, b) => a.at.localeCompare(b.at));
  if (steps.length === 0) return null;
  return (
    <>
      <h2 className="oh2">{say.howTheSaleCameIn}</h2>
      <ol className="came">
        {steps.map((s) => (
          <li key={s.id}>
            <Seen page={s.shown ? s.page : null} kind={s.kind ?? 'buy'} id={s.placementId ?? ''} />
            <span className="mono">{clock(s.at)}</span>
            <b title={s.through}>{s.through}</b>
            <em>{s.name}</em>
          </li>
        ))}
        <li>
          <Seen page={o.checkoutPage} kind="cart" id="" />
          <span className="mono">{clock(o.createdAt)}</span>
          <b>{say.checkout}</b>
          <em>{paymentStatus(o)}</em>
        </li>
      </ol>
    </>
  );
}

/** A page on the way, drawn small as it is now, with the widget of the sale marked; a page that is not the site's is only signed. */
function Seen({ page, kind, id }: { page: string | null; kind: string; id: string }) {
  const { site } = useBoot();
  if (!page)
    return (
      <span className="plainpage">
        <Awning kind={kind} flat />
      </span>
    );
  return (
    <Miniature
      src={`${site.draftUrl}${page}?stall=mini`}
      width={112}
      tallest={78}
      built={false}
      kinds={new Map([[id, kind]])}
      only={id}
    />
  );
}

/** Times and days of the order's files begin anew, for a buyer who lost them. */
function FetchAgain({ order }: { order: OrderView }) {
  const { site } = useBoot();
  const again = useMutation({
    mutationFn: () => call(site.slug, 'POST orders/:id/downloads', { id: order.id }),
    onSuccess: () => {
      refresh('orders');
      toast.success(say.theBuyerMayFetchTheFiles);
    },
    onError: (e) => toast.error(e.message),
  });
  return (
    <p className="mt-2 mb-3">
      <button type="button" className="btn sm" disabled={again.isPending} onClick={() => again.mutate()}>
        {say.letThemFetchTheFilesAnew}
      </button>
    </p>
  );
}

/** Something of the order that is charged again: when next, and the way to stop it. */
function Subscription({ of: x }: { of: SubscriptionView }) {
  const { site } = useBoot();
  const may = useMay();
  const money = useMoney();
  const set = useMutation({
    mutationFn: (state: 'running' | 'stopped') =>
      call(site.slug, 'PUT subscriptions/:id', { id: x.id, body: { state } }),
    onSuccess: () => refresh('orders'),
    onError: (e) => toast.error(e.message),
  });
  const every = x.every.count === 1 ? x.every.unit : `${x.every.count} ${x.every.unit}s`;
  return (
    <div className="osub">
      <p>
        <b>{x.name}</b>
        {say.every(money(x.amount, x.currency), every)}
      </p>
      <p className="note">
        {x.running ? say.chargedNextOn(day(x.nextAt)) : x.reason}
        {x.charges > 0 && say.chargedAgainSoFar(x.charges === 1 ? 'once' : `${x.charges} times`)}
      </p>
      {may('PUT subscriptions/:id') && (
        <button
          type="button"
          className="btn sm"
          disabled={set.isPending}
          onClick={() => set.mutate(x.running ? 'stopped' : 'running')}
        >
          {x.running ? say.stopCharging : say.letItRunAgain}
        </button>
      )}
    </div>
  );
}

const refundWords: Readonly<Record<string, string>> = {
  failed: say.couldNotBeGivenBack,
  asked: say.beingGivenBack,
};
