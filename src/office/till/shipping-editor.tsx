import { ChevronDown, ChevronRight, Plus, X } from 'lucide-react';
import { useState } from 'react';
import type { Minor } from '../../core/money/minor';
import type { Region, ShippingRules, ShippingWay } from '../../core/till/rules';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { TillView } from '../../services/till/try-cart';
import { Choice, TextField } from '../goods/fields';
import { useMoney } from '../shop-context';
import { Amount, Count, Foot } from './fields';
import { inUnit, toGrams, type WeightUnit, weightText } from '../../core/till/weight';
import type { GoodsLine } from '../../services/goods/lines';
import { Ruler } from './ruler';
import type { Part } from './use-till';
import { shippingEditor as say } from '../words/till';

const fresh = (): string => Math.random().toString(36).slice(2, 10);
const way = (name: string, more: Partial<ShippingWay> = {}): ShippingWay => ({
  id: fresh(),
  name,
  kind: 'post',
  by: 'flat',
  base: 0 as Minor,
  bands: [],
  each: 0 as Minor,
  own: [],
  freeFrom: null,
  days: null,
  hint: '',
  ...more,
});

/** Regions, the ways to each, and what they cost: drawn while it is typed, with the cart beside on the ruler. */
export function ShippingEditor({
  part,
  view,
  cart,
  goods,
}: {
  part: Part<'shipping'>;
  view: TillView;
  cart: WorkedSum | undefined;
  goods: readonly GoodsLine[];
}) {
  const { draft: s, set } = part;
  const put = (change: Partial<ShippingRules>) => set({ ...s, ...change });
  const [opened, setOpened] = useState<string | null>();
  const putRegion = (n: number, to: Region) => {
    // What is being written stays open, wherever the cart goes meanwhile.
    setOpened(to.id);
    put({ regions: s.regions.map((r, i) => (i === n ? to : r)) });
  };
  const add = (name: string, country: string, first: ShippingWay) => {
    const id = fresh();
    put({
      regions: [...s.regions, { id, name, areas: [{ country, states: [], postcodes: [] }], ways: [first] }],
    });
    setOpened(id);
  };
  // One region is open: the one that was opened, else the one this cart goes to.
  const open =
    opened === undefined
      ? (s.regions.find((r) => r.ways.some((x) => x.id === cart?.way)) ?? s.regions[0])?.id
      : opened;
  const home = view.rules.tax.home.country;
  const homeName = view.countries.find((c) => c.code === home)?.name ?? 'Home';
  return (
    <section className="tedit" aria-label={say.shipping}>
      <header>
        <h1>{say.shipping}</h1>
        <button
          type="button"
          className="btn"
          onClick={() =>
            add(
              s.regions.length ? say.anotherRegion : homeName,
              s.regions.length ? '*' : home || '*',
              way(say.byPost),
            )
          }
        >
          {say.addARegion}
        </button>
      </header>
      {s.regions.length === 0 && <p className="note">{say.nothingIsSetYetShoppersPay}</p>}
      {s.regions.map((r, n) =>
        r.id !== open && s.regions.length > 1 ? (
          <FoldedRegion
            key={r.id}
            region={r}
            unit={s.unit}
            view={view}
            cart={cart}
            onOpen={() => setOpened(r.id)}
          />
        ) : (
          <RegionCard
            key={r.id}
            region={r}
            onFold={s.regions.length > 1 ? () => setOpened(null) : undefined}
            unit={s.unit}
            goods={goods}
            view={view}
            cart={cart}
            onChange={(to) => putRegion(n, to)}
            onRemove={() => put({ regions: s.regions.filter((_, i) => i !== n) })}
          />
        ),
      )}
      {s.regions.length > 0 && (
        <p className="flex gap-2">
          <button
            type="button"
            className="btn sm"
            onClick={() => add(say.collect, home || '*', way(say.collectInPerson, { kind: 'collect' }))}
          >
            <Plus size={12} aria-hidden />
            {say.collectInPerson}
          </button>
          <button
            type="button"
            className="btn sm"
            onClick={() => add(say.roundHere, home || '*', way(say.broughtByUs, { kind: 'local' }))}
          >
            <Plus size={12} aria-hidden />
            {say.deliveriesRoundHere}
          </button>
        </p>
      )}
      {s.regions.length > 0 && (
        <div className="g-3">
          <Choice
            label={say.weightsAreToldIn}
            value={s.unit}
            options={[
              ['kg', say.kilograms],
              ['g', say.grams],
              ['lb', say.pounds],
              ['oz', say.ounces],
            ]}
            onChange={(unit) => put({ unit })}
          />
          <Choice
            label={say.freeFromLooksAtGoods}
            value={s.freeBy}
            options={[
              ['after', say.afterDiscounts],
              ['before', say.beforeDiscounts],
            ]}
            onChange={(freeBy) => put({ freeBy })}
          />
          <fieldset className="tdays">
            <legend className="lab">{say.nothingGoesOutOn}</legend>
            {[say.su, say.mo, say.tu, say.we, say.th, say.fr, say.sa].map((d, i) => (
              <label key={d}>
                <input
                  type="checkbox"
                  checked={s.closedWeekdays.includes(i)}
                  onChange={(e) =>
                    put({
                      closedWeekdays: e.target.checked
                        ? [...s.closedWeekdays, i].sort()
                        : s.closedWeekdays.filter((x) => x !== i),
                    })
                  }
                />
                {d}
              </label>
            ))}
          </fieldset>
          <TextField
            label={say.norOnTheseDays}
            value={s.closedDays.join(' ')}
            placeholder="2026-12-25 2026-12-26"
            onChange={(text) =>
              put({ closedDays: text.split(/[\s,]+/).filter((d) => /^\d{4}-\d{2}-\d{2}$/.test(d)) })
            }
          />
        </div>
      )}
      <Foot part={part} />
    </section>
  );
}

