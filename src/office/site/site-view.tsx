import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { SiteOverview } from '../../services/sites/overview';
import { call, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { AddSelling } from './add-selling';
import { CoverageLens } from './coverage-lens';
import { MenusLens } from './menus-lens';
import { PagesLens } from './pages-lens';
import { PublishingLens } from './publishing-lens';
import { siteView as say } from '../words/site';

const lenses = [
  ['pages', say.pages],
  ['menus', say.menus],
  ['coverage', say.coverage],
  ['publishing', say.publishing],
] as const;
type Lens = (typeof lenses)[number][0];

/** The site through one of four lenses; which one stands in the address, so that it can be linked to and gone back from. */
export function SiteView() {
  const { site } = useBoot();
  const [lens, setLens] = useState<Lens>(
    () => lenses.find(([l]) => l === new URLSearchParams(location.search).get('lens'))?.[0] ?? 'pages',
  );
  const [adding, setAdding] = useState(() => new URLSearchParams(location.search).has('add'));
  const { data, error } = useQuery({
    queryKey: viewKey('overview'),
    queryFn: () => call(site.slug, 'GET overview'),
  });
  const choose = (to: Lens) => {
    setLens(to);
    history.replaceState(null, '', to === 'pages' ? location.pathname : `?lens=${to}`);
  };
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">{say.drawingThePages}</p>;
  return (
    <div className="site">
      <div className="tools">
        <fieldset className="seg" aria-label={say.lens}>
          {lenses.map(([l, name]) => (
            <button key={l} type="button" aria-pressed={l === lens} onClick={() => choose(l)}>
              {name}
            </button>
          ))}
        </fieldset>
        <div className="tools-r">
          <a className="btn quiet" href={data.draftUrl} target="_blank" rel="noreferrer">
            {say.asAShopper}
          </a>
          {data.liveUrl.startsWith('http') && (
            <a className="btn" href={data.liveUrl} target="_blank" rel="noreferrer">
              {say.liveSite}
            </a>
          )}
          {!data.selling && !adding && (
            <button type="button" className="btn leaf" onClick={() => setAdding(true)}>
              {say.addSelling}
            </button>
          )}
        </div>
      </div>
      {adding && !data.selling ? (
        <AddSelling onDone={() => setAdding(false)} />
      ) : (
        <Through lens={lens} data={data} onAdd={() => setAdding(true)} />
      )}
    </div>
  );
}

/** The site as one of the lenses shows it. */
function Through({ lens, data, onAdd }: { lens: Lens; data: SiteOverview; onAdd: () => void }) {
  switch (lens) {
    case 'pages':
      return <PagesLens data={data} />;
    case 'menus':
      return <MenusLens onAdd={onAdd} />;
    case 'coverage':
      return <CoverageLens onAdd={onAdd} />;
    case 'publishing':
      return <PublishingLens data={data} />;
  }
}
