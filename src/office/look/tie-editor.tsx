import { useId, useState } from 'react';
import type { Found, FoundColour } from '../../core/look/found/found';
import { isSource, type SourceName, sourceNames } from '../../core/look/found/sources';
import { colourName, sourceLabels, tokenLabels, valueLabel } from '../../core/look/labels';
import { type LookPlan, type Tie, tieName, tieOf } from '../../core/look/plan';
import { cleanValue, type TokenKind, type TokenName, tokenOf } from '../../core/look/tokens';
import type { WornToken } from '../../core/look/wear';
import { tieEditor as say } from '../words/look';
import type { LookAct } from './look-state';

interface Props {
  readonly name: TokenName;
  readonly token: WornToken;
  readonly found: Found;
  readonly decisions: LookPlan;
  readonly act: (act: LookAct) => void;
}

/** Ties the thread of a token to something found, or sets it free with a value of its own. */
export function TieEditor({ name, token, found, decisions, act }: Props) {
  const decide = (value: Tie | undefined, goesOn = false) =>
    act({ do: 'decide', name: tieName(name), value, goesOn });
  const tie = tieOf(decisions, name);
  return (
    <div className="lk-tie">
      {tokenOf(name).kind === 'colour' ? (
        <ColourTie name={name} token={token} found={found} onTie={decide} />
      ) : (
        <PlainTie name={name} token={token} found={found} onTie={decide} />
      )}
      {tie && (
        <button type="button" className="btn" onClick={() => decide(undefined)}>
          {say.asFound}
        </button>
      )}
    </div>
  );
}

interface TieProps {
  readonly name: TokenName;
  readonly token: WornToken;
  readonly found: Found;
  readonly onTie: (tie: Tie | undefined, goesOn?: boolean) => void;
}

/** The name under which a colour is held: the first that says what it is for. */
const heldBy = (c: FoundColour): SourceName | undefined => c.sources[0];

function ColourTie({ name, token, found, onTie }: TieProps) {
  const id = useId();
  const choose = (c: FoundColour) => {
    const source = heldBy(c);
    // A colour that has no use of its own on the site cannot be followed there: it is taken as it is.
    onTie(source ? { to: source } : { free: c.value });
  };
  const isWorn = (c: FoundColour) =>
    token.by === 'thread'
      ? token.source !== undefined && c.sources.includes(token.source)
      : token.wanted === c.value;
  return (
    <>
      <fieldset>
        <legend>{say.tieTo(tokenLabels[name])}</legend>
        {found.colours.map((c) => (
          <label key={c.value} title={colourName(c)}>
            <input type="radio" name={id} checked={isWorn(c)} onChange={() => choose(c)} />
            <i style={{ background: c.value }} />
            <span className="sr-only">{colourName(c)}</span>
          </label>
        ))}
      </fieldset>
      <OwnColour name={name} value={token.wanted} onTie={onTie} />
    </>
  );
}

function OwnColour({ name, value, onTie }: Pick<TieProps, 'name' | 'onTie'> & { value: string }) {
  return (
    <p className="own">
      <label>
        {say.aColourOfYourOwn}
        <input
          type="color"
          value={value}
          aria-label={say.ownColourFor(tokenLabels[name])}
          onChange={(e) => onTie({ free: e.target.value }, true)}
        />
      </label>
      <TypedField
        className="mono"
        value={value.toUpperCase()}
        label={say.asFigures}
        onType={(text) => {
          const typed = cleanValue('colour', hexOf(text));
          if (typed) onTie({ free: typed });
        }}
      />
    </p>
  );
}

interface TypedProps {
  readonly value: string;
  readonly label: string;
  readonly className: string;
  readonly type?: 'text' | 'number';
  readonly step?: number | 'any';
  readonly onType: (text: string) => void;
}

