import { chosenOf } from './fields';
import { closestCenter, DndContext, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { FindField } from '../ui/find-field';
import { type KeyboardEvent, type ReactNode, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { goodsKinds } from '../../core/goods/kinds';
import type { Product, ProductForm } from '../../core/goods/product';
import type { GoodsLine } from '../../services/goods/lines';
import { call, queries, refresh, viewKey } from '../api';
import { pictureOf, useBoot, useMoney } from '../shop-context';
import { OnSlip } from '../ui/mark';
import { CategoriesView } from './categories-view';
import { GoodsTable } from './goods-table';
import { Preview } from './preview';
import { ReviewsView } from './reviews-view';
import { Sheet } from './sheet';
import {
  type Filter,
  filters,
  isLow,
  isOut,
  piecesOf,
  type Sort,
  sorts,
  useGoods,
  useWanted,
} from './use-goods';
import { GoodsWays, type GoodsView } from './ways';
import { goods as say } from '../words/goods';

/** List and sheet in one view, with the product as shoppers meet it beside; or all goods as a table to type into. */
export function Goods() {
  const { data, error } = useGoods();
  const [id, setId] = useState(() => new URLSearchParams(location.search).get('id'));
  const [find, setFind] = useState('');
  const [filter, setFilter] = useState<Filter>('');
  const [sort, setSort] = useState<Sort>('hand');
  const [view, setView] = useState<GoodsView>(
    () =>
      (['table', 'categories', 'reviews'] as const).find((v) =>
        new URLSearchParams(location.search).has(v),
      ) ?? 'one',
  );
  const wanted = useWanted(data ?? none, find, filter, sort);
  const go = (to: { id?: string | null; view?: GoodsView }) => {
    if (to.id !== undefined) setId(to.id);
    if (to.view !== undefined) setView(to.view);
    const now = { id, view, ...to };
    const one = now.id ? `?id=${now.id}` : location.pathname;
    window.history.replaceState(null, '', now.view === 'one' ? one : `?${now.view}`);
  };
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">{say.fetchingTheGoods}</p>;
  const tools = (
    <Tools
      data={data}
      find={find}
      filter={filter}
      sort={sort}
      onFind={setFind}
      onFilter={setFilter}
      onSort={setSort}
    />
  );
  const onGo = (to: GoodsView) => go({ view: to });
  if (view === 'categories') return <CategoriesView onGo={onGo} />;
  if (view === 'reviews') return <ReviewsView onGo={onGo} />;
  if (view === 'table')
    return (
      <GoodsTable
        all={data}
        wanted={wanted}
        tools={tools}
        onOpen={(to) => go({ id: to, view: 'one' })}
        onGo={onGo}
      />
    );
  const line =
    id === 'new' || data.length === 0 ? undefined : (data.find((p) => p.id === id) ?? wanted[0] ?? data[0]);
  return (
    <div className="goods">
      <section className="glist" aria-label={say.goods}>
        <div className="gh">
          <h1>{say.goods}</h1>
          <span className="mono">
            {wanted.length === data.length ? data.length : say.of(wanted.length, data.length)}
          </span>
          <button type="button" className="btn sm add" onClick={() => go({ id: 'new' })}>
            {say.add}
          </button>
        </div>
        <GoodsWays at="one" onGo={onGo} />
        <div className="gtools">{tools}</div>
        <List
          wanted={wanted}
          current={line}
          byHand={sort === 'hand' && !find && !filter}
          onChoose={(to) => go({ id: to })}
        />
        {data.length === 0 && (
          <div className="grid gap-2 px-5">
            <p className="note">{say.nothingYetNameTheFirstThing}</p>
            <Samples />
          </div>
        )}
        {data.length > 0 && wanted.length === 0 && (
          <p className="note px-5">
            {say.noneOfTheGoodsIsLike}{' '}
            <button
              type="button"
              className="underline"
              onClick={() => {
                setFind('');
                setFilter('');
              }}
            >
              {say.showAll}
            </button>
          </p>
        )}
      </section>
      <One
        key={line?.id ?? 'new'}
        line={line}
        onSaved={(p) => go({ id: p.id })}
        onRemoved={() => go({ id: null })}
      />
    </div>
  );
}
const none: readonly GoodsLine[] = [];

function Tools({
  data,
  find,
  filter,
  sort,
  onFind,
  onFilter,
  onSort,
}: {
  data: readonly GoodsLine[];
  find: string;
  filter: Filter;
  sort: Sort;
  onFind: (v: string) => void;
  onFilter: (v: Filter) => void;
  onSort: (v: Sort) => void;
}) {
  const categories = useMemo(() => [...new Set(data.flatMap((p) => p.categories))].sort(), [data]);
  return (
    <>
      <FindField label={say.findGoods} placeholder={say.find} value={find} onFind={onFind} />
      <select
        className="in"
        aria-label={say.showOnly}
        value={filter}
        onChange={(e) => onFilter(e.target.value)}
      >
        {filters.map(([v, words]) => (
          <option key={v} value={v}>
            {words}
          </option>
        ))}
        {categories.length > 0 && (
          <optgroup label={say.category}>
            {categories.map((c) => (
              <option key={c} value={`in:${c}`}>
                {c}
              </option>
            ))}
          </optgroup>
        )}
      </select>
      <select
        className="in"
        aria-label={say.order}
        value={sort}
        onChange={(e) =>
          onSort(
            chosenOf(
              sorts.map(([v]) => v),
              e.target.value,
            ) ?? sort,
          )
        }
      >
        {sorts.map(([v, words]) => (
          <option key={v} value={v}>
            {words}
          </option>
        ))}
      </select>
    </>
  );
}

function List({
  wanted,
  current,
  byHand,
  onChoose,
}: {
  wanted: readonly GoodsLine[];
  current: GoodsLine | undefined;
  byHand: boolean;
  onChoose: (id: string) => void;
}) {
  const { site } = useBoot();
  const box = useRef<HTMLDivElement>(null);
  const slip = useQuery({ queryKey: viewKey('slip'), queryFn: () => call(site.slug, 'GET slip') });
  const recent = new Set(slip.data?.live.map((l) => l.where));
  const rows = useVirtualizer({
    count: wanted.length,
    getScrollElement: () => box.current,
    estimateSize: () => 59,
    overscan: 8,
  });
  const put = (n: number, to: number) => {
    const one = wanted[n];
    if (!one || to === n || to < 0 || to >= wanted.length) return;
    // Its place is before what stands there then: below itself all have moved up by one.
    const before = wanted[to < n ? to : to + 1]?.id ?? null;
    const now = wanted.filter((p) => p !== one);
    queries.setQueryData<GoodsLine[]>(['goods'], (lines) =>
      lines?.length === wanted.length ? now.toSpliced(to, 0, one) : lines,
    );
    void call(site.slug, 'POST goods/:id/move', { id: one.id, body: { before } }).then(
      () => refresh('goods', 'slip'),
      (error: Error) => {
        toast.error(error.message);
        refresh('goods');
      },
    );
  };
  const move = (e: KeyboardEvent, n: number) => {
    const by = e.altKey && byHand ? { ArrowUp: -1, ArrowDown: 1 }[e.key] : undefined;
    if (!by) return;
    e.preventDefault();
    put(n, n + by);
  };
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const ids = useMemo(() => wanted.map((p) => p.id), [wanted]);
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) =>
        over && put(ids.indexOf(String(active.id)), ids.indexOf(String(over.id)))
      }
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy} disabled={!byHand}>
        <div className="gscroll" ref={box}>
          <ul style={{ height: rows.getTotalSize() }}>
            {rows.getVirtualItems().map((v) => {
              const p = wanted[v.index];
              return (
                p && (
                  <Movable key={p.id} id={p.id} top={v.start}>
                    <Item
                      product={p}
                      current={p === current}
                      onSlip={recent.has(p.name)}
                      onChoose={() => onChoose(p.id)}
                      onKeyDown={(e) => move(e, v.index)}
                      hint={byHand}
                    />
                  </Movable>
                )
              );
            })}
          </ul>
        </div>
      </SortableContext>
    </DndContext>
  );
}

