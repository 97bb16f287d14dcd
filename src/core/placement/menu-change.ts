import { z } from 'zod';

/** An item of the menu by the labels that lead to it: ["Journal", "2025"]. */
const itemPath = z.array(z.string().min(1)).min(1).max(6);
const label = z.string().trim().min(1, 'Enter what the menu item shall say.').max(80);
/** Where an item goes: below another (none: at the first level), before or after a neighbour there (neither: at the end). */
const spot = z.object({
  under: z.array(z.string().min(1)).max(5).default([]),
  before: z.string().optional(),
  after: z.string().optional(),
});

/** One change to the menu, made in every page's copy of it. `to` of a new item is an address of the site ("/shop/") or a whole one. */
export const menuChange = z.discriminatedUnion('do', [
  z.object({ do: z.literal('add'), label, to: z.string().min(1), at: spot.default({ under: [] }) }),
  z.object({ do: z.literal('rename'), item: itemPath, label }),
  z.object({ do: z.literal('move'), item: itemPath, at: spot }),
  z.object({ do: z.literal('remove'), item: itemPath }),
]);
export type MenuChange = z.infer<typeof menuChange>;
export type MenuSpot = z.infer<typeof spot>;

/**
 * The changes without one item that they added, and without whatever later changes do with it: they would have nothing
 * to hold on to. An item that was to stand beside it stands at the end of its row.
 */
export function withoutAdded(
  changes: readonly MenuChange[],
  isIt: (add: Extract<MenuChange, { do: 'add' }>) => boolean,
): MenuChange[] {
  const n = changes.findIndex((c) => c.do === 'add' && isIt(c));
  const ours = changes[n];
  if (ours?.do !== 'add') return [...changes];
  const { label } = ours;
  return changes.flatMap((c, i): MenuChange[] => {
    if (
      i === n ||
      (i > n && (('item' in c && c.item.includes(label)) || ('at' in c && c.at.under.includes(label))))
    )
      return [];
    if (i < n || !('at' in c) || (c.at.before !== label && c.at.after !== label)) return [c];
    return [{ ...c, at: { under: c.at.under } }];
  });
}
