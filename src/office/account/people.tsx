import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import type { AccountAnswer } from '../../contract/account';
import type { Wire } from '../../contract/endpoints';
import { type Role, roles } from '../../core/people/roles';
import { ask, refresh, viewKey } from '../api';
import { AskingForm } from '../ui/asking-form';
import { LabelledField } from '../ui/labelled-field';
import { useAsking } from '../ui/use-asking';
import { day, when } from '../ui/when';
import { people as say, roleNames, roleNotes } from '../words/account';
import type { Me } from './account-page';

type View = Wire<AccountAnswer<'GET people'>>;
type Person = View['people'][number];

/** Who may come into the office and what they may do; who was asked in. */
export function People({ me, sendsLetters }: { me: Me; sendsLetters: boolean }) {
  const view = useQuery({ queryKey: viewKey('people'), queryFn: () => ask('GET people', {}) });
  if (view.error) return <p className="empty bad">{view.error.message}</p>;
  if (!view.data) return <p className="empty note">{say.fetching}</p>;
  return (
    <section className="acct-part wide" aria-labelledby="people-h">
      <h1 id="people-h">{say.people}</h1>
      <table className="acct-people">
        <thead>
          <tr>
            <th scope="col">{say.name}</th>
            <th scope="col">{say.mayDo}</th>
            <th scope="col">{say.lastSeen}</th>
            <th>
              <span className="sr-only">{say.remove}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {view.data.people.map((p) => (
            <PersonRow key={p.id} person={p} isMe={p.id === me.id} />
          ))}
        </tbody>
      </table>
      {view.data.invitations.length > 0 && <Invited invitations={view.data.invitations} />}
      <Invite sendsLetters={sendsLetters} />
    </section>
  );
}

function PersonRow({ person: p, isMe }: { person: Person; isMe: boolean }) {
  const [asks, setAsks] = useState(false);
  const settled = {
    onError: (e: Error) => void toast.error(e.message, { duration: 9000 }),
    onSettled: () => refresh('people', 'activity'),
  };
  const change = useMutation({
    mutationFn: (role: Role) => ask('PATCH people/:id', { id: p.id, body: { role } }),
    onSuccess: (_, role) => void toast.success(say.roleChanged(p.name, roleNames[role])),
    ...settled,
  });
  const remove = useMutation({
    mutationFn: () => ask('DELETE people/:id', { id: p.id }),
    onSuccess: () => void toast.success(say.removed(p.name)),
    ...settled,
  });
  return (
    <tr>
      <th scope="row">
        {p.name} {isMe && <span className="acct-state on">{say.you}</span>}
        <span className="note">
          {p.email}
          {p.secondFactor && ` · ${say.hasSecondFactor}`}
        </span>
      </th>
      <td>
        <select
          className="in"
          aria-label={say.roleOf(p.name)}
          value={p.role}
          disabled={isMe || change.isPending}
          onChange={(e) => change.mutate(roles.find((r) => r === e.target.value) ?? p.role)}
        >
          {roles.map((r) => (
            <option key={r} value={r}>
              {roleNames[r]}
            </option>
          ))}
        </select>
        <p className="note">{roleNotes[p.role]}</p>
      </td>
      <td className="mono">
        <span className="acct-label">{say.lastSeen}</span> {p.lastSeen ? when(p.lastSeen) : say.never}
      </td>
      <td>
        {asks ? (
          <fieldset className="acct-sure" aria-label={say.removeNamed(p.name)}>
            <p>{say.sure(p.name)}</p>
            {/* biome-ignore lint/a11y/noAutofocus: whoever asked for it goes on from here */}
            <button type="button" className="btn sm beet" autoFocus onClick={() => remove.mutate()}>
              {say.remove}
            </button>
            <button type="button" className="btn sm quiet" onClick={() => setAsks(false)}>
              {say.keep}
            </button>
          </fieldset>
        ) : (
          !isMe && (
            <button
              type="button"
              className="btn sm beet"
              aria-label={say.removeNamed(p.name)}
              onClick={() => setAsks(true)}
            >
              {say.remove}
            </button>
          )
        )}
      </td>
    </tr>
  );
}

function Invited({ invitations }: { invitations: View['invitations'] }) {
  const withdraw = useMutation({
    mutationFn: (id: string) => ask('DELETE invitations/:id', { id }),
    onSuccess: () => void toast.success(say.takenBack),
    onError: (e) => void toast.error(e.message),
    onSettled: () => refresh('people', 'activity'),
  });
  return (
    <>
      <h2>{say.invited}</h2>
      <ul className="acct-list">
        {invitations.map((i) => (
          <li key={i.id}>
            <div>
              <b>{i.email}</b>
              <p className="note">
                {roleNames[i.role]} · {say.until(day(i.expiresAt))}
              </p>
            </div>
            <button
              type="button"
              className="btn sm"
              aria-label={say.takeBackOf(i.email)}
              disabled={withdraw.isPending}
              onClick={() => withdraw.mutate(i.id)}
            >
              {say.takeBack}
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

function Invite({ sendsLetters }: { sendsLetters: boolean }) {
  const [role, setRole] = useState<Role>('helper');
  const [made, setMade] = useState<AccountAnswer<'POST people'>>();
  const form = useAsking(
    ({ email = '' }) => ask('POST people', { body: { email, role } }),
    (invited, filled) => {
      filled.reset();
      setMade(invited);
      refresh('people', 'activity');
    },
  );
  const copy = () =>
    void navigator.clipboard.writeText(made?.link ?? '').then(() => toast.success(say.copied));
  return (
    <>
      <h2>{say.askSomebodyIn}</h2>
      <AskingForm className="acct-invite" asking={form} button={say.invite}>
        <LabelledField label={say.eMail} name="email" type="email" auto="off" error={form.at('email')} />
        <fieldset>
          <legend className="lab">{say.as}</legend>
          {roles.map((r) => (
            <label key={r} className="acct-role">
              <input type="radio" name="role" value={r} checked={r === role} onChange={() => setRole(r)} />
              <span>
                <b>{roleNames[r]}</b>
                <span className="note">{roleNotes[r]}</span>
              </span>
            </label>
          ))}
        </fieldset>
      </AskingForm>
      {made && (
        <div className="acct-link" role="status">
          <p>{made.sent && sendsLetters ? say.linkSent(made.email) : say.linkToGive(made.email)}</p>
          <div className="flex gap-2">
            <input className="in mono" readOnly aria-label={say.link} value={made.link} />
            <button type="button" className="btn" onClick={copy}>
              {say.copy}
            </button>
          </div>
        </div>
      )}
    </>
  );
}
