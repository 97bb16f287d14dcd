import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parse } from 'parse5';
import { isPagePath } from '../src/core/site/paths';
import { readSite } from '../src/core/site/read-site';
import { openSite } from '../src/services/reading/open-site';
import { surveyInThreads } from '../src/services/reading/survey-in-threads';

/** One way of reading a folder, in a process of its own, so that its memory is its own too. Tells the parent seconds and peak. */
const [way = '', dir = ''] = process.argv.slice(2);

async function parseOnly(): Promise<number> {
  const files = await openSite(dir);
  let nodes = 0;
  for (const path of files.paths.filter(isPagePath))
    nodes += parse(await readFile(join(dir, path), 'utf8'), { sourceCodeLocationInfo: true }).childNodes
      .length;
  return nodes;
}

async function readAll(threads: boolean): Promise<number> {
  const files = await openSite(dir);
  const surveyAll = threads ? surveyInThreads(files.paths.length, files.fileOf) : undefined;
  if (threads && !surveyAll) throw new Error('no threads here');
  return (await readSite(files, surveyAll ? { surveyAll } : {})).pages.length;
}

const began = process.hrtime.bigint();
const done = way === 'parse' ? await parseOnly() : await readAll(way === 'threads');
const seconds = Number(process.hrtime.bigint() - began) / 1e9;
process.send?.({ seconds, peak: process.resourceUsage().maxRSS * 1024, done });
process.disconnect?.();
