import { useState } from 'react';
import { toast } from 'sonner';
import type { AccountAnswer } from '../../contract/account';
import { ask, refresh } from '../api';
import { AskingForm } from '../ui/asking-form';
import { LabelledField } from '../ui/labelled-field';
import { useAsking } from '../ui/use-asking';
import { secondFactor as say } from '../words/account';

type Begun = AccountAnswer<'POST second-factor'>;

/** Codes of a telephone beside the password: begun with the password, counted from the first code on. */
export function SecondFactor({ isOn }: { isOn: boolean }) {
  const [on, setOn] = useState(isOn);
  const [begun, setBegun] = useState<Begun>();
  const changed = (to: boolean) => {
    setOn(to);
    setBegun(undefined);
    refresh('me', 'people', 'activity');
    toast.success(to ? say.isOn : say.isOff);
  };
  return (
    <section className="acct-part" aria-labelledby="factor-h">
      <h2 id="factor-h">
        {say.secondFactor}{' '}
        <span className={on ? 'acct-state on' : 'acct-state'}>{on ? say.on : say.off}</span>
      </h2>
      <p className="note">{on ? say.signInAsks : `${say.whatItIs} ${say.anyApp}`}</p>
      {begun && !on ? (
        <Confirm begun={begun} onOn={() => changed(true)} onStop={() => setBegun(undefined)} />
      ) : (
        <Proof on={on} onBegun={setBegun} onOff={() => changed(false)} />
      )}
    </section>
  );
}

/** The password again: whoever finds an open browser changes nothing here. */
function Proof({ on, onBegun, onOff }: { on: boolean; onBegun: (begun: Begun) => void; onOff: () => void }) {
  const form = useAsking<Begun | undefined>(
    async ({ password = '' }) => {
      if (!on) return ask('POST second-factor', { body: { password } });
      await ask('DELETE second-factor', { body: { password } });
      return undefined;
    },
    (begun, filled) => {
      filled.reset();
      if (begun) onBegun(begun);
      else onOff();
    },
  );
  return (
    <AskingForm asking={form} button={on ? say.turnOff : say.setItUp} look={on ? 'beet' : ''}>
      <LabelledField
        label={say.yourPassword}
        name="password"
        type="password"
        auto="current-password"
        error={form.at('password')}
      />
    </AskingForm>
  );
}

function Confirm({ begun, onOn, onStop }: { begun: Begun; onOn: () => void; onStop: () => void }) {
  const form = useAsking(({ code = '' }) => ask('PUT second-factor', { body: { code } }), onOn);
  const copy = () =>
    void navigator.clipboard.writeText(begun.spare.join('\n')).then(() => toast.success(say.copied));
  return (
    <div className="acct-factor">
      <div>
        <p>{say.scan}</p>
        <img src={begun.picture} width={208} height={208} alt={say.picture} />
        <p className="note">{say.orType}</p>
        <p className="mono acct-secret">{begun.secret.match(/.{1,4}/g)?.join(' ')}</p>
      </div>
      <div>
        <h3>{say.spareCodes}</h3>
        <p className="note">{say.keepThem}</p>
        <ul className="mono acct-spare">
          {begun.spare.map((code) => (
            <li key={code}>{code}</li>
          ))}
        </ul>
        <button type="button" className="btn sm" onClick={copy}>
          {say.copy}
        </button>
        <AskingForm
          asking={form}
          button={say.turnOn}
          beside={
            <button className="btn quiet" type="button" onClick={onStop}>
              {say.stop}
            </button>
          }
        >
          <LabelledField label={say.codeNow} name="code" auto="one-time-code" error={form.at('code')} />
        </AskingForm>
      </div>
    </div>
  );
}
