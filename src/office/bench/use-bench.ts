import { useQuery } from '@tanstack/react-query';
import { useCallback, useMemo, useReducer } from 'react';
import { toast } from 'sonner';
import { UNWRITTEN } from '../../core/placement/kinds/notice';
import type { Placement } from '../../core/placement/placement';
import type { Pitch } from '../../core/site/pitch';
import type { GoodsLine } from '../../services/goods/lines';
import type { BenchView } from '../../services/publishing/bench';
import { call, queries, refresh, viewKey } from '../api';
import { hrefOf } from '../places';
import { useBoot } from '../shop-context';
import { bench as say } from '../words/bench';
import { benchStep, startState } from './bench-state';
import { perform, redo, type Step, stepOf, undo } from './history';
import type { Change } from './settings-panel';

/** What the bench shows of one page: the page itself, its pitches, and what widgets may name. */
export function useBenchData(path: string) {
  const { slug } = useBoot().site;
  const bench = useQuery({
    queryKey: viewKey('bench', path),
    queryFn: () => call(slug, 'GET bench', { query: { page: path } }),
    placeholderData: (old) => old,
  });
  const pitches = useQuery({
    queryKey: viewKey('pitches', path),
    queryFn: () => call(slug, 'GET bench/pitches', { query: { page: path } }),
    staleTime: 60_000,
  });
  const goods = useQuery({ queryKey: viewKey('goods'), queryFn: () => call(slug, 'GET goods') });
  const overview = useQuery({ queryKey: viewKey('overview'), queryFn: () => call(slug, 'GET overview') });
  const slip = useQuery({ queryKey: viewKey('slip'), queryFn: () => call(slug, 'GET slip') });
  const pages = useMemo(
    () => overview.data?.columns.flatMap((c) => c.pages).filter((p) => !p.built) ?? [],
    [overview.data],
  );
  return {
    view: bench.data,
    error: bench.error,
    pitches: pitches.data ?? none,
    isLooking: pitches.isFetching && !pitches.data,
    goods: goods.data ?? noGoods,
    pages,
    isOnSlip: (id: string) => slip.data?.waiting.some((w) => w.id === id) ?? false,
  };
}
const none: readonly Pitch[] = [];
const noGoods: readonly GoodsLine[] = [];

export type BenchData = ReturnType<typeof useBenchData>;

/** What is chosen and done on the bench: every act goes to the server, and can be taken back. */
export function useBench(path: string, { view, pitches, goods }: BenchData) {
  const { slug } = useBoot().site;
  const [state, dispatch] = useReducer(benchStep, startState);
  const run = useCallback(async (work: () => Promise<Step | undefined>) => {
    dispatch({ do: 'begin' });
    const step = await work().catch((e: Error) => void toast.error(e.message, { duration: 9000 }));
    dispatch({ do: 'end', step: step ?? undefined });
    refresh('bench', 'slip', 'overview');
  }, []);

  const place = useCallback(
    async (kind: string, at: Pitch | undefined) => {
      const shelved = view?.shelf.find((k) => k.kind === kind);
      if (!shelved) return;
      const to = at ?? usualPitch(pitches, shelved.usualPlace);
      if (!to) return void toast.error(say.chooseAPitchOnThePage);
      const needsGoods = shelved.fields.some((f) => f.key === 'goods' && f.as === 'goods');
      const [first] = goods;
      if (needsGoods && !first) return tellNoGoods(slug);
      await run(async () => {
        const made = await call(slug, 'POST placements', {
          body: {
            kind,
            settings: firstSettings(kind, needsGoods ? first?.slug : undefined),
            pitch: to.address,
            pitchLabel: to.label,
            reach:
              shelved.usualReach === 'every' && to.region !== 'main'
                ? { to: 'every', except: [] }
                : { to: 'page', page: path },
          },
        });
        dispatch({ do: 'widget', widget: made.id });
        return stepOf(undefined, made);
      });
    },
    [view, pitches, goods, run, slug, path],
  );

  const change = useCallback(
    (p: Placement, to: Change) =>
      run(async () => {
        // Shown at once; the answer of the server, fetched after each step, is the truth.
        queries.setQueryData<BenchView>(['bench', path], (old) => old && changed(old, p.id, to));
        return stepOf(bare(p), await call(slug, 'PATCH placements/:id', { id: p.id, body: to }));
      }),
    [run, slug, path],
  );
  const moveTo = useCallback(
    async (id: string, to: Pitch) => {
      const placed = view?.placements.find((x) => x.id === id);
      dispatch({ do: 'widget', widget: id });
      if (placed) await change(placed, { pitch: to.address, pitchLabel: to.label });
    },
    [view, change],
  );
  const takeAway = useCallback(
    (p: Placement) =>
      run(async () => {
        dispatch({ do: 'widget', widget: null });
        await call(slug, 'DELETE placements/:id', { id: p.id });
        return stepOf(bare(p), undefined);
      }),
    [run, slug],
  );
  const { history } = state;
  const walkHistory = useCallback(
    async (way: typeof undo) => {
      const next = way(history);
      if (!next) return;
      dispatch({ do: 'begin' });
      const done = await perform(slug, next.step).then(
        () => next.next,
        (e: Error) => void toast.error(e.message, { duration: 9000 }),
      );
      dispatch({ do: 'end', history: done ?? undefined });
      refresh('bench', 'slip', 'overview');
    },
    [history, slug],
  );
  return {
    ...state,
    dispatch,
    chosen: view?.placements.find((p) => p.id === state.widget),
    chosenPitch: state.pitch === null ? undefined : pitches[state.pitch],
    place,
    change,
    moveTo,
    takeAway,
    undo: useCallback(() => walkHistory(undo), [walkHistory]),
    redo: useCallback(() => walkHistory(redo), [walkHistory]),
  };
}

export type Bench = ReturnType<typeof useBench>;

const tellNoGoods = (slug: string): void =>
  void toast.error(say.thereAreNoGoodsToSell, {
    duration: 60_000,
    action: { label: say.goods, onClick: () => location.assign(`${hrefOf(slug, 'goods')}?id=new`) },
  });

/** What a widget begins with: the first product where it needs one, words to be written where it says something. */
const firstSettings = (kind: string, goods: string | undefined): Record<string, unknown> => ({
  ...(goods !== undefined && { goods }),
  ...(kind === 'notice' && { text: UNWRITTEN }),
});

const changed = (view: BenchView, id: string, to: Change): BenchView => ({
  ...view,
  placements: view.placements.map((x) => (x.id === id ? { ...x, ...to } : x)),
});

/** Where a widget goes when no pitch was chosen: a cart to the end of the header. */
const usualPitch = (pitches: readonly Pitch[], region: string): Pitch | undefined =>
  region === 'header'
    ? pitches.find((p) => p.region === 'header' && p.address.path === '' && p.address.side === 'end')
    : undefined;

/** The placement alone, as it is stored: what the bench adds to it stays out of history. */
const bare = ({ id, kind, settings, spelling, pitch, pitchLabel, reach, order }: Placement): Placement => ({
  id,
  kind,
  settings,
  spelling,
  pitch,
  pitchLabel,
  reach,
  order,
});
