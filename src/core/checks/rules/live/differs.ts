import type { Mend } from '../../finding';
import { go, type Rule } from '../../rule';
import type { SiteFacts } from '../../subject';

const titles = {
  changed: 'The live page is not what was published',
  missing: 'The live page is gone',
  silent: 'The live page does not answer',
};

const steps = {
  changed: 'Take over what was changed elsewhere, or put back what was published.',
  missing: 'Put it back, or take the page out of your own site and read the site again.',
  silent: 'Ask your host, and run the checks again.',
};

/** What can be done by one press: reading a site again and writing to it go by how it came in and how it is put up. */
function mendsFor(is: keyof typeof titles, { handIn, byHand }: SiteFacts): Mend[] {
  const takeOver: Mend = handIn
    ? go('Bring in the newer version', 'site', { lens: 'publishing' }, handIn)
    : { do: 'take-over', label: 'Take it over' };
  const putBack: Mend = byHand
    ? go(
        'Put it up again',
        'site',
        { lens: 'publishing' },
        'Download what was published, and put this page up again.',
      )
    : { do: 'put-back', label: 'Put it back' };
  // Where nothing answers, writing the same once more helps nobody.
  return [...(is === 'changed' ? [takeOver] : []), ...(is === 'silent' ? [] : [putBack])];
}

export const liveDiffers: Rule = {
  name: 'live-differs',
  about: 'A page of the live site that is not what was published: changed elsewhere, gone, or silent.',
  weight: 'two',
  reads: ['live'],
  *find(s) {
    for (const p of s.live?.pages ?? [])
      yield {
        about: p.path,
        place: { on: 'page', page: p.path, name: p.name },
        title: titles[p.is],
        meets: p.why,
        weight: p.is === 'changed' ? 'two' : 'sale',
        facts: p.is,
        mends: [
          ...mendsFor(p.is, s.site),
          go('What was published', 'site', { lens: 'publishing' }, steps[p.is]),
        ],
      };
  },
};
