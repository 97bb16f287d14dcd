import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useKeys } from '../keys';
import { hrefOf } from '../places';
import { useBoot } from '../shop-context';
import { bench as say } from '../words/bench';
import { BenchHead } from './bench-head';
import { nextPitch, widths } from './bench-state';
import { BenchStrip } from './bench-strip';
import { type Layout, pitchLines } from './geometry';
import { SettingsPanel } from './settings-panel';
import { Shelf } from './shelf';
import { Stage } from './stage';
import { type Bench as BenchWork, type BenchData, useBench, useBenchData } from './use-bench';
import { useSpace } from './use-space';

/** The page bench: the real page, its pitches, the widgets on it, and the settings of the one that is chosen. */
export function Bench({ onPanel }: { onPanel: (panel: ReactNode) => void }) {
  const { site } = useBoot();
  const path = new URLSearchParams(location.search).get('page') ?? '';
  const data = useBenchData(path);
  const bench = useBench(path, data);
  const [layout, setLayout] = useState<Layout>({ height: 800, anchors: [], widgets: [] });
  const box = useRef<HTMLDivElement>(null);
  const space = useSpace(box);
  const { view, pitches } = data;
  const px = widths[bench.width] ?? widths[2];
  const scale = Math.min(1, (space - 126) / px);
  const lines = useMemo(() => pitchLines(pitches, layout), [pitches, layout]);

  const { pitch, dispatch } = bench;
  const walk = useCallback(
    (by: 1 | -1) => {
      const to = nextPitch(
        lines.map((l) => l.index),
        pitch,
        by,
      );
      if (to === null) return;
      dispatch({ do: 'pitch', pitch: to });
      const line = lines.find((l) => l.index === to);
      const stage = box.current;
      if (line && stage)
        stage.scrollTo({ top: Math.max(0, line.y * scale - stage.clientHeight / 2), behavior: 'instant' });
    },
    [lines, pitch, scale, dispatch],
  );
  useBenchKeys(bench, walk);
  usePanel(data, bench, onPanel);

  if (data.error)
    return (
      <p className="empty bad">
        {data.error.message}{' '}
        <a className="underline" href={hrefOf(site.slug, 'site')}>
          {say.backToThePages}
        </a>
      </p>
    );
  if (!view) return <p className="empty note">{say.fetchingThePage}</p>;
  const { chosen, chosenPitch } = bench;
  return (
    <div className="bench">
      <Shelf
        shelf={view.shelf}
        lifted={bench.lifted}
        pitchWords={chosenPitch?.label ?? null}
        onLift={(lifted) => dispatch({ do: 'lift', lifted })}
        onPlace={(kind) => void bench.place(kind, chosenPitch)}
      />
      <section className="canvas" aria-label={say.page}>
        <BenchHead view={view} bench={bench} isLooking={data.isLooking} />
        <Stage
          view={view}
          data={data}
          bench={bench}
          box={box}
          layout={layout}
          lines={lines}
          px={px}
          space={space}
          scale={scale}
          onLayout={setLayout}
        />
        <div role="status" className="sr-only">
          {chosenPitch && say.pitch(chosenPitch.label)}
          {!chosenPitch && chosen && say.chosen(chosen.kind, chosen.pitchLabel)}
        </div>
      </section>
      <BenchStrip bench={bench} scale={scale} />
    </div>
  );
}

/** Keys of the bench; what they do is the same as what is pressed. */
function useBenchKeys(bench: BenchWork, walk: (by: 1 | -1) => void): void {
  const { width, moving, chosen, chosenPitch, dispatch, moveTo, takeAway, undo, redo } = bench;
  useKeys(
    useMemo(() => {
      const wider = () => dispatch({ do: 'width', width: (width + 1) % widths.length });
      return {
        ']': () => walk(1),
        '[': () => walk(-1),
        Enter: (e: KeyboardEvent) => {
          if (moving && chosen && chosenPitch) return void moveTo(chosen.id, chosenPitch);
          const pressed = (e.target as HTMLElement).closest<HTMLElement>('button,a,summary');
          (pressed ? () => pressed.click() : toShelf)();
        },
        m: () => chosen && dispatch({ do: 'move', moving: !moving }),
        Delete: () => chosen && void takeAway(chosen),
        'Ctrl+Z': () => void undo(),
        'Ctrl+Shift+Z': () => void redo(),
        w: wider,
        W: wider,
        Escape: () => dispatch({ do: 'leave' }),
      };
    }, [walk, width, moving, chosen, chosenPitch, dispatch, moveTo, takeAway, undo, redo]),
  );
}

const toShelf = (): void => document.querySelector<HTMLElement>('.shelf button')?.focus();

/** Hands the settings of the chosen widget to whoever shows them. */
function usePanel(data: BenchData, bench: BenchWork, onPanel: (panel: ReactNode) => void): void {
  const { view, goods, pages } = data;
  const { chosen, way, moving, dispatch, change, takeAway } = bench;
  const onSlip = chosen !== undefined && data.isOnSlip(chosen.id);
  useEffect(() => {
    if (!chosen || !view || way !== 'work') return onPanel(null);
    onPanel(
      <SettingsPanel
        key={chosen.id}
        placed={chosen}
        view={view}
        goods={goods}
        moving={moving}
        onMove={() => dispatch({ do: 'move', moving: !moving })}
        pages={pages}
        onSlip={onSlip}
        onChange={(c) => void change(chosen, c)}
        onTakeAway={() => void takeAway(chosen)}
        onClose={() => dispatch({ do: 'widget', widget: null })}
      />,
    );
  }, [view, goods, pages, chosen, way, moving, onSlip, onPanel, dispatch, change, takeAway]);
}
