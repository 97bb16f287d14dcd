import type { Found } from '../../core/look/found/found';
import { colourName, pairLabels, sourceLabels, tokenLabels, valueLabel } from '../../core/look/labels';
import { asName, tieName } from '../../core/look/plan';
import { type TokenName, tokenOf } from '../../core/look/tokens';
import type { Apart, Proof, Worn, WornToken } from '../../core/look/wear';
import { tokenRow as say } from '../words/look';
import type { LookAct, LookState } from './look-state';
import { TieEditor } from './tie-editor';
import { useSiteFaces } from './site-faces';

interface Props {
  readonly name: TokenName;
  readonly found: Found;
  readonly worn: Worn;
  readonly state: LookState;
  readonly act: (act: LookAct) => void;
}

/** One token: what it is, what it hangs on, the figure that proves it; opened, its thread can be tied elsewhere. */
export function TokenRow({ name, found, worn, state, act }: Props) {
  const token = worn.tokens[name];
  const proof = proofOf(name, worn);
  const isOpen = state.open === name;
  const isBad = proof !== undefined && !proof.passes;
  const isTied = state.decisions[tieName(name)] !== undefined;
  return (
    <li data-token={name} className={isBad ? 'bad' : ''}>
      <button
        type="button"
        className="tk"
        aria-expanded={isOpen}
        onClick={() => act({ do: 'open', token: isOpen ? null : name })}
      >
        <span className={token.by === 'thread' ? 'knot' : 'knot loose'} />
        <Sign name={name} token={token} />
        <span className="nm">
          <b>
            {tokenLabels[name]}
            {isTied && <i className="on-slip" title={say.onTheSlip} />}
          </b>
          <em>{takesWords(token, found)}</em>
        </span>
        <Figure name={name} token={token} proof={proof} apart={worn.apart.find((a) => a.one === name)} />
      </button>
      {proof?.remedy && <Remedy proof={proof} act={act} />}
      {token.loose && <p className="lk-loose">{say.isGone(sourceLabels[token.loose])}</p>}
      {isOpen && <TieEditor name={name} token={token} found={found} decisions={state.decisions} act={act} />}
    </li>
  );
}

/** The proof that is about this token: as what is read, or as what lies behind it. */
const proofOf = (name: TokenName, worn: Worn): Proof | undefined =>
  worn.proofs.find((p) => p.of === name) ??
  worn.proofs.find((p) => p.on === name && p.remedy?.token === name);

function Sign({ name, token }: { name: TokenName; token: WornToken }) {
  const faces = useSiteFaces();
  const { kind } = tokenOf(name);
  if (kind === 'colour') return <i className="sw" style={{ background: token.value }} />;
  const family =
    name === 'font' || name === 'heading-font' || name === 'button-font' ? faces(token.value) : undefined;
  if (kind === 'length')
    return <i className="sw ch mono" style={{ borderRadius: Math.min(14, Number(token.value)) }} />;
  return (
    <i className="sw ch" style={{ fontFamily: family }}>
      {kind === 'face' ? say.letters : ''}
    </i>
  );
}

/** "takes Brown of the buttons", "made of the others", "your own". */
function takesWords(token: WornToken, found: Found): string {
  if (token.by === 'free') return say.yourOwn;
  if (token.by === 'made' || !token.source) return say.madeOfTheOthers;
  const { source } = token;
  const colour = found.colours.find((c) => c.sources.includes(source));
  return say.takes(colour ? colourName(colour) : sourceLabels[source]);
}

interface FigureProps {
  readonly name: TokenName;
  readonly token: WornToken;
  readonly proof: Proof | undefined;
  readonly apart: Apart | undefined;
}

/** The number that decides, and what it stands for. */
function Figure({ name, token, proof, apart }: FigureProps) {
  if (proof)
    return (
      <span className="fig mono">
        <b>{say.ratio(proof.ratio.toFixed(1))}</b>
        {say.on(tokenLabels[proof.of === name ? proof.on : proof.of].toLowerCase())}
        <i className={proof.passes ? 'ok' : 'no'} aria-hidden="true">
          {proof.passes ? '\u2713' : '\u2717'}
        </i>
        <span className="sr-only">{proof.passes ? say.passes : say.fails}</span>
      </span>
    );
  if (apart)
    return (
      <span className="fig mono">
        <b>{say.apart(apart.by.toFixed(1))}</b>
        {say.from(tokenLabels[apart.other].toLowerCase())}
      </span>
    );
  return <span className="fig mono value">{valueLabel(tokenOf(name).kind, token.value)}</span>;
}

/** What was moved so that it can be read, or what would be: the choice is the owner's. */
function Remedy({ proof, act }: { proof: Proof; act: Props['act'] }) {
  const { remedy } = proof;
  if (!remedy) return null;
  const decide = (value: 'site' | undefined) => act({ do: 'decide', name: asName(proof.pair), value });
  const figures = say.needs(proof.asFound.toFixed(2), pairLabels[proof.pair], String(proof.need));
  return (
    <div className={proof.asSite ? 'lk-remedy open' : 'lk-remedy'}>
      <p>{figures}</p>
      <p className="fx">
        <Chip colour={remedy.from} />
        <span aria-hidden="true">→</span>
        <Chip colour={remedy.to} />
        <span className="mono">{say.moved(remedy.ratio.toFixed(1), remedy.by.toFixed(1))}</span>
        {proof.asSite ? (
          <button type="button" className="btn mend" onClick={() => decide(undefined)}>
            {say.use(remedy.to.toUpperCase())}
          </button>
        ) : (
          <button type="button" className="btn" onClick={() => decide('site')}>
            {say.asTheSiteHasIt}
          </button>
        )}
      </p>
    </div>
  );
}

const Chip = ({ colour }: { colour: string }) => (
  <span className="chip mono">
    <i style={{ background: colour }} />
    {colour.toUpperCase()}
  </span>
);
