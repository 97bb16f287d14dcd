import { fullPrice, marginOf, offered, percentOff, pricePerUnit } from '../../core/goods/price';
import type { Offer } from '../../core/goods/product';
import { parseMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import { useBoot, useMoney } from '../shop-context';
import { Choice, TextField, Tick, Wrong } from './fields';
import type { Draft, Errors } from './form';
import { momentOf } from './moment';
import type { Change, SetField } from './use-draft';
import { priceBox as say } from '../words/goods';

/** Prices, and what each leaves: every figure with the rule it comes from. */
export function PriceBox({
  draft,
  set,
  change,
  errors,
  symbol,
}: {
  draft: Draft;
  set: SetField;
  change: Change;
  errors: Errors;
  symbol: string;
}) {
  const { site } = useBoot();
  const money = useMoney();
  const read = (text: string): Minor | null => {
    const r = parseMoney(text, site.currency);
    return r.ok ? r.value : null;
  };
  const [price, cost] = [read(draft.price), read(draft.cost)];
  const offer = offerOf(draft, read);
  const now =
    price !== null && offer ? offered(fullPrice({ price }, { price: null, difference: null }), offer) : price;
  // The till's own rates: what is charged is what is reckoned with.
  const rate = site.taxRates[draft.taxClass];
  const margin =
    now !== null && cost !== null && draft.cost.trim() ? marginOf(now, cost, rate, site.taxIncluded) : null;
  const amount = Number(draft.unit?.amount.replace(',', '.'));
  const unit =
    draft.unit && amount > 0 && now !== null
      ? pricePerUnit(now, { amount, measure: draft.unit.measure })
      : null;
  return (
    <div className="g-price">
      <div className="g-p">
        <TextField
          label={draft.open ? say.atLeast : say.price}
          value={draft.price}
          onChange={(v) => set('price', v)}
          unit={symbol}
          mode="decimal"
          error={errors.price}
        />
        <TextField
          label={say.priceBefore}
          value={draft.was}
          onChange={(v) => set('was', v)}
          unit={symbol}
          mode="decimal"
          placeholder={say.none}
          error={errors.was}
        />
        <TextField
          label={say.cost}
          value={draft.cost}
          onChange={(v) => set('cost', v)}
          unit={symbol}
          mode="decimal"
          placeholder={say.none}
          error={errors.cost}
        />
        <div className="keep" role="status">
          {margin ? (
            <>
              <p>
                <span>{say.youKeep}</span>
                <b className={margin.profit < 0 ? 'mono bad' : 'mono'}>{money(margin.profit)}</b>
                <b className={margin.profit < 0 ? 'mono bad' : 'mono'}>{margin.percent}%</b>
              </p>
              <div className="keep-bar" aria-hidden="true">
                <i className="t" style={{ flexGrow: Math.max(0, margin.tax) }} />
                <i className="c" style={{ flexGrow: cost ?? 0 }} />
                <i className="k" style={{ flexGrow: Math.max(0, margin.profit) }} />
              </div>
              <p className="mono keep-key">
                <span>{site.taxIncluded && rate ? say.tax(rate, money(margin.tax)) : say.noTaxInside}</span>
                <span>{say.cost2(money(margin.cost))}</span>
              </p>
            </>
          ) : (
            <p className="note">
              {say.enterWhatItCostsYouAnd(rate && site.taxIncluded ? say.afterTax(rate) : '')}
            </p>
          )}
        </div>
      </div>
      <div className="g-row">
        <Tick
          checked={draft.offer !== null}
          onChange={(on) => set('offer', on ? { kind: 'percent', value: '10', from: '', until: '' } : null)}
        >
          {say.anOffer(offer && now !== null && price ? say.off(money(now), percentOff(price, now)) : '')}
        </Tick>
        <Tick checked={draft.open} onChange={(on) => set('open', on)}>
          {say.theBuyerNamesTheAmount}
        </Tick>
        <Tick
          checked={draft.unit !== null}
          onChange={(on) => set('unit', on ? { amount: '', measure: 'kg' } : null)}
        >
          {say.pricePerUnit(unit ? say.per(money(unit.price), unit.per === 'm2' ? 'm²' : unit.per) : '')}
        </Tick>
      </div>
      {draft.offer && (
        <div className="g-2">
          <TextField
            label={draft.offer.kind === 'percent' ? say.perCentOff : say.amountOff}
            value={draft.offer.value}
            onChange={(value) =>
              change('offer-value', (d) => (d.offer ? { ...d, offer: { ...d.offer, value } } : d))
            }
            mode="decimal"
            unit={draft.offer.kind === 'amount' ? symbol : undefined}
            after={draft.offer.kind === 'percent' ? '%' : undefined}
            error={errors.offer}
          />
          <Choice
            label={say.takesOff}
            value={draft.offer.kind}
            options={[
              ['percent', say.perCent],
              ['amount', say.anAmount],
            ]}
            onChange={(kind) =>
              change('offer-kind', (d) => (d.offer ? { ...d, offer: { ...d.offer, kind } } : d))
            }
          />
          <TextField
            label={say.from}
            type="datetime-local"
            value={draft.offer.from}
            onChange={(from) =>
              change('offer-from', (d) => (d.offer ? { ...d, offer: { ...d.offer, from } } : d))
            }
          />
          <TextField
            label={say.until}
            type="datetime-local"
            value={draft.offer.until}
            onChange={(until) =>
              change('offer-until', (d) => (d.offer ? { ...d, offer: { ...d.offer, until } } : d))
            }
          />
        </div>
      )}
      {(draft.offer || draft.was.trim() !== '') && <p className="note">{say.shoppersSeeTheLowestPriceOf}</p>}
      {draft.unit && (
        <div className="g-4">
          <TextField
            label={say.onePieceHolds}
            value={draft.unit.amount}
            mode="decimal"
            onChange={(amount_) =>
              change('unit', (d) => (d.unit ? { ...d, unit: { ...d.unit, amount: amount_ } } : d))
            }
            error={errors.unit}
          />
          <Choice
            label={say.of}
            value={draft.unit.measure}
            options={[
              ['g', say.grams],
              ['kg', say.kilograms],
              ['ml', say.millilitres],
              ['cl', say.centilitres],
              ['l', say.litres],
              ['cm', say.centimetres],
              ['m', say.metres],
              ['m2', say.squareMetres],
              ['piece', say.pieces],
            ]}
            onChange={(measure) =>
              change('unit-measure', (d) => (d.unit ? { ...d, unit: { ...d.unit, measure } } : d))
            }
          />
        </div>
      )}
      {draft.open && (
        <TextField
          label={say.amountsOfferedForAPressWith}
          value={draft.suggestions}
          onChange={(v) => set('suggestions', v)}
          mode="decimal"
          placeholder="25 50 75"
          error={errors.suggestions}
        />
      )}
      <Wrong text={errors.offer && !draft.offer ? errors.offer : undefined} />
    </div>
  );
}

function offerOf(d: Draft, read: (text: string) => Minor | null): Offer | null {
  if (!d.offer) return null;
  const value = d.offer.kind === 'percent' ? Number(d.offer.value.replace(',', '.')) : read(d.offer.value);
  return value !== null && value > 0
    ? { kind: d.offer.kind, value, from: momentOf(d.offer.from), until: momentOf(d.offer.until) }
    : null;
}
