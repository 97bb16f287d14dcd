import { useState } from 'react';
import type { Found } from '../../core/look/found/found';
import { groupLabels } from '../../core/look/labels';
import { type TokenGroup, type TokenName, tokenNames, tokenOf } from '../../core/look/tokens';
import type { Worn } from '../../core/look/wear';
import type { LookView } from '../../services/sites/look-view';
import { worn as say } from '../words/look';
import type { LookAct, LookState } from './look-state';
import { TokenRow } from './token-row';

/** Those that stand open in each group; the others are a press away, or come by themselves when something is wrong with them. */
const first: Readonly<Record<TokenGroup, readonly TokenName[]>> = {
  surfaces: ['ground', 'surface'],
  words: ['ink', 'heading-ink', 'link', 'price'],
  lines: ['line'],
  button: ['accent', 'accent-ink', 'over'],
  second: ['second'],
  badge: ['badge', 'badge-ink'],
  letters: ['font', 'heading-font'],
  shape: ['radius', 'card-radius', 'picture-radius', 'width'],
};

/** The button stands first: it is what owners come for. */
const order: readonly TokenGroup[] = [
  'button',
  'surfaces',
  'words',
  'badge',
  'second',
  'lines',
  'letters',
  'shape',
];

interface Props {
  readonly view: LookView;
  readonly worn: Worn;
  readonly state: LookState;
  readonly act: (act: LookAct) => void;
}

/** All that the shop wears, by groups, each with its thread and its proof. */
export function WornList({ view, worn, state, act }: Props) {
  return (
    <section className="lk-worn" aria-label={say.wornByTheShop}>
      {order.map((group) => (
        <Group key={group} group={group} found={view.found} worn={worn} state={state} act={act} />
      ))}
    </section>
  );
}

type GroupProps = Pick<Props, 'worn' | 'state' | 'act'> & {
  readonly group: TokenGroup;
  readonly found: Found;
};

function Group({ group, found, worn, state, act }: GroupProps) {
  const [isOpen, setOpen] = useState(false);
  const all = tokenNames.filter((name) => tokenOf(name).group === group);
  const shown = isOpen
    ? all
    : all.filter((name) => first[group].includes(name) || isAtHand(name, worn, state));
  const rest = all.length - shown.length;
  return (
    <section>
      <h2>{groupLabels[group]}</h2>
      <ul>
        {shown.map((name) => (
          <TokenRow key={name} name={name} found={found} worn={worn} state={state} act={act} />
        ))}
      </ul>
      {(rest > 0 || isOpen) && all.length > first[group].length && (
        <button type="button" className="lk-more" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {isOpen ? say.fewer : say.more(rest)}
          <span className="sr-only"> {groupLabels[group]}</span>
        </button>
      )}
    </section>
  );
}

/** Something is wrong with it, was decided about it, or hangs on what is chosen. */
function isAtHand(name: TokenName, worn: Worn, state: LookState): boolean {
  const proof = worn.proofs.find((p) => p.of === name);
  return (
    state.open === name ||
    state.decisions[`tie:${name}`] !== undefined ||
    (proof !== undefined && (!proof.passes || proof.remedy !== undefined)) ||
    worn.tokens[name].loose !== undefined
  );
}
