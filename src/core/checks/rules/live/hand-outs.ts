import { go, type Rule } from '../../rule';

export const handOutGone: Rule = {
  name: 'hand-out-gone',
  about: 'A widget that was handed out to a page elsewhere, and does not stand there.',
  weight: 'away',
  reads: ['live'],
  *find(s) {
    for (const h of s.live?.handOuts ?? [])
      yield {
        about: `${h.url} ${h.kind}`,
        place: { on: 'site', name: h.url.replace(/^https?:\/\//, '').slice(0, 60) },
        title: 'A widget that was handed out is not there',
        meets: h.message,
        mends: [
          go('Open what was handed out', 'site', { lens: 'publishing' }, 'Hand the code out once more.'),
        ],
      };
  },
};
