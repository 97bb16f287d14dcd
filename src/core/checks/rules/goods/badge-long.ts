import { onGoods, openGoods, type Rule } from '../../rule';

export const badgeLong: Rule = {
  name: 'badge-long',
  about: 'A badge that is longer than the narrowest card of the shop has room for.',
  weight: 'untidy',
  reads: ['goods', 'look'],
  *find(s) {
    for (const p of s.goods.shown)
      if (p.badge && p.badge.length > s.look.badgeRoom)
        yield {
          about: p.id,
          place: onGoods(p),
          title: `The badge “${p.badge}” has ${p.badge.length} letters, there is room for ${s.look.badgeRoom}`,
          meets: 'On a phone it is cut off in the middle.',
          mends: [openGoods(p, `Shorten it by ${p.badge.length - s.look.badgeRoom}.`, 'Shorten the badge')],
        };
  },
};
