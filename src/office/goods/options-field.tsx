import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import type { Option } from '../../core/goods/product';
import { combinations, optionLimits, renameValue, syncRows } from '../../core/goods/variants';
import { blankRow, type Draft, type Row } from './form';
import type { Change } from './use-draft';
import { optionsField as say } from '../words/goods';

/** New choices begin like those most like them, with nothing counted yet where those are counted. */
const fresh = (values: string[], like: Row | undefined): Row => ({
  ...blankRow,
  values,
  difference: like?.difference ?? '',
  stock: like && like.stock !== '' ? '0' : '',
  weight: like?.weight ?? '',
});

const withOptions = (d: Draft, options: Option[], rows: readonly Row[] = d.rows): Draft => {
  const count = combinations(options).length;
  // Too many to be shown or sold: the options stay as they were.
  if (count > optionLimits.variants) return d;
  return {
    ...d,
    options,
    rows: options.length === 0 ? [{ ...(rows[0] ?? blankRow), values: [] }] : syncRows(options, rows, fresh),
  };
};

/** Up to three options with their values; the choices they make stand in the grid below. */
export function OptionsField({ draft, change }: { draft: Draft; change: Change }) {
  const set = (n: number, option: Option) =>
    change(`option-${n}`, (d) =>
      withOptions(
        d,
        d.options.map((o, i) => (i === n ? option : o)),
      ),
    );
  const count = combinations(draft.options).length;
  return (
    <div className="axes">
      {draft.options.map((o, n) => (
        <Axis
          // biome-ignore lint/suspicious/noArrayIndexKey: options have no identity but their place; names change while typing
          key={n}
          option={o}
          onChange={(to) => set(n, to)}
          onRename={(from, to) =>
            change(`rename-${n}`, (d) => {
              const options = d.options.map((x, i) =>
                i === n
                  ? { ...x, values: x.values.map((v) => (v.name === from ? { ...v, name: to } : v)) }
                  : x,
              );
              return { ...d, options, rows: renameValue(d.rows, n, from, to) };
            })
          }
          onRemove={() =>
            change('option-gone', (d) => {
              const options = d.options.filter((_, i) => i !== n);
              const rows = d.rows.map((r) => ({ ...r, values: r.values.filter((_, i) => i !== n) }));
              return withOptions(
                d,
                options,
                rows.filter(
                  (r, i) => rows.findIndex((x) => x.values.join('\n') === r.values.join('\n')) === i,
                ),
              );
            })
          }
        />
      ))}
      {draft.options.length < optionLimits.options && (
        <button
          type="button"
          className="btn sm quiet"
          onClick={() =>
            change('option-new', (d) =>
              withOptions(
                d,
                [
                  ...d.options,
                  {
                    name:
                      [say.size, say.colour, say.material].find(
                        (x) => !d.options.some((o) => o.name === x),
                      ) ?? say.option,
                    as: 'list',
                    values: [{ name: say.one, colour: '' }],
                  },
                ],
                d.rows.map((r) => ({ ...r, values: [...r.values, say.one] })),
              ),
            )
          }
        >
          <Plus size={12} aria-hidden />
          {draft.options.length ? say.anotherOption : say.optionsLikeSizeOrColour}
        </button>
      )}
      {draft.options.length > 0 && (
        <span className="note">
          {count.toLocaleString('en')} {count === 1 ? say.choice : say.choices}
        </span>
      )}
    </div>
  );
}

function Axis({
  option,
  onChange,
  onRename,
  onRemove,
}: {
  option: Option;
  onChange: (o: Option) => void;
  onRename: (from: string, to: string) => void;
  onRemove: () => void;
}) {
  const [typed, setTyped] = useState('');
  const add = (text: string) => {
    const names = text
      .split(/[,\n\t;]+/)
      .map((t) => t.trim())
      .filter((t) => t && !option.values.some((v) => v.name === t));
    if (names.length)
      onChange({
        ...option,
        values: [...option.values, ...names.map((name) => ({ name, colour: '' }))].slice(
          0,
          optionLimits.values,
        ),
      });
    setTyped('');
  };
  return (
    <div className="axis">
      <input
        className="axis-name"
        aria-label={say.nameOfTheOption}
        value={option.name}
        maxLength={40}
        onChange={(e) => onChange({ ...option, name: e.target.value })}
      />
      {option.values.map((v, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a value's name changes while it is typed
        <span className="axis-value" key={n}>
          {option.as === 'swatch' && (
            <input
              type="color"
              aria-label={say.colourOf(v.name)}
              value={v.colour || '#cccccc'}
              onChange={(e) =>
                onChange({
                  ...option,
                  values: option.values.map((x, i) => (i === n ? { ...x, colour: e.target.value } : x)),
                })
              }
            />
          )}
          <input
            aria-label={say.value(option.name, n + 1)}
            value={v.name}
            maxLength={60}
            onChange={(e) =>
              e.target.value.trim() &&
              !option.values.some((x) => x.name === e.target.value) &&
              onRename(v.name, e.target.value)
            }
          />
          <button
            type="button"
            aria-label={say.takeOut(option.name, v.name)}
            disabled={option.values.length === 1}
            onClick={() => onChange({ ...option, values: option.values.filter((_, i) => i !== n) })}
          >
            <X size={11} />
          </button>
        </span>
      ))}
      <input
        className="axis-add"
        aria-label={say.another(option.name)}
        placeholder="+"
        value={typed}
        onChange={(e) => (/[,;\n\t]/.test(e.target.value) ? add(e.target.value) : setTyped(e.target.value))}
        onPaste={(e) => {
          const text = e.clipboardData.getData('text');
          if (/[,;\n\t]/.test(text)) {
            e.preventDefault();
            add(text);
          }
        }}
        onKeyDown={(e) => {
          if (e.key === 'Enter') {
            e.preventDefault();
            add(typed);
          }
        }}
        onBlur={() => typed && add(typed)}
      />
      <button
        type="button"
        className="btn sm quiet"
        aria-pressed={option.as === 'swatch'}
        onClick={() => onChange({ ...option, as: option.as === 'swatch' ? 'list' : 'swatch' })}
      >
        {option.as === 'swatch' ? say.asColours : say.asWords}
      </button>
      <button
        type="button"
        className="btn sm quiet beet"
        aria-label={say.takeOutTheOption(option.name)}
        onClick={onRemove}
      >
        <X size={12} aria-hidden />
      </button>
    </div>
  );
}
