import { type ReactNode, useEffect } from 'react';
import { Mark } from '../ui/mark';
import { screens as say } from '../words/onboarding';

type Lines = readonly (readonly [string, string])[];

/** What an owner does here, as it will stand on the slip. */
export const sampleLines: Lines = [
  ['Home', say.buyButtonAdded],
  [say.everyPage, say.cartAddedToTheHeader],
  [say.berryTrug, say.priceChanged],
];

/** The first screens: sign-in and welcome, with the slip beside it for what will come. */
export function Screen({
  title,
  intro,
  aside = sampleLines,
  children,
}: {
  title: string;
  intro: string;
  aside?: Lines;
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
              <div key={where + what}>
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
