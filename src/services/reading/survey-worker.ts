import { readFile } from 'node:fs/promises';
import { workerData } from 'node:worker_threads';
import { FileIndex, type PagePath } from '../../core/site/paths';
import { type Surveyed, surveyFile } from '../../core/site/read-site';

/** Names of all files of the site, handed over once to each thread. */
const index = new FileIndex((workerData as { paths: PagePath[] }).paths);

export interface SurveyTask {
  /** Path in the site and file on this machine, of a few pages. */
  readonly pages: readonly (readonly [PagePath, string])[];
}

/** Reads a few pages in this thread. */
export default async function survey({ pages }: SurveyTask): Promise<Surveyed[]> {
  const out: Surveyed[] = [];
  for (const [path, file] of pages) out.push(surveyFile(path, await readFile(file), index.find));
  return out;
}
