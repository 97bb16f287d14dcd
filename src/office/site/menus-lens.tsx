import { messageOf } from '../../core/result';
import { useQuery } from '@tanstack/react-query';
import { Redo2, Undo2 } from 'lucide-react';
import { useCallback, useState } from 'react';
import { toast } from 'sonner';
import type { MenuChange } from '../../core/placement/menu-change';
import type { MenuView } from '../../services/sites/menus';
import { call, queries, refresh, viewKey } from '../api';
import { useKeys } from '../keys';
import { useBoot } from '../shop-context';
import { Awning } from '../ui/mark';
import { type MenuFit, MenuFrame } from './menu-frame';
import { MenuTree } from './menu-tree';
import { added, squash, withoutItem } from './menu-acts';
import { ShopAddressForm } from './shop-address-form';
import { menusLens as say } from '../words/site';

const widths = [
  { px: 1280, name: 'desktop' },
  { px: 820, name: 'tablet' },
  { px: 390, name: 'phone' },
] as const;

/** The menu as it stands in the site's own markup: its fit at three widths measured in the real page, the tree to work on, and where the shop lives. */
export function MenusLens({ onAdd }: { onAdd: () => void }) {
  const { site } = useBoot();
  const { data, error } = useQuery({ queryKey: viewKey('menu'), queryFn: () => call(site.slug, 'GET menu') });
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">{say.readingEveryCopyOfTheMenu}</p>;
  if (data.items.length === 0) return <NoMenu shop={data.shop !== null} onAdd={onAdd} />;
  return <Menus data={data} onAdd={onAdd} />;
}

function Menus({ data, onAdd }: { data: MenuView; onAdd: () => void }) {
  const { site } = useBoot();
  const [fits, setFits] = useState<Fits>({});
  const [copy, setCopy] = useState(0);
  const [trying, setTrying] = useState<string | null>(null);
  const menu = useMenuChanges(data, () => setTrying(null));
  const onFit = useCallback((fit: MenuFit) => setFits((f) => ({ ...f, [fit.width]: fit })), []);
  const shown = data.copies.find((c) => c.id === copy) ?? data.copies[0];
  const carried = data.copies.filter((c) => c.takes).reduce((n, c) => n + c.pages, 0);
  return (
    <div className="lens menus">
      <Summary data={data} carried={carried} fits={fits} />
      {data.fontsMissing.length > 0 && (
        <p className="warn">{say.theSiteAsksForAndDoes(data.fontsMissing.join(', '))}</p>
      )}
      <div className="fits">
        {widths.map((w) => (
          <MenuFrame
            key={w.px}
            src={`${site.draftUrl}${shown?.address ?? '/'}?stall=menu&v=${version(data)}`}
            width={w.px}
            name={w.name}
            onFit={onFit}
            fit={fits[w.px]}
            trying={trying}
          />
        ))}
      </div>
      <div className="menu-cols">
        <section aria-label={say.theTree}>
          <TreeHead menu={menu} />
          <MenuTree
            items={data.items}
            widths={fits[1280]?.widths ?? {}}
            onChange={menu.add}
            onRemove={(item) => menu.put(withoutItem(data.changes, item))}
          />
        </section>
        <section aria-label={say.addToMenu}>
          <Offers
            data={data}
            fit={fits[1280]}
            trying={trying}
            onTry={setTrying}
            onAdd={onAdd}
            onPut={menu.add}
          />
          <div className="col-h mt-4">
            <h2>{say.carriedBy}</h2>
            <span className="note">{say.ofPages2(carried, data.pages)}</span>
          </div>
          <Copies data={data} shown={shown?.id} onShow={setCopy} />
        </section>
        <ShopAddressForm shop={data.shop} onAdd={onAdd} />
      </div>
    </div>
  );
}

type Fits = Readonly<Record<number, MenuFit>>;

/** Writes the menu, with its own undo and redo. @param onDone after each change that was taken. */
function useMenuChanges(data: MenuView, onDone: () => void) {
  const { site } = useBoot();
  const [past, setPast] = useState<Past>({ done: [], undone: [] });
  const { changes } = data;
  const write = async (next: readonly MenuChange[], step: 'new' | 'undo' | 'redo') => {
    try {
      queries.setQueryData(['menu'], await call(site.slug, 'PUT menu', { body: next }));
      refresh('slip', 'overview', 'coverage', 'bench', 'diff');
      onDone();
      setPast((p) => after(step, p, changes));
    } catch (e) {
      toast.error(messageOf(e), { duration: 10_000 });
      refresh('menu');
    }
  };
  const last = past.done.at(-1);
  const next = past.undone.at(-1);
  const undo = last && (() => void write(last, 'undo'));
  const redo = next && (() => void write(next, 'redo'));
  useKeys({ 'Ctrl+Z': () => undo?.(), 'Ctrl+Shift+Z': () => redo?.() });
  const put = (to: readonly MenuChange[]) => void write(to, 'new');
  const add = (change: MenuChange) => put(squash([...changes, change]));
  return { put, add, undo, redo };
}

