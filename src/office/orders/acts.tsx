import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { moneyActs, type OrderAct } from '../../core/till/order-life';
import { readTracking } from '../../core/till/s10';
import type { OrderView } from '../../services/till/read-order';
import { call, Problem, refresh } from '../api';
import { useBoot, useHas, useMoney } from '../shop-context';
import { clock, day } from '../ui/when';
import { RefundForm } from './refund-form';
import { acts as say } from '../words/orders';

/** One act on an order; afterwards everything that may show it is asked for again. */
export function useAct(order: OrderView, done?: () => void) {
  const { site } = useBoot();
  return useMutation({
    mutationFn: (body: { act: OrderAct } & Record<string, unknown>) =>
      call(site.slug, 'POST orders/:id', { id: order.id, body }),
    onSuccess: (_, body) => {
      refresh('orders', 'takings', 'goods', 'status');
      done?.();
      if (body.act !== 'note') toast.success(doneMessages[body.act]);
    },
    onError: (e) => {
      refresh('orders');
      if (!(e instanceof Problem && e.field)) toast.error(e.message, { duration: 9000 });
    },
  });
}

const doneMessages: Readonly<Record<OrderAct, string>> = {
  'mark-paid': say.markedAsPaidTheLetterGoes,
  accept: say.acceptedItIsHandedOut,
  pack: say.packed,
  send: say.sentTheLetterGoesOutIn,
  collect: say.collected,
  refund: say.theMoneyIsOnItsWay,
  cancel: say.cancelled,
  'take-back': say.takenBack,
  note: say.noted,
};

/** The order so far, as a strip that grows; at its end what to do now, what comes then, and what could be done instead. */
export function Acts({ order: o }: { order: OrderView }) {
  const acts = useAllowedActs(o);
  let before = '';
  return (
    <section className="orec" aria-label={say.soFar}>
      <header>
        <h2>{say.soFar}</h2>
        <span>{say.growsAsYouWork}</span>
      </header>
      <div className="rec">
        <ol>
          {o.events.map((e, n) => {
            const on = day(e.at);
            const head = on !== before;
            before = on;
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: what happened is never put in another order
              <li key={n}>
                {head && <p className="rday">{on}</p>}
                <span className="mono">{clock(e.at)}</span>
                <div>
                  <b>{e.what}</b>
                  {e.detail && <p>{e.detail}</p>}
                </div>
              </li>
            );
          })}
          {o.letters
            .filter((l) => l.state === 'waiting' && l.kind !== 'to-owner')
            .map((l) => (
              <li key={l.kind + l.at}>
                <span className="mono">{say.soon}</span>
                <div>
                  <b>{say.letter(letterNames[l.kind] ?? l.kind)}</b>
                  <p>{say.goesOutByItself}</p>
                </div>
              </li>
            ))}
        </ol>
        {acts && <ToDo order={o} acts={acts} />}
      </div>
    </section>
  );
}

type Allowed = OrderView['acts'];

/** What whoever is here may do with the order; nothing for those who only read. */
function useAllowedActs({ acts }: OrderView): Allowed | undefined {
  const [handles, paysBack] = [useHas('handle-orders'), useHas('handle-money')];
  if (!handles) return undefined;
  const isMine = (act: OrderAct): boolean => paysBack || !moneyActs.has(act);
  const { now, later, or } = acts;
  return {
    now: now && isMine(now) ? now : null,
    later: later.filter(isMine),
    or: or.filter(isMine),
  };
}

/** What to do now, what comes then, a note, and what could be done instead. */
function ToDo({ order: o, acts }: { order: OrderView; acts: Allowed }) {
  const money = useMoney();
  const [open, setOpen] = useState<'refund' | 'cancel' | null>(null);
  const act = useAct(o, () => setOpen(null));
  // Kept here: what is typed stays typed while the act moves from "then" to "now".
  const [parcel, setParcel] = useState({ carrier: '', tracking: '' });
  const send = { parcel, setParcel };
  return (
    <>
      {[...(acts.now ? [acts.now] : []), ...acts.later].map((a) => (
        // One list: an act that moves from "then" to "now" keeps its fields, and whoever types in them the
        // focus.
        <div key={a} className={a === acts.now ? 'nx now' : 'nx'}>
          <span className="mono">{a === acts.now ? say.now : say.andThen}</span>
          <Act order={o} act={a} first={a === acts.now} run={act} send={send} />
        </div>
      ))}
      <div className="nx">
        <span className="mono">{say.note}</span>
        <Note run={act} />
      </div>
      {acts.or.length > 0 && (
        <div className="nx last">
          <span className="mono">{say.or}</span>
          <div>
            {acts.or.includes('accept') && (
              <button
                type="button"
                className="lnk"
                disabled={act.isPending}
                onClick={() => act.mutate({ act: 'accept' })}
              >
                {say.acceptIt}
              </button>
            )}
            {acts.or.includes('refund') &&
              (open === 'refund' ? (
                <RefundForm order={o} run={act} onClose={() => setOpen(null)} />
              ) : (
                <button type="button" className="lnk" onClick={() => setOpen('refund')}>
                  {say.giveBackUpTo}
                  <b className="mono">{money(o.refundable, o.currency)}</b>
                </button>
              ))}
            {acts.or.includes('take-back') && (
              <button
                type="button"
                className="lnk"
                disabled={act.isPending}
                onClick={() => act.mutate({ act: 'take-back' })}
              >
                {say.takeTheLastStepBack}
              </button>
            )}
            {acts.or.includes('cancel') &&
              (open === 'cancel' ? (
                <Cancel order={o} run={act} onClose={() => setOpen(null)} />
              ) : (
                <button type="button" className="lnk beet" onClick={() => setOpen('cancel')}>
                  {say.cancelTheOrder}
                </button>
              ))}
          </div>
        </div>
      )}
    </>
  );
}

