import { type KeyboardEvent, useState } from 'react';

/** A cell that is saved by Enter or by leaving it, and taken back by Escape. What cannot be is said beside it. */
export function Cell({
  n,
  column,
  label,
  value,
  placeholder,
  className = '',
  onSave,
}: {
  n: number;
  column: string;
  label: string;
  value: string;
  placeholder?: string;
  className?: string;
  onSave: (text: string) => string | undefined;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string>();
  const done = () => {
    if (typed === null || typed === value) return setTyped(null);
    const fault = onSave(typed);
    setWrong(fault);
    if (!fault) setTyped(null);
  };
  const key = (e: KeyboardEvent<HTMLInputElement>) => {
    if (e.key === 'Escape') {
      setTyped(null);
      setWrong(undefined);
    }
    const by = { Enter: 1, ArrowDown: 1, ArrowUp: -1 }[e.key] ?? 0;
    if (!by) return;
    e.preventDefault();
    done();
    const next = e.currentTarget
      .closest('tbody')
      ?.querySelector<HTMLInputElement>(`[data-at="${n + by} ${column}"]`);
    next?.focus();
    next?.select();
  };
  return (
    <>
      <input
        className={`cell mono ${className}${wrong ? ' wrong' : ''}`}
        data-at={`${n} ${column}`}
        aria-label={label}
        aria-invalid={!!wrong}
        value={typed ?? value}
        placeholder={placeholder}
        inputMode="decimal"
        onChange={(e) => {
          setTyped(e.target.value);
          setWrong(undefined);
        }}
        onBlur={done}
        onKeyDown={key}
      />
      {wrong && (
        <span className="field-error" role="alert">
          {wrong}
        </span>
      )}
    </>
  );
}
