import { useEffect } from 'react';
import { Sheet } from './ui/dialog';
import { keys as say } from './words/frame';

const list: readonly (readonly [string, string])[] = [
  ['Alt+1 to Alt+6', say.siteGoodsLookTillOrdersChecks],
  ['Ctrl+K', say.findOrDo],
  ['[ and ]', say.previousAndNextPitchOnThe],
  ['Enter', say.toTheShelfForTheChosen],
  [say.upDownEnter, say.chooseAWidgetOnTheShelf],
  [say.mThenAndEnter, say.moveTheChosenWidgetToAnother],
  ['Delete', say.takeTheChosenWidgetAway],
  ['Ctrl+Z, Ctrl+Shift+Z', say.undoAndRedoOnTheBench],
  ['W', say.nextWidthOnTheBench],
  [say.esc, say.letGoOfWhatIsChosen],
  ['?', say.thisList],
];

export function KeyList({ onClose }: { onClose: () => void }) {
  return (
    <Sheet title={say.keys} className="keys" onClose={onClose}>
      <h2 className="px-6 pt-5 pb-3 font-head text-[17px] font-bold">{say.keys}</h2>
      <dl>
        {list.map(([keys, what]) => (
          <div key={keys} className="contents">
            <dt>
              <kbd className="keycap">{keys}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** "Ctrl+Shift+Z", "Alt+1", "]": how a key press is named in a key map. */
function nameOf(e: KeyboardEvent): string {
  const named = e.key === ' ' ? 'Space' : e.key;
  const withOthers = e.ctrlKey || e.altKey || e.metaKey;
  const key = named.length === 1 && withOthers ? named.toUpperCase() : named;
  return [
    (e.ctrlKey || e.metaKey) && 'Ctrl',
    e.altKey && 'Alt',
    e.shiftKey && (e.ctrlKey || e.metaKey) && 'Shift',
    key,
  ]
    .filter(Boolean)
    .join('+');
}

/** Binds keys while the view stands. Plain letters are left to fields that are being typed in. */
export function useKeys(map: Readonly<Record<string, (e: KeyboardEvent) => void>>): void {
  useEffect(() => {
    const hear = (e: KeyboardEvent) => {
      const act = map[nameOf(e)] ?? (e.altKey ? map[`Alt+${e.code.replace('Digit', '')}`] : undefined);
      const strong = (e.ctrlKey || e.metaKey || e.altKey) && !/Z$/.test(nameOf(e));
      if (!act || (typing(e.target) && !strong) || document.querySelector('[role=dialog]')) return;
      e.preventDefault();
      act(e);
    };
    addEventListener('keydown', hear);
    return () => removeEventListener('keydown', hear);
  }, [map]);
}
