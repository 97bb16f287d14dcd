import { useVirtualizer } from '@tanstack/react-virtual';
import { FindField } from '../ui/find-field';
import { useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { messageOf } from '../../core/result';
import type { GoodsLine } from '../../services/goods/lines';
import { call, queries, refresh } from '../api';
import { pictureOf, useBoot } from '../shop-context';
import { goods as words, goodsTable, stockList as say } from '../words/goods';
import { Cell } from './cell';
import { useGoods } from './use-goods';

type Variant = GoodsLine['variants'][number];
interface Counted {
  readonly product: GoodsLine;
  readonly variant: Variant;
}

/** What is counted: bundles have what their parts have, and links are somebody else's. */
const isCounted = (p: GoodsLine): boolean => p.kind !== 'bundle' && p.kind !== 'link';

/** How much there is of everything, to be counted and typed in: all that a helper needs of the goods. */
export function StockList() {
  const { data, error } = useGoods();
  const [find, setFind] = useState('');
  const rows = useMemo(() => {
    const wanted = find.trim().toLocaleLowerCase();
    return (data ?? [])
      .filter(isCounted)
      .flatMap((product) =>
        product.variants
          .filter((v) => `${product.name} ${v.label} ${v.sku}`.toLocaleLowerCase().includes(wanted))
          .map((variant) => ({ product, variant })),
      );
  }, [data, find]);
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">{words.fetchingTheGoods}</p>;
  return (
    <div className="gtable stock">
      <div className="gtable-h">
        <h1>{say.stock}</h1>
        <span className="mono">{rows.length}</span>
        <div className="gtools">
          <FindField label={words.findGoods} placeholder={words.find} value={find} onFind={setFind} />
        </div>
        <p className="note">{say.whatYouTypeIsLiveAtOnce}</p>
      </div>
      {rows.length === 0 ? <p className="empty note">{say.nothingIsCounted}</p> : <Rows rows={rows} />}
    </div>
  );
}

function Rows({ rows }: { rows: readonly Counted[] }) {
  const box = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => 45,
    overscan: 10,
  });
  const shown = list.getVirtualItems();
  const [above, below] = [shown[0]?.start ?? 0, list.getTotalSize() - (shown.at(-1)?.end ?? 0)];
  return (
    <div className="gtable-scroll" ref={box}>
      <table>
        <thead>
          <tr>
            <th scope="col" colSpan={2}>
              {goodsTable.name}
            </th>
            <th scope="col">{say.number}</th>
            <th scope="col" className="n">
              {goodsTable.stock}
            </th>
          </tr>
        </thead>
        <tbody>
          {above > 0 && <Gap height={above} />}
          {shown.map(({ index }) => {
            const row = rows[index];
            return row && <StockRow key={row.variant.id} n={index} {...row} />;
          })}
          {below > 0 && <Gap height={below} />}
        </tbody>
      </table>
    </div>
  );
}

const Gap = ({ height }: { height: number }) => (
  <tr style={{ height }}>
    <td />
  </tr>
);

function StockRow({ n, product, variant }: Counted & { n: number }) {
  const { site } = useBoot();
  const picture = pictureOf(site.shopUrl, product.picture);
  const name = variant.label ? say.named(product.name, variant.label) : product.name;
  const count = useCounting(product, variant, name);
  return (
    <tr>
      <td className="pic">
        {picture ? (
          <img className="thumb" src={picture} alt="" loading="lazy" />
        ) : (
          <span className="thumb" aria-hidden="true">
            –
          </span>
        )}
      </td>
      <th scope="row">{name}</th>
      <td className="mono">{variant.sku}</td>
      <td className="n">
        <Cell
          n={n}
          column="stock"
          label={goodsTable.stockOf(name)}
          value={variant.stock === null ? '' : String(variant.stock)}
          placeholder={goodsTable.any}
          className={variant.stock === 0 ? 'out' : ''}
          onSave={count}
        />
      </td>
    </tr>
  );
}

/**
 * Saves a count by what was seen and what was written, so that a sale in between stays. @returns what is
 * wrong with a text.
 */
function useCounting(product: GoodsLine, variant: Variant, name: string) {
  const { site } = useBoot();
  return (text: string): string | undefined => {
    const to = text.trim() === '' ? null : Number(text);
    if (to !== null && (!Number.isInteger(to) || to < 0)) return goodsTable.enterAWholeNumberOrLeave;
    queries.setQueryData<GoodsLine[]>(['goods'], (lines) =>
      lines?.map((l) =>
        l.id === product.id
          ? { ...l, variants: l.variants.map((v) => (v.id === variant.id ? { ...v, stock: to } : v)) }
          : l,
      ),
    );
    const counts = [{ variantId: variant.id, from: variant.stock, to }];
    void call(site.slug, 'PUT goods/:id', { id: product.id, body: { fields: {}, counts } }).catch(
      (error: unknown) => {
        toast.error(`${name}: ${messageOf(error)}`, { duration: 9000 });
        refresh('goods');
      },
    );
    return undefined;
  };
}
