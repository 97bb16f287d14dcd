import { useId } from 'react';

/** A field with its label, and what is wrong with it or worth knowing below. */
export function LabelledField({
  label,
  name,
  type = 'text',
  auto,
  error,
  hint,
}: {
  label: string;
  name: string;
  type?: string;
  auto: string;
  error?: string | undefined;
  hint?: string;
}) {
  // A page may have two forms that ask for the same.
  const id = useId();
  return (
    <div>
      <label className="lab" htmlFor={id}>
        {label}
      </label>
      <div className="in">
        <input
          id={id}
          name={name}
          type={type}
          autoComplete={auto}
          required
          aria-invalid={!!error}
          aria-describedby={error || hint ? `${id}-e` : undefined}
        />
      </div>
      {error ? (
        <p className="field-error" id={`${id}-e`}>
          {error}
        </p>
      ) : (
        hint && (
          <p className="note mt-1" id={`${id}-e`}>
            {hint}
          </p>
        )
      )}
    </div>
  );
}
