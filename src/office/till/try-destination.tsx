import type { ReactNode } from 'react';
import type { TillView, TriedCart } from '../../services/till/try-cart';
import { useMoney } from '../shop-context';
import { tryCart as say } from '../words/till';
import type { ChangeTried, TriedInput } from './use-try';

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
      <Pick
        id="t-to"
        label={say.goingTo}
        value={input.country}
        onPick={(country) => put({ country, state: '', way: '' })}
      >
        <option value="">{say.nobodyHasSaid}</option>
        {view.countries.map((c) => (
          <option key={c.code} value={c.code}>
            {c.name}
          </option>
        ))}
      </Pick>
      {states.length > 0 && (
        <Pick id="t-state" label={say.state} value={input.state} onPick={(state) => put({ state })}>
          <option value="">{say.any}</option>
          {states.map((x) => (
            <option key={x.code} value={x.code}>
              {x.name}
            </option>
          ))}
        </Pick>
      )}
      <div>
        <label className="lab" htmlFor="t-post">
          {say.postcode}
        </label>
        <div className="in">
          <input
            id="t-post"
            value={input.postcode}
            maxLength={20}
            onChange={(e) => put({ postcode: e.target.value })}
          />
        </div>
      </div>
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
        <Pick id="t-way" label={say.by} value={worked?.way ?? ''} onPick={(way) => put({ way })}>
          {ways.map((x) => (
            <option key={x.id} value={x.id}>
              {x.name}, {money(x.price)}
            </option>
          ))}
        </Pick>
      )}
    </div>
  );
}

const Pick = ({
  id,
  label,
  value,
  onPick,
  children,
}: {
  id: string;
  label: string;
  value: string;
  onPick: (value: string) => void;
  children: ReactNode;
}) => (
  <div>
    <label className="lab" htmlFor={id}>
      {label}
    </label>
    <select id={id} className="in" value={value} onChange={(e) => onPick(e.target.value)}>
      {children}
    </select>
  </div>
);
