import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { kinds } from '../../core/placement/kinds';
import type { PageCard, SiteOverview } from '../../services/sites/overview';
import { call, viewKey } from '../api';
import { benchHref } from '../places';
import { useBoot } from '../shop-context';
import { Awning, OnSlip } from '../ui/mark';
import { Miniature } from '../ui/miniature';
import { pagesLens as say } from '../words/site';

const GAP = 18;

/** Every widget that can be placed, for the key below the pages. */
const kindNames = kinds.map((k) => [k.kind, k.name] as const);
const selling = new Set(['buy', 'card', 'row', 'shop']);
type Show = 'all' | 'sells' | 'bare' | 'slip';

const shows: Readonly<Record<Show, (p: PageCard) => boolean>> = {
  all: () => true,
  sells: (p) => p.widgets.some((w) => w.kind !== 'cart'),
  bare: (p) => !p.cart && !p.built,
  slip: (p) => p.onSlip,
};

/** The site as the owner thinks of it: their pages, drawn small, in the order of their own menu. */
export function PagesLens({ data: meant }: { data: SiteOverview }) {
  const data = useAsWritten(meant);
  const [find, setFind] = useState('');
  const [show, setShow] = useState<Show>('all');
  const cards = data.columns.flatMap((c) => c.pages);
  const used = new Set(cards.flatMap((p) => p.widgets.map((w) => w.kind)));
  const wanted = find.trim().toLowerCase();
  const fits = (p: PageCard) =>
    (!wanted || `${p.name} ${p.address} ${p.title}`.toLowerCase().includes(wanted)) && shows[show](p);
  const columns =
    wanted || show !== 'all'
      ? data.columns.map((c) => ({ ...c, pages: c.pages.filter(fits) })).filter((c) => c.pages.length > 0)
      : data.columns;
  return (
    <>
      <div className="lens-h">
        <h1 className="sum">
          <b>{data.pageCount}</b> {data.pageCount === 1 ? say.page : say.pages}
          <i />
          <Sells data={data} />
        </h1>
        <div className="in find-page">
          <input
            type="search"
            aria-label={say.findAPage}
            placeholder={say.findAPage}
            value={find}
            onChange={(e) => setFind(e.target.value)}
          />
        </div>
        <select
          className="in show-pages"
          aria-label={say.whichPages}
          value={show}
          onChange={(e) => setShow(e.target.value as Show)}
        >
          <option value="all">{say.allPages}</option>
          <option value="sells">{say.thatSell}</option>
          <option value="bare">{say.withoutACart}</option>
          <option value="slip">{say.onTheSlip}</option>
        </select>
      </div>
      {data.notes.length > 0 ? <Notes notes={data.notes} /> : <span />}
      {columns.length ? (
        <Board columns={columns} draftUrl={data.draftUrl} warn={data.withCart > 0} />
      ) : (
        <p className="empty note">{say.noPageFitsTakeSomeLetters}</p>
      )}
      <footer className="key">
        {kindNames
          .filter(([k]) => used.has(k))
          .map(([k, name]) => (
            <span key={k}>
              <Awning kind={k} flat /> {name}
            </span>
          ))}
        <span className="push">
          <span className="ks" />
          {say.builtByGreenStall}
        </span>
        <span>
          <OnSlip />
          {say.onTheSlip2}
        </span>
      </footer>
    </>
  );
}

/**
 * The overview with carts where they truly stand: computed from the pages as they are written, which takes
 * a moment on large sites.
 */
function useAsWritten(data: SiteOverview): SiteOverview {
  const { site } = useBoot();
  const { data: coverage } = useQuery({
    queryKey: viewKey('coverage'),
    queryFn: () => call(site.slug, 'GET coverage'),
    enabled: data.withCart > 0,
  });
  return useMemo(() => {
    if (!coverage) return data;
    const rows = new Map(coverage.rows.map((r) => [r.path, r.cart]));
    const columns = data.columns.map((c) => ({
      ...c,
      pages: c.pages.map((p) => ({ ...p, cart: rows.get(p.path) ?? p.cart })),
    }));
    const withCart = columns.flatMap((c) => c.pages).filter((p) => p.cart).length;
    return { ...data, columns, withCart };
  }, [data, coverage]);
}

