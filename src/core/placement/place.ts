import { applyEdits, type Edit, insertion, sortEdits } from '../html/edits';
import { asciiHtml } from '../html/escape';
import { fence } from '../html/fence';
import { readSource } from '../html/source';
import { isText, type Node, parsePage, sameTreeBut } from '../html/tree';
import { type PitchAddress, resolvePitch } from '../site/pitch';
import type { ParsedPage } from '../site/read-page';
import type { WriteContext } from './kind';
import { type Placement, writePlacement } from './placement';

export interface PlaceContext extends Omit<WriteContext, 'placementId'> {
  /** Address of the one script: "https://shop.example/stall.js". */
  readonly scriptUrl: string;
}

export interface PlacedPage {
  readonly bytes: Uint8Array;
  readonly edits: readonly Edit[];
  readonly placed: readonly string[];
  /** Placements that could not be set on this page, with the reason; the page is published without them. */
  readonly lost: readonly { readonly id: string; readonly why: string }[];
}

/**
 * Sets placements on one page. The first one in the page carries the script. Every result is proven by re-parsing:
 * its tree must be the owner's tree plus what was inserted. A placement that would break this is left out and
 * reported; nothing is ever set in a place that was not surely found.
 */
export function placeOnPage(page: ParsedPage, placements: readonly Placement[], context: PlaceContext): PlacedPage {
  const lost: { id: string; why: string }[] = [];
  const set: { id: string; offset: number; order: number; html: string }[] = [];
  for (const p of placements) {
    const at = resolvePitch(page, p.pitch);
    const html = writePlacement(p, context);
    if (!at.found) lost.push({ id: p.id, why: `its pitch ${p.pitchLabel} is no longer on this page` });
    else if (html === undefined) lost.push({ id: p.id, why: 'its settings no longer fit its widget' });
    else set.push({ id: p.id, offset: at.pitch.offset, order: p.order, html });
  }
  set.sort((a, b) => a.offset - b.offset || a.order - b.order);
  const kept = proven(page, set, context.scriptUrl, lost);
  const edits = editsFor(kept, context.scriptUrl);
  return { bytes: edits.length ? applyEdits(page.source, edits) : page.source.bytes, edits, placed: kept.map((s) => s.id), lost };
}

type Setting = { id: string; offset: number; html: string };

const editsFor = (settings: readonly Setting[], scriptUrl: string): Edit[] =>
  settings.map((s, i) => insertion(s.offset, fence(s.id, asciiHtml(s.html) + (i === 0 ? `<script async src="${scriptUrl}"></script>` : ''))));

/** Tries all at once; only when the law is broken, one by one, to name the one that breaks it. */
function proven(page: ParsedPage, settings: Setting[], scriptUrl: string, lost: { id: string; why: string }[]): Setting[] {
  if (settings.length === 0 || holdsTreeLaw(page, editsFor(settings, scriptUrl))) return settings;
  const kept: Setting[] = [];
  for (const s of settings) {
    if (holdsTreeLaw(page, editsFor([...kept, s], scriptUrl))) kept.push(s);
    else lost.push({ id: s.id, why: 'the browser would move it or the page around it, because of how the page is written there' });
  }
  return kept;
}

/** The tree of the edited page is the old tree plus nodes whose source lies inside an insertion: nothing moved, nothing else came. */
export function holdsTreeLaw(page: ParsedPage, edits: readonly Edit[]): boolean {
  const after = parsePage(readSource(applyEdits(page.source, edits)));
  const ranges: [number, number][] = [];
  let shift = 0;
  for (const e of sortEdits(edits)) {
    ranges.push([e.at + shift, e.at + shift + e.inserted.length]);
    shift += e.inserted.length - e.removed.length;
  }
  const inserted = (node: Node): boolean => {
    const at = node.sourceCodeLocation?.startOffset;
    // A text node may begin with an insertion only if it is wholly ours; ours hold no bare text.
    return at !== undefined && !isText(node) && ranges.some(([from, to]) => at >= from && at < to);
  };
  return sameTreeBut(page.doc, after, inserted);
}

export const canStand = (page: ParsedPage, address: PitchAddress): boolean => {
  const at = resolvePitch(page, address);
  return at.found && holdsTreeLaw(page, [insertion(at.pitch.offset, fence('probe', '<stall-buy><a href="#">x</a></stall-buy>'))]);
};
