import { useCallback, useState } from 'react';
import { useBoot } from '../shop-context';
import { addSelling as say } from '../words/site';
import { type MenuFit, MenuFrame } from './menu-frame';

const screens = [
  { px: 1280, name: 'desktop' },
  { px: 390, name: 'phone' },
] as const;

/** The head of the front page at two widths, measured as it stands, with what selling would put into it. */
export function HowItFits({ address, label }: { address: string; label: string | null }) {
  const { site } = useBoot();
  const [fits, setFits] = useState<Readonly<Record<number, MenuFit>>>({});
  const onFit = useCallback((fit: MenuFit) => setFits((f) => ({ ...f, [fit.width]: fit })), []);
  const full = screens.filter((s) => fits[s.px]?.cartFits === false);
  return (
    <section className="how-fits" aria-label={say.howItFits}>
      <h3 className="lab">{say.howItFits}</h3>
      {screens.map((s) => (
        <MenuFrame
          key={s.px}
          src={`${site.draftUrl}${address}?stall=menu`}
          width={s.px}
          name={s.name}
          onFit={onFit}
          fit={fits[s.px]}
          trying={label}
        />
      ))}
      {full.map((s) => (
        <p key={s.px} className="warn">
          {say.atPxTheHeaderHasNo(s.px)}
        </p>
      ))}
    </section>
  );
}