function Summary({ data, carried, fits }: { data: MenuView; carried: number; fits: Fits }) {
  const lines = widths.filter((w) => fits[w.px]?.shape === 'line').map((w) => w.px);
  return (
    <h1 className="sum">
      {say.mainMenu}
      <b>{data.items.length}</b>
      {say.items}
      <i />
      {say.on}
      <b>{carried}</b>
      {say.ofPages(data.pages)}
      {lines.length > 0 && (
        <>
          <i />
          {say.standsOnOneLineAt}
          <b>{lines.join(' and ')}</b>
        </>
      )}
    </h1>
  );
}

function TreeHead({ menu: { undo, redo } }: { menu: ReturnType<typeof useMenuChanges> }) {
  return (
    <div className="col-h">
      <h2>{say.theTree}</h2>
      <span className="note">{say.dragToMoveDragRightTo}</span>
      <span className="ml-auto flex gap-1">
        <button
          type="button"
          className="undo"
          disabled={!undo}
          onClick={undo}
          aria-label={say.undo}
          title={say.undoCtrlZ}
        >
          <Undo2 size={14} />
        </button>
        <button
          type="button"
          className="undo"
          disabled={!redo}
          onClick={redo}
          aria-label={say.redo}
          title={say.redoCtrlShiftZ}
        >
          <Redo2 size={14} />
        </button>
      </span>
    </div>
  );
}

/** What can be put into the menu: pressed once it is tried in the frames, pressed again it is put there. */
function Offers({
  data,
  fit,
  trying,
  onTry,
  onAdd,
  onPut,
}: {
  data: MenuView;
  fit: MenuFit | undefined;
  trying: string | null;
  onTry: (label: string) => void;
  onAdd: () => void;
  onPut: (change: MenuChange) => void;
}) {
  const noteOf = (label: string): string => {
    if (added(data.items, label)) return say.inIt;
    if (trying === label) return say.putItThere;
    const width = fit?.widthOf(label);
    return width ? `+${Math.round(width)}` : '';
  };
  return (
    <>
      <div className="col-h">
        <h2>{say.addToMenu}</h2>
        <span className="note">{say.widthInTheRealFont}</span>
      </div>
      {data.offers.length === 0 && (
        <p className="note">
          {say.shopCartAndCategoriesComeWith}{' '}
          <button type="button" className="underline" onClick={onAdd}>
            {say.addSelling}
          </button>
        </p>
      )}
      <div className="offers">
        {data.offers.map((o) => (
          <button
            key={o.to}
            type="button"
            disabled={added(data.items, o.label)}
            aria-pressed={trying === o.label}
            onClick={() =>
              trying === o.label
                ? onPut({ do: 'add', label: o.label, to: o.to, at: { under: [] } })
                : onTry(o.label)
            }
          >
            <Awning kind={o.kind} flat /> {o.label} <em>{noteOf(o.label)}</em>
          </button>
        ))}
      </div>
      {trying && <p className="note">{say.tryingItIsNotOnThe(trying)}</p>}
    </>
  );
}

/** Which pages carry the menu as it is, and which have one of their own. */
function Copies({
  data,
  shown,
  onShow,
}: {
  data: MenuView;
  shown: number | undefined;
  onShow: (copy: number) => void;
}) {
  return (
    <ul className="copies">
      {data.copies.map((c) => (
        <li key={c.id}>
          <button type="button" aria-pressed={c.id === shown} onClick={() => onShow(c.id)}>
            {say.like(c.pages, c.pages === 1 ? say.page : say.pages, c.name)}
          </button>
          {c.takes ? (
            <span className="yes">{say.theSame}</span>
          ) : (
            <span className="warn">{say.differs(c.why)}</span>
          )}
        </li>
      ))}
    </ul>
  );
}

function NoMenu({ shop, onAdd }: { shop: boolean; onAdd: () => void }) {
  return (
    <div className="later">
      <h1>{say.noMenuWasFound}</h1>
      <p>
        {say.yourPagesShareNoListOf}
        {shop ? (
          '.'
        ) : (
          <>
            {say.or}{' '}
            <button type="button" className="underline" onClick={onAdd}>
              {say.addSelling2}
            </button>{' '}
            {say.first}
          </>
        )}
      </p>
    </div>
  );
}

/** Frames are drawn anew when the menu changed, and only then. */
function version(data: MenuView): string {
  const text = JSON.stringify([data.changes, data.shop]);
  let n = 0;
  for (let i = 0; i < text.length; i++) n = (Math.imul(n, 31) + text.charCodeAt(i)) | 0;
  return (n >>> 0).toString(36);
}

interface Past {
  readonly done: readonly (readonly MenuChange[])[];
  readonly undone: readonly (readonly MenuChange[])[];
}

/** What can be undone and redone after a step that left `before`. */
function after(step: 'new' | 'undo' | 'redo', { done, undone }: Past, before: readonly MenuChange[]): Past {
  if (step === 'undo') return { done: done.slice(0, -1), undone: [...undone, before] };
  return { done: [...done, before], undone: step === 'redo' ? undone.slice(0, -1) : [] };
}
