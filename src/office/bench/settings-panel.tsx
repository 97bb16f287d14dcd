import { Move, Trash2, X } from 'lucide-react';
import type { GoodsLine } from '../../services/goods/lines';
import type { Placement } from '../../core/placement/placement';
import type { BenchView, PlacedView } from '../../services/publishing/bench';
import { Awning, OnSlip } from '../ui/mark';
import { ownWords } from '../../core/look/labels';
import { departuresOf } from '../../core/placement/departures';
import { type FieldValues, SettingFields } from './setting-fields';
import { ReachField } from './reach-field';
import { Spellings } from './spellings';
import { settingsPanel as say } from '../words/bench';

export type Change = Partial<Pick<Placement, 'settings' | 'reach' | 'spelling' | 'pitch' | 'pitchLabel'>>;

interface Props {
  readonly placed: PlacedView;
  readonly view: BenchView;
  readonly goods: readonly GoodsLine[];
  readonly pages: readonly { readonly path: string; readonly name: string }[];
  readonly onSlip: boolean;
  readonly moving: boolean;
  readonly onChange: (change: Change) => void;
  readonly onMove: () => void;
  readonly onTakeAway: () => void;
  readonly onClose: () => void;
}

/** Settings of the chosen widget, beside the page they change. Every change shows on the page at once, and on the slip. */
export function SettingsPanel({
  placed,
  view,
  goods,
  pages,
  onSlip,
  moving,
  onChange,
  onMove,
  onTakeAway,
  onClose,
}: Props) {
  const kind = view.shelf.find((k) => k.kind === placed.kind);
  const name = kind?.name ?? placed.kind;
  const own = departuresOf(placed.settings);
  return (
    <section className="set" aria-label={say.settings(name)}>
      <div className="set-h">
        <Awning kind={placed.kind} flat />
        <div>
          <h2>
            {name}
            {onSlip && <OnSlip />}
          </h2>
          <p>
            {view.page.name}, {placed.pitchLabel}
          </p>
        </div>
        <button type="button" className="fold" onClick={onClose} aria-label={say.closeTheSettings}>
          <X size={15} />
        </button>
      </div>
      {kind && (
        <SettingFields
          fields={kind.fields}
          values={placed.settings as FieldValues}
          goods={goods}
          categories={view.categories}
          former={view.former}
          pictures={view.pictures}
          onChange={(settings) => onChange({ settings })}
        />
      )}
      {own.length > 0 && (
        <p className="note mb-3">
          {say.unlikeTheShop(own.map(([shape, value]) => ownWords(shape, value)).join(', '))}
        </p>
      )}
      <ReachField placed={placed} view={view} pages={pages} onChange={(reach) => onChange({ reach })} />
      <Spellings placed={placed} view={view} onSpell={(spelling) => onChange({ spelling })} />
      <div className="flex gap-2">
        <button type="button" className="btn sm" aria-pressed={moving} onClick={onMove}>
          <Move size={13} aria-hidden />
          {moving ? say.chooseAPitch : say.moveIt}
        </button>
        <button type="button" className="btn sm beet" onClick={onTakeAway}>
          <Trash2 size={13} aria-hidden />
          {say.takeItAway}
        </button>
      </div>
    </section>
  );
}
