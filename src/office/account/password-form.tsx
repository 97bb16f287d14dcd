import { toast } from 'sonner';
import { ask, refresh } from '../api';
import { LabelledField } from '../ui/labelled-field';
import { useAsking } from '../ui/use-asking';
import { passwordForm as say } from '../words/account';
import { Trouble } from '../onboarding/screen';

export function PasswordForm({ email }: { email: string }) {
  const form = useAsking(
    ({ current = '', password = '' }) => ask('PUT password', { body: { current, password } }),
    (_, filled) => {
      filled.reset();
      refresh('me', 'deeds');
      toast.success(say.changed);
    },
  );
  return (
    <section className="acct-part" aria-labelledby="password-h">
      <h1 id="password-h">{say.password}</h1>
      <p className="note">{say.everybodyElseIsSignedOut}</p>
      <form onSubmit={form.submit}>
        <Trouble says={form.trouble} />
        {/* Keeps of passwords tell by it whose password this is. */}
        <input type="hidden" name="username" autoComplete="username" value={email} readOnly />
        <LabelledField
          label={say.today}
          name="current"
          type="password"
          auto="current-password"
          error={form.at('current')}
        />
        <LabelledField
          label={say.next}
          name="password"
          type="password"
          auto="new-password"
          error={form.at('password')}
          hint={say.atLeastTen}
        />
        <button className="btn" type="submit" disabled={form.busy}>
          {say.change}
        </button>
      </form>
    </section>
  );
}
