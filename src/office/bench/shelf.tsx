import { useRef } from 'react';
import type { BenchView } from '../../services/publishing/bench';
import { ShelfDrawing } from '../ui/mark';
import { shelf as say } from '../words/bench';

interface Props {
  readonly shelf: BenchView['shelf'];
  readonly lifted: string | null;
  readonly pitchWords: string | null;
  readonly onLift: (kind: string | null) => void;
  readonly onPlace: (kind: string) => void;
}

/** The widgets that can be placed: dragged onto the page, or chosen with arrows and placed with Enter at the chosen pitch. */
export function Shelf({ shelf, lifted, pitchWords, onLift, onPlace }: Props) {
  const list = useRef<HTMLUListElement>(null);
  const move = (e: React.KeyboardEvent, by: number) => {
    e.preventDefault();
    const buttons = [...(list.current?.querySelectorAll('button') ?? [])];
    buttons[
      (buttons.indexOf(e.currentTarget as HTMLButtonElement) + by + buttons.length) % buttons.length
    ]?.focus();
  };
  return (
    <section className="shelf" aria-label={say.shelf}>
      <h2>{say.shelf}</h2>
      <ul ref={list}>
        {shelf.map((k) => (
          <li key={k.kind}>
            <button
              type="button"
              draggable
              title={k.hint}
              data-kind={k.kind}
              data-lift={lifted === k.kind}
              onDragStart={(e) => {
                e.dataTransfer.setData('text/plain', k.kind);
                e.dataTransfer.effectAllowed = 'copy';
                onLift(k.kind);
              }}
              onDragEnd={() => onLift(null)}
              onClick={() => onPlace(k.kind)}
              onKeyDown={(e) => {
                if (e.key === 'ArrowDown') move(e, 1);
                if (e.key === 'ArrowUp') move(e, -1);
              }}
            >
              <ShelfDrawing kind={k.kind} />
              <span>
                <b>{k.name}</b>
                <em>{k.pages ? say.on(k.pages, k.pages === 1 ? 'page' : 'pages') : say.notPlaced}</em>
              </span>
            </button>
          </li>
        ))}
      </ul>
      <p className="hint">
        {pitchWords ? (
          <>
            {say.pressOneToPlaceIt}
            <b>{pitchWords}</b>.
          </>
        ) : (
          say.dragAWidgetOntoThePage
        )}
      </p>
    </section>
  );
}
