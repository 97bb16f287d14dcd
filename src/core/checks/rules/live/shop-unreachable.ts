import { go, type Rule } from '../../rule';

export const shopUnreachable: Rule = {
  name: 'shop-unreachable',
  about: 'The shop does not answer at the address that the live pages ask: name, certificate or server.',
  weight: 'sale',
  reads: ['live'],
  *find(s) {
    if (!s.live?.shop) return;
    yield {
      about: 'shop',
      place: { on: 'site', name: 'Shop' },
      title: `The shop does not answer at ${s.site.shopUrl.replace(/^https?:\/\//, '')}`,
      meets: 'Widgets stay plain links, and the links lead to nothing.',
      facts: s.live.shop,
      mends: [go('What is wrong', 'site', {}, s.live.shop)],
    };
  },
};
