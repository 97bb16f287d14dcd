import { QueryClientProvider } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Toaster } from 'sonner';
import { mayDo, type Role } from '../../core/people/roles';
import { ask, queries } from '../api';
import { Mark } from '../ui/mark';
import { accountPage as say, roleNames } from '../words/account';
import { Activity } from './activity';
import { PasswordForm } from './password-form';
import { People } from './people';
import { SecondFactor } from './second-factor';
import { Sessions } from './sessions';

export interface Me {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly secondFactor: boolean;
}

const parts = [
  { part: 'way-in', name: say.yourWayIn, note: say.passwordCodesBrowsers, owners: false },
  { part: 'browsers', name: say.whereYouAre, note: say.browsersThatAreSignedIn, owners: false },
  { part: 'people', name: say.people, note: say.whoMayComeIn, owners: true },
  { part: 'activity', name: say.whoDidWhat, note: say.thirteenMonths, owners: true },
] as const;
type Part = (typeof parts)[number]['part'];

/**
 * A person's own account, and for owners who else there is: the one place of the office that belongs to no
 * site.
 */
export function AccountPage({ me, sendsLetters, back }: { me: Me; sendsLetters: boolean; back: string }) {
  useEffect(() => document.documentElement.setAttribute('data-ready', ''), []);
  const mine = parts.filter((p) => !p.owners || mayDo(me.role, 'own'));
  const [open, setOpen] = useState<Part>(
    () => mine.find((p) => new URLSearchParams(location.search).has(p.part))?.part ?? 'way-in',
  );
  const go = (to: Part) => {
    setOpen(to);
    history.replaceState(null, '', `?${to}`);
  };
  const leave = () => void ask('DELETE sign-in', {}).finally(() => location.assign('/sign-in'));
  return (
    <QueryClientProvider client={queries}>
      <div className="acct">
        <header className="bar">
          <a className="brand" href={back}>
            <Mark />
            <span>{say.greenStall}</span>
          </a>
          <a className="lnk acct-back" href={back}>
            {say.backToTheShop}
          </a>
        </header>
        <nav className="tidx" aria-label={say.parts}>
          <p className="acct-me">
            <b>{me.name}</b>
            <span>{me.email}</span>
            <span>{roleNames[me.role]}</span>
          </p>
          {mine.map((p) => (
            <button key={p.part} type="button" aria-current={p.part === open} onClick={() => go(p.part)}>
              <b>{p.name}</b>
              <em>{p.note}</em>
            </button>
          ))}
          <button type="button" onClick={leave}>
            <b>{say.signOut}</b>
          </button>
        </nav>
        <main className="acct-main" id="main">
          {open === 'way-in' && (
            <>
              <PasswordForm email={me.email} />
              <SecondFactor isOn={me.secondFactor} />
            </>
          )}
          {open === 'browsers' && <Sessions />}
          {open === 'people' && <People me={me} sendsLetters={sendsLetters} />}
          {open === 'activity' && <Activity />}
        </main>
        <Toaster
          position="bottom-left"
          toastOptions={{ style: { font: '500 13px/18px var(--font-ui)', borderRadius: 5 } }}
          closeButton
        />
      </div>
    </QueryClientProvider>
  );
}
