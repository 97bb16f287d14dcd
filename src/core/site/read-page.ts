import { type PageSource, readSource, whyNotHtml } from '../html/source';
import { type Document, PageTooBig, pageLimits, parsePage } from '../html/tree';
import { addressOf, type PagePath } from './paths';
import type { PageKind } from './page-kind';
import type { RegionFact } from './regions';
import { readStructure } from './structure';
import { type Survey, surveyPage } from './survey';

/** What is known of one page; plain data that is stored with the snapshot. */
export interface PageFacts
  extends Pick<
    Survey,
    | 'path'
    | 'title'
    | 'heading'
    | 'description'
    | 'lang'
    | 'encoding'
    | 'encodingFrom'
    | 'lineEnds'
    | 'links'
    | 'dead'
    | 'styleSheets'
  > {
  readonly address: string;
  readonly kind: PageKind;
  /** Id of the section of the site it belongs to; '' for none. */
  readonly section: string;
  /** Number of the group of pages that share its chrome. */
  readonly chrome: number;
  readonly regions: readonly RegionFact[];
  readonly scripts: number;
  readonly forms: number;
  readonly pictures: number;
}

export interface ParsedPage {
  readonly path: PagePath;
  readonly source: PageSource;
  readonly doc: Document;
  /** As the site's reading found them by comparing pages; without, the page is read by its structure alone. */
  readonly regions?: readonly RegionFact[];
  /** How its site's menu marks the current item, for a page that is in no menu yet and so shows none. */
  readonly marksCurrent?: CurrentStyle | undefined;
}

/** How a menu marks its current item: classes that only that item has, on the item and on its link; an ARIA state. */
export interface CurrentStyle {
  readonly item: readonly string[];
  readonly link: readonly string[];
  readonly aria: string | undefined;
}

/** Parses one file, places left out on wish; says in words why it cannot be read as a page. */
export function parsePageFile(
  path: PagePath,
  bytes: Uint8Array,
  regions?: readonly RegionFact[],
  options?: { places: boolean },
): { page: ParsedPage } | { problem: string } {
  const problem = (why: string) => ({ problem: `${path}${why}. It is kept as a plain file.` });
  if (bytes.length > pageLimits.bytes)
    return problem(
      ` is ${Math.round(bytes.length / 2 ** 20)} MB: a page may have ${pageLimits.bytes / 2 ** 20} MB`,
    );
  const source = readSource(bytes);
  const why = whyNotHtml(source);
  if (why) return problem(` is named like a page but ${why}`);
  try {
    return { page: { path, source, doc: parsePage(source, options), ...(regions && { regions }) } };
  } catch (error) {
    if (error instanceof PageTooBig) return problem(`, line ${error.line}: ${error.message}`);
    throw error;
  }
}

/** One page's facts where there is no site to compare it with. */
export function readPage(page: ParsedPage, has: (path: string) => boolean | PagePath | undefined): PageFacts {
  return factsOf(surveyPage(page, has), {
    kind: 'other',
    section: '',
    chrome: 0,
    regions: page.regions ?? readStructure(page.doc),
  });
}

/** What a page says of itself, and what is known of it from the rest of its site. */
export const factsOf = (
  s: Survey,
  known: Pick<PageFacts, 'kind' | 'section' | 'chrome' | 'regions'>,
): PageFacts => ({
  path: s.path,
  address: addressOf(s.path),
  title: s.title,
  heading: s.heading,
  description: s.description,
  lang: s.lang,
  encoding: s.encoding,
  encodingFrom: s.encodingFrom,
  lineEnds: s.lineEnds,
  links: s.links,
  dead: s.dead,
  styleSheets: s.styleSheets,
  scripts: s.scripts.length + s.inlineScripts,
  forms: s.forms.length,
  pictures: s.pictures.length,
  ...known,
});