/** A field that keeps what is typed while it has the focus, whatever becomes of it meanwhile. */
function TypedField({ value, label, className, type = 'text', step, onType }: TypedProps) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <input
      className={className}
      type={type}
      step={step}
      value={typed ?? value}
      aria-label={label}
      spellCheck={false}
      onFocus={() => setTyped(value)}
      onBlur={() => setTyped(null)}
      onChange={(e) => {
        setTyped(e.target.value);
        onType(e.target.value);
      }}
    />
  );
}

/** "#abc" and "AABBCC" are colours, too. */
function hexOf(text: string): string {
  const digits = text.trim().replace(/^#/, '').toLowerCase();
  return `#${digits.length === 3 ? [...digits].map((d) => d + d).join('') : digits}`;
}

const cases = ['none', 'uppercase', 'lowercase', 'capitalize'] as const;

/** What the site has of a kind, by the names that can be followed. */
function choicesFor(name: TokenName, found: Found): readonly SourceName[] {
  const { kind, takes } = tokenOf(name);
  const kinds: Partial<Record<TokenKind, RegExp>> = {
    face: /-face$/,
    corner: /-corner$/,
    length: /^space$|^width$|-pad-|-edge-width$/,
    weight: /-weight$/,
    case: /-case$/,
    shadow: /-shadow$/,
  };
  const like = kinds[kind];
  const all = like ? sourceNames.filter((s) => like.test(s)) : takes;
  return [...new Set([...takes, ...all])].filter((s) => found.sources[s] !== undefined);
}

function PlainTie({ name, token, found, onTie }: TieProps) {
  const { kind } = tokenOf(name);
  const value = token.by === 'thread' && token.source ? token.source : '';
  return (
    <p className="own">
      <label>
        {say.takes}
        <select
          value={value}
          aria-label={say.tieTo(tokenLabels[name])}
          onChange={(e) => isSource(e.target.value) && onTie({ to: e.target.value })}
        >
          {value === '' && (
            <option value="">{token.by === 'free' ? say.aValueOfItsOwn : say.madeOfTheOthers}</option>
          )}
          {choicesFor(name, found).map((s) => (
            <option key={s} value={s}>
              {say.choice(sourceLabels[s], valueLabel(kind, cleanValue(kind, found.sources[s] ?? '') ?? ''))}
            </option>
          ))}
        </select>
      </label>
      <OwnValue name={name} token={token} found={found} onTie={onTie} />
    </p>
  );
}

function OwnValue({ name, token, found, onTie }: TieProps) {
  const { kind } = tokenOf(name);
  const free = (text: string) => {
    const clean = cleanValue(kind, text);
    if (clean !== undefined) onTie({ free: clean }, true);
  };
  if (kind === 'shadow') return null;
  const values = listed(kind, found);
  if (values)
    return (
      <label>
        {say.or}
        <select
          value={token.value}
          aria-label={say.ownValueFor(tokenLabels[name])}
          onChange={(e) => free(e.target.value)}
        >
          {!values.includes(token.value) && (
            <option value={token.value}>{valueLabel(kind, token.value)}</option>
          )}
          {values.map((v) => (
            <option key={v} value={v}>
              {valueLabel(kind, v)}
            </option>
          ))}
        </select>
      </label>
    );
  return (
    <span className="lk-or">
      {kind === 'length' || kind === 'corner' ? say.orPx : say.or}
      <TypedField
        className="mono"
        type="number"
        step={kind === 'weight' ? 100 : 'any'}
        value={token.value}
        label={say.ownValueFor(tokenLabels[name])}
        onType={free}
      />
    </span>
  );
}

/** What may be chosen of kinds that have a few values; undefined for figures. */
function listed(kind: TokenKind, found: Found): readonly string[] | undefined {
  if (kind === 'case') return cases;
  if (kind === 'line') return ['underline', 'none'];
  return kind === 'face' ? facesOf(found) : undefined;
}

const generic = ["'Georgia', serif", 'system-ui, sans-serif', 'monospace'];
const facesOf = (found: Found): string[] => [
  ...new Set([...found.fonts.flatMap((f) => cleanValue('face', f.family) ?? []), ...generic]),
];
