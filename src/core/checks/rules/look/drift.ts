import { count, go, type Rule } from '../../rule';

export const lookDrift: Rule = {
  name: 'look-drift',
  about: 'The site looks otherwise than when the shop took its look from it.',
  weight: 'two',
  reads: ['look'],
  *find(s) {
    if (s.look.drift === 0) return;
    yield {
      about: 'drift',
      place: { on: 'site', name: 'Look' },
      title: `${count(s.look.drift, 'thing')} of the site's look changed`,
      meets: 'They see where your site ends and the shop begins.',
      mends: [
        { do: 'follow', label: 'Follow the site' },
        go('Open Look', 'look', {}, 'Follow one by one, or keep what the shop wears.'),
      ],
    };
  },
};
