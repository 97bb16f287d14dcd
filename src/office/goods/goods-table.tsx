import { GoodsRow } from './goods-row';
import { useMutation } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { GoodsLine } from '../../services/goods/lines';
import { call, refresh } from '../api';
import { useBoot } from '../shop-context';
import { BulkBar } from './bulk-bar';
import { CsvPanel } from './csv-panel';
import { GoodsWays, type GoodsView } from './ways';
import { goodsTable as say } from '../words/goods';

/** All goods as a table: prices and counts are typed straight in and live at once; what is ticked is changed together. */
export function GoodsTable({
  all,
  wanted,
  tools,
  onOpen,
  onGo,
}: {
  all: readonly GoodsLine[];
  wanted: readonly GoodsLine[];
  tools: ReactNode;
  onOpen: (id: string) => void;
  onGo: (to: GoodsView) => void;
}) {
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [csv, setCsv] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: wanted.length,
    getScrollElement: () => box.current,
    estimateSize: () => 45,
    overscan: 10,
  });
  const tick = (id: string, on: boolean) =>
    setTicked((now) => {
      const to = new Set(now);
      if (on) to.add(id);
      else to.delete(id);
      return to;
    });
  const shown = rows.getVirtualItems();
  const chosen = wanted.filter((p) => ticked.has(p.id));
  const samples = all.filter((p) => p.sample);
  return (
    <div className="gtable">
      <div className="gtable-h">
        <h1>{say.goods}</h1>
        <span className="mono">
          {wanted.length === all.length ? all.length : say.of(wanted.length, all.length)}
        </span>
        <div className="gtools">{tools}</div>
        {samples.length > 0 && <RemoveSamples ids={samples.map((p) => p.id)} />}
        <button type="button" className="btn sm" aria-expanded={csv} onClick={() => setCsv(!csv)}>
          {say.csvInAndOut}
        </button>
        <GoodsWays at="table" onGo={onGo} />
      </div>
      {csv && <CsvPanel onClose={() => setCsv(false)} />}
      {chosen.length > 0 && <BulkBar ids={chosen.map((p) => p.id)} onDone={() => setTicked(new Set())} />}
      <div className="gtable-scroll" ref={box}>
        <table>
          <thead>
            <tr>
              <th scope="col">
                <input
                  type="checkbox"
                  aria-label={say.tickAllThatAreShown}
                  checked={wanted.length > 0 && chosen.length === wanted.length}
                  ref={(el) => {
                    if (el) el.indeterminate = chosen.length > 0 && chosen.length < wanted.length;
                  }}
                  onChange={(e) => setTicked(e.target.checked ? new Set(wanted.map((p) => p.id)) : new Set())}
                />
              </th>
              <th scope="col" colSpan={2}>
                {say.name}
              </th>
              <th scope="col" className="n">
                {say.price}
              </th>
              <th scope="col" className="n">
                {say.priceBefore}
              </th>
              <th scope="col" className="n">
                {say.stock}
              </th>
              <th scope="col">{say.categories}</th>
              <th scope="col">{say.whoSeesIt}</th>
            </tr>
          </thead>
          <tbody>
            {(shown[0]?.start ?? 0) > 0 && (
              <tr style={{ height: shown[0]?.start }}>
                <td />
              </tr>
            )}
            {shown.map((v) => {
              const p = wanted[v.index];
              return (
                p && (
                  <GoodsRow
                    key={p.id}
                    n={v.index}
                    product={p}
                    ticked={ticked.has(p.id)}
                    onTick={(on) => tick(p.id, on)}
                    onOpen={() => onOpen(p.id)}
                  />
                )
              );
            })}
            {rows.getTotalSize() - (shown.at(-1)?.end ?? 0) > 0 && (
              <tr style={{ height: rows.getTotalSize() - (shown.at(-1)?.end ?? 0) }}>
                <td />
              </tr>
            )}
          </tbody>
        </table>
      </div>
    </div>
  );
}

function RemoveSamples({ ids }: { ids: readonly string[] }) {
  const { site } = useBoot();
  const remove = useMutation({
    mutationFn: () => call(site.slug, 'POST goods/bulk', { body: { ids, edit: { do: 'remove' } } }),
    onSuccess: () => {
      refresh('goods', 'slip');
      toast.success(say.theSamplesAreGoneTheSlip);
    },
    onError: (e) => toast.error(e.message),
  });
  return (
    <button type="button" className="btn sm beet" disabled={remove.isPending} onClick={() => remove.mutate()}>
      {say.remove(ids.length, ids.length === 1 ? say.sample : say.samples)}
    </button>
  );
}
