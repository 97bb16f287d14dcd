import { readFileSync } from 'node:fs';
import { workerData } from 'node:worker_threads';
import { FileIndex, type PagePath } from '../../core/site/paths';
import { type Surveyed, surveyFile } from '../../core/site/survey-file';

/** Names of all files of the site, handed over once to each thread. */
const index = new FileIndex((workerData as { paths: PagePath[] }).paths);

export interface SurveyTask {
  /** Path in the site and file on this machine, of a few pages. */
  readonly pages: readonly (readonly [PagePath, string])[];
}

/** Reads a few pages in this thread. */
export default function survey({ pages }: SurveyTask): Surveyed[] {
  return pages.map(([path, file]) => surveyFile(path, readFileSync(file), index.find));
}
