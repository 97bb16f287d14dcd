import { useId } from 'react';

interface UrlFieldProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  /** Why it was refused; '' where it was not. */
  readonly wrong: string;
  readonly note: string;
  readonly placeholder?: string;
}

/** A web address that is typed, with what is wrong with it and what it is for. */
export function UrlField({ label, value, onChange, wrong, note, placeholder }: UrlFieldProps) {
  const id = useId();
  return (
    <>
      <label className="lab" htmlFor={id}>
        {label}
      </label>
      <div className="in mono">
        <input
          id={id}
          type="url"
          inputMode="url"
          value={value}
          placeholder={placeholder}
          aria-invalid={!!wrong}
          aria-describedby={`${id}-note`}
          spellCheck={false}
          onChange={(e) => onChange(e.target.value)}
        />
      </div>
      {wrong && (
        <p className="field-error" role="alert">
          {wrong}
        </p>
      )}
      <p className="note mt-1" id={`${id}-note`}>
        {note}
      </p>
    </>
  );
}
