import { ChevronDown, Plus, X } from 'lucide-react';
import type { Region } from '../../core/till/rules';
import type { WeightUnit } from '../../core/till/weight';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { GoodsLine } from '../../services/goods/lines';
import type { TillView } from '../../services/till/try-cart';
import { shippingEditor as say } from '../words/till';
import { ListField } from './fields';
import { newWay, placeName } from './shipping-words';
import { WayCard } from './way-card';

interface Props {
  readonly region: Region;
  readonly unit: WeightUnit;
  readonly goods: readonly GoodsLine[];
  readonly view: TillView;
  readonly cart: WorkedSum | undefined;
  readonly onChange: (to: Region) => void;
  readonly onRemove: () => void;
  readonly onFold: (() => void) | undefined;
}

/** A region that is open: where it is, and the shipping methods to it. */
export function RegionCard({ region, unit, goods, view, cart, onChange, onRemove, onFold }: Props) {
  const put = (change: Partial<Region>) => onChange({ ...region, ...change });
  return (
    <div className="rg">
      <div className="rh">
        {onFold && (
          <button
            type="button"
            className="rclose"
            aria-expanded={true}
            aria-label={say.fold(region.name)}
            onClick={onFold}
          >
            <ChevronDown size={14} aria-hidden />
          </button>
        )}
        <input
          className="gname"
          aria-label={say.nameOfTheRegion}
          value={region.name}
          maxLength={80}
          onChange={(e) => put({ name: e.target.value })}
        />
        <button type="button" className="btn sm quiet beet" onClick={onRemove}>
          {say.remove}
        </button>
      </div>
      <Countries region={region} view={view} put={put} />
      <PartsOfCountries region={region} put={put} />
      {region.ways.map((way, n) => (
        <WayCard
          key={way.id}
          way={way}
          weight={unit}
          goods={goods}
          cart={cart}
          onChange={(to) => put({ ways: region.ways.map((y, i) => (i === n ? to : y)) })}
          onRemove={() => put({ ways: region.ways.filter((_, i) => i !== n) })}
        />
      ))}
      <button
        type="button"
        className="btn sm"
        onClick={() => put({ ways: [...region.ways, newWay(say.anotherWay)] })}
      >
        <Plus size={12} aria-hidden />
        {say.aWay}
      </button>
    </div>
  );
}

type Put = (change: Partial<Region>) => void;

function Countries({ region, view, put }: { region: Region; view: TillView; put: Put }) {
  const add = (country: string) =>
    put({
      areas: [...region.areas.filter((a) => a.country !== country), { country, states: [], postcodes: [] }],
    });
  return (
    <p className="tareas">
      {region.areas.map((a, n) => (
        <span key={a.country}>
          {placeName(view, a.country)}
          <button
            type="button"
            aria-label={say.takeOutOf(placeName(view, a.country), region.name)}
            disabled={region.areas.length === 1}
            onClick={() => put({ areas: region.areas.filter((_, i) => i !== n) })}
          >
            <X size={11} />
          </button>
        </span>
      ))}
      <select
        aria-label={say.addACountryTo(region.name)}
        value=""
        onChange={(e) => e.target.value && add(e.target.value)}
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
  );
}

/** Countries whose addresses have a state, where sending often differs by it. */
const withStates = new Set(['US', 'CA', 'AU', 'IN', 'BR', 'MX', 'IT', 'ES', 'JP', 'CN', 'MY']);

const listed = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((x) => x.trim())
      .filter(Boolean),
  ),
];

/** Postcodes and states that alone are meant; asked where people deliver round here, or countries have states. */
function PartsOfCountries({ region, put }: { region: Region; put: Put }) {
  const { areas } = region;
  // Each country of the region holds the same codes: they are written once.
  const codes = [...new Set(areas.flatMap((a) => a.postcodes))];
  const [only] = areas;
  const hasStates = areas.length === 1 && only && (withStates.has(only.country) || only.states.length > 0);
  return (
    <>
      {(codes.length > 0 || region.ways.some((x) => x.kind === 'local')) && (
        <ListField
          label={say.onlyThesePostcodesWholeOnesBeginnings}
          items={codes}
          read={listed}
          between=", "
          placeholder={say.wb4101152000020999}
          onChange={(postcodes) => put({ areas: areas.map((a) => ({ ...a, postcodes })) })}
        />
      )}
      {hasStates && (
        <ListField
          label={say.onlyTheseStatesOrProvincesBy}
          items={only.states}
          read={(text) => listed(text.toUpperCase())}
          between=", "
          placeholder={say.allOfThemOrCaNy}
          onChange={(states) => put({ areas: areas.map((a) => ({ ...a, states })) })}
        />
      )}
    </>
  );
}
