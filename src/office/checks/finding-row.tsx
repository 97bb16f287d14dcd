import { useId, useState } from 'react';
import { isHeavy, type Mend, type Way, weightWords } from '../../core/checks/finding';
import type { FindingView } from '../../services/checks/checks';
import { useBoot } from '../shop-context';
import { findingRow as say } from '../words/checks';
import { type Group, mendLabel } from './groups';
import { LeaveForm } from './leave-form';
import { PlacePicture } from './place-picture';
import { useLeave, useMend } from './use-checks';

/** Names of places that are told one by one; more are counted. */
const NAMED = 4;

/** One finding, or several that say the same: where, what, how a shopper meets it, and what can be done. */
export function FindingRow({ group, onShow }: { group: Group; onShow: (f: FindingView) => void }) {
  const [leaving, setLeaving] = useState(false);
  const leave = useLeave();
  const heading = useId();
  const [first, ...more] = group.findings;
  if (!first) return null;
  const keys = group.findings.map((f) => f.key);
  const step = stepOf(group);
  return (
    <article className="ck-row" aria-labelledby={heading}>
      <PlacePicture
        finding={first}
        others={Math.min(2, more.length)}
        tone={isHeavy(group.weight) ? 'beet' : 'marigold'}
      />
      <div className="ck-what">
        <PlaceLine group={group} first={first} />
        <h3 id={heading}>
          <span className={isHeavy(group.weight) ? 'bad' : 'ck-warn'}>{weightWords[group.weight]}.</span>{' '}
          {group.title}
        </h3>
        <p className="meet">{first.meets}</p>
        {step && <p className="todo">{step}</p>}
        {more.length > 0 && <Names findings={group.findings} onShow={onShow} />}
        {first.left !== null && (
          <p className="note">{first.left ? say.leftWith(first.left) : say.leftWithout}</p>
        )}
        {leaving && (
          <LeaveForm
            onLeave={(word) => leave.mutate({ keys, word }, { onSettled: () => setLeaving(false) })}
            onCancel={() => setLeaving(false)}
          />
        )}
      </div>
      <div className="ck-do">
        <Mends group={group} />
        {first.place.on === 'page' && (
          <button type="button" className="btn quiet sm" onClick={() => onShow(first)}>
            {say.showMe}
          </button>
        )}
        {first.left === null ? (
          !leaving && (
            <button type="button" className="btn quiet sm" onClick={() => setLeaving(true)}>
              {say.leaveItSo}
            </button>
          )
        ) : (
          <button type="button" className="btn quiet sm" onClick={() => leave.mutate({ keys, word: null })}>
            {say.takeBack}
          </button>
        )}
      </div>
    </article>
  );
}

/** What only the owner can do, where it is the same for all of a group. */
function stepOf({ findings }: Group): string {
  const steps = new Set(findings.map(({ mends: [m] }) => (m?.do === 'go' ? m.step : '')));
  return steps.size === 1 ? ([...steps][0] ?? '') : '';
}

function PlaceLine({ group, first }: { group: Group; first: FindingView }) {
  const many = group.findings.length;
  const { place } = first;
  const path = place.on === 'page' ? `/${place.page.replace(/(^|\/)index\.html?$/i, '$1')}` : '';
  return (
    <p className="ck-place">
      <b>{place.name}</b>
      {many > 1 ? (
        <span className="mono">{place.on === 'page' ? say.pages(many) : say.things(many)}</span>
      ) : (
        path && <span className="mono">{path}</span>
      )}
      {first.isNew && <em className="ck-new">{say.isNew}</em>}
      {first.back > 0 && <em className="ck-back">{say.back(first.back)}</em>}
    </p>
  );
}

/** The other places of a group, each shown on a press. */
function Names({ findings, onShow }: { findings: readonly FindingView[]; onShow: (f: FindingView) => void }) {
  const [all, setAll] = useState(false);
  const shown = all ? findings : findings.slice(0, NAMED);
  return (
    <p className="ck-names">
      {shown.map((f) => (
        <button key={f.key} type="button" onClick={() => onShow(f)}>
          {f.place.name}
        </button>
      ))}
      {findings.length > shown.length && (
        <button type="button" onClick={() => setAll(true)}>
          {say.andMore(findings.length - shown.length)}
        </button>
      )}
    </p>
  );
}

/** Ways to mend it, the first one strongest. What only the owner can do leads there, and says what to do. */
function Mends({ group }: { group: Group }) {
  const { site } = useBoot();
  const mend = useMend();
  const [told, setTold] = useState('');
  const [first] = group.findings;
  return (
    <>
      {first?.mends.slice(0, 3).map((m, n) => (
        <MendButton
          key={m.label}
          mend={m}
          label={mendLabel(group, n)}
          strong={n === 0}
          slug={site.slug}
          isPending={mend.isPending}
          onMend={() => mend.mutate(group.findings.map((f) => ({ key: f.key, n, label: f.mends[n]?.label })))}
          onTell={setTold}
        />
      ))}
      {told && (
        <p className="ck-step" role="status">
          {told}
        </p>
      )}
    </>
  );
}

interface ButtonProps {
  readonly mend: Mend;
  readonly label: string;
  readonly strong: boolean;
  readonly slug: string;
  readonly isPending: boolean;
  readonly onMend: () => void;
  readonly onTell: (step: string) => void;
}

function MendButton({ mend, label, strong, slug, isPending, onMend, onTell }: ButtonProps) {
  if (mend.do !== 'go')
    return (
      <button
        type="button"
        className={`btn sm ${strong ? '' : 'quiet'}`}
        disabled={isPending}
        onClick={onMend}
      >
        {label}
      </button>
    );
  // Where there is nowhere to go the step itself is what helps.
  if (mend.to.place === 'site' && !mend.to.query)
    return (
      <button type="button" className={`btn sm ${strong ? '' : 'quiet'}`} onClick={() => onTell(mend.step)}>
        {label}
      </button>
    );
  return (
    <a className={`btn sm ${strong ? '' : 'quiet'}`} href={hrefOfWay(slug, mend.to)} title={mend.step}>
      {label}
    </a>
  );
}

/** The address of a place of the office. Parts of the till are named by a bare word. */
function hrefOfWay(slug: string, { place, query = {} }: Way): string {
  if (place === 'till' && query.rule) return `/${slug}/till?${query.rule}`;
  const asked = new URLSearchParams(query).toString();
  return `/${slug}/${place}${asked ? `?${asked}` : ''}`;
}
