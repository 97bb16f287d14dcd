import { taxClasses } from '../../core/goods/choices';
import type { TillView } from '../../services/till/try-cart';
import { Choice, TextField, Tick } from '../goods/fields';
import { taxEditor as say } from '../words/till';
import { Foot } from './fields';
import { classNames, TaxRates } from './tax-rates';
import type { Part } from './use-till';

type Tax = Part<'tax'>['draft'];

/** Whose tax, how much, and where it is rounded. */
export function TaxEditor({ part, view }: { part: Part<'tax'>; view: TillView }) {
  const { draft: tax, set } = part;
  const put = (change: Partial<Tax>) => set({ ...tax, ...change });
  return (
    <section className="tedit" aria-label={say.tax}>
      <header>
        <h1>{say.tax}</h1>
      </header>
      <div className="g-row">
        <Tick checked={tax.charged} onChange={(charged) => put({ charged })}>
          {say.taxIsCharged}
        </Tick>
        {tax.charged && (
          <Tick checked={tax.included} onChange={(included) => put({ included })}>
            {say.pricesHoldItAlready}
          </Tick>
        )}
      </div>
      {tax.charged ? (
        <>
          <TaxChoices tax={tax} view={view} put={put} />
          <TaxRates tax={tax} view={view} put={put} />
        </>
      ) : (
        <TextField
          label={say.whatInvoicesSayAboutIt}
          value={tax.exemptWords}
          most={200}
          placeholder={say.belowTheThresholdNoTaxIs}
          onChange={(exemptWords) => put({ exemptWords })}
        />
      )}
      <Foot part={part} />
    </section>
  );
}

/** Where the business is, whose rates count, and how parts of a coin are treated. */
function TaxChoices({ tax, view, put }: { tax: Tax; view: TillView; put: (change: Partial<Tax>) => void }) {
  const states = view.states[tax.home.country] ?? [];
  return (
    <>
      <div className="g-2">
        <Choice
          label={say.theBusinessIsIn}
          value={tax.home.country}
          options={[['', say.choose], ...view.countries.map((c) => [c.code, c.name] as const)]}
          onChange={(country) => put({ home: { country, state: '' } })}
        />
        {states.length > 0 && (
          <Choice
            label={say.inTheStateOf}
            value={tax.home.state}
            options={[['', say.any], ...states.map((x) => [x.code, x.name] as const)]}
            onChange={(state) => put({ home: { ...tax.home, state } })}
          />
        )}
        <Choice
          label={say.goodsHaveTheRateOf}
          value={tax.goodsBy}
          options={[
            ['seller', say.whereYouAre],
            ['buyer', say.whereTheyGo],
          ]}
          onChange={(goodsBy) => put({ goodsBy })}
        />
        <Choice
          label={say.downloadsHaveTheRateOf}
          value={tax.digitalBy}
          options={[
            ['buyer', say.whereTheBuyerIs],
            ['seller', say.whereYouAre],
          ]}
          onChange={(digitalBy) => put({ digitalBy })}
        />
        <Choice
          label={say.shippingIsTaxed}
          value={tax.shipping}
          options={[
            ['proportion', say.likeTheGoodsInIt],
            ['none', say.notAtAll],
            ...taxClasses.map((c) => [c, say.atTheRate(classNames[c].toLowerCase())] as const),
          ]}
          onChange={(shipping) => put({ shipping })}
        />
        <Choice
          label={say.rounded}
          value={tax.roundAt}
          options={[
            ['rate', say.onceForEachRate],
            ['line', say.forEachLine],
          ]}
          onChange={(roundAt) => put({ roundAt })}
        />
        <Choice
          label={say.partsOfTheSmallestCoin}
          value={tax.rounding}
          options={[
            ['half-up', say.halfGoesUp],
            ['half-even', say.halfGoesToEven],
            ['down', say.areLeftOut],
          ]}
          onChange={(rounding) => put({ rounding })}
        />
      </div>
      {tax.included && (
        <Choice
          label={say.whereNoTaxIsDue}
          value={tax.abroad}
          options={[
            ['same', say.pricesStayAsTheyAre],
            ['net', say.theTaxAtHomeIsTaken],
          ]}
          onChange={(abroad) => put({ abroad })}
        />
      )}
    </>
  );
}
