import { toast } from 'sonner';
import { ask, refresh } from '../api';
import { AskingForm, NewPasswordField } from '../ui/asking-form';
import { LabelledField } from '../ui/labelled-field';
import { useAsking } from '../ui/use-asking';
import { passwordForm as say } from '../words/account';

export function PasswordForm({ email }: { email: string }) {
  const form = useAsking(
    ({ current = '', password = '' }) => ask('PUT password', { body: { current, password } }),
    (_, filled) => {
      filled.reset();
      refresh('me', 'activity');
      toast.success(say.changed);
    },
  );
  return (
    <section className="acct-part" aria-labelledby="password-h">
      <h1 id="password-h">{say.password}</h1>
      <p className="note">{say.everybodyElseIsSignedOut}</p>
      <AskingForm asking={form} button={say.change} look="">
        {/* Keeps of passwords tell by it whose password this is. */}
        <input type="hidden" name="username" autoComplete="username" value={email} readOnly />
        <LabelledField
          label={say.today}
          name="current"
          type="password"
          auto="current-password"
          error={form.at('current')}
        />
        <NewPasswordField asking={form} label={say.next} />
      </AskingForm>
    </section>
  );
}
