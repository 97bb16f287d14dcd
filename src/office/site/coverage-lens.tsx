import { useMutation, useQuery } from '@tanstack/react-query';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import type { Reach } from '../../core/placement/reach';
import type { Coverage, CoverageRow } from '../../services/publishing/coverage';
import { call, refresh, viewKey } from '../api';
import { benchHref } from '../places';
import { useBoot } from '../shop-context';
import { coverageLens as say } from '../words/site';

type Column = 'name' | 'shopInMenu' | 'cart' | 'sameHeader' | 'products' | 'clicks';
const columns: readonly (readonly [Column, string])[] = [
  ['name', say.page],
  ['shopInMenu', say.shopInMenu],
  ['cart', say.cart],
  ['sameHeader', say.sameHeader],
  ['products', say.showsGoods],
  ['clicks', say.clicksToCheckout],
];
const SHOWN = 200;

/** Pages by what selling needs of them, the weakest found by sorting; a column that lacks something is mended in one step. */
export function CoverageLens({ onAdd }: { onAdd: () => void }) {
  const { site } = useBoot();
  const { data, error } = useQuery({
    queryKey: viewKey('coverage'),
    queryFn: () => call(site.slug, 'GET coverage'),
  });
  const [sort, setSort] = useState<{ by: Column; down: boolean }>({ by: 'clicks', down: true });
  const [shown, setShown] = useState(SHOWN);
  const rows = useMemo(
    () => [...(data?.rows ?? [])].sort((a, b) => order(a, b, sort.by) * (sort.down ? -1 : 1)),
    [data, sort],
  );
  const mend = useMutation({
    mutationFn: (what: 'shopInMenu' | 'cart') =>
      what === 'cart' ? putCarts(site.slug, data?.rows ?? []) : putShop(site.slug),
    onSuccess: (said) => {
      refresh('coverage', 'overview', 'slip', 'bench', 'menu');
      toast.success(said);
    },
    onError: (e) => toast.error(e.message, { duration: 10_000 }),
  });
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">{say.walkingTheLinksOfEveryPage}</p>;
  const sorted = sort.down ? 'descending' : 'ascending';
  return (
    <div className="lens">
      <Summary rows={data.rows} />
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keys */}
      <section className="cover" aria-label={say.coverage} tabIndex={0}>
        <table>
          <thead>
            <tr>
              {columns.map(([c, name]) => (
                <th key={c} scope="col" aria-sort={sort.by === c ? sorted : 'none'}>
                  <button
                    type="button"
                    onClick={() => setSort({ by: c, down: sort.by === c ? !sort.down : false })}
                  >
                    {name}
                    {sort.by === c &&
                      (sort.down ? <ArrowDown size={12} aria-hidden /> : <ArrowUp size={12} aria-hidden />)}
                  </button>
                </th>
              ))}
            </tr>
            <tr className="mends">
              <td />
              {(['shopInMenu', 'cart'] as const).map((what) => (
                <Mend
                  key={what}
                  mend={data.mend[what]}
                  isPending={mend.isPending}
                  onMend={() => (needsShop(what, data) ? onAdd() : mend.mutate(what))}
                />
              ))}
              <td colSpan={3} />
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, shown).map((r) => (
              <tr key={r.path}>
                <th scope="row">
                  <a href={benchHref(site.slug, r.path)}>{r.name}</a>{' '}
                  <span className="path">{r.address}</span>
                </th>
                <Mark yes={r.shopInMenu} />
                <Mark yes={r.cart} />
                <Mark yes={r.sameHeader} />
                <td className="fig">{r.products || '–'}</td>
                <td className={r.clicks === null ? 'fig bad' : 'fig'}>{r.clicks ?? say.noWay}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length > shown && (
          <button type="button" className="btn sm m-3" onClick={() => setShown(shown + 1000)}>
            {say.showMoreOf(rows.length)}
          </button>
        )}
      </section>
      <p className="note px-5 pb-3">{say.clicksAreCountedAlongTheLinks}</p>
    </div>
  );
}

function Summary({ rows }: { rows: readonly CoverageRow[] }) {
  const farthest = Math.max(0, ...rows.map((r) => r.clicks ?? 0));
  const lost = rows.filter((r) => r.clicks === null).length;
  return (
    <h1 className="sum">
      <b>{rows.length}</b>
      {say.pages}
      <i />
      <b>{rows.filter((r) => r.cart).length}</b>
      {say.carryTheCart}
      <i />
      {lost ? (
        <>
          <b>{lost}</b> {say.noWayToACheckout(lost === 1 ? say.has : say.have)}
        </>
      ) : (
        <>
          {say.everyPageReachesCheckoutInAt}
          <b>{farthest}</b>
          {say.clicks}
        </>
      )}
    </h1>
  );
}

/** No page has the way to the shop, because there is no shop yet. */
const needsShop = (what: 'shopInMenu' | 'cart', { rows, mend }: Coverage): boolean =>
  what === 'shopInMenu' && rows.every((r) => !r.shopInMenu) && mend[what].how.startsWith(say.add);

function Mend({
  mend,
  isPending,
  onMend,
}: {
  mend: Coverage['mend']['cart'];
  isPending: boolean;
  onMend: () => void;
}) {
  if (mend.pages === 0) return <td />;
  return (
    <td>
      {mend.can ? (
        <button type="button" className="btn sm" title={mend.how} disabled={isPending} onClick={onMend}>
          {say.putItThere(mend.pages)}
        </button>
      ) : (
        <span className="note">{mend.how}</span>
      )}
    </td>
  );
}

const Mark = ({ yes }: { yes: boolean }) => <td className={yes ? 'yes' : 'no'}>{yes ? say.yes : say.no}</td>;

function order(a: CoverageRow, b: CoverageRow, by: Column): number {
  if (by === 'name') return a.name.localeCompare(b.name);
  const n = (r: CoverageRow) => (by === 'clicks' ? (r.clicks ?? 99) : Number(r[by]));
  return n(a) - n(b) || a.name.localeCompare(b.name);
}

/** A cart at the end of the header, on the pages that lack one. */
async function putCarts(slug: string, rows: readonly CoverageRow[]): Promise<string> {
  const lacking = rows.filter((r) => !r.cart).map((r) => r.path);
  const [first] = lacking;
  if (!first) return say.everyPageCarriesTheCart;
  const pitches = await call(slug, 'GET bench/pitches', { query: { page: first } });
  const header = pitches.find(
    (p) => p.region === 'header' && p.address.path === '' && p.address.side === 'end',
  );
  if (!header) throw new Error(say.noHeaderWasSurelyFoundOn);
  const reach: Reach =
    lacking.length === rows.length ? { to: 'every', except: [] } : { to: 'pages', pages: lacking };
  await call(slug, 'POST placements', {
    body: {
      kind: 'cart',
      settings: {},
      pitch: header.address,
      pitchLabel: header.label,
      reach,
    },
  });
  return say.aCartStandsInTheHeader(lacking.length);
}

async function putShop(slug: string): Promise<string> {
  const menu = await call(slug, 'GET menu');
  if (!menu.shop) throw new Error(say.thereIsNoShopPageYet);
  await call(slug, 'PUT menu', {
    body: [...menu.changes, { do: 'add', label: menu.shop.name, to: menu.shop.address, at: { under: [] } }],
  });
  return say.theShopStandsInTheMenu;
}
