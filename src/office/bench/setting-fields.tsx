import { useEffect, useState } from 'react';
import type { GoodsLine } from '../../services/goods/lines';
import type { SettingField } from '../../core/placement/kind';
import { hrefOf } from '../places';
import { useBoot } from '../shop-context';
import { useParting } from '../ui/use-parting';
import { settingFields as say } from '../words/bench';

export type FieldValues = Readonly<Record<string, unknown>>;

interface Props {
  readonly fields: readonly SettingField[];
  readonly values: FieldValues;
  readonly goods: readonly GoodsLine[];
  readonly categories: readonly string[];
  readonly former: Readonly<Record<string, string>>;
  readonly pictures: readonly string[];
  readonly onChange: (values: Record<string, unknown>) => void;
}

/** A widget's settings as its own table asks for them; those that make no difference now are left out. */
export function SettingFields({ fields, values, onChange, goods, ...lists }: Props) {
  const asked = fields.filter((f) => !f.when || f.when.slice(1).includes(values[f.when[0]]));
  return (
    <>
      {asked.map((f) => (
        <Field
          key={f.key}
          field={f}
          value={values[f.key]}
          of={goods.find((g) => g.slug === values.goods)}
          goods={goods}
          {...lists}
          onSet={(v) => onChange({ ...values, [f.key]: v })}
        />
      ))}
    </>
  );
}

interface FieldProps extends Omit<Props, 'fields' | 'values' | 'onChange'> {
  readonly field: SettingField;
  readonly value: unknown;
  /** The product the widget is about, where it is about one. */
  readonly of: GoodsLine | undefined;
  readonly onSet: (value: unknown) => void;
}

function Field(props: FieldProps) {
  const { field, value, onSet } = props;
  const id = `set-${field.key}`;
  if (field.as === 'yes')
    return (
      <div className="f">
        <label className="flex gap-2">
          <input type="checkbox" checked={value === true} onChange={(e) => onSet(e.target.checked)} />
          {field.label}
        </label>
      </div>
    );
  if (field.as === 'choice') return <Choice field={field} value={String(value ?? '')} onChoose={onSet} />;
  if (field.as === 'parts')
    return <Parts field={field} value={(value as string[] | undefined) ?? []} onSet={onSet} />;
  if (field.as === 'goods-choice') return <ChoicePick {...props} id={id} value={String(value ?? '')} />;
  if (field.as === 'goods-list')
    return <GoodsList {...props} value={(value as string[] | undefined) ?? []} />;
  return (
    <div className={field.as === 'number' ? 'f half' : 'f'}>
      <label className="lab" htmlFor={id}>
        {field.label}
      </label>
      <Under id={id} {...props} value={String(value ?? '')} />
    </div>
  );
}

/** What stands under a label and asks for one thing. */
function Under({ id, ...props }: FieldProps & { id: string; value: string }) {
  const { field, value, onSet } = props;
  switch (field.as) {
    case 'goods':
      return <GoodsPick id={id} {...props} />;
    case 'picture':
      return <PicturePick id={id} {...props} />;
    case 'category':
      return (
        <select
          id={id}
          className="in"
          value={props.former[value] ?? value}
          onChange={(e) => onSet(e.target.value)}
        >
          <option value="">{say.allGoods}</option>
          {props.categories.map((c) => (
            <option key={c}>{c}</option>
          ))}
        </select>
      );
    case 'number':
      return (
        <input
          id={id}
          className="in mono"
          type="number"
          min={field.least}
          max={field.most}
          value={Number(value || field.least || 1)}
          onChange={(e) => e.target.checkValidity() && e.target.value && onSet(Number(e.target.value))}
        />
      );
    default:
      return (
        <Typed
          id={id}
          value={value}
          long={field.as === 'long-text'}
          placeholder={field.placeholder ?? ''}
          onSave={onSet}
        />
      );
  }
}

function GoodsPick({ id, value, goods, onSet }: FieldProps & { id: string; value: string }) {
  const { site } = useBoot();
  if (goods.length === 0)
    return (
      <p className="note">
        {say.thereAreNoGoodsYet}{' '}
        <a className="underline" href={`${hrefOf(site.slug, 'goods')}?id=new`}>
          {say.addTheFirst}
        </a>
        .
      </p>
    );
  const chosen = goods.find((g) => g.slug === value);
  return (
    <>
      <select id={id} className="in" value={value} onChange={(e) => onSet(e.target.value)}>
        {!chosen && <option value={value}>{value ? say.gone(value) : say.chooseOne}</option>}
        {goods.map((g) => (
          <option key={g.slug} value={g.slug}>
            {g.name}
          </option>
        ))}
      </select>
      {value !== '' && (!chosen || chosen.shows === 'hidden') && (
        <p className="gmend mt-1" role="status">
          {chosen ? say.isHiddenSoShoppersReadHere(chosen.name) : say.thisProductIsGoneSoShoppers}
        </p>
      )}
    </>
  );
}

