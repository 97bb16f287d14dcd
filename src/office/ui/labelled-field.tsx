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
  return (
    <div>
      <label className="lab" htmlFor={name}>
        {label}
      </label>
      <div className="in">
        <input
          id={name}
          name={name}
          type={type}
          autoComplete={auto}
          required
          aria-invalid={!!error}
          aria-describedby={error || hint ? `${name}-e` : undefined}
        />
      </div>
      {error ? (
        <p className="field-error" id={`${name}-e`}>
          {error}
        </p>
      ) : (
        hint && (
          <p className="note mt-1" id={`${name}-e`}>
            {hint}
          </p>
        )
      )}
    </div>
  );
}
