import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Product } from '../../core/goods/product';
import type { Slip } from '../../services/sites/slip';
import { call } from '../api';
import { pictureOf, useBoot, useMoney } from '../shop-context';
import { OnSlip } from '../ui/mark';
import { Sheet } from './sheet';

/** List and sheet in one view, with the product as shoppers meet it beside. */
export function Goods() {
  const { site } = useBoot();
  const { data, error } = useQuery({ queryKey: ['goods'], queryFn: () => call<Product[]>(`/api/${site.slug}/goods`) });
  const slip = useQuery({ queryKey: ['slip'], queryFn: () => call<Slip>(`/api/${site.slug}/slip`) });
  const [id, setId] = useState(() => new URLSearchParams(location.search).get('id'));
  const choose = (to: string) => {
    setId(to);
    window.history.replaceState(null, '', `?id=${to}`);
  };
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">Fetching the goods…</p>;
  const product = id === 'new' ? undefined : (data.find((p) => p.id === id) ?? data[0]);
  const recent = new Set(slip.data?.live.map((l) => l.where));
  return (
    <div className="goods">
      <section className="glist" aria-label="Goods">
        <div className="gh"><h1>Goods</h1><span className="mono">{data.length}</span><button type="button" className="btn sm" onClick={() => choose('new')}>Add</button></div>
        <ul>{data.map((p) => <Item key={p.id} product={p} current={p === product} onSlip={recent.has(p.name)} onChoose={() => choose(p.id)} />)}</ul>
        {data.length === 0 && <p className="note px-5">Nothing yet. Name the first thing you sell, and what it costs.</p>}
      </section>
      <Sheet key={product ? JSON.stringify(product) : 'new'} product={product} onSaved={(p) => choose(p.id)} onRemoved={() => choose('')} />
      <Preview product={product} />
    </div>
  );
}

function Item({ product, current, onSlip, onChoose }: { product: Product; current: boolean; onSlip: boolean; onChoose: () => void }) {
  const { site } = useBoot();
  const money = useMoney();
  const picture = pictureOf(site.shopUrl, product.picture);
  const stock = product.stock === null ? 'not counted' : product.stock === 0 ? 'sold out' : `${product.stock} in stock`;
  return (
    <li>
      <button type="button" aria-current={current} onClick={onChoose}>
        {picture ? <img className="thumb" src={picture} alt="" /> : <span className="thumb" aria-hidden="true">–</span>}
        <span><b>{product.name}</b><em><i className={product.stock === 0 ? 'bad not-italic' : 'not-italic'}>{stock}</i><span>{onSlip && <OnSlip />} <span className="mono">{money(product.price)}</span></span></em></span>
      </button>
    </li>
  );
}

function Preview({ product }: { product: Product | undefined }) {
  const { site } = useBoot();
  return (
    <section className="prev" aria-label="On the site">
      <div className="ph"><h2>On the site</h2><span className="mono">Phone 390</span></div>
      {product
        ? <div className="phone"><iframe key={JSON.stringify(product)} title={`${product.name}, as a shopper meets it`} sandbox="" src={`${site.shopUrl}/goods/${encodeURIComponent(product.slug)}`} style={{ height: 1080 }} /></div>
        : <p className="note">The product stands here in your site's own style as soon as it is added.</p>}
    </section>
  );
}
