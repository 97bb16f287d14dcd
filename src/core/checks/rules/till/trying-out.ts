import { inTill, openTill, type Rule } from '../../rule';

export const tryingOut: Rule = {
  name: 'trying-out',
  about: 'The shop is live, and the till is still being tried out.',
  weight: 'sale',
  reads: ['till'],
  *find(s) {
    if (!s.till.rules.pay.test || !s.site.isLive) return;
    yield {
      about: 'test',
      place: inTill('Ways to pay'),
      title: 'The live shop is only being tried out',
      meets: 'They read that nothing is charged, and their orders are marked as tries.',
      mends: [openTill('pay', 'Open ways to pay', 'Sell for real.')],
    };
  },
};