/**
 * A line of the list that can be dragged to its place. By keys it is moved where it stands, so it is
 * announced as what it is.
 */
function Movable({ id, top, children }: { id: string; top: number; children: ReactNode }) {
  const { listeners, setNodeRef, transform, isDragging } = useSortable({ id });
  return (
    <li
      ref={setNodeRef}
      className={isDragging ? 'dragging' : undefined}
      // Its place is not a transform: what is dragged is measured without them.
      style={{ top, ...(transform && { transform: `translateY(${transform.y}px)` }) }}
      {...listeners}
    >
      {children}
    </li>
  );
}

function Item({
  product: p,
  current,
  onSlip,
  onChoose,
  onKeyDown,
  hint,
}: {
  product: GoodsLine;
  current: boolean;
  onSlip: boolean;
  onChoose: () => void;
  onKeyDown: (e: KeyboardEvent) => void;
  hint: boolean;
}) {
  const { site } = useBoot();
  const money = useMoney();
  const picture = pictureOf(site.shopUrl, p.picture);
  return (
    <button
      type="button"
      aria-current={current}
      title={hint ? say.dragItOrMoveItWith : undefined}
      onClick={onChoose}
      onKeyDown={onKeyDown}
    >
      {picture ? (
        <img className="thumb" src={picture} alt="" />
      ) : (
        <span className="thumb" aria-hidden="true">
          –
        </span>
      )}
      <span>
        <b>{p.name}</b>
        <em>
          <i className={['not-italic', isLow(p) && 'low', isOut(p) && 'bad'].filter(Boolean).join(' ')}>
            {stockStatus(p)}
          </i>
          <span>
            {onSlip && <OnSlip />}{' '}
            <span className="mono">{p.open ? `${money(p.price)}+` : money(p.price)}</span>
          </span>
        </em>
      </span>
    </button>
  );
}

