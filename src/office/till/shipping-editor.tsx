import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { Region, ShippingRules, ShippingWay } from '../../core/till/rules';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { GoodsLine } from '../../services/goods/lines';
import type { TillView } from '../../services/till/try-cart';
import { Choice } from '../goods/fields';
import { shippingEditor as say } from '../words/till';
import { Foot, ListField } from './fields';
import { FoldedRegion } from './folded-region';
import { RegionCard } from './region-card';
import { freshId, newWay } from './shipping-words';
import type { Part } from './use-till';

interface Props {
  readonly part: Part<'shipping'>;
  readonly view: TillView;
  readonly cart: WorkedSum | undefined;
  readonly goods: readonly GoodsLine[];
}

/** Regions, the ways to each, and what they cost: drawn while it is typed, with the cart beside on the ruler. */
export function ShippingEditor({ part, view, cart, goods }: Props) {
  const { draft: rules, set } = part;
  const { regions, unit } = rules;
  const put = (change: Partial<ShippingRules>) => set({ ...rules, ...change });
  const [opened, setOpened] = useState<string | null>();
  const putRegion = (to: Region) => {
    // What is being written stays open, wherever the cart goes meanwhile.
    setOpened(to.id);
    put({ regions: regions.map((r) => (r.id === to.id ? to : r)) });
  };
  const add = (name: string, country: string, first: ShippingWay) => {
    const id = freshId();
    const areas = [{ country, states: [], postcodes: [] }];
    put({ regions: [...regions, { id, name, areas, ways: [first] }] });
    setOpened(id);
  };
  // One region is open: the one that was opened, else the one this cart goes to.
  const ofCart = regions.find((r) => r.ways.some((x) => x.id === cart?.way)) ?? regions[0];
  const open = opened === undefined ? ofCart?.id : opened;
  const home = view.rules.tax.home.country;
  const homeName = view.countries.find((c) => c.code === home)?.name ?? 'Home';
  const addRegion = () =>
    regions.length
      ? add(say.anotherRegion, '*', newWay(say.byPost))
      : add(homeName, home || '*', newWay(say.byPost));
  const many = regions.length > 1;
  return (
    <section className="tedit" aria-label={say.shipping}>
      <header>
        <h1>{say.shipping}</h1>
        <button type="button" className="btn" onClick={addRegion}>
          {say.addARegion}
        </button>
      </header>
      {regions.length === 0 && <p className="note">{say.nothingIsSetYetShoppersPay}</p>}
      {regions.map((r) =>
        many && r.id !== open ? (
          <FoldedRegion
            key={r.id}
            region={r}
            unit={unit}
            view={view}
            cart={cart}
            onOpen={() => setOpened(r.id)}
          />
        ) : (
          <RegionCard
            key={r.id}
            region={r}
            onFold={many ? () => setOpened(null) : undefined}
            unit={unit}
            goods={goods}
            view={view}
            cart={cart}
            onChange={putRegion}
            onRemove={() => put({ regions: regions.filter((x) => x.id !== r.id) })}
          />
        ),
      )}
      {regions.length > 0 && (
        <>
          <p className="flex gap-2">
            <button
              type="button"
              className="btn sm"
              onClick={() => add(say.collect, home || '*', newWay(say.collectInPerson, { kind: 'collect' }))}
            >
              <Plus size={12} aria-hidden />
              {say.collectInPerson}
            </button>
            <button
              type="button"
              className="btn sm"
              onClick={() => add(say.roundHere, home || '*', newWay(say.broughtByUs, { kind: 'local' }))}
            >
              <Plus size={12} aria-hidden />
              {say.deliveriesRoundHere}
            </button>
          </p>
          <ForAllRegions rules={rules} put={put} />
        </>
      )}
      <Foot part={part} />
    </section>
  );
}

const weekdays = [say.su, say.mo, say.tu, say.we, say.th, say.fr, say.sa];

const daysIn = (text: string): string[] => text.split(/[\s,]+/).filter((d) => /^\d{4}-\d{2}-\d{2}$/.test(d));

/** What holds for every region: units, what "free from" looks at, days on which nothing goes out. */
function ForAllRegions({
  rules,
  put,
}: {
  rules: ShippingRules;
  put: (change: Partial<ShippingRules>) => void;
}) {
  const { closedWeekdays } = rules;
  const close = (weekday: number, closed: boolean) =>
    put({
      closedWeekdays: closed
        ? [...closedWeekdays, weekday].sort()
        : closedWeekdays.filter((x) => x !== weekday),
    });
  return (
    <div className="g-2">
      <Choice
        label={say.weightsAreToldIn}
        value={rules.unit}
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
        value={rules.freeBy}
        options={[
          ['after', say.afterDiscounts],
          ['before', say.beforeDiscounts],
        ]}
        onChange={(freeBy) => put({ freeBy })}
      />
      <fieldset className="tdays">
        <legend className="lab">{say.nothingGoesOutOn}</legend>
        {weekdays.map((d, i) => (
          <label key={d}>
            <input
              type="checkbox"
              checked={closedWeekdays.includes(i)}
              onChange={(e) => close(i, e.target.checked)}
            />
            {d}
          </label>
        ))}
      </fieldset>
      <ListField
        label={say.norOnTheseDays}
        items={rules.closedDays}
        read={daysIn}
        between=" "
        placeholder="2026-12-25 2026-12-26"
        onChange={(closedDays) => put({ closedDays })}
      />
    </div>
  );
}
