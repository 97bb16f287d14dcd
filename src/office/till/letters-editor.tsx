import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { letterFacts, type LetterKind } from '../../core/letters/kinds';
import type { LettersView } from '../../services/letters/preview';
import { call, viewKey } from '../api';
import { TextField, Tick } from '../goods/fields';
import { useBoot } from '../shop-context';
import { when } from '../ui/when';
import { Count, Foot } from './fields';
import type { Part } from './use-till';
import { lettersEditor as say } from '../words/till';

/** The letters of the shop: whether they go out, their words, and how each would look. */
export function LettersEditor({ part }: { part: Part<'letters'> }) {
  const { site } = useBoot();
  const { data, error } = useQuery({
    queryKey: viewKey('letters'),
    queryFn: () => call(site.slug, 'GET letters'),
  });
  const [kind, setKind] = useState<LetterKind>('confirmation');
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">{say.fetchingTheLetters}</p>;
  const saved = data.kinds.find((k) => k.kind === kind);
  if (!saved) return null;
  const own = part.draft[kind];
  const letter = {
    on: own?.on ?? saved.on,
    subject: own?.subject || saved.usual.subject,
    text: own?.text || saved.usual.text,
    days: own?.days ?? saved.days,
  };
  const put = (change: Partial<typeof letter>) =>
    part.set({ ...part.draft, [kind]: { ...letter, ...change } });
  const isOn = (k: LettersView['kinds'][number]) => part.draft[k.kind]?.on ?? k.on;
  const { givenUp } = data.queue;
  const sending = givenUp ? say.couldNotBeSent(givenUp) : say.sentByYourMailServer;
  return (
    <section className="tedit tletters" aria-label={say.letters}>
      <header>
        <h1>{say.letters}</h1>
        <span className="note">{data.queue.connected ? sending : say.noMailServerIsSetThey}</span>
      </header>
      <div className="tkinds">
        {data.kinds.map((k) => (
          <button key={k.kind} type="button" aria-pressed={k.kind === kind} onClick={() => setKind(k.kind)}>
            <b>{letterFacts[k.kind].name}</b>
            <em>{isOn(k) ? letterFacts[k.kind].when : say.notSent}</em>
          </button>
        ))}
      </div>
      <div className="g-row">
        <Tick checked={letter.on} onChange={(on) => put({ on })}>
          {say.itIsSent(letterFacts[kind].when)}
        </Tick>
        {saved.days !== null && (
          <Count
            label={kind === 'reminder' ? say.daysBefore : say.daysAfter}
            value={letter.days ?? saved.days}
            most={120}
            after={say.days}
            onChange={(days) => put({ days })}
          />
        )}
      </div>
      <TextField
        label={say.subject}
        value={letter.subject}
        most={200}
        onChange={(subject) => put({ subject })}
      />
      <label className="lab">
        {say.text}
        <textarea
          className="in mono tletter"
          rows={14}
          maxLength={8000}
          value={letter.text}
          onChange={(e) => put({ text: e.target.value })}
        />
      </label>
      <p className="note">
        {say.filledIn}{' '}
        {saved.fields.map((f) => (
          <button
            key={f}
            type="button"
            className="tfield"
            onClick={() => put({ text: `${letter.text}{${f}}` })}
          >{`{${f}}`}</button>
        ))}
        {say.aLineWhoseFiguresAreAll}
      </p>
      {own && (
        <p>
          <button
            type="button"
            className="btn sm quiet"
            onClick={() => {
              const { [kind]: _, ...rest } = part.draft;
              part.set(rest);
            }}
          >
            {say.backToTheUsualWords}
          </button>
        </p>
      )}
      <Preview kind={kind} subject={letter.subject} text={letter.text} />
      <Foot part={part} beside={false} />
      {data.recent.length > 0 && (
        <>
          <div className="rh">
            <h2>{say.sentLately}</h2>
          </div>
          <ul className="trecent">
            {data.recent.map((l) => (
              <li key={l.at + l.to + l.subject}>
                <span className="mono">{when(l.at)}</span>
                <span>{l.subject}</span>
                <em>{l.to}</em>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

/** The letter as it would go out, from what is typed; the frame runs nothing. */
function Preview({ kind, subject, text }: { kind: LetterKind; subject: string; text: string }) {
  const { site } = useBoot();
  const look = useMutation({
    mutationFn: () =>
      call(site.slug, 'POST letters/preview', {
        body: {
          kind,
          subject,
          text,
        },
      }),
  });
  const { mutate } = look;
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again when the words change
  useEffect(() => {
    const soon = setTimeout(() => mutate(), 300);
    return () => clearTimeout(soon);
  }, [kind, subject, text, mutate]);
  const w = look.data;
  return (
    <div className="tpreview">
      {look.error && <p className="bad">{look.error.message}</p>}
      {w && w.unknown.length > 0 && (
        <p className="field-error" role="alert">
          {say.thisLetterDoesNotKnowTake(w.unknown.map((u) => `{${u}}`).join(', '))}
        </p>
      )}
      {w && (
        <>
          <p className="lab">{w.subject}</p>
          <iframe title={say.theLetter} sandbox="" srcDoc={w.html} />
        </>
      )}
    </div>
  );
}
