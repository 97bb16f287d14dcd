import { count, go, list, onGoods, type Rule } from '../../rule';

export const samplesLeft: Rule = {
  name: 'samples-left',
  about: 'Sample goods that were made up to look at the shop, and are on sale.',
  weight: 'sale',
  reads: ['goods'],
  *find(s) {
    const samples = s.goods.all.filter((p) => p.sample && p.shows !== 'hidden');
    const [first] = samples;
    if (!first) return;
    yield {
      about: 'samples',
      place: onGoods(first),
      title: `${count(samples.length, 'sample product')} still on sale`,
      meets: `They can order what does not exist: ${list(samples.map((p) => p.name))}.`,
      weight: s.site.isLive ? 'sale' : 'untidy',
      mends: [
        ...samples.map((p) => ({
          do: 'goods' as const,
          label: `Hide “${p.name}”`,
          id: p.id,
          set: { shows: 'hidden' },
        })),
        go('Open the goods', 'goods', {}, 'Take the samples away, or make them your own.'),
      ],
    };
  },
};
