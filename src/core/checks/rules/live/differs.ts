import { go, type Rule } from '../../rule';

const titles = {
  changed: 'The live page is not what was published',
  missing: 'The live page is gone',
  silent: 'The live page does not answer',
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
          { do: 'put-back', label: 'Put it back' },
          go('Compare', 'site', { lens: 'publishing' }, 'Look at both beside each other.'),
        ],
      };
  },
};
