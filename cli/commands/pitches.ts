import { provenPitches } from '../../src/core/placement/tree-law';
import { listPitches } from '../../src/core/site/pitch';
import type { Command } from '../support/command';
import { findPage, readFrom } from '../support/site';

export const pitches: Command = {
  name: 'pitches',
  about: 'Lists every spot of a page where a widget may stand, with its address for a plan.',
  usage: 'pitches DIR PAGE',
  help: 'PAGE is a file or an address of the site. Each spot is proven by parsing the page with something in it.\nThe address (--json) goes into a placement of a plan as "pitch".',
  options: {},
  needs: ['DIR', 'PAGE'],
  async run({ args }, out) {
    const site = await readFrom(args[0] ?? '', out);
    const page = await site.load(findPage(site, args[1] ?? ''));
    const all = listPitches(page);
    const proven = provenPitches(page, all);
    out.give(
      proven.map((p) => ({
        label: p.label,
        region: p.region,
        offset: page.source.start + p.offset * page.source.unit,
        pitch: p.address,
      })),
    );
    for (const [n, p] of proven.entries())
      out.say(`${String(n + 1).padStart(4)}  ${p.region.padEnd(6)}  ${p.label}`);
    if (proven.length < all.length)
      out.warn(
        `${all.length - proven.length} more would be moved by the browser, because of how the page is written there.`,
      );
    return 0;
  },
};
