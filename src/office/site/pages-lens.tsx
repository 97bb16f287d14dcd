import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { PageCard, SiteOverview } from '../../services/sites/overview';
import { call } from '../api';
import { benchHref } from '../places';
import { useBoot } from '../shop-context';
import { Awning, OnSlip } from '../ui/mark';
import { Miniature } from './miniature';

const GAP = 18;

/** The site as the owner thinks of it: their pages, drawn small, in the order of their own menu. */
export function PagesLens() {
  const { site } = useBoot();
  const { data, error } = useQuery({ queryKey: ['overview'], queryFn: () => call<SiteOverview>(`/api/${site.slug}/overview`) });
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">Drawing the pages…</p>;
  const cards = data.columns.flatMap((c) => c.pages);
  const used = new Set(cards.flatMap((p) => p.widgets.map((w) => w.kind)));
  return (
    <div className="site">
      <div className="tools">
        <h1 className="sum !p-0"><b>{data.pageCount}</b> {data.pageCount === 1 ? 'page' : 'pages'}<i /><Sells data={data} /></h1>
        <div className="tools-r">
          <a className="btn quiet" href={data.draftUrl} target="_blank" rel="noreferrer">As a shopper</a>
          {data.liveUrl.startsWith('http') && <a className="btn" href={data.liveUrl} target="_blank" rel="noreferrer">Live site</a>}
        </div>
      </div>
      {data.notes.length > 0 ? <Notes notes={data.notes} /> : <span />}
      <Board data={data} />
      <footer className="key">
        {used.has('cart') && <span><Awning kind="cart" flat /> Cart</span>}
        {used.has('buy') && <span><Awning kind="buy" flat /> Buy button</span>}
        <span className="push"><span className="ks" /> Built by Green Stall</span>
        <span><OnSlip /> On the slip</span>
      </footer>
    </div>
  );
}

function Sells({ data }: { data: SiteOverview }) {
  const selling = data.columns.flatMap((c) => c.pages).filter((p) => p.widgets.some((w) => w.kind === 'buy')).length;
  if (data.withCart === 0 && selling === 0) return <>nothing sells yet: open a page and place a buy button</>;
  return <><b>{data.withCart}</b> carry the cart<i /><b>{selling}</b> {selling === 1 ? 'sells' : 'sell'}</>;
}

function Notes({ notes }: { notes: readonly string[] }) {
  return (
    <details className="site-notes">
      <summary>{notes.length === 1 ? 'One file was' : `${notes.length} files were`} read with a note</summary>
      <ul>{notes.slice(0, 40).map((n) => <li key={n}>{n}</li>)}</ul>
    </details>
  );
}

function Board({ data }: { data: SiteOverview }) {
  const board = useRef<HTMLDivElement>(null);
  const [space, setSpace] = useState(960);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => entry && setSpace(entry.contentRect.width));
    if (board.current) watch.observe(board.current);
    return () => watch.disconnect();
  }, []);
  const n = data.columns.length;
  const width = Math.round(Math.min(190, Math.max(116, (space - GAP * (n - 1)) / n)));
  return (
    <div className="board" ref={board} style={{ gridTemplateColumns: `repeat(${n}, ${width}px)` }}>
      {data.columns.map((c) => (
        <section key={c.name} className={c.inMenu ? 'col' : 'col out'} aria-label={c.name}>
          <h3>{c.name}</h3>
          <ul>{c.pages.map((p) => <PageItem key={p.path} page={p} width={p.depth ? width - 12 : width} draftUrl={data.draftUrl} />)}</ul>
        </section>
      ))}
    </div>
  );
}

function PageItem({ page, width, draftUrl }: { page: PageCard; width: number; draftUrl: string }) {
  const { site } = useBoot();
  const version = page.widgets.map((w) => w.id).join('');
  const kinds = new Map(page.widgets.map((w) => [w.id, w.kind]));
  const words = page.widgets.map((w) => w.words.split(':')[0]?.toLowerCase()).join(' · ');
  const picture = <Miniature src={`${draftUrl}${page.address}?stall=mini&v=${version}`} width={width} tallest={page.depth ? 100 : page.built ? 110 : 300} built={page.built} kinds={kinds} />;
  return (
    <li className={page.depth ? 'pg child' : 'pg'}>
      {page.built
        ? <a href={`${draftUrl}${page.address}`} target="_blank" rel="noreferrer" aria-label={`${page.name}, built for the shop; see it as a shopper`}>{picture}</a>
        : <a href={benchHref(site.slug, page.path)} aria-label={`${page.name}: open on the bench`}>{picture}</a>}
      <b className="t">{page.name}{page.onSlip && <OnSlip />}</b>
      <span className="path">{page.address}</span>
      <span className="line">{words}</span>
    </li>
  );
}