/** Where a region is, in words. */
const placeName = (view: TillView, code: string): string =>
  code === '*' ? say.everywhereElse : (view.countries.find((c) => c.code === code)?.name ?? code);

/** What a way's bands are told in. */
function measureText(
  x: ShippingWay,
  weight: WeightUnit,
  money: (n: number) => string,
): (n: number) => string {
  if (x.by === 'weight') return (n) => weightText(n, weight);
  return x.by === 'value' ? money : (n) => `${n} pieces`;
}

/** How much farther than the band before a new one ends: pieces, grams or minor units. */
const nextBand: Readonly<Record<ShippingWay['by'], number>> = {
  flat: 0,
  pieces: 5,
  weight: 2000,
  value: 5000,
};

/** Where this cart lies on a way's ruler. */
function onRuler(
  x: ShippingWay,
  cart: WorkedSum | undefined,
): { readonly band: number; readonly measure: number } | null {
  const offered = cart?.ways?.find((o) => o.id === x.id);
  return offered && offered.band !== null ? { band: offered.band, measure: offered.measure } : null;
}

function whereWords({ areas }: Region, view: TillView): string {
  const [first] = areas;
  if (!first) return 'nowhere';
  if (areas.length > 1) return `${areas.length} countries`;
  const part = first.postcodes.join(', ') || first.states.join(', ');
  return [placeName(view, first.country), part].filter(Boolean).join(', ');
}

/** A region that is not open: what it costs at one look, and a press to open it. */
function FoldedRegion({
  region: r,
  unit,
  view,
  cart,
  onOpen,
}: {
  region: Region;
  unit: WeightUnit;
  view: TillView;
  cart: WorkedSum | undefined;
  onOpen: () => void;
}) {
  const money = useMoney();
  const where = whereWords(r, view);
  const priceOf = (x: ShippingWay): string =>
    [
      money(x.base),
      x.each > 0 ? say.andForEachPiece(money(x.each)) : '',
      x.freeFrom !== null && x.base + x.each > 0 ? say.freeFrom(money(x.freeFrom)) : '',
      x.hint,
    ]
      .filter(Boolean)
      .join(', ');
  return (
    <div className="rg">
      <button type="button" className="rfold" aria-expanded={false} onClick={onOpen}>
        <ChevronRight size={14} aria-hidden />
        <b>{r.name}</b>
        {where !== r.name && <span className="note">{where}</span>}
      </button>
      {r.ways.map((x) =>
        x.by === 'flat' ? (
          <p key={x.id} className="rflat">
            <span>{x.name}</span>
            <span className="mono">{priceOf(x)}</span>
          </p>
        ) : (
          <div key={x.id}>
            <p className="rflat">
              <span>{x.name}</span>
              <span className="note">
                {x.freeFrom === null ? say.noFreeLine : say.freeFrom(money(x.freeFrom))}
              </span>
            </p>
            <Ruler bands={x.bands} unit={measureText(x, unit, money)} cart={onRuler(x, cart)} told />
          </div>
        ),
      )}
    </div>
  );
}

