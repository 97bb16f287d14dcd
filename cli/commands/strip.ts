import { isBuilt, strip as stripPage } from '../../src/core/html/fence';
import { readSource } from '../../src/core/html/source';
import { idsOf } from '../../src/core/placement/compute-page';
import { isPagePath, type PagePath } from '../../src/core/site/paths';
import { openSite } from '../../src/services/reading/open-site';
import type { Command } from '../support/command';
import { loadPlan } from '../support/site';
import { targetOf, writeSite } from '../support/write-site';
import { count } from './read';

const faultWords = {
  crossed: 'tangled up with another',
  unclosed: 'opened and never closed',
  unopened: 'closed and never opened',
} as const;

export const strip: Command = {
  name: 'strip',
  about: 'Takes everything of Green Stall out of a site again, from the files alone.',
  usage: 'strip DIR2 (--out DIR3 | --in-place) [--plan plan.json]',
  help: 'Every file comes back byte for byte as it was before placing; pages that were built for the shop go.\nWith a plan, only what that plan placed is taken out. A mark that is only half there is left alone and told by file and line; then the exit status is 1.',
  options: { plan: { type: 'string' }, out: { type: 'string' }, 'in-place': { type: 'boolean' } },
  needs: ['DIR2'],
  async run({ args: [dir = ''], flags }, out) {
    const target = targetOf(dir, flags);
    const mine = typeof flags.plan === 'string' ? idsOf((await loadPlan(flags.plan)).placements) : undefined;
    const site = await openSite(dir);
    const changes = new Map<PagePath, Uint8Array | undefined>();
    const faults: { page: string; line: number; id: string; what: keyof typeof faultWords }[] = [];
    let gone = 0;
    const pages = site.paths.filter(isPagePath);
    for (const [n, path] of pages.entries()) {
      const bytes = await site.read(path);
      out.progress('stripping page', n + 1, pages.length);
      if (
        !Buffer.from(bytes).includes('stall') &&
        !Buffer.from(bytes).includes(Buffer.from('stall', 'utf16le'))
      )
        continue;
      if (isBuilt(readSource(bytes).structure)) {
        changes.set(path, undefined);
        gone++;
        continue;
      }
      const done = stripPage(bytes, mine);
      faults.push(...done.faults.map((f) => ({ page: path, line: f.line, id: f.id, what: f.what })));
      if (done.bytes !== bytes) changes.set(path, done.bytes);
    }
    await writeSite(site, dir, changes, target);
    out.give({ pages: changes.size - gone, removed: gone, faults });
    out.say(
      `${count(changes.size - gone, 'page')} as the owner made ${changes.size - gone === 1 ? 'it' : 'them'} again, ${count(gone, 'page')} of the shop taken away.`,
    );
    for (const f of faults)
      out.warn(
        `${f.page}, line ${f.line}: the mark of ${f.id} is ${faultWords[f.what]}. It was left alone: look at the page, and delete what is left of the widget.`,
      );
    return faults.length > 0 ? 1 : 0;
  },
};
