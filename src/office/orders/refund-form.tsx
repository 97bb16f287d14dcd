import { useState } from 'react';
import { decimalText, parseMoney } from '../../core/money/format';
import { worthOfPieces } from '../../core/till/refund';
import type { OrderView } from '../../services/till/read-order';
import { useMoney } from '../shop-context';
import type { Run } from './acts';
import { refundForm as say } from '../words/orders';

/** What comes back: pieces, shipping, or an amount freely chosen; with or without the pieces going back on the shelf. */
export function RefundForm({ order: o, run, onClose }: { order: OrderView; run: Run; onClose: () => void }) {
  const money = useMoney();
  const [pieces, setPieces] = useState<Readonly<Record<string, number>>>({});
  const [shipping, setShipping] = useState(false);
  const [typed, setTyped] = useState<string | null>(null);
  const [restock, setRestock] = useState(true);
  const [reason, setReason] = useState('');
  const worth = (l: OrderView['lines'][number], n: number): number =>
    worthOfPieces(l.paid, l.quantity, l.returned, n);
  const sum = Math.min(
    o.refundable,
    o.lines.reduce((all, l) => all + worth(l, pieces[l.id] ?? 0), 0) + (shipping ? o.shipping : 0),
  );
  const own = typed === null ? null : parseMoney(typed, o.currency);
  const written = own?.ok ? own.value : 0;
  const amount = own === null ? sum : written;
  const wrong = own !== null && (!own.ok || own.value <= 0 || own.value > o.refundable);
  const any = Object.values(pieces).some((n) => n > 0);
  const give = () =>
    run.mutate({
      act: 'refund',
      refund: {
        lines: Object.entries(pieces)
          .filter(([, n]) => n > 0)
          .map(([lineId, quantity]) => ({ lineId, quantity })),
        shipping,
        amount: typed === null ? null : amount,
        restock: any && restock,
        reason,
      },
    });
  return (
    <div className="orefund">
      {o.lines
        .filter((l) => l.returned < l.quantity)
        .map((l) => (
          <div key={l.id} className="orline">
            <span>{l.name}</span>
            <span className="qty">
              <button
                type="button"
                aria-label={say.oneFewer(l.name)}
                disabled={!pieces[l.id]}
                onClick={() => setPieces((now) => ({ ...now, [l.id]: (now[l.id] ?? 0) - 1 }))}
              >
                −
              </button>
              <b className="mono">{pieces[l.id] ?? 0}</b>
              <button
                type="button"
                aria-label={say.oneMore(l.name)}
                disabled={(pieces[l.id] ?? 0) >= l.quantity - l.returned}
                onClick={() => setPieces((now) => ({ ...now, [l.id]: (now[l.id] ?? 0) + 1 }))}
              >
                +
              </button>
            </span>
          </div>
        ))}
      {o.shipping > 0 && (
        <label className="tick">
          <input type="checkbox" checked={shipping} onChange={(e) => setShipping(e.target.checked)} />
          {say.shipping(money(o.shipping, o.currency))}
        </label>
      )}
      {any && (
        <label className="tick">
          <input type="checkbox" checked={restock} onChange={(e) => setRestock(e.target.checked)} />
          {say.theyGoBackOnTheShelf}
        </label>
      )}
      <label className="lab">
        {say.amount}
        <input
          className="in mono"
          inputMode="decimal"
          value={typed ?? decimalText(sum, o.currency)}
          aria-invalid={wrong}
          onChange={(e) => setTyped(e.target.value)}
        />
      </label>
      {wrong && (
        <p className="field-error" role="alert">
          {say.betweenAnd(money(1, o.currency), money(o.refundable, o.currency))}
        </p>
      )}
      {o.giftsSpent > 0 && <p className="warn">{say.haveBeenSpent(money(o.giftsSpent, o.currency))}</p>}
      <input
        className="in"
        aria-label={say.why}
        placeholder={say.whyForTheLetter}
        maxLength={300}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
      <div className="flex gap-2">
        <button
          type="button"
          className="btn leaf"
          disabled={run.isPending || wrong || amount <= 0}
          onClick={give}
        >
          {run.isPending ? say.givingBack : say.giveBack(money(amount, o.currency))}
        </button>
        <button type="button" className="btn quiet" onClick={onClose}>
          {say.leaveIt}
        </button>
      </div>
    </div>
  );
}
