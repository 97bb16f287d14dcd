import { type KeyboardEvent, useRef, useState } from 'react';

/**
 * A cell that is saved by Enter or by leaving it, and taken back by Escape. What cannot be is said beside
 * it.
 */
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
  // Enter saves and goes on, and going on leaves the cell: by then what was typed is saved, and a count is
  // not moved twice.
  const unsaved = useRef<string | null>(null);
  const type = (text: string | null) => {
    unsaved.current = text;
    setTyped(text);
  };
  const [wrong, setWrong] = useState<string>();
  const done = () => {
    const text = unsaved.current;
    if (text === null || text === value) return type(null);
    unsaved.current = null;
    const fault = onSave(text);
    setWrong(fault);
    type(fault ? text : null);
  };
  const key = (e: KeyboardEvent<HTMLInputElement>) => {
    if (e.key === 'Escape') {
      type(null);
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
          type(e.target.value);
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
