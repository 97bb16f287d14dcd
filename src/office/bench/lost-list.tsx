import type { LostPlacement } from '../../core/placement/place';
import type { BenchView } from '../../services/publishing/bench';
import { lostList as say } from '../words/bench';

interface Props {
  readonly view: BenchView;
  readonly onAccept: (id: string, best: NonNullable<LostPlacement['best']>) => void;
  readonly onTakeAway: (id: string) => void;
}

/** Widgets of this page that found no sure place: they are not published until the owner says where they go. */
export function LostList({ view, onAccept, onTakeAway }: Props) {
  const nameOf = (id: string) =>
    view.shelf.find((k) => k.kind === view.placements.find((p) => p.id === id)?.kind)?.name ?? say.aWidget;
  return (
    <ul className="lost" aria-label={say.widgetsThatNeedYourWord}>
      {view.lost.map((l) => (
        <li key={l.id}>
          <p>
            <b>{nameOf(l.id)}</b>
            {say.isLeftOutBecause(l.why)}
            {l.best && (
              <>
                {' '}
                {say.likeliestIs}
                <b>{l.best.label}</b>
                {say.in100(Math.round(l.best.confidence * 100))}
              </>
            )}
          </p>
          {l.best && (
            <button type="button" className="btn sm" onClick={() => l.best && onAccept(l.id, l.best)}>
              {say.putItThere}
            </button>
          )}
          <button type="button" className="btn sm beet" onClick={() => onTakeAway(l.id)}>
            {say.takeItAway}
          </button>
        </li>
      ))}
    </ul>
  );
}
