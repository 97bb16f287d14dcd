import { type FormEvent, type ReactNode, useEffect, useState } from 'react';
import { Mark } from '../ui/mark';

/** A door: sign-in and welcome, with the slip beside it for what will come. */
export function Door({
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
    <div className="door">
      <main className="door-in">
        <p className="flex items-center gap-2 font-head text-[18px] font-bold text-ink">
          <Mark />
          Green Stall
        </p>
        <h1>{title}</h1>
        <p>{intro}</p>
        {children}
      </main>
      <aside className="door-side" aria-hidden="true">
        <div className="slot" />
        <div className="slip">
          <div className="slip-h">
            <h2>Slip</h2>
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
      ) : hint ? (
        <p className="note mt-1">{hint}</p>
      ) : null}
    </div>
  );
}

const post = (url: string, body: unknown) =>
  fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

/** Only a path of the office: a link must not send an owner elsewhere after signing in. */
const safe = (to: string | null): string => (to && /^\/(?![/\\])/.test(to) ? to : '/');

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
    setTrouble(
      answer?.status === 429
        ? 'That was too many tries. Wait a minute, then try again.'
        : answer
          ? 'E-mail and password do not fit together. Try again.'
          : 'The office does not answer. Check that Green Stall is running.',
    );
  };
  return (
    <Door
      title="Come in"
      intro="The office is where you place widgets on your pages, keep your goods and see your orders."
      aside={[
        ['Home', 'Buy button added'],
        ['Every page', 'Cart added to the header'],
        ['Berry trug', 'Price changed'],
      ]}
    >
      <form onSubmit={(e) => void go(e)}>
        {trouble && (
          <p className="trouble" role="alert">
            {trouble}
          </p>
        )}
        <Field label="E-mail" name="email" type="email" auto="username" />
        <Field label="Password" name="password" type="password" auto="current-password" />
        <button className="btn leaf" type="submit" disabled={busy}>
          {busy ? 'Opening' : 'Sign in'}
        </button>
      </form>
      {demo && (
        <p className="demo-note">
          This is the demo. Its owner is <b>{demo.email}</b>, with the password <b>{demo.password}</b>.
        </p>
      )}
    </Door>
  );
}

export function WelcomeDoor({ keyGiven }: { keyGiven: string }) {
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
        : { title: 'The office does not answer. Check that Green Stall is running.' },
    );
  };
  const at = (field: string) => (wrong?.field === field ? wrong.title : undefined);
  return (
    <Door
      title="The office is yours"
      intro="This link works once. Say who you are; after this you sign in with e-mail and password."
      aside={[
        ['Next', 'Connect the website you have'],
        ['Then', 'Add what you sell'],
        ['Then', 'Put a button on a page'],
      ]}
    >
      <form onSubmit={(e) => void go(e)}>
        {wrong && !wrong.field && (
          <p className="trouble" role="alert">
            {wrong.title}
          </p>
        )}
        <Field label="Your name" name="name" auto="name" error={at('name')} />
        <Field label="E-mail" name="email" type="email" auto="username" error={at('email')} />
        <Field
          label="Password"
          name="password"
          type="password"
          auto="new-password"
          error={at('password')}
          hint="At least 10 characters; four words that nobody would guess are easy to keep."
        />
        <button className="btn leaf" type="submit" disabled={busy}>
          {busy ? 'Opening' : 'Open the office'}
        </button>
      </form>
    </Door>
  );
}
