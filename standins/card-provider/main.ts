import { randomBytes } from 'node:crypto';
import { serve } from '../payments/service';
import { pressCard, testCards, type TestCard } from './cards';
import { confirmPage, payPage } from './pay-page';

/** A make-believe card provider, on an origin of its own. */

const port = Number(process.env.CARDS_PORT ?? 4604);
/** Cards that may be charged again, by the mandate they gave: the card's number stands in it, so that a restart forgets none. */
const cardOf = (mandate: string): TestCard | undefined =>
  testCards.find((c) => mandate.startsWith(`man_${c.number}_`));

serve({
  name: 'card provider',
  port,
  key: process.env.CARDS_KEY ?? '',
  secret: process.env.CARDS_NOTICE_SECRET ?? '',
  origin: process.env.CARDS_URL ?? `http://cards.localhost:${port}`,
  file: process.env.CARDS_FILE,
  refundLate: 0,
  page: payPage,
  press(payment, form) {
    const number = (form.get('number') ?? '').replace(/\D/g, '');
    const card = testCards.find((c) => c.number === number);
    if (!card) return { page: payPage(payment, 'This number is not one of the test cards below.') };
    const code = form.get('code');
    if (card.outcome === 'confirm' && code === null) return { page: confirmPage(payment, number) };
    const outcome = pressCard(card, payment, code ?? '');
    if (outcome === 'wrong-code')
      return { page: confirmPage(payment, number, 'That is not the code. Look at it again.') };
    return outcome.state === 'approved' && payment.again
      ? { ...outcome, mandate: `man_${number}_${randomBytes(9).toString('hex')}` }
      : outcome;
  },
  charge(mandate) {
    const card = cardOf(mandate);
    if (!card) return undefined;
    const ending = `card ending ${card.number.slice(-4)}`;
    return card.onceOnly
      ? {
          state: 'declined',
          detail: `Declined by the bank, ${ending}`,
          notices: [{ type: 'payment.declined', late: card.late, times: card.times }],
        }
      : {
          state: 'approved',
          detail: ending,
          notices: [{ type: 'payment.approved', late: card.late, times: card.times }],
        };
  },
});
