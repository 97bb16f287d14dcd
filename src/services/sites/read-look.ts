import { findLook, type Found } from '../../core/look/found/found';
import { PageSheets } from '../../core/site/page-sheets';
import type { PagePath } from '../../core/site/paths';
import type { PageFacts, ParsedPage } from '../../core/site/read-page';
import type { SeenAll, SeenTask } from '../../core/site/styled-page';
import { seenInThread } from '../reading/styles-in-thread';

/** Pages that a look is read of: more say the same once more. Chosen by hand. */
export const PAGES_READ = 12;

/** A site's files as a look is read of them. */
export interface LookFiles {
  readonly pages: readonly PageFacts[];
  readonly paths: readonly PagePath[];
  readonly load: (path: PagePath) => Promise<ParsedPage>;
  readonly read: (path: PagePath) => Promise<Uint8Array>;
}

/** The front page, then one of each kind in each chrome, then what comes. */
export function pagesToSee(pages: readonly PageFacts[]): PageFacts[] {
  const kinds = new Set<string>();
  const first = pages.filter((p, n) => {
    const kind = `${p.kind} ${p.chrome}`;
    const isNew = n === 0 || !kinds.has(kind);
    kinds.add(kind);
    return isNew;
  });
  return [...first, ...pages.filter((p) => !first.includes(p))].slice(0, PAGES_READ);
}

/** A site's look from its style sheets and trees alone: of what is not read in time nothing is known. */
export async function readLook(files: LookFiles, seenAll: SeenAll = seenInThread): Promise<Found> {
  const sheets = new PageSheets(files);
  const tasks: SeenTask[] = [];
  for (const { path } of pagesToSee(files.pages)) {
    const page = await files.load(path);
    const { bytes } = page.source;
    tasks.push({ path, bytes, regions: page.regions ?? [], sheets: await sheets.of(page) });
  }
  const seen = await seenAll(tasks);
  return findLook(
    seen.flatMap((pages) => pages ?? []),
    'computed',
  );
}
