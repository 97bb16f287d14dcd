import { type ReactNode, useEffect, useId, useState } from 'react';
import { decimalText, parseMoney } from '../../core/money/format';
import { TextField } from '../goods/fields';
import { useBoot, useMoney } from '../shop-context';
import { fields as say } from '../words/till';

interface Typed<T> {
  readonly label: string;
  readonly value: T;
  readonly onChange: (v: T) => void;
  readonly hidden?: boolean;
  readonly placeholder?: string;
}

/** What is typed stays as it is typed until it can be read; only what can be read goes on. */
function useTyped<T>(
  value: T,
  show: (v: T) => string,
  read: (text: string) => T | undefined,
  onChange: (v: T) => void,
) {
  const [text, setText] = useState(() => show(value));
  useEffect(() => setText((now) => (read(now) === value ? now : show(value))), [value, read, show]);
  const write = (to: string) => {
    setText(to);
    const v = read(to);
    if (v !== undefined && v !== value) onChange(v);
  };
  return { text, write, wrong: read(text) === undefined };
}

const Box = ({
  label,
  id,
  hidden,
  unit,
  after,
  children,
}: {
  label: string;
  id: string;
  hidden?: boolean | undefined;
  unit?: string;
  after?: string | undefined;
  children: ReactNode;
}) => (
  <div>
    <label className={hidden ? 'sr-only' : 'lab'} htmlFor={id}>
      {label}
    </label>
    <div className="in mono">
      {unit && <u>{unit}</u>}
      {children}
      {after && <u>{after}</u>}
    </div>
  </div>
);

/** An amount of money; nothing where that is allowed. */
export function Amount<T extends number | null>({
  label,
  value,
  onChange,
  hidden,
  placeholder,
  empty,
}: Typed<T> & { readonly empty?: boolean }) {
  const { site } = useBoot();
  const money = useMoney();
  const id = useId();
  const [{ show, read }] = useState(() => ({
    show: (v: T) => (v === null ? '' : decimalText(v, site.currency)),
    read: (text: string): T | undefined => {
      if (text.trim() === '') return empty ? (null as T) : undefined;
      const r = parseMoney(text, site.currency);
      return r.ok && r.value >= 0 ? (r.value as unknown as T) : undefined;
    },
  }));
  const { text, write, wrong } = useTyped(value, show, read, onChange);
  return (
    <Box label={label} id={id} hidden={hidden} unit={money(0).replace(/[\d.,\s]/g, '')}>
      <input
        id={id}
        value={text}
        inputMode="decimal"
        placeholder={placeholder}
        aria-invalid={wrong}
        onChange={(e) => write(e.target.value)}
      />
    </Box>
  );
}

/** A number; shown and read in another unit where one is given (grams as kilograms). */
export function Count<T extends number | null>({
  label,
  value,
  onChange,
  hidden,
  placeholder,
  after,
  per = 1,
  empty,
  most = 1e9,
}: Typed<T> & {
  readonly after?: string;
  readonly per?: number;
  readonly empty?: boolean;
  readonly most?: number;
}) {
  const id = useId();
  const [{ show, read }] = useState(() => ({
    show: (v: T) => (v === null ? '' : String(v / per)),
    read: (text: string): T | undefined => {
      const bare = text.trim().replace(',', '.');
      if (bare === '') return empty ? (null as T) : undefined;
      const n = Math.round(Number(bare) * per * 1000) / 1000;
      return /^\d+(\.\d+)?$/.test(bare) && n <= most ? (n as T) : undefined;
    },
  }));
  const { text, write, wrong } = useTyped(value, show, read, onChange);
  return (
    <Box label={label} id={id} hidden={hidden} after={after}>
      <input
        id={id}
        value={text}
        inputMode="decimal"
        placeholder={placeholder}
        aria-invalid={wrong}
        onChange={(e) => write(e.target.value)}
      />
    </Box>
  );
}

export function Foot({
  part,
  beside = true,
}: {
  /** The cart beside counts with what is typed. */ beside?: boolean;
  part: {
    readonly changed: boolean;
    readonly save: { readonly isPending: boolean; readonly mutate: () => void };
    readonly reset: () => void;
  };
}) {
  return (
    <div className="tfoot">
      <button
        type="button"
        className="btn leaf"
        disabled={!part.changed || part.save.isPending}
        onClick={() => part.save.mutate()}
      >
        {part.save.isPending ? say.saving : say.save}
      </button>
      {part.changed && (
        <button type="button" className="btn quiet" onClick={part.reset}>
          {say.backToWhatIsSaved}
        </button>
      )}
      <span className="note" role="status">
        {part.changed
          ? say.goesLiveWhenYouSave(beside ? say.theCartBesideCountsWithIt : '')
          : say.savedAndLive}
      </span>
    </div>
  );
}

interface ListProps {
  readonly label: string;
  readonly items: readonly string[];
  /** What a text lists; an unfinished piece may be left out. */
  readonly read: (text: string) => string[];
  readonly between: string;
  readonly placeholder: string;
  readonly onChange: (items: string[]) => void;
}

/**
 * A list written as one text. What is typed stands as it is typed, half a date and a comma at the end too;
 * a list that changes elsewhere (Reset, undo) is written anew.
 */
export function ListField({ label, items, read, between, placeholder, onChange }: ListProps) {
  const written = items.join(between);
  const [typed, setTyped] = useState(written);
  return (
    <TextField
      label={label}
      value={read(typed).join(between) === written ? typed : written}
      placeholder={placeholder}
      onChange={(text) => {
        setTyped(text);
        onChange(read(text));
      }}
    />
  );
}
