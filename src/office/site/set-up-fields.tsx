/** Answers of the set-up: boxes to tick, and one of a few. */
export function Ticks<T extends string>({
  legend,
  all,
  words,
  chosen,
  onChange,
}: {
  legend: string;
  all: readonly T[];
  words: (v: T) => string;
  chosen: readonly T[];
  onChange: (v: T[]) => void;
}) {
  return (
    <fieldset>
      <legend className="lab">{legend}</legend>
      <div className="ticks">
        {all.map((v) => (
          <label key={v}>
            <input
              type="checkbox"
              checked={chosen.includes(v)}
              onChange={(e) => onChange(all.filter((x) => (x === v ? e.target.checked : chosen.includes(x))))}
            />
            {words(v)}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

export function Seg<T extends string>({
  legend,
  value,
  options,
  onChoose,
}: {
  legend: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChoose: (v: T) => void;
}) {
  return (
    <div>
      <span className="lab">{legend}</span>
      <fieldset className="seg full" aria-label={legend}>
        {options.map(([v, words]) => (
          <button key={v} type="button" aria-pressed={v === value} onClick={() => onChoose(v)}>
            {words}
          </button>
        ))}
      </fieldset>
    </div>
  );
}
