import { describe, expect, it } from 'vitest';
import type { MenuItemView } from '../../services/sites/menus';
import { added, dropped, moveBy, nest, rowsOf, squash, unnest, withoutItem } from './menu-acts';

const item = (at: string[], children: MenuItemView[] = [], isNew = false): MenuItemView => ({
  label: at.at(-1) ?? '',
  at,
  href: '#',
  added: isNew,
  children,
});
const menu = [item(['Home']), item(['Bed'], [item(['Bed', 'Visit'])]), item(['Journal'])];
const rows = rowsOf(menu);
const row = (label: string) => rows.find((r) => r.item.label === label) ?? rows[0];

describe('acts on a menu', () => {
  it('are asked before they are done: what cannot be is nothing', () => {
    const [home, bed, visit, journal] = ['Home', 'Bed', 'Visit', 'Journal'].map(row);
    expect(home && moveBy(home, -1)).toBeNull();
    expect(home && moveBy(home, 1)).toEqual({ do: 'move', item: ['Home'], at: { under: [], after: 'Bed' } });
    expect(home && nest(home)).toBeNull();
    expect(journal && nest(journal)).toEqual({ do: 'move', item: ['Journal'], at: { under: ['Bed'] } });
    expect(visit && unnest(visit)).toEqual({
      do: 'move',
      item: ['Bed', 'Visit'],
      at: { under: [], after: 'Bed' },
    });
    expect(bed && unnest(bed)).toBeNull();
  });

  it('a row that is dragged goes beside or below what it is dropped on, and never into itself', () => {
    expect(dropped(rows, 3, 0, false)).toEqual({
      do: 'move',
      item: ['Journal'],
      at: { under: [], before: 'Home' },
    });
    expect(dropped(rows, 0, 3, true)).toEqual({ do: 'move', item: ['Home'], at: { under: ['Journal'] } });
    expect(dropped(rows, 1, 2, false)).toBeNull();
    expect(dropped(rows, 1, 1, false)).toBeNull();
  });

  it('leave out what they make of each other', () => {
    const rename = (from: string, to: string) => ({ do: 'rename' as const, item: [from], label: to });
    expect(squash([rename('A', 'B'), rename('B', 'C')])).toEqual([rename('A', 'C')]);
    const add = { do: 'add' as const, label: 'Shop', to: '/shop/', at: { under: [] } };
    expect(squash([add, rename('Shop', 'Wares')])).toEqual([{ ...add, label: 'Wares' }]);
    expect(withoutItem([add, rename('Shop', 'Wares')], item(['Shop'], [], true))).toEqual([]);
    expect(withoutItem([add], item(['Home']))).toEqual([add, { do: 'remove', item: ['Home'] }]);
    expect(added(menu, 'Visit')).toBe(true);
  });
});