/** One choice of a product with options; nothing is asked where it has none. */
function ChoicePick({ id, field, value, of, onSet }: FieldProps & { id: string; value: string }) {
  const labels = (of?.variants ?? []).map((v) => v.label).filter(Boolean);
  if (labels.length === 0 && !value) return null;
  return (
    <div className="f">
      <label className="lab" htmlFor={id}>
        {field.label}
      </label>
      <select id={id} className="in" value={value} onChange={(e) => onSet(e.target.value)}>
        <option value="">{field.placeholder}</option>
        {labels.map((l) => (
          <option key={l} value={l}>
            {l}
          </option>
        ))}
        {value && !labels.includes(value) && <option value={value}>{say.gone2(value)}</option>}
      </select>
      {value && !labels.includes(value) && (
        <p className="gmend mt-1" role="status">
          {say.noLongerHasThisChoiceChoose(of?.name ?? say.theProduct)}
        </p>
      )}
    </div>
  );
}

/** Chosen by ticking; they keep the order they were ticked in. */
function GoodsList({ field, value, goods, onSet }: FieldProps & { value: string[] }) {
  return (
    <fieldset className="f">
      <legend className="lab">
        {field.label} <em>{value.length}</em>
      </legend>
      <div className="pagelist">
        {goods.map((g) => (
          <label key={g.slug}>
            <input
              type="checkbox"
              checked={value.includes(g.slug)}
              onChange={(e) =>
                onSet(e.target.checked ? [...value, g.slug] : value.filter((s) => s !== g.slug))
              }
            />
            {g.name}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** One of the site's own pictures, or an address. */
function PicturePick({ id, value, field, pictures, onSet }: FieldProps & { id: string; value: string }) {
  return (
    <>
      <Typed
        id={id}
        value={value}
        long={false}
        placeholder={field.placeholder ?? ''}
        onSave={onSet}
        list={`${id}-list`}
      />
      <datalist id={`${id}-list`}>
        {pictures.map((p) => (
          <option key={p} value={p} />
        ))}
      </datalist>
    </>
  );
}

function Parts({
  field,
  value,
  onSet,
}: {
  field: SettingField;
  value: string[];
  onSet: (v: string[]) => void;
}) {
  const all = (field.options ?? []).map(([v]) => v);
  const toggle = (part: string, on: boolean) =>
    onSet(all.filter((p) => (p === part ? on : value.includes(p))));
  return (
    <fieldset className="f">
      <legend className="lab">{field.label}</legend>
      <div className="parts">
        {(field.options ?? []).map(([v, words]) => (
          <label key={v}>
            <input
              type="checkbox"
              checked={value.includes(v)}
              onChange={(e) => toggle(v, e.target.checked)}
            />
            {words}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** Few and short choices stand side by side, others in a list. */
function Choice({
  field,
  value,
  onChoose,
}: {
  field: SettingField;
  value: string;
  onChoose: (v: string) => void;
}) {
  const options = field.options ?? [];
  const id = `set-${field.key}`;
  if (options.length > 3 || options.reduce((n, [, words]) => n + words.length, 0) > 30) {
    return (
      <div className="f">
        <label className="lab" htmlFor={id}>
          {field.label}
        </label>
        <select id={id} className="in" value={value} onChange={(e) => onChoose(e.target.value)}>
          {options.map(([v, words]) => (
            <option key={v} value={v}>
              {words}
            </option>
          ))}
        </select>
      </div>
    );
  }
  return (
    <div className="f">
      <span className="lab">{field.label}</span>
      <fieldset className="seg full" aria-label={field.label}>
        {options.map(([v, words]) => (
          <button key={v} type="button" aria-pressed={v === value} onClick={() => onChoose(v)}>
            {words}
          </button>
        ))}
      </fieldset>
    </div>
  );
}

/** Saved when typing rests, or when the field or the page is left: each save draws the page anew. */
function Typed({
  id,
  value,
  long,
  placeholder,
  list,
  onSave,
}: {
  id: string;
  value: string;
  long: boolean;
  placeholder: string;
  list?: string;
  onSave: (v: string) => void;
}) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const save = () => {
    if (text !== value) onSave(text);
  };
  useEffect(() => {
    if (text === value) return;
    const rest = setTimeout(save, 500);
    return () => clearTimeout(rest);
  });
  useParting(save);
  if (long)
    return (
      <textarea
        id={id}
        className="in"
        rows={4}
        value={text}
        placeholder={placeholder}
        maxLength={1000}
        onChange={(e) => setText(e.target.value)}
        onBlur={save}
      />
    );
  return (
    <div className="in">
      <input
        id={id}
        value={text}
        placeholder={placeholder}
        maxLength={500}
        list={list}
        onChange={(e) => setText(e.target.value)}
        onBlur={save}
      />
    </div>
  );
}