function RegionCard({
  region: r,
  unit,
  goods,
  view,
  cart,
  onChange,
  onRemove,
  onFold,
}: {
  region: Region;
  unit: WeightUnit;
  goods: readonly GoodsLine[];
  view: TillView;
  cart: WorkedSum | undefined;
  onChange: (to: Region) => void;
  onRemove: () => void;
  onFold: (() => void) | undefined;
}) {
  const name = (code: string) => placeName(view, code);
  const local = r.ways.some((x) => x.kind === 'local');
  const codes = r.areas.flatMap((a) => a.postcodes);
  const [only] = r.areas;
  const states =
    r.areas.length === 1 && only && (withStates.has(only.country) || only.states.length > 0)
      ? only.states
      : null;
  return (
    <div className="rg">
      <div className="rh">
        {onFold && (
          <button
            type="button"
            className="rclose"
            aria-expanded={true}
            aria-label={say.fold(r.name)}
            onClick={onFold}
          >
            <ChevronDown size={14} aria-hidden />
          </button>
        )}
        <input
          className="gname"
          aria-label={say.nameOfTheRegion}
          value={r.name}
          maxLength={80}
          onChange={(e) => onChange({ ...r, name: e.target.value })}
        />
        <button type="button" className="btn sm quiet beet" onClick={onRemove}>
          {say.remove}
        </button>
      </div>
      <p className="tareas">
        {r.areas.map((a, n) => (
          <span key={a.country}>
            {name(a.country)}
            <button
              type="button"
              aria-label={say.takeOutOf(name(a.country), r.name)}
              disabled={r.areas.length === 1}
              onClick={() => onChange({ ...r, areas: r.areas.filter((_, i) => i !== n) })}
            >
              <X size={11} />
            </button>
          </span>
        ))}
        <select
          aria-label={say.addACountryTo(r.name)}
          value=""
          onChange={(e) =>
            e.target.value &&
            onChange({
              ...r,
              areas: [
                ...r.areas.filter((a) => a.country !== e.target.value),
                { country: e.target.value, states: [], postcodes: [] },
              ],
            })
          }
        >
          <option value="">{say.addACountry}</option>
          <option value="*">{say.everywhereElse}</option>
          {view.countries.map((c) => (
            <option key={c.code} value={c.code}>
              {c.name}
            </option>
          ))}
        </select>
      </p>
      {(local || codes.length > 0) && (
        <TextField
          label={say.onlyThesePostcodesWholeOnesBeginnings}
          value={codes.join(', ')}
          placeholder={say.wb4101152000020999}
          onChange={(text) =>
            onChange({
              ...r,
              areas: r.areas.map((a) => ({
                ...a,
                postcodes: text
                  .split(',')
                  .map((x) => x.trim())
                  .filter(Boolean),
              })),
            })
          }
        />
      )}
      {states && (
        <TextField
          label={say.onlyTheseStatesOrProvincesBy}
          value={states.join(', ')}
          placeholder={say.allOfThemOrCaNy}
          onChange={(text) =>
            onChange({
              ...r,
              areas: r.areas.map((a) => ({
                ...a,
                states: text
                  .toUpperCase()
                  .split(',')
                  .map((x) => x.trim())
                  .filter(Boolean),
              })),
            })
          }
        />
      )}
      {r.ways.map((x, n) => (
        <WayCard
          key={x.id}
          way={x}
          weight={unit}
          goods={goods}
          cart={cart}
          onChange={(to) => onChange({ ...r, ways: r.ways.map((y, i) => (i === n ? to : y)) })}
          onRemove={() => onChange({ ...r, ways: r.ways.filter((_, i) => i !== n) })}
        />
      ))}
      <button
        type="button"
        className="btn sm"
        onClick={() => onChange({ ...r, ways: [...r.ways, way(say.anotherWay)] })}
      >
        <Plus size={12} aria-hidden />
        {say.aWay}
      </button>
    </div>
  );
}

