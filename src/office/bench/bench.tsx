import { useQuery } from '@tanstack/react-query';
import { ChevronLeft, Redo2, Undo2 } from 'lucide-react';
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Placement } from '../../core/placement/placement';
import type { Pitch } from '../../core/site/pitch';
import type { BenchView } from '../../services/sites/bench';
import { call, queries, refresh } from '../api';
import { useKeys } from '../keys';
import { UNWRITTEN } from '../../core/placement/kinds/ways-in';
import { hrefOf } from '../places';
import { useBoot } from '../shop-context';
import { type Layout, pitchLines } from './geometry';
import { empty, perform, record, redo, type Step, undo } from './history';
import { Overlay, Regions } from './overlay';
import { PageFrame } from './page-frame';
import { LostList } from './lost-list';
import { type Change, SettingsPanel } from './settings-panel';
import { Shelf } from './shelf';
import { bench as say } from '../words/bench';

const widths = [
  { name: say.phone, px: 390 },
  { name: say.tablet, px: 820 },
  { name: say.desktop, px: 1280 },
] as const;
type Way = 'work' | 'shopper' | 'trio';

/** The page bench: the real page, its pitches, the widgets on it, and the settings of the one that is chosen. */
export function Bench({ onPanel }: { onPanel: (panel: ReactNode) => void }) {
  const { site } = useBoot();
  const path = new URLSearchParams(location.search).get('page') ?? '';
  const bench = useQuery({
    queryKey: ['bench', path],
    queryFn: () => call(site.slug, 'GET bench', { query: { page: path } }),
    placeholderData: (old) => old,
  });
  const found = useQuery({
    queryKey: ['pitches', path],
    queryFn: () => call(site.slug, 'GET bench/pitches', { query: { page: path } }),
    staleTime: 60_000,
  });
  const goods = useQuery({
    queryKey: ['goods'],
    queryFn: () => call(site.slug, 'GET goods'),
  });
  const overview = useQuery({
    queryKey: ['overview'],
    queryFn: () => call(site.slug, 'GET overview'),
  });
  const slip = useQuery({ queryKey: ['slip'], queryFn: () => call(site.slug, 'GET slip') });
  const [width, setWidth] = useState(2);
  const [way, setWay] = useState<Way>('work');
  const [pitchIndex, setPitch] = useState<number | null>(null);
  const [widget, setWidget] = useState<string | null>(null);
  const [lifted, setLifted] = useState<string | null>(null);
  const [layout, setLayout] = useState<Layout>({ height: 800, anchors: [], widgets: [] });
  const [history, setHistory] = useState(empty);
  const [running, setRunning] = useState(0);
  const [moving, setMoving] = useState(false);
  const drawn = useRef('');
  const stage = useRef<HTMLDivElement>(null);
  const space = useSpace(stage);

  const view = bench.data;
  const pitches = found.data ?? none;
  const lines = useMemo(() => pitchLines(pitches, layout), [pitches, layout]);
  const { px } = widths[width] ?? widths[2];
  const scale = Math.min(1, (space - 126) / px);
  const chosen = view?.placements.find((p) => p.id === widget);
  const pitch = pitchIndex === null ? undefined : pitches[pitchIndex];

  const after = useCallback(() => refresh('bench', 'slip', 'overview'), []);
  const run = useCallback(
    async (work: () => Promise<Step | undefined>) => {
      setRunning((n) => n + 1);
      try {
        const step = await work();
        if (step) setHistory((h) => record(h, step));
      } catch (e) {
        toast.error((e as Error).message, { duration: 9000 });
      }
      setRunning((n) => n - 1);
      after();
    },
    [after],
  );

  const place = useCallback(
    (kind: string, at: Pitch | undefined) => {
      const k = view?.shelf.find((s) => s.kind === kind);
      if (!k || !view) return;
      const to = at ?? usualPitch(pitches, k.usualPlace);
      if (!to) return void toast.error(say.chooseAPitchOnThePage);
      const first = goods.data?.[0];
      const needsGoods = k.fields.some((f) => f.key === 'goods' && f.as === 'goods');
      if (needsGoods && !first)
        return void toast.error(say.thereAreNoGoodsToSell, {
          action: {
            label: say.goods,
            onClick: () => location.assign(`${hrefOf(site.slug, 'goods')}?id=new`),
          },
        });
      void run(async () => {
        const reach =
          k.usualReach === 'every' && to.region !== 'main'
            ? { to: 'every' as const, except: [] }
            : { to: 'page' as const, page: path };
        const made = await call(site.slug, 'POST placements', {
          body: {
            kind,
            settings: {
              ...(needsGoods && { goods: first?.slug }),
              ...(kind === 'notice' && { text: UNWRITTEN }),
            },
            pitch: to.address,
            pitchLabel: to.label,
            reach,
          },
        });
        setPitch(null);
        setWidget(made.id);
        return { before: undefined, after: made };
      });
    },
    [view, pitches, goods.data, run, site.slug, path],
  );

  const changeWidget = useCallback(
    (p: Placement, change: Change) =>
      run(async () => {
        // Shown at once; the answer of the server, fetched after each step, is the truth.
        queries.setQueryData<BenchView>(
          ['bench', path],
          (old) =>
            old && {
              ...old,
              placements: old.placements.map((x) => (x.id === p.id ? { ...x, ...change } : x)),
            },
        );
        return {
          before: bare(p),
          after: await call(site.slug, 'PATCH placements/:id', { id: p.id, body: change }),
        };
      }),
    [run, site.slug, path],
  );
  const moveTo = useCallback(
    (id: string, to: Pitch) => {
      const placed = view?.placements.find((x) => x.id === id);
      setMoving(false);
      setPitch(null);
      setWidget(id);
      if (placed) void changeWidget(placed, { pitch: to.address, pitchLabel: to.label });
    },
    [view, changeWidget],
  );
  const takeAway = useCallback(
    (p: Placement) =>
      run(async () => {
        setWidget(null);
        await call(site.slug, 'DELETE placements/:id', { id: p.id });
        return { before: bare(p), after: undefined };
      }),
    [run, site.slug],
  );
  const step = useCallback(
    async (way: typeof undo) => {
      const it = way(history);
      if (!it) return;
      await run(async () => {
        await perform(site.slug, it.step);
        setHistory(it.next);
        return undefined;
      });
    },
    [history, run, site.slug],
  );

  const walk = useCallback(
    (by: number) => {
      if (!lines.length) return;
      const order = lines.map((l) => l.index);
      const before = by > 0 ? -1 : 0;
      const at = pitchIndex === null ? before : order.indexOf(pitchIndex);
      const to = order[(at + by + order.length) % order.length] ?? null;
      setPitch(to);
      if (!moving) setWidget(null);
      const line = lines.find((l) => l.index === to);
      if (line && stage.current)
        stage.current.scrollTo({
          top: Math.max(0, line.y * scale - stage.current.clientHeight / 2),
          behavior: 'instant',
        });
    },
    [lines, pitchIndex, scale, moving],
  );

  useKeys(
    useMemo(
      () => ({
        ']': () => walk(1),
        '[': () => walk(-1),
        Enter: (e: KeyboardEvent) => {
          if (moving && chosen && pitch) return moveTo(chosen.id, pitch);
          const on = e.target as HTMLElement;
          const pressed = on.closest<HTMLElement>('button,a,summary');
          if (pressed) return void pressed.click();
          document.querySelector<HTMLElement>('.shelf button')?.focus();
        },
        m: () => {
          if (chosen) setMoving(!moving);
        },
        Delete: () => {
          if (chosen) void takeAway(chosen);
        },
        'Ctrl+Z': () => void step(undo),
        'Ctrl+Shift+Z': () => void step(redo),
        w: () => setWidth((n) => (n + 1) % widths.length),
        W: () => setWidth((n) => (n + 1) % widths.length),
        Escape: () => {
          setPitch(null);
          if (moving) setMoving(false);
          else setWidget(null);
        },
      }),
      [walk, chosen, pitch, moving, moveTo, takeAway, step],
    ),
  );

  useEffect(() => {
    onPanel(
      chosen && view && way === 'work' ? (
        <SettingsPanel
          key={chosen.id}
          placed={chosen}
          view={view}
          goods={goods.data ?? []}
          moving={moving}
          onMove={() => setMoving(!moving)}
          pages={overview.data?.columns.flatMap((c) => c.pages).filter((p) => !p.built) ?? []}
          onSlip={slip.data?.waiting.some((w) => w.id === chosen.id) ?? false}
          onChange={(c) => void changeWidget(chosen, c)}
          onTakeAway={() => void takeAway(chosen)}
          onClose={() => setWidget(null)}
        />
      ) : null,
    );
  }, [chosen, view, way, moving, goods.data, overview.data, slip.data, onPanel, changeWidget, takeAway]);

  if (bench.error)
    return (
      <p className="empty bad">
        {bench.error.message}{' '}
        <a className="underline" href={hrefOf(site.slug, 'site')}>
          {say.backToThePages}
        </a>
      </p>
    );
  if (!view) return <p className="empty note">{say.fetchingThePage}</p>;
  const version = view.placements
    .map((p) => p.id + p.spelling + JSON.stringify(p.settings) + p.pitch.path + p.pitch.side)
    .join('|');
  // While a step is on its way the server still draws the page as it was: the frame waits for the answer.
  if (running === 0 || !drawn.current) drawn.current = hash(version);
  const src = `${site.draftUrl}${view.page.address}?stall=bench&v=${drawn.current}`;
  const asShopper = `${site.draftUrl}${view.page.address}`;
  return (
    <div className="bench">
      <Shelf
        shelf={view.shelf}
        lifted={lifted}
        pitchWords={pitch?.label ?? null}
        onLift={setLifted}
        onPlace={(kind) => place(kind, pitch)}
      />
      <section className="canvas" aria-label={say.page}>
        <div className="ctop">
          <a className="back" href={hrefOf(site.slug, 'site')}>
            <ChevronLeft size={14} aria-hidden />
            {say.pages}
          </a>
          <h1>{view.page.name}</h1>
          <span className="path">{view.page.address}</span>
          <span className="note">
            {view.placements.length === 1
              ? say.n1WidgetOnThisPage
              : say.widgetsOnThisPage(view.placements.length)}
          </span>
          <span className="cstat">
            {!lifted && found.isFetching && !found.data && (
              <>
                <i />
                {say.lookingForPitches}
              </>
            )}
            {moving && (
              <>
                <i />
                {say.chooseWhereItGoes}
                <kbd className="keycap">{say.esc}</kbd>
                {say.toLeaveIt}
              </>
            )}
            {lifted && (
              <>
                <i />
                {say.dragging}
                <b>{nameOfLifted(view, lifted)}</b>
                <kbd className="keycap">{say.esc}</kbd>
                {say.toLetGo}
              </>
            )}
            <button
              type="button"
              className="undo"
              disabled={!history.done.length}
              onClick={() => void step(undo)}
              aria-label={say.undo}
              title={say.undoCtrlZ}
            >
              <Undo2 size={14} />
            </button>
            <button
              type="button"
              className="undo"
              disabled={!history.undone.length}
              onClick={() => void step(redo)}
              aria-label={say.redo}
              title={say.redoCtrlShiftZ}
            >
              <Redo2 size={14} />
            </button>
          </span>
        </div>
        <div className={way === 'work' ? 'stage' : 'stage plain'} ref={stage}>
          {way === 'work' && view.lost.length > 0 && (
            <LostList
              view={view}
              onAccept={(id, best) => {
                const p = view.placements.find((x) => x.id === id);
                if (p) void changeWidget(p, { pitch: best.pitch, pitchLabel: best.label });
              }}
              onTakeAway={(id) => {
                const p = view.placements.find((x) => x.id === id);
                if (p) void takeAway(p);
              }}
            />
          )}
          {way === 'work' && (
            <div className="relative w-fit">
              <PageFrame
                src={src}
                title={say.asTheDraftHasIt(view.page.name)}
                width={px}
                scale={scale}
                onLayout={setLayout}
              />
              <Regions view={view} layout={layout} scale={scale} />
              <Overlay
                view={view}
                pitches={pitches}
                lines={lines}
                layout={layout}
                scale={scale}
                chosenPitch={pitchIndex}
                chosenWidget={widget}
                lifted={lifted}
                onPitch={(i) => {
                  const to = i === null ? undefined : pitches[i];
                  if (moving && chosen && to) return moveTo(chosen.id, to);
                  setPitch(i);
                  setWidget(null);
                }}
                onWidget={(id) => {
                  setWidget(id);
                  setPitch(null);
                  setMoving(false);
                }}
                onLift={setLifted}
                onDrop={(p) => {
                  if (lifted?.startsWith('move:')) moveTo(lifted.slice(5), p);
                  else if (lifted) place(lifted, p);
                  setLifted(null);
                }}
              />
            </div>
          )}
          {way === 'shopper' && (
            <PageFrame
              src={asShopper}
              title={say.asAShopper}
              width={px}
              scale={Math.min(1, (space - 46) / px)}
              height={720}
              onLayout={setLayout}
            />
          )}
          {way === 'trio' && <Trio src={asShopper} space={space - 50} />}
        </div>
        <div role="status" className="sr-only">
          {pitch && say.pitch(pitch.label)}
          {!pitch && chosen && say.chosen(chosen.kind, chosen.pitchLabel)}
        </div>
      </section>
      <footer className="strip">
        <fieldset className="seg" aria-label={say.width}>
          {widths.map((w, i) => (
            <button
              key={w.name}
              type="button"
              aria-pressed={i === width && way !== 'trio'}
              onClick={() => {
                setWidth(i);
                if (way === 'trio') setWay('work');
              }}
            >
              {w.name}
              <span className="mono">{w.px}</span>
            </button>
          ))}
        </fieldset>
        {way !== 'trio' && <span className="zoom mono">{say.shownAt(Math.round(scale * 100))}</span>}
        <span className="gap" />
        <button
          type="button"
          className="btn"
          aria-pressed={way === 'trio'}
          onClick={() => setWay(way === 'trio' ? 'work' : 'trio')}
        >
          {way === 'trio' ? say.backToWork : say.sideBySide}
        </button>
        <button
          type="button"
          className="btn"
          aria-pressed={way === 'shopper'}
          onClick={() => setWay(way === 'shopper' ? 'work' : 'shopper')}
        >
          {way === 'shopper' ? say.backToWork : say.showAsShopper}
        </button>
      </footer>
    </div>
  );
}

