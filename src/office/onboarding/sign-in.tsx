import { useState } from 'react';
import { ask } from '../api';
import { safePath } from '../places';
import { AskingForm } from '../ui/asking-form';
import { LabelledField } from '../ui/labelled-field';
import { useAsking } from '../ui/use-asking';
import { screens as say } from '../words/onboarding';
import { Screen } from './screen';

export function SignIn({ demo, to }: { demo: { email: string; password: string } | null; to: string }) {
  const [step, setStep] = useState<'password' | 'code'>('password');
  const enter = () => location.assign(safePath(to));
  if (step === 'code') return <CodeStep onIn={enter} onBack={() => setStep('password')} />;
  return <PasswordStep demo={demo} onNext={(next) => (next === 'in' ? enter() : setStep('code'))} />;
}

function PasswordStep({
  demo,
  onNext,
}: {
  demo: { email: string; password: string } | null;
  onNext: (next: 'in' | 'code') => void;
}) {
  const form = useAsking(
    ({ email = '', password = '' }) => ask('POST sign-in', { body: { email, password } }),
    ({ next }) => onNext(next),
  );
  return (
    <Screen title={say.comeIn} intro={say.theOfficeIsWhereYouPlace}>
      <AskingForm
        asking={form}
        button={say.signIn}
        beside={
          <a className="lnk" href="/forgotten">
            {say.passwordForgotten}
          </a>
        }
      >
        <LabelledField label={say.eMail} name="email" type="email" auto="username" />
        <LabelledField label={say.password} name="password" type="password" auto="current-password" />
      </AskingForm>
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

/** The second factor: what the telephone shows now, or one of the codes that were kept. */
function CodeStep({ onIn, onBack }: { onIn: () => void; onBack: () => void }) {
  const form = useAsking(({ code = '' }) => ask('POST sign-in/code', { body: { code } }), onIn);
  return (
    <Screen title={say.yourCode} intro={say.yourTelephoneShowsSixDigits}>
      <AskingForm
        asking={form}
        button={say.signIn}
        beside={
          <button type="button" className="lnk" onClick={onBack}>
            {say.backToThePassword}
          </button>
        }
      >
        <LabelledField
          label={say.code}
          name="code"
          auto="one-time-code"
          error={form.at('code')}
          hint={say.withoutTheTelephone}
        />
      </AskingForm>
    </Screen>
  );
}
