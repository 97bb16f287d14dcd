import { useState } from 'react';
import type { Role } from '../../core/people/roles';
import { ask, welcome } from '../api';
import { AskingForm, NewPasswordField } from '../ui/asking-form';
import { LabelledField } from '../ui/labelled-field';
import { useAsking } from '../ui/use-asking';
import { roleNames } from '../words/account';
import { screens as say } from '../words/onboarding';
import { Screen } from './screen';

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
      <AskingForm
        asking={form}
        button={say.sendTheLetter}
        beside={
          <a className="lnk" href="/sign-in">
            {say.backToSignIn}
          </a>
        }
      >
        <LabelledField label={say.eMail} name="email" type="email" auto="username" error={form.at('email')} />
      </AskingForm>
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
      <AskingForm asking={form} button={say.setThePassword}>
        <NewPasswordField asking={form} label={say.newPassword} />
      </AskingForm>
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
      <AskingForm asking={form} button={say.openTheOffice}>
        <LabelledField label={say.yourName} name="name" auto="name" error={form.at('name')} />
        <NewPasswordField asking={form} label={say.password} />
      </AskingForm>
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
      <AskingForm asking={form} button={say.openTheOffice}>
        <LabelledField label={say.yourName} name="name" auto="name" error={form.at('name')} />
        <LabelledField label={say.eMail} name="email" type="email" auto="username" error={form.at('email')} />
        <NewPasswordField asking={form} label={say.password} />
      </AskingForm>
    </Screen>
  );
}
