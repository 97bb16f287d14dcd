import { type ReactNode, useId } from 'react';

/** Small parts that the sheet is made of. */
export const Wrong = ({ text, id }: { text?: string | undefined; id?: string }) =>
  text ? (
    <p className="field-error" id={id} role="alert">
      {text}
    </p>
  ) : null;

interface TextProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (v: string) => void;
  readonly unit?: string | undefined;
  readonly after?: string | undefined;
  readonly mode?: 'decimal' | 'numeric';
  readonly type?: string;
  readonly placeholder?: string;
  readonly error?: string | undefined;
  readonly most?: number;
}

export function TextField({
  label,
  value,
  onChange,
  unit,
  after,
  mode,
  type,
  placeholder,
  error,
  most,
}: TextProps) {
  const id = useId();
  return (
    <div>
      <label className="lab" htmlFor={id}>
        {label}
      </label>
      <div className={mode ? 'in mono' : 'in'}>
        {unit && <u>{unit}</u>}
        <input
          id={id}
          type={type}
          value={value}
          inputMode={mode}
          placeholder={placeholder}
          maxLength={most}
          onChange={(e) => onChange(e.target.value)}
          aria-invalid={!!error}
          aria-describedby={error ? `${id}-e` : undefined}
        />
        {after && <u>{after}</u>}
      </div>
      <Wrong text={error} id={`${id}-e`} />
    </div>
  );
}

/** The option that a select was set to; nothing for one that is none of them. */
export const chosenOf = <T extends string>(options: readonly T[], value: string): T | undefined =>
  options.find((option) => option === value);

export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (v: T) => void;
}) {
  const id = useId();
  return (
    <div>
      <label className="lab" htmlFor={id}>
        {label}
      </label>
      <select
        id={id}
        className="in"
        value={value}
        onChange={(e) => {
          const chosen = chosenOf(
            options.map(([v]) => v),
            e.target.value,
          );
          if (chosen !== undefined) onChange(chosen);
        }}
      >
        {options.map(([v, words]) => (
          <option key={v} value={v}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}

export const Tick = ({
  checked,
  onChange,
  children,
}: {
  checked: boolean;
  onChange: (v: boolean) => void;
  children: ReactNode;
}) => (
  <label className="tick">
    <input type="checkbox" checked={checked} onChange={(e) => onChange(e.target.checked)} />
    {children}
  </label>
);

/** A part of the sheet that folds: what most products do not need is a press away. */
export function Part({
  title,
  note,
  open,
  children,
}: {
  title: string;
  note?: string | undefined;
  open?: boolean;
  children: ReactNode;
}) {
  return (
    <details className="gpart" open={open}>
      <summary>
        <h2>{title}</h2>
        {note && <span className="note">{note}</span>}
      </summary>
      <div>{children}</div>
    </details>
  );
}
