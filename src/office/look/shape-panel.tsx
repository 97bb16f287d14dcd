import { shapeLabels, shapeValueLabel } from '../../core/look/labels';
import { type ShapeName, shapeKey, shapeOf, shapeOptions, shapeRange, shapes } from '../../core/look/shape';
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
}

/** How the shop is made: cards, columns, pictures, badges, the product page, the sign of the cart. */
export function ShapePanel({ state, act }: Props) {
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
