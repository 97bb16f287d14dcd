import { useState } from 'react';
import type { Role } from '../../core/people/roles';
import { ask, welcome } from '../api';
import { LabelledField } from '../ui/labelled-field';
import { useAsking } from '../ui/use-asking';
import { roleNames } from '../words/account';
import { screens as say } from '../words/onboarding';
import { Screen, Trouble } from './screen';

/** A letter leads to a new password. What is said is the same whether there is such an account. */
export function Forgotten() {
  const [sent, setSent] = useState<{ readonly sends: boolean }>();
  const form = useAsking(({ email = '' }) => ask('POST forgotten', { body: { email } }), setSent);
  if (sent)
    return (
      <Screen
        title={sent.sends ? say.lookIntoYourMail : say.noLettersAreSent}
        intro={sent.sends ? say.ifThereIsAnAccount : say.whoRunsTheProgramCan}
      >
        <p>
          <a className="lnk" href="/sign-in">
            {say.backToSignIn}
          </a>
        </p>
      </Screen>
    );
  return (
    <Screen title={say.aNewPassword} intro={say.sayYourAddress}>
      <form onSubmit={form.submit}>
        <Trouble says={form.trouble} />
        <LabelledField label={say.eMail} name="email" type="email" auto="username" error={form.at('email')} />
        <button className="btn leaf" type="submit" disabled={form.busy}>
          {say.sendTheLetter}
        </button>
        <p>
          <a className="lnk" href="/sign-in">
            {say.backToSignIn}
          </a>
        </p>
      </form>
    </Screen>
  );
}

export function NewPassword({ token }: { token: string }) {
  const form = useAsking(
    ({ password = '' }) => ask('PUT forgotten', { body: { token, password } }),
    () => location.assign('/sign-in'),
  );
  return (
    <Screen title={say.aNewPassword} intro={say.whoeverIsSignedInIsSignedOut}>
      <form onSubmit={form.submit}>
        <Trouble says={form.trouble} />
        <LabelledField
          label={say.newPassword}
          name="password"
          type="password"
          auto="new-password"
          error={form.at('password')}
          hint={say.atLeast10CharactersFourWords}
        />
        <button className="btn leaf" type="submit" disabled={form.busy}>
          {say.setThePassword}
        </button>
      </form>
    </Screen>
  );
}

export function Join({ keyGiven, email, role }: { keyGiven: string; email: string; role: Role }) {
  const form = useAsking(
    async ({ name = '', password = '' }) => {
      await ask('POST join', { body: { key: keyGiven, name, password } });
      return ask('POST sign-in', { body: { email, password } });
    },
    () => location.assign('/'),
  );
  return (
    <Screen title={say.youAreAskedIn} intro={say.youComeInAs(email, roleNames[role])}>
      <form onSubmit={form.submit}>
        <Trouble says={form.trouble} />
        <LabelledField label={say.yourName} name="name" auto="name" error={form.at('name')} />
        <LabelledField
          label={say.password}
          name="password"
          type="password"
          auto="new-password"
          error={form.at('password')}
          hint={say.atLeast10CharactersFourWords}
        />
        <button className="btn leaf" type="submit" disabled={form.busy}>
          {form.busy ? say.opening : say.openTheOffice}
        </button>
      </form>
    </Screen>
  );
}

/** The first owner, by the link that was printed at start. */
export function WelcomeScreen({ keyGiven }: { keyGiven: string }) {
  const form = useAsking(
    async ({ name = '', email = '', password = '' }) => {
      await welcome({ key: keyGiven, name, email, password });
      return ask('POST sign-in', { body: { email, password } });
    },
    () => location.assign('/connect'),
  );
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
      <form onSubmit={form.submit}>
        <Trouble says={form.trouble} />
        <LabelledField label={say.yourName} name="name" auto="name" error={form.at('name')} />
        <LabelledField label={say.eMail} name="email" type="email" auto="username" error={form.at('email')} />
        <LabelledField
          label={say.password}
          name="password"
          type="password"
          auto="new-password"
          error={form.at('password')}
          hint={say.atLeast10CharactersFourWords}
        />
        <button className="btn leaf" type="submit" disabled={form.busy}>
          {form.busy ? say.opening : say.openTheOffice}
        </button>
      </form>
    </Screen>
  );
}
