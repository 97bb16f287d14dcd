import { Plus, X } from 'lucide-react';
import { moreFields as say } from '../words/goods';
import { Part, TextField, Tick } from './fields';
import type { Draft, Errors } from './form';
import type { Change } from './use-draft';

type Text = Draft['texts'][number];
const blank: Text = { label: '', most: '40', required: false, price: '' };

/** Texts that a product may ask for; chosen by hand. */
const MOST_TEXTS = 5;

/** What the buyer writes: initials, a name on the tag; each with its room and its price. */
export function BuyerTexts({
  draft,
  change,
  errors,
  symbol,
}: {
  draft: Draft;
  change: Change;
  errors: Errors;
  symbol: string;
}) {
  const { texts } = draft;
  const keep = (to: readonly Text[]) => change('texts', (d) => ({ ...d, texts: [...to] }));
  return (
    <Part
      title={say.whatTheBuyerWrites}
      note={texts.map((t) => t.label).join(', ')}
      open={Object.keys(errors).some((e) => e.startsWith('texts'))}
    >
      {texts.map((text, n) => (
        <TextRow
          // biome-ignore lint/suspicious/noArrayIndexKey: texts have no identity but their place
          key={n}
          text={text}
          symbol={symbol}
          error={errors[`texts-${n}`]}
          put={(part) => keep(texts.map((x, i) => (i === n ? { ...x, ...part } : x)))}
          onRemove={() => keep(texts.filter((_, i) => i !== n))}
        />
      ))}
      {texts.length < MOST_TEXTS && (
        <button type="button" className="btn sm" onClick={() => keep([...texts, blank])}>
          <Plus size={12} aria-hidden />
          {say.aTextLikeInitials}
        </button>
      )}
    </Part>
  );
}

function TextRow({
  text,
  symbol,
  error,
  put,
  onRemove,
}: {
  text: Text;
  symbol: string;
  error: string | undefined;
  put: (part: Partial<Text>) => void;
  onRemove: () => void;
}) {
  return (
    <div className="g-text">
      <TextField
        label={say.asksFor}
        value={text.label}
        placeholder={say.initialsOnTheTag}
        most={60}
        onChange={(label) => put({ label })}
        error={error}
      />
      <TextField
        label={say.upTo}
        value={text.most}
        mode="numeric"
        after={say.letters}
        onChange={(most) => put({ most })}
      />
      <TextField
        label={say.costs}
        value={text.price}
        mode="decimal"
        unit={symbol}
        placeholder={say.nothing}
        onChange={(price) => put({ price })}
      />
      <Tick checked={text.required} onChange={(required) => put({ required })}>
        {say.mustBeWritten}
      </Tick>
      <button
        type="button"
        className="btn sm quiet beet"
        aria-label={say.takeOut(text.label || say.thisText)}
        onClick={onRemove}
      >
        <X size={12} aria-hidden />
      </button>
    </div>
  );
}
