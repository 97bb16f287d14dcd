import { ChevronLeft, Redo2, Undo2 } from 'lucide-react';
import type { BenchView } from '../../services/publishing/bench';
import { hrefOf } from '../places';
import { useBoot } from '../shop-context';
import { bench as say } from '../words/bench';
import type { Bench } from './use-bench';

/** Which page it is, what is going on, and the way back. */
export function BenchHead({ view, bench, isLooking }: { view: BenchView; bench: Bench; isLooking: boolean }) {
  const { site } = useBoot();
  const { length } = view.placements;
  return (
    <div className="ctop">
      <a className="back" href={hrefOf(site.slug, 'site')}>
        <ChevronLeft size={14} aria-hidden />
        {say.pages}
      </a>
      <h1>{view.page.name}</h1>
      <span className="path">{view.page.address}</span>
      <span className="note">{length === 1 ? say.n1WidgetOnThisPage : say.widgetsOnThisPage(length)}</span>
      <span className="cstat">
        <GoingOn view={view} bench={bench} isLooking={isLooking} />
        <button
          type="button"
          className="undo"
          disabled={bench.history.done.length === 0}
          onClick={() => void bench.undo()}
          aria-label={say.undo}
          title={say.undoCtrlZ}
        >
          <Undo2 size={14} />
        </button>
        <button
          type="button"
          className="undo"
          disabled={bench.history.undone.length === 0}
          onClick={() => void bench.redo()}
          aria-label={say.redo}
          title={say.redoCtrlShiftZ}
        >
          <Redo2 size={14} />
        </button>
      </span>
    </div>
  );
}

function GoingOn({ view, bench, isLooking }: { view: BenchView; bench: Bench; isLooking: boolean }) {
  const { lifted, moving } = bench;
  return (
    <>
      {!lifted && isLooking && (
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
    </>
  );
}

function nameOfLifted(view: BenchView, lifted: string): string {
  const kind = lifted.startsWith('move:')
    ? view.placements.find((p) => p.id === lifted.slice(5))?.kind
    : lifted;
  return view.shelf.find((k) => k.kind === kind)?.name ?? '';
}
