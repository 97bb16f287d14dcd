import { go, type Rule } from '../../rule';

/** Carts are kept, and buyers come back, at the address that the shop was told; visitors are at another. */
export const liveElsewhere: Rule = {
  name: 'live-elsewhere',
  about:
    'The site answers from another address than the shop was told (with www or without, with https, a new name): carts and the way back after paying are at the old one.',
  weight: 'sale',
  reads: ['live'],
  *find(s) {
    const to = s.live?.elsewhere;
    if (!to) return;
    const was = new URL(s.site.liveUrl).origin;
    yield {
      about: 'address',
      place: { on: 'site', name: 'Live site' },
      title: `The site is at ${to}, the shop was told ${was}`,
      meets: 'They come back from paying to an address that their cart does not know.',
      facts: to,
      mends: [
        go(
          'Change the address',
          'site',
          { lens: 'publishing' },
          `Under “Where the site lives”, enter ${to}/ and publish.`,
        ),
      ],
    };
  },
};
