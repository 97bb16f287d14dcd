import { readFile } from 'node:fs/promises';
import { LRUCache } from 'lru-cache';
import { isBuilt } from '../../src/core/html/fence';
import { idsOf, withoutOwn } from '../../src/core/placement/compute-page';
import { type Plan, readPlan } from '../../src/core/placement/plan';
import { FileIndex, isPagePath, type PagePath } from '../../src/core/site/paths';
import { type ParsedPage, parsePageFile } from '../../src/core/site/read-page';
import { type ReadOptions, readSite, type SiteReading } from '../../src/core/site/read-site';
import { invalid } from '../../src/services/errors';
import { asLive } from '../../src/services/sites/as-live';
import { type OpenSite, openSite } from '../../src/services/reading/open-site';
import { shownInThread } from '../../src/services/reading/styles-in-thread';
import { surveyInThreads } from '../../src/services/reading/survey-in-threads';
import type { Output } from './command';

/** A site as the commands work on it. */
export interface ReadSite {
  readonly files: OpenSite;
  readonly reading: SiteReading;
  readonly index: FileIndex;
  /** The owner's bytes: what is in the file, without what the plan put there before. */
  readonly owners: (path: PagePath) => Promise<Uint8Array>;
  readonly load: (path: PagePath) => Promise<ParsedPage>;
}

/** Pages kept parsed at a time, by the letters of their source together: a tree takes some twenty times as much. */
const KEPT = 1_000_000;

/** Opens and reads a site; with a plan, as it is without what that plan placed, and with the owner's word on regions. */
export async function readFrom(
  name: string,
  out: Output,
  plan?: Plan,
  onRegions?: ReadOptions['onRegions'],
): Promise<ReadSite> {
  const files = await ownersOnly(await openSite(name), plan !== undefined);
  const mine = plan && idsOf(plan.placements);
  const owners = async (path: PagePath): Promise<Uint8Array> =>
    mine && isPagePath(path) ? withoutOwn(await files.read(path), mine) : files.read(path);
  const surveyAll = plan ? undefined : surveyInThreads(files.paths.filter(isPagePath).length, files.fileOf);
  const says = plan
    ? plan.regions.flatMap((r) =>
        r.pages.map((page) => ({
          page: page as PagePath,
          regions: [
            {
              region: r.region,
              path: r.path,
              confidence: 1,
              by: 'owner' as const,
              ...(r.from !== undefined && { from: r.from }),
              ...(r.to !== undefined && { to: r.to }),
            },
          ],
        })),
      )
    : [];
  const read = await readSite(
    { ...files, read: owners },
    {
      onPage: (done, all) => out.progress('reading page', done, all),
      ...(surveyAll && { surveyAll }),
      shownAll: shownInThread,
      front: files.live?.front,
      ownerRegions: says,
      ...(onRegions && { onRegions }),
    },
  );
  if (read.pages.length === 0)
    throw invalid(
      `No page was found in ${name}: none of its ${files.paths.length} files is an HTML page. Name the folder that holds index.html.${read.notes.length ? ` (${read.notes[0]})` : ''}`,
    );
  const told = files.live ? asLive(read, files.live) : read;
  const reading = { ...told, notes: [...files.notes, ...read.notes] };
  const facts = new Map(reading.pages.map((p) => [p.path, p]));
  const recent = new LRUCache<PagePath, ParsedPage>({
    maxSize: KEPT,
    sizeCalculation: (page) => page.source.structure.length + 1,
  });
  const load = async (path: PagePath): Promise<ParsedPage> => {
    const known = recent.get(path);
    if (known) return known;
    const page = facts.get(path);
    if (!page) throw invalid(`The site has no page ${path}. "bin/stall read" lists those it has.`);
    const parsed = parsePageFile(path, await owners(path), page.regions);
    if ('problem' in parsed) throw invalid(parsed.problem);
    recent.set(path, parsed.page);
    return parsed.page;
  };
  return { files, reading, index: new FileIndex(files.paths), owners, load };
}

/** With a plan, pages that were built for the shop are not the owner's: they are built anew. */
async function ownersOnly(files: OpenSite, planned: boolean): Promise<OpenSite> {
  if (!planned) return files;
  const built = new Set<PagePath>();
  for (const path of files.paths.filter(isPagePath)) {
    const bytes = await files.read(path);
    if (isBuilt(Buffer.from(bytes).toString('latin1'))) built.add(path);
  }
  return { ...files, paths: files.paths.filter((p) => !built.has(p)) };
}

/** A page as somebody names it: its file, or its address. */
export function findPage({ reading }: ReadSite, name: string): PagePath {
  const wanted = name.replace(/^\.\//, '');
  const found = reading.pages.find(
    (p) => p.path === wanted || p.address === wanted || p.address === `/${wanted}`,
  );
  if (!found)
    throw invalid(
      `The site has no page "${name}". It has: ${reading.pages
        .slice(0, 8)
        .map((p) => p.path)
        .join(', ')}${reading.pages.length > 8 ? ', …' : ''}`,
    );
  return found.path;
}

/** The parser tells a position, or a piece of the text that it stopped in. */
function lineOfFault(text: string, message: string): number {
  const position = /position (\d+)/.exec(message)?.[1];
  const piece = /\.{3}"([\s\S]*?)"(?:\.{3})? is not valid JSON/.exec(message)?.[1] ?? '';
  const at = position ? Number(position) : text.indexOf(piece) + piece.length;
  return text.slice(0, Math.max(0, at)).split('\n').length;
}

/** @throws Refusal that names the file, and the line where it is not JSON. */
export async function loadPlan(file: string): Promise<Plan> {
  const text = await readFile(file, 'utf8').catch((e: NodeJS.ErrnoException) => {
    throw invalid(`The plan ${file} cannot be read (${e.code}).`);
  });
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    throw invalid(
      `${file}, line ${lineOfFault(text, String(error))}: this is not JSON. Look for a comma or a bracket too many or too few.`,
    );
  }
  const plan = readPlan(data);
  if (!plan.ok) throw invalid(`${file}: ${plan.error}.`);
  return plan.value;
}