function stockStatus(p: GoodsLine): string {
  if (p.shows !== 'shown') return p.shows === 'link' ? say.byLinkOnly : 'hidden';
  if (p.partGone) return say.aPartIsHidden;
  if (p.kind === 'link' || p.kind === 'bundle') return goodsKinds[p.kind].name.toLowerCase();
  if (isOut(p)) return say.soldOut;
  if (p.variants.length > 1) return stockStatusOfMany(p);
  const pieces = piecesOf(p);
  if (pieces === null) return p.kind === 'ships' ? say.notCounted : goodsKinds[p.kind].name.toLowerCase();
  return p.kind === 'event' ? say.seatsLeft(pieces) : say.inStock(pieces);
}

function stockStatusOfMany(p: GoodsLine): string {
  const out = p.variants.filter((v) => v.stock !== null && v.stock <= 0).length;
  const few = isLow(p) ? say.fewLeft : '';
  return `${p.variants.length} options${out ? say.soldOut2(out) : few}`;
}

/** The product that is open, whole, and how shoppers meet it. */
function One({
  line,
  onSaved,
  onRemoved,
}: {
  line: GoodsLine | undefined;
  onSaved: (p: Product) => void;
  onRemoved: () => void;
}) {
  const { site } = useBoot();
  const goods = useGoods();
  const [draft, setDraft] = useState<ProductForm | null>(null);
  const { data, error } = useQuery({
    queryKey: viewKey('goods', line?.id ?? 'new'),
    enabled: line !== undefined,
    queryFn: () => call(site.slug, 'GET goods/:id', { id: line?.id ?? '' }),
  });
  if (error) return <p className="empty bad">{error.message}</p>;
  if (line && !data) return <p className="empty note">{say.opening(line.name)}</p>;
  return (
    <>
      <Sheet
        key={data ? JSON.stringify(data) : 'new'}
        product={data}
        goods={goods.data ?? none}
        onSaved={onSaved}
        onRemoved={onRemoved}
        onDraft={setDraft}
      />
      <Preview product={data} draft={draft} />
    </>
  );
}

/** A shop with nothing in it shows little: a few samples show what stands where. */
function Samples() {
  const { site } = useBoot();
  const add = useMutation({
    mutationFn: () => call(site.slug, 'POST goods/samples'),
    onSuccess: () => refresh('goods', 'slip', 'categories', 'bench'),
    onError: (e) => toast.error(e.message),
  });
  return (
    <button
      type="button"
      className="btn sm justify-self-start"
      disabled={add.isPending}
      onClick={() => add.mutate()}
    >
      {add.isPending ? say.puttingThemIn : say.putInFourSamples}
    </button>
  );
}
