import type { Patch } from './form';
import { useMutation } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, type ReactNode, useRef, useState } from 'react';
import { toast } from 'sonner';
import { decimalText, parseMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import type { GoodsLine } from '../../services/goods/lines';
import { call, queries, refresh } from '../api';
import { pictureOf, useBoot } from '../shop-context';
import { BulkBar } from './bulk-bar';
import { CsvPanel } from './csv-panel';
import { isOut, piecesOf } from './use-goods';
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
                  <Row
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

function Row({
  n,
  product: p,
  ticked,
  onTick,
  onOpen,
}: {
  n: number;
  product: GoodsLine;
  ticked: boolean;
  onTick: (on: boolean) => void;
  onOpen: () => void;
}) {
  const { site } = useBoot();
  const picture = pictureOf(site.shopUrl, p.picture);
  const [only] = p.variants.length === 1 ? p.variants : [];
  const pieces = piecesOf(p);
  const save = (fields: Patch['fields'], counts: Patch['counts'] = []) =>
    call(site.slug, 'PUT goods/:id', { id: p.id, body: { fields, counts } }).then(
      () => refresh('slip', 'bench'),
      (error: Error) => {
        toast.error(`${p.name}: ${error.message}`, { duration: 9000 });
        refresh('goods');
        throw error;
      },
    );
  /** The line is right at once; when the server refuses, all lines are asked for again. */
  const now = (change: Partial<GoodsLine>) =>
    queries.setQueryData<GoodsLine[]>(['goods'], (lines) =>
      lines?.map((l) => (l.id === p.id ? { ...l, ...change } : l)),
    );
  const money = (text: string, done: (v: Minor) => void): string | undefined => {
    const read = parseMoney(text, site.currency);
    if (!read.ok) return read.error;
    if (read.value < 0) return say.aPriceIsNotBelowNought;
    done(read.value);
    return undefined;
  };
  const setWas = (was: Minor | null): undefined => {
    now({ was });
    void save({ was }).catch(() => {});
  };
  return (
    <tr className={ticked ? 'ticked' : ''}>
      <td>
        <input
          type="checkbox"
          aria-label={say.tick(p.name)}
          checked={ticked}
          onChange={(e) => onTick(e.target.checked)}
        />
      </td>
      <td className="pic">
        {picture ? (
          <img className="thumb" src={picture} alt="" loading="lazy" />
        ) : (
          <span className="thumb" aria-hidden="true">
            –
          </span>
        )}
      </td>
      <th scope="row">
        <button type="button" onClick={onOpen}>
          {p.name}
        </button>
        {p.sample && <b className="sample">{say.sample}</b>}
      </th>
      <td className="n">
        <Cell
          n={n}
          column="price"
          label={say.priceOf(p.name)}
          value={decimalText(p.price as Minor, site.currency)}
          onSave={(t) =>
            money(t, (price) => {
              now({ price });
              void save({ price }).catch(() => {});
            })
          }
        />
      </td>
      <td className="n">
        <Cell
          n={n}
          column="was"
          label={say.priceBeforeOf(p.name)}
          value={p.was === null ? '' : decimalText(p.was as Minor, site.currency)}
          placeholder={say.none}
          onSave={(t) => (t.trim() === '' ? setWas(null) : money(t, setWas))}
        />
      </td>
      <td className="n">
        {only && p.kind !== 'bundle' && p.kind !== 'link' ? (
          <Cell
            n={n}
            column="stock"
            label={say.stockOf(p.name)}
            value={only.stock === null ? '' : String(only.stock)}
            placeholder={say.any}
            className={isOut(p) ? 'out' : ''}
            onSave={(t) => {
              const to = t.trim() === '' ? null : Number(t);
              if (to !== null && (!Number.isInteger(to) || to < 0)) return say.enterAWholeNumberOrLeave;
              now({ variants: [{ ...only, stock: to }] });
              void save({}, [{ variantId: only.id, from: only.stock, to }]).catch(() => {});
              return undefined;
            }}
          />
        ) : (
          <button type="button" className="many" onClick={onOpen}>
            {stockOfMany(p, pieces)}
          </button>
        )}
      </td>
      <td className="cats">{p.categories.join(', ')}</td>
      <td>
        <select
          aria-label={say.whoSees(p.name)}
          value={p.shows}
          onChange={(e) => {
            const shows = e.target.value as GoodsLine['shows'];
            now({ shows });
            // A bundle that holds it is told about it too.
            void save({ shows }).then(
              () => refresh('goods'),
              () => {},
            );
          }}
        >
          <option value="shown">{say.inTheShop}</option>
          <option value="link">{say.byLinkOnly}</option>
          <option value="hidden">{say.nobody}</option>
        </select>
      </td>
    </tr>
  );
}

/** A cell that is saved by Enter or by leaving it, and taken back by Escape. What cannot be is said beside it. */
function Cell({
  n,
  column,
  label,
  value,
  placeholder,
  className = '',
  onSave,
}: {
  n: number;
  column: string;
  label: string;
  value: string;
  placeholder?: string;
  className?: string;
  onSave: (text: string) => string | undefined;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string>();
  const done = () => {
    if (typed === null || typed === value) return setTyped(null);
    const fault = onSave(typed);
    setWrong(fault);
    if (!fault) setTyped(null);
  };
  const key = (e: KeyboardEvent<HTMLInputElement>) => {
    if (e.key === 'Escape') {
      setTyped(null);
      setWrong(undefined);
    }
    const by = { Enter: 1, ArrowDown: 1, ArrowUp: -1 }[e.key] ?? 0;
    if (!by) return;
    e.preventDefault();
    done();
    const next = e.currentTarget
      .closest('tbody')
      ?.querySelector<HTMLInputElement>(`[data-at="${n + by} ${column}"]`);
    next?.focus();
    next?.select();
  };
  return (
    <>
      <input
        className={`cell mono ${className}${wrong ? ' wrong' : ''}`}
        data-at={`${n} ${column}`}
        aria-label={label}
        aria-invalid={!!wrong}
        value={typed ?? value}
        placeholder={placeholder}
        inputMode="decimal"
        onChange={(e) => {
          setTyped(e.target.value);
          setWrong(undefined);
        }}
        onBlur={done}
        onKeyDown={key}
      />
      {wrong && (
        <span className="field-error" role="alert">
          {wrong}
        </span>
      )}
    </>
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

function stockOfMany(p: GoodsLine, pieces: number | null): string {
  if (p.kind === 'bundle') return say.byItsParts;
  return p.kind === 'link' ? '\u2014' : say.in(pieces ?? 'any', p.variants.length);
}