const letterNames: Readonly<Record<string, string>> = {
  confirmation: say.theOrder,
  paid: say.thePayment,
  sent: say.onItsWay,
  refund: say.moneyBack,
  files: say.theFiles,
  reminder: say.theDate,
  review: say.asksForAReview,
};

export type Run = ReturnType<typeof useAct>;

const words: Readonly<Record<OrderAct, string>> = {
  'mark-paid': say.theMoneyIsHere,
  accept: say.acceptIt,
  pack: say.markPacked,
  send: say.markSent,
  collect: say.handedOver,
  refund: say.giveBack,
  cancel: say.cancel,
  'take-back': say.takeBack,
  note: say.noteIt,
};

interface Parcelled {
  readonly parcel: { readonly carrier: string; readonly tracking: string };
  /** From what is there by then: two fields may change before either is drawn. */
  readonly setParcel: (to: (now: Parcelled['parcel']) => Parcelled['parcel']) => void;
}

function Act({
  order,
  act,
  run,
  send,
  first = false,
}: {
  order: OrderView;
  act: OrderAct;
  run: Run;
  send: Parcelled;
  first?: boolean;
}) {
  if (act === 'send') return <Send run={run} first={first} goes={order.goes} {...send} />;
  return (
    <button
      type="button"
      className={first ? 'btn leaf' : 'btn'}
      disabled={run.isPending}
      onClick={() => run.mutate({ act })}
    >
      {words[act]}
    </button>
  );
}

/** Carrier and number. A number in the shape of the post's own standard is checked while it is typed. */
function Send({
  run,
  first,
  goes,
  parcel,
  setParcel,
}: { run: Run; first: boolean; goes: OrderView['goes'] } & Parcelled) {
  const { carrier, tracking } = parcel;
  const read = readTracking(tracking);
  return (
    <div className="trk">
      {goes === 'post' && (
        <>
          <input
            className="in"
            aria-label={say.carrier}
            placeholder={say.carrier}
            value={carrier}
            maxLength={60}
            onChange={(e) => setParcel((now) => ({ ...now, carrier: e.target.value }))}
          />
          <input
            className="in mono"
            aria-label={say.trackingNumber}
            placeholder={say.trackingNumber2}
            value={tracking}
            maxLength={60}
            aria-invalid={read.kind === 'wrong'}
            onChange={(e) => setParcel((now) => ({ ...now, tracking: e.target.value }))}
          />
        </>
      )}
      {read.kind === 'wrong' && (
        <p className="field-error" role="alert">
          {say.itsNinthDigitShouldBeLook(read.digit)}
        </p>
      )}
      <button
        type="button"
        className={first ? 'btn leaf' : 'btn'}
        disabled={run.isPending}
        onClick={() => run.mutate({ act: 'send', carrier, tracking, anyway: read.kind === 'wrong' })}
      >
        {read.kind === 'wrong' ? say.markSentWithThisNumber : say.markSent}
      </button>
      <p>
        {say.theBuyerGetsALetter(
          read.kind === 's10' ? say.aNumberOfTheWorldsPosts : '',
          read.kind === 'none' ? '' : say.withTheNumber,
        )}
      </p>
    </div>
  );
}

function Note({ run }: { run: Run }) {
  const [text, setText] = useState('');
  return (
    <form
      className="onote"
      onSubmit={(e) => {
        e.preventDefault();
        if (text.trim()) run.mutate({ act: 'note', text }, { onSuccess: () => setText('') });
      }}
    >
      <input
        className="in"
        aria-label={say.noteForYourself}
        placeholder={say.forYourselfAlone}
        maxLength={1000}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      {text.trim() && (
        <button type="submit" className="btn sm" disabled={run.isPending}>
          {say.noteIt}
        </button>
      )}
    </form>
  );
}

function Cancel({ order: o, run, onClose }: { order: OrderView; run: Run; onClose: () => void }) {
  const money = useMoney();
  const [restock, setRestock] = useState(true);
  const [text, setText] = useState('');
  return (
    <div className="ocancel">
      <p>
        {say.thisCannotBeUndone(
          o.refundable > 0
            ? say.goBackTheWayTheyCame(money(o.refundable, o.currency))
            : say.nothingWasPaidSoNothingGoes,
        )}
      </p>
      {o.giftsSpent > 0 && <p className="warn">{say.haveBeenSpent(money(o.giftsSpent, o.currency))}</p>}
      <label className="tick">
        <input type="checkbox" checked={restock} onChange={(e) => setRestock(e.target.checked)} />
        {say.thePiecesGoBackOnThe}
      </label>
      <input
        className="in"
        aria-label={say.why}
        placeholder={say.whyForTheLetter}
        maxLength={300}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <div className="flex gap-2">
        <button
          type="button"
          className="btn beet"
          disabled={run.isPending}
          onClick={() => run.mutate({ act: 'cancel', restock, text })}
        >
          {say.cancelTheOrder}
        </button>
        <button type="button" className="btn quiet" onClick={onClose}>
          {say.keepIt}
        </button>
      </div>
    </div>
  );
}
