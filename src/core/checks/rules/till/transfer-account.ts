import { tellsAccount } from '../../../till/paying';
import { inTill, openTill, type Rule } from '../../rule';

export const transferAccount: Rule = {
  name: 'transfer-account',
  about: 'A transfer is offered, and no account is named.',
  weight: 'sale',
  reads: ['till'],
  *find(s) {
    if (!s.sells) return;
    for (const w of s.till.rules.pay.ways)
      if (w.active && !tellsAccount(w))
        yield {
          about: w.id,
          place: inTill('Ways to pay'),
          title: `${w.name || 'Transfer'}: no account is named`,
          meets: 'The way is not offered: nobody would know where the money goes.',
          weight: s.till.rules.pay.ways.some((o) => o.active && tellsAccount(o)) ? 'away' : 'sale',
          mends: [
            openTill('pay', 'Name the account', 'Enter the IBAN, or the account as your bank writes it.'),
          ],
        };
  },
};