/** Countries whose addresses have a state, where sending often differs by it. */
const withStates = new Set(['US', 'CA', 'AU', 'IN', 'BR', 'MX', 'IT', 'ES', 'JP', 'CN', 'MY']);

const bys = [
  ['flat', say.onePrice],
  ['weight', say.byWeight],
  ['value', say.byValue],
  ['pieces', say.byPieces],
] as const;

function WayCard({
  way: x,
  weight,
  goods,
  cart,
  onChange,
  onRemove,
}: {
  way: ShippingWay;
  weight: WeightUnit;
  goods: readonly GoodsLine[];
  cart: WorkedSum | undefined;
  onChange: (to: ShippingWay) => void;
  onRemove: () => void;
}) {
  const money = useMoney();
  const put = (change: Partial<ShippingWay>) => onChange({ ...x, ...change });
  const unit = measureText(x, weight, money);
  const offered = cart?.ways?.find((o) => o.id === x.id);
  const here = onRuler(x, cart);
  const band = (n: number, change: Partial<ShippingWay['bands'][number]>) =>
    put({ bands: x.bands.map((b, i) => (i === n ? { ...b, ...change } : b)) });
  const last = x.bands.at(-1)?.upTo;
  return (
    <div className="tway">
      <div className="tway-h">
        <input
          className="in"
          aria-label={say.nameOfTheWay}
          value={x.name}
          maxLength={80}
          onChange={(e) => put({ name: e.target.value })}
        />
        <select
          className="in"
          aria-label={say.priceOf(x.name)}
          value={x.by}
          onChange={(e) => put({ by: e.target.value as ShippingWay['by'] })}
        >
          {bys.map(([v, words]) => (
            <option key={v} value={v}>
              {words}
            </option>
          ))}
        </select>
        <button
          type="button"
          className="btn sm quiet beet"
          aria-label={say.takeAway(x.name)}
          onClick={onRemove}
        >
          <X size={12} aria-hidden />
        </button>
      </div>
      {x.by !== 'flat' && (
        <>
          <Ruler bands={x.bands} unit={unit} cart={here} />
          <div className="tbands">
            {x.bands.map((b, n) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a band has no identity but its place
              <div key={n} className={here?.band === n ? 'here' : ''}>
                <span className="mono">{n === 0 ? unit(0) : say.above(unit(x.bands[n - 1]?.upTo ?? 0))}</span>
                <BandEnd
                  by={x.by}
                  weight={weight}
                  label={say.endOfBand(n + 1)}
                  upTo={b.upTo}
                  onChange={(upTo) => band(n, { upTo })}
                />
                <Amount
                  label={say.priceOfBand(n + 1)}
                  hidden
                  value={b.price}
                  onChange={(price) => band(n, { price })}
                />
                <button
                  type="button"
                  aria-label={say.takeBandOut(n + 1)}
                  onClick={() => put({ bands: x.bands.filter((_, i) => i !== n) })}
                >
                  <X size={12} />
                </button>
              </div>
            ))}
          </div>
          <button
            type="button"
            className="btn sm quiet"
            onClick={() =>
              put({
                bands: [
                  ...x.bands,
                  {
                    upTo: last === null ? null : (last ?? 0) + nextBand[x.by],
                    price: x.bands.at(-1)?.price ?? (500 as Minor),
                  },
                ],
              })
            }
          >
            <Plus size={12} aria-hidden />
            {say.aBand}
          </button>
        </>
      )}
      <div className="g-4">
        <Amount
          label={x.by === 'flat' ? say.price : say.baseAdded}
          value={x.base}
          onChange={(base) => put({ base })}
        />
        <Amount label={say.forEachPiece} value={x.each} onChange={(each) => put({ each })} />
        <Amount<Minor | null>
          label={say.freeFrom2}
          empty
          value={x.freeFrom}
          placeholder={say.never}
          onChange={(freeFrom) => put({ freeFrom })}
        />
        <div>
          <span className="lab">{say.arrivesInDays}</span>
          <div className="flex gap-1">
            <Count<number | null>
              label={say.daysAtLeast}
              hidden
              empty
              value={x.days?.least ?? null}
              placeholder="3"
              most={120}
              onChange={(least) =>
                put({ days: least === null ? null : { least, most: Math.max(least, x.days?.most ?? least) } })
              }
            />
            <Count<number | null>
              label={say.daysAtMost}
              hidden
              empty
              value={x.days?.most ?? null}
              placeholder="5"
              most={120}
              onChange={(most) =>
                put({ days: most === null ? null : { least: Math.min(most, x.days?.least ?? most), most } })
              }
            />
          </div>
        </div>
      </div>
      {offered?.untilFree ? (
        <p className="note">{say.thisCartIsShortOfThe(money(offered.untilFree))}</p>
      ) : null}
      <OwnAmounts way={x} goods={goods} onChange={(own) => put({ own })} />
      <TextField
        label={say.aWordForShoppers}
        value={x.hint}
        most={200}
        placeholder={x.kind === 'collect' ? say.fridays10To4 : say.none}
        onChange={(hint) => put({ hint })}
      />
    </div>
  );
}

