import { viaProvider } from '../../../till/pay-kinds';
import { inTill, openTill, type Rule } from '../../rule';

export const notConnected: Rule = {
  name: 'not-connected',
  about: 'A way to pay is switched on whose provider is not set up on this server.',
  weight: 'away',
  reads: ['till'],
  *find(s) {
    if (!s.sells) return;
    for (const w of s.till.rules.pay.ways)
      if (w.active && viaProvider(w.kind) && !s.till.connected.includes(w.kind))
        yield {
          about: w.id,
          place: inTill('Ways to pay'),
          title: `${w.name || w.kind}: its provider is not set up`,
          meets: 'It is left out of the checkout.',
          mends: [
            openTill(
              'pay',
              'Open ways to pay',
              'Set the provider up on the server (docs/payment-provider.md), or switch this way off.',
            ),
          ],
        };
  },
};
