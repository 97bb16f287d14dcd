import { QueryClientProvider } from '@tanstack/react-query';
import { Search } from 'lucide-react';
import { type ReactNode, useCallback, useEffect, useMemo, useState } from 'react';
import { Toaster } from 'sonner';
import { Alarm } from './alarm';
import { ask, queries } from './api';
import { Bench } from './bench/bench';
import { Find } from './find/find';
import { Goods } from './goods/goods';
import { StockList } from './goods/stock-list';
import { KeyList, useKeys } from './keys';
import { ChecksPlace } from './checks/checks';
import { ChecksCount } from './checks/checks-count';
import { LookPlace } from './look/look';
import { Orders } from './orders/orders';
import { hrefOf, placesOf } from './places';
import { type Boot, BootContext, type Place, useBoot, useHas } from './shop-context';
import { SiteView } from './site/site-view';
import { Slip } from './slip/slip';
import { Till } from './till/till';
import { Mark } from './ui/mark';
import { office as say } from './words/frame';

/** The whole office is one island: the frame, the place that is open, and the slip beside it. */
export function Office(boot: Boot) {
  useEffect(() => document.documentElement.setAttribute('data-ready', ''), []);
  return (
    <QueryClientProvider client={queries}>
      <BootContext.Provider value={boot}>
        <Frame />
      </BootContext.Provider>
    </QueryClientProvider>
  );
}

function Frame() {
  const { place, site, person } = useBoot();
  const owns = useHas('own');
  const places = placesOf(person.role);
  const [folded, setFolded] = useState(() => localStorage.getItem('slip') === 'folded');
  const [over, setOver] = useState<'find' | 'keys' | null>(null);
  const [above, setAbove] = useState<ReactNode>(null);
  const close = useCallback(() => setOver(null), []);
  const fold = () =>
    setFolded((was) => {
      localStorage.setItem('slip', was ? 'open' : 'folded');
      return !was;
    });
  useKeys(
    useMemo(
      () => ({
        ...(owns && { 'Ctrl+K': () => setOver('find') }),
        '?': () => setOver('keys'),
        ...Object.fromEntries(
          places.map((p, i) => [`Alt+${i + 1}`, () => location.assign(hrefOf(site.slug, p.place))]),
        ),
      }),
      [site.slug, places, owns],
    ),
  );
  return (
    <div className={frameClass(owns, folded)}>
      <a className="skip" href="#main">
        {say.skipToThePage}
      </a>
      <TopBar onFind={owns ? () => setOver('find') : undefined} onKeys={() => setOver('keys')} />
      {owns && <Alarm />}
      <main className="main" id="main" tabIndex={-1}>
        {view(place, setAbove)}
      </main>
      {owns && <Slip folded={folded && !above} onFold={fold} above={above} />}
      {over === 'find' && <Find onClose={close} />}
      {over === 'keys' && <KeyList onClose={close} />}
      <Toaster
        position="bottom-left"
        toastOptions={{ style: { font: '500 13px/18px var(--font-ui)', borderRadius: 5 } }}
        closeButton
      />
    </div>
  );
}

/** Without the slip the place has all the room: what waits there is the owner's. */
function frameClass(owns: boolean, folded: boolean): string {
  if (!owns) return 'gs alone';
  return folded ? 'gs folded' : 'gs';
}

function view(place: Place, setAbove: (panel: ReactNode) => void): ReactNode {
  if (place === 'site') return <SiteView />;
  if (place === 'bench') return <Bench onPanel={setAbove} />;
  if (place === 'goods') return <GoodsPlace />;
  if (place === 'orders') return <Orders />;
  if (place === 'till') return <Till />;
  if (place === 'look') return <LookPlace />;
  return <ChecksPlace />;
}

/** Whoever may not write goods counts them. */
const GoodsPlace = () => (useHas('own') ? <Goods /> : <StockList />);

function TopBar({ onFind, onKeys }: { onFind: (() => void) | undefined; onKeys: () => void }) {
  const { place, site, sites, person } = useBoot();
  const owns = useHas('own');
  const current = place === 'bench' ? 'site' : place;
  const go = (slug: string) => location.assign(slug === '+' ? '/connect' : hrefOf(slug, current));
  return (
    <header className="bar">
      <a className="brand" href={hrefOf(site.slug, 'site')} aria-label={say.greenStallToThePages}>
        <Mark />
        <span>{say.greenStall}</span>
      </a>
      <div className="sitepick">
        <select aria-label={say.site} value={site.slug} onChange={(e) => go(e.target.value)}>
          {sites.map((s) => (
            <option key={s.slug} value={s.slug}>
              {s.name}
            </option>
          ))}
          {owns && <option value="+">{say.connectAnother}</option>}
        </select>
      </div>
      <nav className="places" aria-label={say.places}>
        {placesOf(person.role).map((p) => (
          <a
            key={p.place}
            href={hrefOf(site.slug, p.place)}
            aria-current={p.place === current ? 'page' : undefined}
          >
            {p.name}
            {p.place === 'checks' && <ChecksCount />}
          </a>
        ))}
      </nav>
      <div className="bar-end">
        {onFind && (
          <button type="button" className="find" onClick={onFind}>
            <Search size={13} aria-hidden />
            {say.findOrDo}
            <kbd>{say.ctrlK}</kbd>
          </button>
        )}
        <Account onKeys={onKeys} />
      </div>
    </header>
  );
}

function Account({ onKeys }: { onKeys: () => void }) {
  const { person } = useBoot();
  const [open, setOpen] = useState(false);
  useKeys(useMemo(() => ({ Escape: () => setOpen(false) }), []));
  const leave = () => void ask('DELETE sign-in', {}).finally(() => location.assign('/sign-in'));
  return (
    <div className="who">
      <button
        type="button"
        aria-label={say.account(person.name)}
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {person.name.slice(0, 1).toUpperCase()}
      </button>
      {open && (
        <div className="who-menu">
          <p className="note">{person.email}</p>
          <a href={`/account?from=${encodeURIComponent(location.pathname + location.search)}`}>
            {say.accountAndPeople}
          </a>
          <button
            type="button"
            onClick={() => {
              setOpen(false);
              onKeys();
            }}
          >
            {say.keys}
          </button>
          <button type="button" onClick={leave}>
            {say.signOut}
          </button>
        </div>
      )}
    </div>
  );
}
