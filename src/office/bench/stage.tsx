import { type RefObject, useMemo, useRef } from 'react';
import type { BenchView } from '../../services/publishing/bench';
import { useBoot } from '../shop-context';
import { bench as say } from '../words/bench';
import type { Layout, PitchLine } from './geometry';
import { LostList } from './lost-list';
import { Overlay, Regions } from './overlay';
import { PageFrame } from './page-frame';
import { Trio } from './trio';
import type { Bench, BenchData } from './use-bench';

interface Props {
  readonly view: BenchView;
  readonly data: BenchData;
  readonly bench: Bench;
  readonly box: RefObject<HTMLDivElement | null>;
  readonly layout: Layout;
  readonly lines: readonly PitchLine[];
  /** Width of the page, of the room it stands in, and what one is to the other; CSS pixels. */
  readonly px: number;
  readonly space: number;
  readonly scale: number;
  readonly onLayout: (layout: Layout) => void;
}

/** The real page, to work on or to look at. */
export function Stage({ view, data, bench, box, layout, lines, px, space, scale, onLayout }: Props) {
  const { site } = useBoot();
  const { way } = bench;
  const asShopper = `${site.draftUrl}${view.page.address}`;
  return (
    <div className={way === 'work' ? 'stage' : 'stage plain'} ref={box}>
      {way === 'work' && (
        <>
          {view.lost.length > 0 && <Lost view={view} bench={bench} />}
          <div className="relative w-fit">
            <DraftFrame view={view} bench={bench} px={px} scale={scale} onLayout={onLayout} />
            <Regions view={view} layout={layout} scale={scale} />
            <PitchOverlay view={view} data={data} bench={bench} layout={layout} lines={lines} scale={scale} />
          </div>
        </>
      )}
      {way === 'shopper' && (
        <PageFrame
          src={asShopper}
          title={say.asAShopper}
          width={px}
          scale={Math.min(1, (space - 46) / px)}
          height={720}
          onLayout={onLayout}
        />
      )}
      {way === 'trio' && <Trio src={asShopper} space={space - 50} />}
    </div>
  );
}

type Shown = Pick<Props, 'view' | 'bench'>;

function Lost({ view, bench }: Shown) {
  const placed = (id: string) => view.placements.find((x) => x.id === id);
  return (
    <LostList
      view={view}
      onAccept={(id, best) => {
        const p = placed(id);
        if (p) void bench.change(p, { pitch: best.pitch, pitchLabel: best.label });
      }}
      onTakeAway={(id) => {
        const p = placed(id);
        if (p) void bench.takeAway(p);
      }}
    />
  );
}

/** While a step is on its way the server still draws the page as it was: the frame waits for the answer. */
function DraftFrame({ view, bench, px, scale, onLayout }: Shown & Pick<Props, 'px' | 'scale' | 'onLayout'>) {
  const { site } = useBoot();
  const drawn = useRef('');
  const version = useMemo(() => versionOf(view), [view]);
  if (bench.running === 0 || !drawn.current) drawn.current = version;
  return (
    <PageFrame
      src={`${site.draftUrl}${view.page.address}?stall=bench&v=${drawn.current}`}
      title={say.asTheDraftHasIt(view.page.name)}
      width={px}
      scale={scale}
      onLayout={onLayout}
    />
  );
}

function PitchOverlay({
  view,
  data,
  bench,
  layout,
  lines,
  scale,
}: Pick<Props, 'view' | 'data' | 'bench' | 'layout' | 'lines' | 'scale'>) {
  const { moving, chosen, lifted, dispatch, moveTo, place } = bench;
  return (
    <Overlay
      view={view}
      pitches={data.pitches}
      lines={lines}
      layout={layout}
      scale={scale}
      chosenPitch={bench.pitch}
      chosenWidget={bench.widget}
      lifted={lifted}
      onPitch={(i) => {
        const to = i === null ? undefined : data.pitches[i];
        if (moving && chosen && to) void moveTo(chosen.id, to);
        else dispatch({ do: 'pitch', pitch: i });
      }}
      onWidget={(widget) => dispatch({ do: 'widget', widget })}
      onLift={(what) => dispatch({ do: 'lift', lifted: what })}
      onDrop={(to) => {
        if (lifted?.startsWith('move:')) void moveTo(lifted.slice(5), to);
        else if (lifted) void place(lifted, to);
        dispatch({ do: 'lift', lifted: null });
      }}
    />
  );
}

/** Changes when the page is drawn otherwise. */
const versionOf = (view: BenchView): string =>
  hash(
    view.placements
      .map((p) => p.id + p.spelling + JSON.stringify(p.settings) + p.pitch.path + p.pitch.side)
      .join('|'),
  );

function hash(text: string): string {
  let n = 0;
  for (let i = 0; i < text.length; i++) n = (Math.imul(n, 31) + text.charCodeAt(i)) | 0;
  return (n >>> 0).toString(36);
}
