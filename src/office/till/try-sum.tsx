import type { Step } from '../../core/till/worked-sum';
import type { TriedCart } from '../../services/till/try-cart';
import { useMoney } from '../shop-context';
import { day } from '../ui/when';
import { tryCart as say } from '../words/till';

const rowClass: Partial<Record<NonNullable<Step['kind']>, string>> = {
  discount: 'sl leafy',
  voucher: 'sl leafy',
  included: 'sl vatl',
};

/** A tried basket line by line, each with the rule that made it. */
export function TrySum({ worked }: { worked: TriedCart }) {
  const money = useMoney();
  const row = (s: Step) => (
    <div key={`${s.kind} ${s.id ?? s.what}`} className={rowClass[s.kind ?? 'goods'] ?? 'sl'}>
      <dt>
        {s.what}
        <em>{s.rule}</em>
      </dt>
      <dd className="mono">{money(s.amount)}</dd>
    </div>
  );
  const off = worked.steps.filter((s) => s.kind === 'discount');
  const goods = worked.steps.find((s) => s.kind === 'goods');
  const days = worked.ways?.find((x) => x.id === worked.way)?.days;
  return (
    <>
      <dl className="tsum" aria-live="polite">
        {goods && row(goods)}
        {off.map(row)}
        {off.length > 0 && goods && (
          <div className="sl sub">
            <dt>{say.goodsAfterDiscounts}</dt>
            <dd className="mono">{money(off.reduce<number>((n, s) => n + s.amount, goods.amount))}</dd>
          </div>
        )}
        {worked.steps
          .filter((s) => s.kind !== 'goods' && s.kind !== 'discount' && s.kind !== 'included')
          .map(row)}
        {worked.noWay && (
          <div className="sl">
            <dt>
              {say.shipping}
              <em>
                {worked.noWay === 'no-region'
                  ? say.noRegionHoldsThisPlaceShoppers
                  : say.beyondEveryBandShoppersAreTold}
              </em>
            </dt>
            <dd className="bad">{say.noWay}</dd>
          </div>
        )}
        <div className="sl tot">
          <dt>{say.toPay}</dt>
          <dd className="mono">{money(worked.total)}</dd>
        </div>
        {worked.steps.filter((s) => s.kind === 'included').map(row)}
      </dl>
      {days && <p className="note">{say.expectedBetween(day(days.from), day(days.to))}</p>}
    </>
  );
}
