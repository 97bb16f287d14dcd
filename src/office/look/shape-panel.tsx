import { ownWords, shapeLabels, shapeValueLabel } from '../../core/look/labels';
import type { LookView } from '../../services/sites/look-view';
import { type ShapeName, shapeKey, shapeOf, shapeOptions, shapeRange, shapes } from '../../core/look/shape';
import { benchHref } from '../places';
import { useBoot } from '../shop-context';
import { shapePanel as say } from '../words/look';
import { CardSign } from './card-signs';
import type { LookAct, LookState } from './look-state';

/** What belongs together, in the order in which a shop is made. */
const groups: readonly { readonly name: string; readonly holds: readonly ShapeName[] }[] = [
  {
    name: say.cardsAndRows,
    holds: ['cards', 'hover', 'phone', 'tablet', 'desk', 'least', 'gap', 'dividers', 'glance'],
  },
  { name: say.pictures, holds: ['picture', 'fit', 'tallest'] },
  { name: say.badges, holds: ['badge', 'badge-corner'] },
  { name: say.productPage, holds: ['product', 'gallery'] },
  { name: say.signOfTheCart, holds: ['sign', 'sign-count', 'sign-size', 'sign-fill', 'sign-colour'] },
];

/** What the owner would look at while changing one of them. */
const shownBy: Readonly<Partial<Record<ShapeName, LookState['part']>>> = {
  product: 'product',
  gallery: 'product',
};

interface Props {
  readonly state: LookState;
  readonly act: (act: LookAct) => void;
  readonly departures: LookView['departures'];
}

/** How the shop is made: cards, columns, pictures, badges, the product page, the sign of the cart. */
export function ShapePanel({ state, act, departures }: Props) {
  const shape = shapeOf(state.decisions);
  const decide = (name: ShapeName, value: string) => {
    act({
      do: 'decide',
      name: shapeKey(name),
      value: value === shapes[name].usual ? undefined : value,
      goesOn: shapeRange(name) !== undefined,
    });
    act({ do: 'show', sample: { part: shownBy[name] ?? 'row' } });
  };
  return (
    <section className="lk-shape" aria-label={say.shapeOfTheShop}>
      {groups.map(({ name, holds }) => (
        <fieldset key={name}>
          <legend>{name}</legend>
          {holds.map((one) => (
            <Field key={one} name={one} value={shape[one]} onChange={(value) => decide(one, value)} />
          ))}
        </fieldset>
      ))}
      <Departures list={departures} />
    </section>
  );
}

/** Widgets that do not go with a change made here, each with the way to where it is changed. */
function Departures({ list }: { list: LookView['departures'] }) {
  const { site } = useBoot();
  if (list.length === 0) return null;
  return (
    <section className="departs" aria-labelledby="departs">
      <h2 id="departs">{say.departs(list.length)}</h2>
      <ul>
        {list.map((d) => (
          <li key={`${d.what} ${d.page}`}>
            <a className="underline" href={benchHref(site.slug, d.page)}>
              {d.what}
            </a>
            <span className="note">
              {[say.on(d.pageName), ...d.own.map((o) => ownWords(o.name, o.value))].join(', ')}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

interface FieldProps {
  readonly name: ShapeName;
  readonly value: string;
  readonly onChange: (value: string) => void;
}

const few: readonly ShapeName[] = ['phone', 'tablet', 'desk'];

function Field({ name, value, onChange }: FieldProps) {
  // Few steps are chosen, many are pulled.
  const options = shapeOptions(name) ?? (few.includes(name) ? ['1', '2', '3', '4', '5', '6'] : undefined);
  if (name === 'cards' && options) return <CardChoice options={options} value={value} onChange={onChange} />;
  if (options)
    return (
      <label className="row">
        {shapeLabels[name]}
        <select value={value} onChange={(e) => onChange(e.target.value)}>
          {options.map((o) => (
            <option key={o} value={o}>
              {shapeValueLabel(name, o)}
            </option>
          ))}
        </select>
      </label>
    );
  const range = shapeRange(name);
  return (
    <label className="row">
      {shapeLabels[name]}
      <span>
        <input
          type="range"
          min={range?.least}
          max={range?.most}
          value={value}
          onChange={(e) => onChange(e.target.value)}
        />
        <output className="mono">{shapeValueLabel(name, value)}</output>
      </span>
    </label>
  );
}

/** Looks of cards are chosen by what they look like. */
function CardChoice({ options, value, onChange }: Omit<FieldProps, 'name'> & { options: readonly string[] }) {
  return (
    <div className="cards" role="radiogroup" aria-label={shapeLabels.cards}>
      {options.map((o) => (
        <label key={o}>
          <input type="radio" name="card-look" checked={o === value} onChange={() => onChange(o)} />
          <CardSign look={o} />
          <span>{shapeValueLabel('cards', o)}</span>
        </label>
      ))}
    </div>
  );
}
