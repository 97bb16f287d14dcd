import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { GripVertical, Pencil, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { MenuChange } from '../../core/placement/menu-change';
import type { MenuItemView } from '../../services/sites/menus';
import { OnSlip } from '../ui/mark';
import { dropped, type MenuRow, moveBy, nest, rowsOf, unnest } from './menu-acts';
import { menuTree as say } from '../words/site';

interface Props {
  readonly items: readonly MenuItemView[];
  readonly widths: Readonly<Record<string, number>>;
  readonly onChange: (change: MenuChange) => void;
  readonly onRemove: (item: MenuItemView) => void;
}

/** How far to the right a row is dragged to be nested, in pixels. */
const RIGHT = 28;

/** The menu as a list that can be dragged; by keys: Alt with the arrows moves and nests, F2 renames, Delete takes out. */
export function MenuTree({ items, widths, onChange, onRemove }: Props) {
  const rows = rowsOf(items);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const ids = rows.map((r) => r.item.at.join('\u0000'));
  const end = ({ active, over, delta }: DragEndEvent) => {
    const change = dropped(
      rows,
      ids.indexOf(String(active.id)),
      ids.indexOf(String(over?.id ?? active.id)),
      delta.x > RIGHT,
    );
    if (change) onChange(change);
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={end}>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ul className="tree">
          {rows.map((r, n) => (
            <Row
              key={ids[n]}
              id={ids[n] ?? ''}
              row={r}
              width={widths[r.item.label]}
              onChange={onChange}
              onRemove={onRemove}
            />
          ))}
        </ul>
      </SortableContext>
    </DndContext>
  );
}

function Row({
  id,
  row,
  width,
  onChange,
  onRemove,
}: { id: string; row: MenuRow; width: number | undefined } & Pick<Props, 'onChange' | 'onRemove'>) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useSortable({ id });
  const [name, setName] = useState<string | null>(null);
  const { item } = row;
  const keep = () => {
    const label = name?.trim();
    setName(null);
    if (label && label !== item.label) onChange({ do: 'rename', item: [...item.at], label });
  };
  const keys = (e: React.KeyboardEvent) => {
    const acts: Record<string, () => MenuChange | null> = {
      ArrowUp: () => moveBy(row, -1),
      ArrowDown: () => moveBy(row, 1),
      ArrowRight: () => nest(row),
      ArrowLeft: () => unnest(row),
    };
    if (e.key === 'F2') setName(item.label);
    else if (e.key === 'Delete') onRemove(item);
    else if (e.altKey && acts[e.key]) {
      const change = acts[e.key]?.();
      if (change) onChange(change);
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <li
      ref={setNodeRef}
      className={row.depth ? 'nested' : ''}
      data-drag={isDragging}
      style={{
        paddingLeft: row.depth * 26,
        transform: transform ? `translate(${transform.x}px,${transform.y}px)` : undefined,
      }}
    >
      <button type="button" className="grip" {...attributes} {...listeners} tabIndex={-1} aria-hidden="true">
        <GripVertical size={14} />
      </button>
      {name === null ? (
        <button
          type="button"
          className="label"
          title={say.altAndArrowsMoveItF2}
          onKeyDown={keys}
          onDoubleClick={() => setName(item.label)}
        >
          {item.label}
          {item.added && <OnSlip />}
        </button>
      ) : (
        <input
          // biome-ignore lint/a11y/noAutofocus: the field takes the place of what was pressed
          autoFocus
          className="label in"
          aria-label={say.newNameOf(item.label)}
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
          onFocus={(e) => e.target.select()}
          onBlur={keep}
          onKeyDown={(e) => {
            if (e.key === 'Enter') keep();
            if (e.key === 'Escape') setName(null);
          }}
        />
      )}
      <span className="mono w">{row.depth ? say.nested : Math.round(width ?? 0) || ''}</span>
      <button
        type="button"
        className="undo"
        aria-label={say.rename(item.label)}
        title={say.renameF2}
        onClick={() => setName(item.label)}
      >
        <Pencil size={12} />
      </button>
      <button
        type="button"
        className="undo"
        aria-label={say.takeOutOfTheMenu(item.label)}
        title={say.takeOutDelete}
        onClick={() => onRemove(item)}
      >
        <Trash2 size={12} />
      </button>
    </li>
  );
}
