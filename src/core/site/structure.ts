import { bodyOf, type Document } from '../html/tree';
import { findRegions } from './find-regions';
import { buildOutline } from './outline';
import type { RegionFact } from './regions';

const nothing: ReadonlySet<number> = new Set();

/** The regions of a page that stands alone: by its structure, its names and what it says of itself. */
export function readStructure(doc: Document): RegionFact[] {
  const body = bodyOf(doc);
  return body ? findRegions(buildOutline(body), nothing) : [];
}
