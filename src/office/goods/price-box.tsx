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
  const money = useMoney();
  const { price, offer, now, unit, keeps } = useReckoned(draft);
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
        <Keeps of={keeps} />
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
        <OfferFields
          offer={draft.offer}
          symbol={symbol}
          error={errors.offer}
          put={(part) =>
            change(`offer-${Object.keys(part)[0]}`, (d) =>
              d.offer ? { ...d, offer: { ...d.offer, ...part } } : d,
            )
          }
        />
      )}
      {(draft.offer || draft.was.trim() !== '') && <p className="note">{say.shoppersSeeTheLowestPriceOf}</p>}
      {draft.unit && (
        <UnitFields
          unit={draft.unit}
          error={errors.unit}
          put={(part) =>
            change(`unit-${Object.keys(part)[0]}`, (d) =>
              d.unit ? { ...d, unit: { ...d.unit, ...part } } : d,
            )
          }
        />
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

/** What follows from the prices as they are typed: the price of today, what is kept of it, the price per unit. */
function useReckoned(draft: Draft) {
  const { site } = useBoot();
  const read = (text: string): Minor | null => {
    const r = parseMoney(text, site.currency);
    return r.ok ? r.value : null;
  };
  const [price, cost] = [read(draft.price), read(draft.cost)];
  const offer = offerOf(draft, read);
  const full = price === null ? null : fullPrice({ price }, { price: null, difference: null });
  const now = full !== null && offer ? offered(full, offer) : price;
  // The till's own rates: what is charged is what is reckoned with.
  const rate = site.taxRates[draft.taxClass];
  const known = now !== null && cost !== null && draft.cost.trim() !== '';
  const margin = known ? marginOf(now, cost, rate, site.taxIncluded) : null;
  return { price, offer, now, unit: unitOf(draft, now), keeps: { margin, rate, cost } };
}

function unitOf({ unit }: Draft, now: Minor | null) {
  const amount = Number(unit?.amount.replace(',', '.'));
  return unit && amount > 0 && now !== null ? pricePerUnit(now, { amount, measure: unit.measure }) : null;
}

/** What the owner keeps of the price, drawn and with the rule it comes from. */
function Keeps({ of: { margin, rate, cost } }: { of: ReturnType<typeof useReckoned>['keeps'] }) {
  const { site } = useBoot();
  const money = useMoney();
  const taxInside = site.taxIncluded && rate;
  if (!margin)
    return (
      <div className="keep" role="status">
        <p className="note">{say.enterWhatItCostsYouAnd(taxInside ? say.afterTax(rate) : '')}</p>
      </div>
    );
  const tone = margin.profit < 0 ? 'mono bad' : 'mono';
  return (
    <div className="keep" role="status">
      <p>
        <span>{say.youKeep}</span>
        <b className={tone}>{money(margin.profit)}</b>
        <b className={tone}>{margin.percent}%</b>
      </p>
      <div className="keep-bar" aria-hidden="true">
        <i className="t" style={{ flexGrow: Math.max(0, margin.tax) }} />
        <i className="c" style={{ flexGrow: cost ?? 0 }} />
        <i className="k" style={{ flexGrow: Math.max(0, margin.profit) }} />
      </div>
      <p className="mono keep-key">
        <span>{taxInside ? say.tax(rate, money(margin.tax)) : say.noTaxInside}</span>
        <span>{say.cost2(money(margin.cost))}</span>
      </p>
    </div>
  );
}

type DraftOffer = NonNullable<Draft['offer']>;
interface OfferProps {
  readonly offer: DraftOffer;
  readonly symbol: string;
  readonly error: string | undefined;
  readonly put: (part: Partial<DraftOffer>) => void;
}

function OfferFields({ offer, symbol, error, put }: OfferProps) {
  const percent = offer.kind === 'percent';
  return (
    <div className="g-2">
      <TextField
        label={percent ? say.perCentOff : say.amountOff}
        value={offer.value}
        onChange={(value) => put({ value })}
        mode="decimal"
        unit={percent ? undefined : symbol}
        after={percent ? '%' : undefined}
        error={error}
      />
      <Choice
        label={say.takesOff}
        value={offer.kind}
        options={[
          ['percent', say.perCent],
          ['amount', say.anAmount],
        ]}
        onChange={(kind) => put({ kind })}
      />
      <TextField
        label={say.from}
        type="datetime-local"
        value={offer.from}
        onChange={(from) => put({ from })}
      />
      <TextField
        label={say.until}
        type="datetime-local"
        value={offer.until}
        onChange={(until) => put({ until })}
      />
    </div>
  );
}

type DraftUnit = NonNullable<Draft['unit']>;
interface UnitProps {
  readonly unit: DraftUnit;
  readonly error: string | undefined;
  readonly put: (part: Partial<DraftUnit>) => void;
}

function UnitFields({ unit, error, put }: UnitProps) {
  return (
    <div className="g-4">
      <TextField
        label={say.onePieceHolds}
        value={unit.amount}
        mode="decimal"
        onChange={(amount) => put({ amount })}
        error={error}
      />
      <Choice
        label={say.of}
        value={unit.measure}
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
        onChange={(measure) => put({ measure })}
      />
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
