import type { PagePath } from './paths';
import { parsePageFile } from './read-page';
import { type Survey, surveyPage } from './survey';

/** What was found in one file, or why it is no page. */
export type Surveyed = { readonly survey: Survey } | { readonly problem: string };

/** Reads one file as a page of its site. All a thread has to know of reading. */
export const surveyFile = (
  path: PagePath,
  bytes: Uint8Array,
  has: (path: string) => PagePath | undefined,
): Surveyed => {
  const parsed = parsePageFile(path, bytes, undefined, { places: false });
  return 'problem' in parsed ? parsed : { survey: surveyPage(parsed.page, has) };
};
