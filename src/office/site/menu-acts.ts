import { type MenuChange, withoutAdded } from '../../core/placement/menu-change';
import type { MenuItemView } from '../../services/sites/menus';

/** A menu item in a list of rows, with what it stands among. */
export interface MenuRow {
  readonly item: MenuItemView;
  readonly depth: number;
  readonly siblings: readonly MenuItemView[];
  readonly index: number;
}

export const rowsOf = (items: readonly MenuItemView[], depth = 0): MenuRow[] =>
  items.flatMap((item, index) => [
    { item, depth, siblings: items, index },
    ...rowsOf(item.children, depth + 1),
  ]);

const parentOf = (item: MenuItemView): string[] => item.at.slice(0, -1);

/** One place up or down among its like; nothing at the edge. */
export function moveBy({ item, siblings, index }: MenuRow, by: -1 | 1): MenuChange | null {
  const other = siblings[index + by];
  if (!other) return null;
  return {
    do: 'move',
    item: [...item.at],
    at: { under: parentOf(item), ...(by < 0 ? { before: other.label } : { after: other.label }) },
  };
}

/** Below the item above it; nothing for the first. */
export function nest({ item, siblings, index }: MenuRow): MenuChange | null {
  const above = siblings[index - 1];
  return above ? { do: 'move', item: [...item.at], at: { under: [...above.at] } } : null;
}

/** Beside the item it stands below; nothing at the first level. */
export function unnest({ item }: MenuRow): MenuChange | null {
  const parent = parentOf(item);
  const label = parent.at(-1);
  return label === undefined
    ? null
    : { do: 'move', item: [...item.at], at: { under: parent.slice(0, -1), after: label } };
}

/** Where a row that was dragged comes to stand: beside the row it was dropped on, or below the one above when dragged to the right. */
export function dropped(
  rows: readonly MenuRow[],
  from: number,
  to: number,
  right: boolean,
): MenuChange | null {
  const moved = rows[from];
  const target = rows[to];
  if (!moved || !target) return null;
  if (from === to) return right ? nest(moved) : null;
  // Into itself or what stands below it, nothing goes.
  if (moved.item.at.every((l, i) => target.item.at[i] === l)) return null;
  if (right) {
    const above = from < to ? target : rows[to - 1];
    return above && !moved.item.at.every((l, i) => above.item.at[i] === l)
      ? { do: 'move', item: [...moved.item.at], at: { under: [...above.item.at] } }
      : null;
  }
  const beside = from < to ? { after: target.item.label } : { before: target.item.label };
  return { do: 'move', item: [...moved.item.at], at: { under: parentOf(target.item), ...beside } };
}

export const added = (items: readonly MenuItemView[], label: string): boolean =>
  rowsOf(items).some((r) => r.item.label === label);

/** Changes with what they make of each other left out: a name given twice keeps the last, a move made twice likewise. */
export function squash(changes: readonly MenuChange[]): MenuChange[] {
  const out: MenuChange[] = [];
  for (const c of changes) {
    const last = out.at(-1);
    const same =
      last && 'item' in last && 'item' in c && last.do === c.do && (c.do === 'move' || c.do === 'rename');
    if (
      same &&
      last.do === 'move' &&
      c.do === 'move' &&
      last.item.at(-1) === c.item.at(-1) &&
      [...last.at.under, last.item.at(-1)].join('\u0000') === c.item.join('\u0000')
    )
      out[out.length - 1] = { ...c, item: last.item };
    else if (
      same &&
      last.do === 'rename' &&
      c.do === 'rename' &&
      c.item.join('\u0000') === [...last.item.slice(0, -1), last.label].join('\u0000')
    )
      out[out.length - 1] = { ...c, item: last.item };
    else if (
      last?.do === 'add' &&
      c.do === 'rename' &&
      c.item.join('\u0000') === [...last.at.under, last.label].join('\u0000')
    )
      out[out.length - 1] = { ...last, label: c.label };
    else out.push(c);
  }
  return out;
}

/** The changes without an item: one of our own was never added, one of the owner's is taken out. */
export function withoutItem(changes: readonly MenuChange[], item: MenuItemView): MenuChange[] {
  const ours = changes.some((c) => c.do === 'add' && c.label === item.label);
  return ours
    ? withoutAdded(changes, (add) => add.label === item.label)
    : [...changes, { do: 'remove', item: [...item.at] }];
}
