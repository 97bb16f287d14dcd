import { bench as say } from '../words/bench';
import { widths } from './bench-state';
import { widthNames } from './trio';
import type { Bench } from './use-bench';

/** Below the page: its width, how large it is shown, and other ways of looking at it. */
export function BenchStrip({ bench, scale }: { bench: Bench; scale: number }) {
  const { width, way, dispatch } = bench;
  return (
    <footer className="strip">
      <fieldset className="seg" aria-label={say.width}>
        {widths.map((px, i) => (
          <button
            key={px}
            type="button"
            aria-pressed={i === width && way !== 'trio'}
            onClick={() => dispatch({ do: 'width', width: i })}
          >
            {widthNames[i]}
            <span className="mono">{px}</span>
          </button>
        ))}
      </fieldset>
      {way !== 'trio' && <span className="zoom mono">{say.shownAt(Math.round(scale * 100))}</span>}
      <span className="gap" />
      <button
        type="button"
        className="btn"
        aria-pressed={way === 'trio'}
        onClick={() => dispatch({ do: 'way', way: 'trio' })}
      >
        {way === 'trio' ? say.backToWork : say.sideBySide}
      </button>
      <button
        type="button"
        className="btn"
        aria-pressed={way === 'shopper'}
        onClick={() => dispatch({ do: 'way', way: 'shopper' })}
      >
        {way === 'shopper' ? say.backToWork : say.showAsShopper}
      </button>
    </footer>
  );
}
