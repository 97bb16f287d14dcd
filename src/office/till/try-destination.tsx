import type { TillView, TriedCart } from '../../services/till/try-cart';
import { Choice, TextField } from '../goods/fields';
import { useMoney } from '../shop-context';
import { tryCart as say } from '../words/till';
import type { ChangeTried, TriedInput } from './use-try';

const asOptions = (places: readonly { readonly code: string; readonly name: string }[]) =>
  places.map((p) => [p.code, p.name] as const);

/** Where a tried basket goes, by which shipping method, and which codes are written. */
export function TryDestination({
  input,
  onChange,
  view,
  worked,
}: {
  input: TriedInput;
  onChange: ChangeTried;
  view: TillView;
  worked: TriedCart | undefined;
}) {
  const money = useMoney();
  const put = (change: Partial<TriedInput>) => onChange((now) => ({ ...now, ...change }));
  const states = view.states[input.country] ?? [];
  const ways = worked?.ways ?? [];
  return (
    <div className="dest">
      <Choice
        label={say.goingTo}
        value={input.country}
        options={[['', say.nobodyHasSaid], ...asOptions(view.countries)]}
        onChange={(country) => put({ country, state: '', way: '' })}
      />
      {states.length > 0 && (
        <Choice
          label={say.state}
          value={input.state}
          options={[['', say.any], ...asOptions(states)]}
          onChange={(state) => put({ state })}
        />
      )}
      <TextField
        label={say.postcode}
        value={input.postcode}
        most={20}
        onChange={(postcode) => put({ postcode })}
      />
      <div>
        <label className="lab" htmlFor="t-code">
          {say.codes}
        </label>
        <div className="in mono">
          <input
            id="t-code"
            value={input.code}
            maxLength={80}
            placeholder={say.none}
            onChange={(e) => put({ code: e.target.value })}
          />
        </div>
      </div>
      {ways.length > 1 && (
        <Choice
          label={say.by}
          value={worked?.way ?? ''}
          options={ways.map((x) => [x.id, `${x.name}, ${money(x.price)}`] as const)}
          onChange={(way) => put({ way })}
        />
      )}
    </div>
  );
}