function Sells({ data }: { data: SiteOverview }) {
  const pages = data.columns
    .flatMap((c) => c.pages)
    .filter((p) => p.widgets.some((w) => selling.has(w.kind))).length;
  if (data.withCart === 0 && pages === 0) return <>{say.nothingSellsYetOpenAPage}</>;
  return (
    <>
      <b>{data.withCart}</b>
      {say.carryTheCart}
      <i />
      <b>{pages}</b> {pages === 1 ? say.sells : say.sell}
    </>
  );
}

function Notes({ notes }: { notes: readonly string[] }) {
  return (
    <details className="site-notes">
      <summary>
        {say.readWithANote(notes.length === 1 ? say.oneFileWas : say.filesWere(notes.length))}
      </summary>
      <ul>
        {notes.slice(0, 40).map((n) => (
          <li key={n}>{n}</li>
        ))}
      </ul>
    </details>
  );
}

/** Cards of a column that are drawn at once; more come as they are asked for, so that thousands stay smooth. */
const AT_ONCE = 40;

function Board({
  columns,
  draftUrl,
  warn,
}: {
  columns: SiteOverview['columns'];
  draftUrl: string;
  warn: boolean;
}) {
  const board = useRef<HTMLDivElement>(null);
  const [space, setSpace] = useState(960);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => entry && setSpace(entry.contentRect.width));
    if (board.current) watch.observe(board.current);
    return () => watch.disconnect();
  }, []);
  const n = columns.length;
  const width = Math.round(Math.min(190, Math.max(116, (space - GAP * (n - 1)) / n)));
  return (
    <div className="board" ref={board} style={{ gridTemplateColumns: `repeat(${n}, ${width}px)` }}>
      {columns.map((c) => (
        <Column key={c.name} column={c} width={width} draftUrl={draftUrl} warn={warn} />
      ))}
    </div>
  );
}

function Column({
  column: c,
  width,
  draftUrl,
  warn,
}: {
  column: SiteOverview['columns'][number];
  width: number;
  draftUrl: string;
  warn: boolean;
}) {
  const [shown, setShown] = useState(AT_ONCE);
  const end = useRef<HTMLButtonElement>(null);
  const more = c.pages.length - shown;
  useEffect(() => {
    if (more <= 0 || !end.current) return;
    const watch = new IntersectionObserver(
      (entries) => entries.some((e) => e.isIntersecting) && setShown((n) => n + AT_ONCE),
      { rootMargin: '600px' },
    );
    watch.observe(end.current);
    return () => watch.disconnect();
  }, [more]);
  return (
    <section className={c.inMenu ? 'col' : 'col out'} aria-label={c.name}>
      <h3>
        {c.name}
        {c.pages.length > AT_ONCE && <span className="note"> {c.pages.length}</span>}
      </h3>
      <ul>
        {c.pages.slice(0, shown).map((p) => (
          <PageItem
            key={p.path}
            page={p}
            width={p.depth ? width - 12 : width}
            draftUrl={draftUrl}
            warn={warn}
          />
        ))}
      </ul>
      {more > 0 && (
        <button ref={end} type="button" className="btn sm" onClick={() => setShown(shown + AT_ONCE)}>
          {say.more(more)}
        </button>
      )}
    </section>
  );
}

function PageItem({
  page,
  width,
  draftUrl,
  warn,
}: {
  page: PageCard;
  width: number;
  draftUrl: string;
  warn: boolean;
}) {
  const { site } = useBoot();
  const kinds = new Map(page.widgets.map((w) => [w.id, w.kind]));
  const words = page.widgets.map((w) => w.words.split(':')[0]?.toLowerCase()).join(' · ');
  const tallest = page.built ? 110 : 300;
  const picture = (
    <Miniature
      src={`${draftUrl}${page.address}?stall=mini&v=${page.version}`}
      width={width}
      tallest={page.depth ? 100 : tallest}
      built={page.built}
      kinds={kinds}
    />
  );
  return (
    <li className={page.depth ? 'pg child' : 'pg'}>
      {page.built ? (
        <a
          href={`${draftUrl}${page.address}`}
          target="_blank"
          rel="noreferrer"
          aria-label={say.builtForTheShopSeeIt(page.name)}
        >
          {picture}
        </a>
      ) : (
        <a href={benchHref(site.slug, page.path)} aria-label={say.openOnTheBench(page.name)}>
          {picture}
        </a>
      )}
      <b className="t">
        {page.name}
        {page.onSlip && <OnSlip />}
      </b>
      <span className="path">{page.addressed && page.address}</span>
      <span className="line">{words}</span>
      {warn && !page.cart && !page.built && <span className="line none">{say.noWayToTheCart}</span>}
    </li>
  );
}
