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
    <section className="tedit" aria-label="Shipping">
      <header>
        <h1>Shipping</h1>
        <button
          type="button"
          className="btn"
          onClick={() =>
            add(
              s.regions.length ? 'Another region' : homeName,
              s.regions.length ? '*' : home || '*',
              way('By post'),
            )
          }
        >
          Add a region
        </button>
      </header>
      {s.regions.length === 0 && (
        <p className="note">
          Nothing is set yet: shoppers pay no shipping, wherever they are. Add where you send things, or where
          they are collected.
        </p>
      )}
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
            onClick={() => add('Collect', home || '*', way('Collect in person', { kind: 'collect' }))}
          >
            <Plus size={12} aria-hidden />
            Collect in person
          </button>
          <button
            type="button"
            className="btn sm"
            onClick={() => add('Round here', home || '*', way('Brought by us', { kind: 'local' }))}
          >
            <Plus size={12} aria-hidden />
            Deliveries round here
          </button>
        </p>
      )}
      {s.regions.length > 0 && (
        <div className="g-3">
          <Choice
            label="Weights are told in"
            value={s.unit}
            options={[
              ['kg', 'kilograms'],
              ['g', 'grams'],
              ['lb', 'pounds'],
              ['oz', 'ounces'],
            ]}
            onChange={(unit) => put({ unit })}
          />
          <Choice
            label="“Free from” looks at goods"
            value={s.freeBy}
            options={[
              ['after', 'after discounts'],
              ['before', 'before discounts'],
            ]}
            onChange={(freeBy) => put({ freeBy })}
          />
          <fieldset className="tdays">
            <legend className="lab">Nothing goes out on</legend>
            {['Su', 'Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa'].map((d, i) => (
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
            label="Nor on these days"
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
  code === '*' ? 'Everywhere else' : (view.countries.find((c) => c.code === code)?.name ?? code);

/** What a way's bands are told in. */
const measureText =
  (x: ShippingWay, weight: WeightUnit, money: (n: number) => string) =>
  (n: number): string =>
    x.by === 'weight' ? weightText(n, weight) : x.by === 'value' ? money(n) : `${n} pieces`;

/** Where this cart lies on a way's ruler. */
function onRuler(
  x: ShippingWay,
  cart: WorkedSum | undefined,
): { readonly band: number; readonly measure: number } | null {
  const offered = cart?.ways?.find((o) => o.id === x.id);
  return offered && offered.band !== null ? { band: offered.band, measure: offered.measure } : null;
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
  const [first] = r.areas;
  const where =
    r.areas.length > 1
      ? `${r.areas.length} countries`
      : first
        ? [placeName(view, first.country), first.postcodes.join(', ') || first.states.join(', ')]
            .filter(Boolean)
            .join(', ')
        : 'nowhere';
  const priceOf = (x: ShippingWay): string =>
    [
      money(x.base),
      x.each > 0 ? `and ${money(x.each)} for each piece` : '',
      x.freeFrom !== null && x.base + x.each > 0 ? `free from ${money(x.freeFrom)}` : '',
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
                {x.freeFrom === null ? 'no free line' : `free from ${money(x.freeFrom)}`}
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
            aria-label={`Fold ${r.name}`}
            onClick={onFold}
          >
            <ChevronDown size={14} aria-hidden />
          </button>
        )}
        <input
          className="gname"
          aria-label="Name of the region"
          value={r.name}
          maxLength={80}
          onChange={(e) => onChange({ ...r, name: e.target.value })}
        />
        <button type="button" className="btn sm quiet beet" onClick={onRemove}>
          Remove
        </button>
      </div>
      <p className="tareas">
        {r.areas.map((a, n) => (
          <span key={a.country}>
            {name(a.country)}
            <button
              type="button"
              aria-label={`Take ${name(a.country)} out of ${r.name}`}
              disabled={r.areas.length === 1}
              onClick={() => onChange({ ...r, areas: r.areas.filter((_, i) => i !== n) })}
            >
              <X size={11} />
            </button>
          </span>
        ))}
        <select
          aria-label={`Add a country to ${r.name}`}
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
          <option value="">Add a country…</option>
          <option value="*">Everywhere else</option>
          {view.countries.map((c) => (
            <option key={c.code} value={c.code}>
              {c.name}
            </option>
          ))}
        </select>
      </p>
      {(local || codes.length > 0) && (
        <TextField
          label="Only these postcodes: whole ones, beginnings with a star, or ranges"
          value={codes.join(', ')}
          placeholder="WB4*, 10115, 20000-20999"
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
          label="Only these states or provinces, by their letters"
          value={states.join(', ')}
          placeholder="all of them; or CA, NY"
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
        onClick={() => onChange({ ...r, ways: [...r.ways, way('Another way')] })}
      >
        <Plus size={12} aria-hidden />A way
      </button>
    </div>
  );
}

/** Countries whose addresses have a state, where sending often differs by it. */
const withStates = new Set(['US', 'CA', 'AU', 'IN', 'BR', 'MX', 'IT', 'ES', 'JP', 'CN', 'MY']);

const bys = [
  ['flat', 'one price'],
  ['weight', 'by weight'],
  ['value', 'by value'],
  ['pieces', 'by pieces'],
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
          aria-label="Name of the way"
          value={x.name}
          maxLength={80}
          onChange={(e) => put({ name: e.target.value })}
        />
        <select
          className="in"
          aria-label={`Price of ${x.name}`}
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
          aria-label={`Take ${x.name} away`}
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
                <span className="mono">{n === 0 ? unit(0) : `above ${unit(x.bands[n - 1]?.upTo ?? 0)}`}</span>
                {x.by === 'value' ? (
                  <Amount<number | null>
                    label={`End of band ${n + 1}`}
                    hidden
                    empty
                    value={b.upTo}
                    placeholder="no end"
                    onChange={(upTo) => band(n, { upTo })}
                  />
                ) : x.by === 'weight' ? (
                  <Count<number | null>
                    key={weight}
                    label={`End of band ${n + 1}`}
                    hidden
                    empty
                    value={b.upTo === null ? null : inUnit(b.upTo, weight)}
                    after={weight}
                    placeholder="no end"
                    onChange={(v) => band(n, { upTo: v === null ? null : toGrams(v, weight) })}
                  />
                ) : (
                  <Count<number | null>
                    label={`End of band ${n + 1}`}
                    hidden
                    empty
                    value={b.upTo}
                    placeholder="no end"
                    onChange={(upTo) => band(n, { upTo })}
                  />
                )}
                <Amount
                  label={`Price of band ${n + 1}`}
                  hidden
                  value={b.price}
                  onChange={(price) => band(n, { price })}
                />
                <button
                  type="button"
                  aria-label={`Take band ${n + 1} out`}
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
                    upTo:
                      last === null
                        ? null
                        : (last ?? 0) + (x.by === 'pieces' ? 5 : x.by === 'weight' ? 2000 : 5000),
                    price: x.bands.at(-1)?.price ?? (500 as Minor),
                  },
                ],
              })
            }
          >
            <Plus size={12} aria-hidden />A band
          </button>
        </>
      )}
      <div className="g-4">
        <Amount
          label={x.by === 'flat' ? 'Price' : 'Base, added'}
          value={x.base}
          onChange={(base) => put({ base })}
        />
        <Amount label="For each piece" value={x.each} onChange={(each) => put({ each })} />
        <Amount<Minor | null>
          label="Free from"
          empty
          value={x.freeFrom}
          placeholder="never"
          onChange={(freeFrom) => put({ freeFrom })}
        />
        <div>
          <span className="lab">Arrives in days</span>
          <div className="flex gap-1">
            <Count<number | null>
              label="Days at least"
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
              label="Days at most"
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
        <p className="note">This cart is {money(offered.untilFree)} short of the free line.</p>
      ) : null}
      <OwnAmounts way={x} goods={goods} onChange={(own) => put({ own })} />
      <TextField
        label="A word for shoppers"
        value={x.hint}
        most={200}
        placeholder={x.kind === 'collect' ? 'Fridays, 10 to 4' : 'none'}
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
          <span>{names.get(o.goodsId) ?? 'A product that is gone'}, each</span>
          <Amount
            label={`Sending ${names.get(o.goodsId) ?? 'it'}`}
            hidden
            value={o.each}
            onChange={(each) => onChange(x.own.map((y) => (y.goodsId === o.goodsId ? { ...y, each } : y)))}
          />
          <button
            type="button"
            className="btn sm quiet beet"
            aria-label={`Take ${names.get(o.goodsId) ?? 'it'} out of ${x.name}`}
            onClick={() => onChange(x.own.filter((y) => y.goodsId !== o.goodsId))}
          >
            <X size={12} aria-hidden />
          </button>
        </div>
      ))}
      <p className="tareas">
        <select
          aria-label={`A product with an amount of its own, ${x.name}`}
          value=""
          onChange={(e) =>
            e.target.value && onChange([...x.own, { goodsId: e.target.value, each: 500 as Minor }])
          }
        >
          <option value="">A product with an amount of its own…</option>
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
