import { onGoods, openGoods, type Rule } from '../../rule';

/** An offer that is over, and still kept; its badge may go on saying so. */
export const offerEnded: Rule = {
  name: 'offer-ended',
  about:
    'A product whose offer has ended, and that still says Sale, or a badge of an offer that does not run.',
  weight: 'two',
  reads: ['goods'],
  *find(s) {
    for (const p of s.goods.shown) {
      const until = p.offer?.until ? Date.parse(p.offer.until) : null;
      const ended = until !== null && until <= s.now;
      const says =
        /\b(?:sale|offer|angebot|reduziert|soldes?|promo\w*|oferta|rebajas?|saldi|sconto|offerta|aanbieding|korting|rea|tilbud)\b/i.test(
          p.badge,
        ) || /\d\s?%/.test(p.badge);
      if (!(says && (ended || (p.offer === null && p.was === null)))) continue;
      yield {
        about: p.id,
        place: onGoods(p),
        title: ended
          ? `Its offer ended on ${new Date(until).toISOString().slice(0, 10)}, the badge still says “${p.badge}”`
          : `The badge says “${p.badge}”, and there is no offer`,
        meets: 'They see an offer on the picture, and the full price beside it.',
        mends: [
          { do: 'goods', label: 'Take the badge off', id: p.id, set: { badge: '' } },
          openGoods(p, 'Give the offer another end, or take the badge off.'),
        ],
      };
    }
  },
};
