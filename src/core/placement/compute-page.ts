import { applyEdits, type Edit, sortEdits } from '../html/edits';
import { stripEdits } from '../html/fence';
import { readSource } from '../html/source';
import type { PagePath } from '../site/paths';
import type { ParsedPage } from '../site/read-page';
import { changeMenu, planMenu } from './change-menu';
import { kindOf } from './kinds';
import type { MenuChange } from './menu-change';
import { type PlaceContext, type PlacedPage, placeOnPage, placeWithMenu } from './place';
import type { Placement } from './placement';
import { type Repair, repairEdit } from './repair';
import { writeSpelling } from './spelling';

export interface ComputedPage extends PlacedPage {
  /** Why the menu of this page stayed as it is, when it was to change. */
  readonly menuProblem?: string;
}

/**
 * One page as it is published: the owner's page with changes to its menu and its placements, each proven, as one list
 * of edits of the owner's bytes. A placement that would stand inside a piece of menu that is written anew is lost.
 */
export function computePage(
  page: ParsedPage,
  wanted: {
    placements: readonly Placement[];
    menu: readonly MenuChange[];
    repairs?: readonly Repair[];
  },
  context: PlaceContext,
  has: (path: string) => boolean | PagePath | undefined,
): ComputedPage {
  const done = placedWithMenu(page, wanted, context, has);
  const repairs = wanted.repairs?.filter((r) => r.page === page.path) ?? [];
  return repairs.length ? withRepairs(page, done, repairs, context) : done;
}

/** The page with the owner's repairs. One whose spot is gone, or was taken by something else, is told. */
function withRepairs(
  page: ParsedPage,
  done: ComputedPage,
  repairs: readonly Repair[],
  context: PlaceContext,
): ComputedPage {
  const lost = [...done.lost];
  const edits = [...done.edits];
  const made: string[] = [];
  let needsScript = !done.edits.some((e) => e.inserted.includes('<script async src="'));
  const price = (goods: string, choice: string, placementId: string): string => {
    const full = { ...context, placementId };
    const w = kindOf('price')?.writable({ goods, choice }, full);
    const tag = needsScript
      ? (context.scriptTag ?? `<script async src="${context.scriptUrl}"></script>`)
      : '';
    return w ? writeSpelling('element', w, full) + tag : '';
  };
  for (const r of repairs) {
    const edit = repairEdit(page, r, { price });
    if (!edit.ok) lost.push({ id: r.id, why: edit.error });
    else if (edits.some((e) => overlaps(e, edit.value)))
      lost.push({ id: r.id, why: 'something else is written anew there' });
    else {
      edits.push(edit.value);
      made.push(r.id);
      if (r.act.do === 'price') needsScript = false;
    }
  }
  const sorted = sortEdits(edits);
  return {
    ...done,
    lost,
    edits: sorted,
    placed: [...done.placed, ...made],
    bytes: sorted.length ? applyEdits(page.source, sorted) : page.source.bytes,
  };
}

const overlaps = (a: Edit, b: Edit): boolean =>
  a.at < b.at + b.removed.length &&
  b.at < a.at + Math.max(1, a.removed.length) &&
  !(a.removed === '' && a.at === b.at);

function placedWithMenu(
  page: ParsedPage,
  wanted: { placements: readonly Placement[]; menu: readonly MenuChange[] },
  context: PlaceContext,
  has: (path: string) => boolean | PagePath | undefined,
): ComputedPage {
  const together = wanted.menu.length ? atOnce(page, wanted, context, has) : undefined;
  if (together) return together;
  const menu = wanted.menu.length ? changeMenu(page, wanted.menu, has) : undefined;
  const menuEdits = menu?.ok && menu.value ? menu.value.edits : [];
  const placed = placeOnPage(page, wanted.placements, context);
  const problem = menu && !menu.ok ? { menuProblem: menu.error } : {};
  if (menuEdits.length === 0) return { ...placed, ...problem };
  // Edits and ids of what was placed come in the same order.
  const inMenu = new Set(placed.placed.filter((_, n) => menuEdits.some((m) => within(m, placed.edits[n]))));
  const kept = inMenu.size
    ? placeOnPage(
        page,
        wanted.placements.filter((p) => !inMenu.has(p.id)),
        context,
      )
    : placed;
  const lost = [
    ...kept.lost,
    ...[...inMenu].map((id) => ({ id, why: 'it stands in the menu, and the menu is written anew there' })),
  ];
  const edits = sortEdits([...menuEdits, ...kept.edits]);
  return { ...kept, lost, edits, bytes: applyEdits(page.source, edits) };
}

/** Menu and placements proven in one parsing: most pages take both. Nothing where that does not hold. */
function atOnce(
  page: ParsedPage,
  { placements, menu }: { placements: readonly Placement[]; menu: readonly MenuChange[] },
  context: PlaceContext,
  has: (path: string) => boolean | PagePath | undefined,
): ComputedPage | undefined {
  const planned = planMenu(page, menu, has);
  if (!planned.ok || !planned.value) return undefined;
  const placed = placeWithMenu(page, placements, context, planned.value);
  if (!placed) return undefined;
  const edits = sortEdits([...planned.value.edits, ...placed.edits]);
  return { ...placed, edits, bytes: applyEdits(page.source, edits) };
}

const within = (menu: Edit, placed: Edit | undefined): boolean =>
  placed !== undefined && placed.at > menu.at && placed.at < menu.at + menu.removed.length;

/** Ids that a plan writes fences with: its placements, and its changes to menus. */
export const idsOf = (placements: readonly Pick<Placement, 'id'>[]): ((id: string) => boolean) => {
  const own = new Set(placements.map((p) => p.id));
  return (id) => own.has(id) || id.startsWith('menu-') || id.startsWith('mend-');
};

/** A page's bytes without what this plan wrote into it before: placing twice is placing once. */
export function withoutOwn(bytes: Uint8Array, mine: (id: string) => boolean): Uint8Array {
  const source = readSource(bytes);
  if (!source.structure.includes('<!--stall ')) return bytes;
  const { edits } = stripEdits(source, mine);
  return edits.length ? applyEdits(source, edits) : bytes;
}
