import { go, type Rule } from '../../rule';

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
          ...(p.is === 'changed' ? [{ do: 'take-over' as const, label: 'Take it over' }] : []),
          // Where nothing answers, writing the same once more helps nobody.
          ...(p.is === 'silent' ? [] : [{ do: 'put-back' as const, label: 'Put it back' }]),
          go('What was published', 'site', { lens: 'publishing' }, steps[p.is]),
        ],
      };
  },
};
