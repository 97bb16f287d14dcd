import { lazy, Suspense, useMemo, useRef, useState } from 'react';
import type { FoundColour } from '../../core/look/found/found';
import { colourName } from '../../core/look/labels';
import { type TokenName, tokenNames, tokenOf } from '../../core/look/tokens';
import type { Worn } from '../../core/look/wear';
import type { LookView } from '../../services/sites/look-view';
import { look as say } from '../words/look';
import { DriftList } from './drift-list';
import { colourKey, faceKey, FoundList, shapeKey, shapeSources } from './found-list';
import { type LookSheet, type LookState, sheets } from './look-state';
import { PlacesPanel } from './places-panel';
import { Sample } from './sample';
import { ShapePanel } from './shape-panel';
import { type Thread, Threads } from './threads';
import { useLook, useLookView, useMeasuring } from './use-look';
import { WornList } from './worn-list';

/** The editor comes when it is asked for: it is larger than the rest of the place. */
const OwnCss = lazy(() => import('./own-css'));

/** What was found on the site, what the shop wears, the threads between them, and a sample that wears it already. */
export function LookPlace() {
  const view = useLookView();
  if (view.error) return <p className="empty bad">{view.error.message}</p>;
  if (!view.data) return <p className="empty note">{say.readingTheLook}</p>;
  return <Open view={view.data} />;
}

function Open({ view }: { view: LookView }) {
  const { state, act, worn } = useLook(view);
  const measuring = useMeasuring(view);
  const holder = useRef<HTMLDivElement>(null);
  const [places, setPlaces] = useState<FoundColour | null>(null);
  // Lists, figures and threads are of the scheme that the sample shows.
  const shown = (state.night && worn.dark) || worn.light;
  const threads = useMemo(() => threadsOf(view, shown, state), [view, shown, state]);
  const tied = useMemo(() => new Set(threads.map((t) => t.from)), [threads]);
  const failing = { byDay: failingIn(worn.light), byNight: worn.dark ? failingIn(worn.dark) : 0 };
  return (
    <div className={state.isLarge ? 'look large' : 'look'}>
      <div className="lk-work">
        <nav className="lk-sheets" aria-label={say.parts}>
          {sheets.map((sheet) => (
            <button
              key={sheet}
              type="button"
              aria-current={state.sheet === sheet}
              onClick={() => act({ do: 'show', sample: { sheet } })}
            >
              {sheetNames[sheet]}
            </button>
          ))}
        </nav>
        <DriftList lines={view.drift} />
        {state.sheet === 'shape' && <ShapePanel state={state} act={act} departures={view.departures} />}
        {state.sheet === 'css' && (
          <Suspense fallback={<p className="note">{say.readingTheLook}</p>}>
            <OwnCss state={state} act={act} />
          </Suspense>
        )}
        {state.sheet === 'colours' && (
          <>
            <Heads view={view} measuring={measuring} threads={threads.length} failing={failing} />
            <div className="lk-cols" ref={holder}>
              <FoundList
                found={view.found}
                notInFrames={view.notInFrames}
                chosen={state.chosen}
                tied={tied}
                onChoose={(what) => act({ do: 'choose', what })}
                onPlaces={setPlaces}
              />
              <WornList view={view} worn={shown} state={state} act={act} />
              <Threads threads={threads} holder={holder} />
            </div>
          </>
        )}
      </div>
      {places && !state.isLarge ? (
        <PlacesPanel
          key={colourName(places)}
          colour={places}
          pages={view.pages}
          onClose={() => setPlaces(null)}
        />
      ) : (
        <Sample look={worn.look} state={state} act={act} />
      )}
    </div>
  );
}

const sheetNames: Readonly<Record<LookSheet, string>> = {
  colours: say.coloursAndLetters,
  shape: say.shapeOfTheShop,
  css: say.ownCss,
};

interface HeadsProps {
  readonly view: LookView;
  readonly measuring: ReturnType<typeof useMeasuring>;
  readonly threads: number;
  readonly failing: { readonly byDay: number; readonly byNight: number };
}

/** The heads of the two lists: how the site was read, and how the shop stands. */
function Heads({ view, measuring, threads, failing }: HeadsProps) {
  const { progress } = measuring;
  return (
    <header>
      <div>
        <h1>{say.foundOnTheSite}</h1>
        <p className="note" role="status">
          {progress
            ? say.measuring(progress.done, progress.all, progress.page)
            : say.readFrom(view.found.pages, view.found.by === 'measured')}
        </p>
      </div>
      <button type="button" className="btn small" onClick={progress ? measuring.stop : measuring.start}>
        {progress ? say.stop : say.measureAgain}
      </button>
      <div className="wh">
        <h1>{say.wornByTheShop}</h1>
        <p className="note">
          {say.threads(threads)}
          {failing.byDay > 0 && <b className="bad">{say.toMend(failing.byDay)}</b>}
          {failing.byNight > 0 && <b className="bad">{say.toMendByNight(failing.byNight)}</b>}
        </p>
      </div>
    </header>
  );
}

const failingIn = (worn: Worn): number => worn.proofs.filter((p) => !p.passes).length;

/** A thread to each token that takes something found. */
function threadsOf(view: LookView, worn: Worn, state: LookState): Thread[] {
  return tokenNames.flatMap((name): Thread[] => {
    const { source, by, value } = worn.tokens[name];
    if (by !== 'thread' || !source) return [];
    const from = keyOf(view, name, source);
    if (!from) return [];
    const proof = worn.proofs.find((p) => p.of === name);
    return [
      {
        from,
        to: name,
        colour: tokenOf(name).kind === 'colour' ? value : '',
        isBad: proof !== undefined && !proof.passes,
        isChosen: state.chosen === from || state.open === name,
      },
    ];
  });
}

type Source = NonNullable<Worn['tokens'][TokenName]['source']>;

/** What is listed on the left that a source is part of. */
function keyOf(view: LookView, name: TokenName, source: Source): string | undefined {
  const { kind } = tokenOf(name);
  if (kind === 'colour') {
    const colour = view.found.colours.find((c) => c.sources.includes(source));
    return colour && colourKey(colour.value);
  }
  if (kind === 'face') {
    const family = view.found.sources[source];
    return family === undefined ? undefined : faceKey(family);
  }
  return (shapeSources as readonly string[]).includes(source) ? shapeKey(source) : undefined;
}