/** Products that cost an amount of their own to send: they count in no band, and not as pieces. */
function OwnAmounts({
  way: x,
  goods,
  onChange,
}: {
  way: ShippingWay;
  goods: readonly GoodsLine[];
  onChange: (own: ShippingWay['own']) => void;
}) {
  const names = new Map(goods.map((g) => [g.id, g.name]));
  return (
    <div className="town">
      {x.own.map((o) => (
        <div key={o.goodsId} className="tway-h">
          <span>{say.each(names.get(o.goodsId) ?? say.aProductThatIsGone)}</span>
          <Amount
            label={say.sending(names.get(o.goodsId) ?? 'it')}
            hidden
            value={o.each}
            onChange={(each) => onChange(x.own.map((y) => (y.goodsId === o.goodsId ? { ...y, each } : y)))}
          />
          <button
            type="button"
            className="btn sm quiet beet"
            aria-label={say.takeOutOf(names.get(o.goodsId) ?? 'it', x.name)}
            onClick={() => onChange(x.own.filter((y) => y.goodsId !== o.goodsId))}
          >
            <X size={12} aria-hidden />
          </button>
        </div>
      ))}
      <p className="tareas">
        <select
          aria-label={say.aProductWithAnAmountOf(x.name)}
          value=""
          onChange={(e) =>
            e.target.value && onChange([...x.own, { goodsId: e.target.value, each: 500 as Minor }])
          }
        >
          <option value="">{say.aProductWithAnAmountOf2}</option>
          {goods
            .filter((g) => !x.own.some((o) => o.goodsId === g.id))
            .map((g) => (
              <option key={g.id} value={g.id}>
                {g.name}
              </option>
            ))}
        </select>
      </p>
    </div>
  );
}

interface BandEndProps {
  readonly by: ShippingWay['by'];
  readonly weight: WeightUnit;
  readonly label: string;
  readonly upTo: number | null;
  readonly onChange: (upTo: number | null) => void;
}

/** Where a band ends: an amount, a weight in the shop's unit, or pieces. */
function BandEnd({ by, weight, label, upTo, onChange }: BandEndProps) {
  const field = { label, hidden: true, empty: true, placeholder: say.noEnd };
  if (by === 'value') return <Amount<number | null> {...field} value={upTo} onChange={onChange} />;
  if (by === 'pieces') return <Count<number | null> {...field} value={upTo} onChange={onChange} />;
  return (
    <Count<number | null>
      {...field}
      key={weight}
      value={upTo === null ? null : inUnit(upTo, weight)}
      after={weight}
      onChange={(v) => onChange(v === null ? null : toGrams(v, weight))}
    />
  );
}