function nameOfLifted(view: BenchView, lifted: string): string {
  const kind = lifted.startsWith('move:')
    ? view.placements.find((p) => p.id === lifted.slice(5))?.kind
    : lifted;
  return view.shelf.find((k) => k.kind === kind)?.name ?? '';
}

function Trio({ src, space }: { src: string; space: number }) {
  const scale = (space - 40) / widths.reduce((n, w) => n + w.px, 0);
  const nothing = useCallback(() => {}, []);
  return (
    <div className="trio">
      {widths.map((w) => (
        <figure key={w.px}>
          <figcaption>
            {w.name} <span className="mono">{w.px}</span>
          </figcaption>
          <PageFrame
            src={src}
            title={say.asAShopper2(w.name)}
            width={w.px}
            scale={scale}
            height={Math.round(560 / scale)}
            onLayout={nothing}
          />
        </figure>
      ))}
    </div>
  );
}

/** Where a widget goes when no pitch was chosen: a cart to the end of the header. */
const usualPitch = (pitches: readonly Pitch[], region: string): Pitch | undefined =>
  region === 'header'
    ? pitches.find((p) => p.region === 'header' && p.address.path === '' && p.address.side === 'end')
    : undefined;

const none: readonly Pitch[] = [];

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

function hash(text: string): string {
  let n = 0;
  for (let i = 0; i < text.length; i++) n = (Math.imul(n, 31) + text.charCodeAt(i)) | 0;
  return (n >>> 0).toString(36);
}

function useSpace(ref: React.RefObject<HTMLElement | null>): number {
  const [space, setSpace] = useState(840);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => entry && setSpace(entry.target.clientWidth));
    const timer = setInterval(() => {
      if (!ref.current) return;
      watch.observe(ref.current);
      clearInterval(timer);
    }, 50);
    return () => {
      clearInterval(timer);
      watch.disconnect();
    };
  }, [ref]);
  return space;
}
