import type { ChecksView, RunView } from '../../services/checks/checks';
import { day, when } from '../ui/when';
import { runs as say } from '../words/checks';
import { Tally } from './tally';

const whys: Readonly<Record<RunView['why'], string>> = {
  asked: say.asked,
  publish: say.publish,
  night: say.night,
};
const SHOWN = 6;

interface Props {
  readonly view: ChecksView;
  readonly isRunning: boolean;
  /** Pages that are still to be looked at in a browser. */
  readonly left: number;
  readonly onRun: () => void;
}

/** Runs over time: what was found, what was mended since the one before, what came back. */
export function Runs({ view, isRunning, left, onRun }: Props) {
  const [last] = view.runs;
  return (
    <section className="ck-runs" aria-labelledby="ck-runs-title">
      <header>
        <h2 id="ck-runs-title">{say.title}</h2>
        {last && (
          <span>
            {say.last(when(last.at))}
            {view.mendedSince > 0 && <b className="ok">, {say.mendedSince(view.mendedSince)}</b>}
          </span>
        )}
        <button type="button" className="btn sm" disabled={isRunning} onClick={onRun}>
          {say.runAgain}
        </button>
      </header>
      {left > 0 && (
        <p className="note" role="status">
          {say.looking(left)}
        </p>
      )}
      {!last && <p className="note">{say.never}</p>}
      <ol>
        {view.runs.slice(0, SHOWN).map((r) => (
          <li key={r.at} title={`${day(r.at)}, ${whys[r.why]}`}>
            <span className="mono">{when(r.at)}</span>
            <Tally n={r.found} />
            <em>{say.found(r.found)}</em>
            <Tally n={r.mended} good />
            <em className="ok">{r.back > 0 ? say.back(r.back) : say.mended(r.mended)}</em>
          </li>
        ))}
      </ol>
      <p className="note">{say.whenTheyRun}</p>
    </section>
  );
}
