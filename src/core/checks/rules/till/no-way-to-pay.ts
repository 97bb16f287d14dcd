import { viaProvider } from '../../../till/pay-kinds';
import { tellsAccount } from '../../../till/paying';
import { inTill, openTill, type Rule } from '../../rule';

export const noWayToPay: Rule = {
  name: 'no-way-to-pay',
  about: 'No way to pay is on and set up.',
  weight: 'sale',
  reads: ['till'],
  *find(s) {
    const { ways } = s.till.rules.pay;
    if (
      !s.sells ||
      ways.some(
        (w) => w.active && tellsAccount(w) && (!viaProvider(w.kind) || s.till.connected.includes(w.kind)),
      )
    )
      return;
    yield {
      about: 'pay',
      place: inTill('Ways to pay'),
      title:
        ways.length === 0
          ? 'There is no way to pay'
          : `None of ${ways.length === 1 ? 'one way' : `${ways.length} ways`} to pay can be used`,
      meets: 'They fill in the checkout, and there is no button to pay.',
      mends: [
        openTill(
          'pay',
          'Open ways to pay',
          'Switch one on: a transfer with your account needs nothing else.',
        ),
      ],
    };
  },
};
