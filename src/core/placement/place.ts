import { applyEdits, type Edit, insertion } from '../html/edits';
import { asciiHtml, escapeHtml } from '../html/escape';
import { fence, isBuilt } from '../html/fence';
import type { Element } from '../html/tree';
import { containerOfPitch, type Pitch, type PitchAddress } from '../site/pitch';
import { resolvePitch } from '../site/resolve-pitch';
import type { ParsedPage } from '../site/read-page';
import { listSpots } from '../site/spot';
import type { WriteContext } from './kind';
import { type Placement, writePlacement } from './placement';
import { spellings } from './spelling';
import { type ChangedWithin, holdsTreeLaw, type Landing, provenPitches } from './tree-law';

export { holdsTreeLaw } from './tree-law';

export interface PlaceContext extends Omit<WriteContext, 'placementId'> {
  /** Address of the one script: "https://shop.example/stall.js". */
  readonly scriptUrl: string;
  /** The whole tag, where the page's shortcodes and bare elements are to know the shop and the site's own pages. */
  readonly scriptTag?: string;
}

/** The one script tag of a page; its data says where the shop is, and the site's own cart, checkout and shop page. */
export function scriptTag(to: {
  readonly script: string;
  readonly shop: string;
  readonly cart: string;
  readonly checkout: string;
  readonly page: string;
  readonly account?: string;
  /** The shop's other parts stand inside the shop front on its page. */
  readonly steps?: boolean;
}): string {
  const data = (['shop', 'cart', 'checkout', 'page', 'account'] as const).flatMap((name) =>
    to[name] ? [` data-${name}="${escapeHtml(to[name])}"`] : [],
  );
  return `<script async src="${escapeHtml(to.script)}"${data.join('')}${to.steps && to.page ? ' data-steps=""' : ''}></script>`;
}

/** A placement that could not be set on a page, with the reason; the page is published without it. */
export interface LostPlacement {
  readonly id: string;
  readonly why: string;
  /** The likeliest spot, where there is one; for the owner to say yes to. */
  readonly best?: { readonly label: string; readonly confidence: number; readonly pitch: PitchAddress };
}

export interface PlacedPage {
  readonly bytes: Uint8Array;
  readonly edits: readonly Edit[];
  readonly placed: readonly string[];
  readonly lost: readonly LostPlacement[];
}

/**
 * Sets placements on one page. The first that needs it carries the script. Every result is proven by re-parsing: its
 * tree must be the owner's tree plus what was inserted, where it was meant to stand. A placement that would break this
 * is left out and reported; nothing is ever set in a place that was not surely found.
 */
export function placeOnPage(
  page: ParsedPage,
  placements: readonly Placement[],
  context: PlaceContext,
): PlacedPage {
  const { set, lost, tag } = settingsFor(page, placements, context);
  const kept = proven(page, set, tag, lost);
  return placedAs(page, kept, lost, landingsFor(page, kept, tag));
}

/**
 * The same together with a menu that is written anew, proven in one parsing; nothing where that does not hold, or a placement stands in the
 * menu: then each is to be proven for itself.
 */
export function placeWithMenu(
  page: ParsedPage,
  placements: readonly Placement[],
  context: PlaceContext,
  menu: ChangedWithin,
): PlacedPage | undefined {
  const { set, lost, tag } = settingsFor(page, placements, context);
  const spots = menu.roots.map((root) => root.sourceCodeLocation);
  if (
    !spots.every(
      (at) => at && !set.some((s) => s.pitch.offset > at.startOffset && s.pitch.offset < at.endOffset),
    )
  )
    return undefined;
  const landings = landingsFor(page, set, tag);
  return holdsTreeLaw(page, landings, menu) ? placedAs(page, set, lost, landings) : undefined;
}

/** What is to be set where, in the order of the page; and what finds no place on it. */
function settingsFor(
  page: ParsedPage,
  placements: readonly Placement[],
  context: PlaceContext,
): { set: Setting[]; lost: LostPlacement[]; tag: string } {
  const lost: LostPlacement[] = [];
  const set: Setting[] = [];
  const built = isBuilt(page.source.structure);
  for (const p of placements) {
    const at = resolvePitch(page, p.pitch);
    const html = writePlacement(p, context);
    if (!at.found)
      lost.push({
        id: p.id,
        why: `its pitch ${p.pitchLabel} was not surely found on this page`,
        ...(at.best && { best: { label: at.best.label, confidence: at.confidence, pitch: at.best.address } }),
      });
    else if (html === undefined) lost.push({ id: p.id, why: 'its settings do not fit its widget' });
    else
      set.push({
        id: p.id,
        pitch: at.pitch,
        order: p.order,
        html,
        // Pages that were built for the shop bring the script with them; what is pasted as text asks it for its ways.
        needsScript: spellings[p.spelling].needsScript && (!built || p.spelling === 'shortcode'),
      });
  }
  set.sort((a, b) => a.pitch.offset - b.pitch.offset || a.order - b.order || (a.id < b.id ? -1 : 1));
  return { set, lost, tag: context.scriptTag ?? `<script async src="${context.scriptUrl}"></script>` };
}

function placedAs(
  page: ParsedPage,
  kept: readonly Setting[],
  lost: readonly LostPlacement[],
  landings: readonly Landing[],
): PlacedPage {
  const edits = landings.map((l) => l.edit);
  return {
    bytes: edits.length ? applyEdits(page.source, edits) : page.source.bytes,
    edits,
    placed: kept.map((s) => s.id),
    lost,
  };
}

interface Setting {
  readonly id: string;
  readonly pitch: Pitch;
  readonly order: number;
  readonly html: string;
  readonly needsScript: boolean;
}

function landingsFor(page: ParsedPage, settings: readonly Setting[], tag: string): Landing[] {
  const carrier = settings.find((s) => s.needsScript);
  // Edges of regions know what they stand in; the spots of a whole page are looked for only where something else is set.
  const isEdge = (s: Setting) => s.pitch.address.path === '' && s.pitch.region !== 'page';
  const homes = settings.every(isEdge)
    ? new Map<string, Element>()
    : new Map(listSpots(page).map((s) => [`${s.offset} ${s.prefix}`, s.container]));
  return settings.map((s, i) => {
    // A paragraph without end tag is closed once, by the first that stands behind it.
    const prefix = settings[i - 1]?.pitch.offset === s.pitch.offset ? '' : s.pitch.prefix;
    const script = s === carrier ? tag : '';
    const container = homes.get(`${s.pitch.offset} ${s.pitch.prefix}`) ?? containerOfPitch(page, s.pitch);
    return {
      edit: insertion(s.pitch.offset, fence(s.id, prefix + asciiHtml(s.html) + script)),
      ...(container && { container }),
    };
  });
}

/** Tries all at once; only when the law is broken, one by one, to name the one that breaks it. */
function proven(
  page: ParsedPage,
  settings: readonly Setting[],
  tag: string,
  lost: LostPlacement[],
): readonly Setting[] {
  if (settings.length === 0 || holdsTreeLaw(page, landingsFor(page, settings, tag))) return settings;
  const kept: Setting[] = [];
  for (const s of settings) {
    if (holdsTreeLaw(page, landingsFor(page, [...kept, s], tag))) kept.push(s);
    else
      lost.push({
        id: s.id,
        why: 'the browser would move it or the page around it, because of how the page is written there',
      });
  }
  return kept;
}

/** Whether a widget would really stand at an address of a page. */
export const canStand = (page: ParsedPage, address: PitchAddress): boolean => {
  const at = resolvePitch(page, address);
  return at.found && provenPitches(page, [at.pitch]).length === 1;
};
