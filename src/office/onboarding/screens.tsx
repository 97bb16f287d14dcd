import { type FormEvent, type ReactNode, useEffect, useState } from 'react';
import { Mark } from '../ui/mark';
import { screens as say } from '../words/onboarding';

/** The first screens: sign-in and welcome, with the slip beside it for what will come. */
export function Screen({
  title,
  intro,
  aside,
  children,
}: {
  title: string;
  intro: string;
  aside: readonly (readonly [string, string])[];
  children: ReactNode;
}) {
  useEffect(() => document.documentElement.setAttribute('data-ready', ''), []);
  return (
    <div className="onboard">
      <main className="onboard-in">
        <p className="flex items-center gap-2 font-head text-[18px] font-bold text-ink">
          <Mark />
          {say.greenStall}
        </p>
        <h1>{title}</h1>
        <p>{intro}</p>
        {children}
      </main>
      <aside className="onboard-side" aria-hidden="true">
        <div className="slot" />
        <div className="slip">
          <div className="slip-h">
            <h2>{say.slip}</h2>
          </div>
          <div className="dash" />
          <dl>
            {aside.map(([where, what]) => (
              <div key={where}>
                <dt>{where}</dt>
                <dd>
                  <span>{what}</span>
                </dd>
              </div>
            ))}
          </dl>
        </div>
      </aside>
    </div>
  );
}

export function Field({
  label,
  name,
  type = 'text',
  auto,
  error,
  hint,
}: {
  label: string;
  name: string;
  type?: string;
  auto: string;
  error?: string | undefined;
  hint?: string;
}) {
  return (
    <div>
      <label className="lab" htmlFor={name}>
        {label}
      </label>
      <div className="in">
        <input
          id={name}
          name={name}
          type={type}
          autoComplete={auto}
          required
          aria-invalid={!!error}
          aria-describedby={error ? `${name}-e` : undefined}
        />
      </div>
      {error ? (
        <p className="field-error" id={`${name}-e`}>
          {error}
        </p>
      ) : (
        hint && <p className="note mt-1">{hint}</p>
      )}
    </div>
  );
}

const post = (url: string, body: unknown) =>
  fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

/** Only a path of the office: a link must not send an owner elsewhere after signing in. */
const safe = (to: string | null): string => (to && /^\/(?![/\\])/.test(to) ? to : '/');

/** @param status of an answer; none where there was no answer. */
function troubleOf(status: number | undefined): string {
  if (status === 429) return say.thatWasTooManyTriesWait;
  return status === undefined ? say.theOfficeDoesNotAnswerCheck : say.eMailAndPasswordDoNot;
}

export function SignIn({ demo, to }: { demo: { email: string; password: string } | null; to: string }) {
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  const go = async (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    setBusy(true);
    const { email, password } = Object.fromEntries(new FormData(e.currentTarget));
    const answer = await post('/api/auth/sign-in/email', { email, password }).catch(() => undefined);
    if (answer?.ok) return location.assign(safe(to));
    setBusy(false);
    setTrouble(troubleOf(answer?.status));
  };
  return (
    <Screen
      title={say.comeIn}
      intro={say.theOfficeIsWhereYouPlace}
      aside={[
        ['Home', say.buyButtonAdded],
        [say.everyPage, say.cartAddedToTheHeader],
        [say.berryTrug, say.priceChanged],
      ]}
    >
      <form onSubmit={(e) => void go(e)}>
        {trouble && (
          <p className="trouble" role="alert">
            {trouble}
          </p>
        )}
        <Field label={say.eMail} name="email" type="email" auto="username" />
        <Field label={say.password} name="password" type="password" auto="current-password" />
        <button className="btn leaf" type="submit" disabled={busy}>
          {busy ? say.opening : say.signIn}
        </button>
      </form>
      {demo && (
        <p className="demo-note">
          {say.thisIsTheDemoItsOwner}
          <b>{demo.email}</b>
          {say.withThePassword}
          <b>{demo.password}</b>.
        </p>
      )}
    </Screen>
  );
}

export function WelcomeScreen({ keyGiven }: { keyGiven: string }) {
  const [wrong, setWrong] = useState<{ title: string; field?: string }>();
  const [busy, setBusy] = useState(false);
  const go = async (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    setBusy(true);
    const fields = Object.fromEntries(new FormData(e.currentTarget)) as Record<string, string>;
    const answer = await post('/api/welcome', { ...fields, key: keyGiven }).catch(() => undefined);
    if (answer?.ok && (await post('/api/auth/sign-in/email', fields)).ok) return location.assign('/connect');
    setBusy(false);
    setWrong(
      answer
        ? ((await answer.json()) as { title: string; field?: string })
        : { title: say.theOfficeDoesNotAnswerCheck },
    );
  };
  const at = (field: string) => (wrong?.field === field ? wrong.title : undefined);
  return (
    <Screen
      title={say.theOfficeIsYours}
      intro={say.thisLinkWorksOnceSayWho}
      aside={[
        [say.next, say.connectTheWebsiteYouHave],
        [say.andThen, say.addWhatYouSell],
        [say.andThen, say.putAButtonOnAPage],
      ]}
    >
      <form onSubmit={(e) => void go(e)}>
        {wrong && !wrong.field && (
          <p className="trouble" role="alert">
            {wrong.title}
          </p>
        )}
        <Field label={say.yourName} name="name" auto="name" error={at('name')} />
        <Field label={say.eMail} name="email" type="email" auto="username" error={at('email')} />
        <Field
          label={say.password}
          name="password"
          type="password"
          auto="new-password"
          error={at('password')}
          hint={say.atLeast10CharactersFourWords}
        />
        <button className="btn leaf" type="submit" disabled={busy}>
          {busy ? say.opening : say.openTheOffice}
        </button>
      </form>
    </Screen>
  );
}
