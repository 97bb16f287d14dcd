import type { Outcome, Payment } from '../payments/payment';

/** What a bank sends to confirm a payment with; one for all, as this is make-believe. */
export const CONFIRM_CODE = '246810';

/** What becomes of a payment with a card; the numbers are made up, in a range no issuer uses (ISO/IEC 7812: 9 is for national use), with a right check digit. */
export interface TestCard {
  readonly number: string;
  /** A time-out: the bank does not answer while the shopper waits; later it says no. */
  readonly outcome: 'approve' | 'decline' | 'confirm' | 'timeout';
  readonly label: string;
  /** Seconds until the notice goes out, and how often it does. */
  readonly late: number;
  readonly times: number;
  /** Declined when it is charged again. */
  readonly onceOnly?: boolean;
}

export const testCards: readonly TestCard[] = [
  { number: withCheckDigit('900000000000001'), outcome: 'approve', label: 'Approved', late: 0, times: 1 },
  {
    number: withCheckDigit('900000000000002'),
    outcome: 'decline',
    label: 'Declined by the bank',
    late: 0,
    times: 1,
  },
  {
    number: withCheckDigit('900000000000003'),
    outcome: 'approve',
    label: 'Approved, the notice comes twice',
    late: 0,
    times: 2,
  },
  {
    number: withCheckDigit('900000000000004'),
    outcome: 'approve',
    label: 'Approved, the notice comes 8 seconds late',
    late: 8,
    times: 1,
  },
  {
    number: withCheckDigit('900000000000005'),
    outcome: 'approve',
    label: 'Approved once, declined when charged again',
    late: 0,
    times: 1,
    onceOnly: true,
  },
  {
    number: withCheckDigit('900000000000006'),
    outcome: 'confirm',
    label: 'Asks for a code, then approved',
    late: 0,
    times: 1,
  },
  {
    number: withCheckDigit('900000000000007'),
    outcome: 'decline',
    label: 'Insufficient funds',
    late: 0,
    times: 1,
  },
  {
    number: withCheckDigit('900000000000008'),
    outcome: 'timeout',
    label: 'The bank does not answer; declined 6 seconds later',
    late: 6,
    times: 1,
  },
];

/** Luhn check digit (ISO/IEC 7812-1, annex B). */
export function withCheckDigit(digits: string): string {
  const sum = [...digits].reverse().reduce((s, d, i) => {
    const n = Number(d) * (i % 2 === 0 ? 2 : 1);
    return s + (n > 9 ? n - 9 : n);
  }, 0);
  return digits + String((10 - (sum % 10)) % 10);
}

/** What a press with a card does to a payment. */
export function pressCard(
  card: TestCard,
  payment: Pick<Payment, 'approvedUrl' | 'declinedUrl'>,
  code: string,
): Outcome | 'wrong-code' {
  const ending = `card ending ${card.number.slice(-4)}`;
  const { late, times } = card;
  if (card.outcome === 'confirm' && code.trim() !== CONFIRM_CODE) return 'wrong-code';
  // The shopper is back before anybody knows: the shop says that it is being confirmed.
  if (card.outcome === 'timeout')
    return {
      state: 'open',
      detail: `The bank did not answer, ${ending}`,
      to: payment.approvedUrl,
      notices: [
        { type: 'payment.pending', late: 0 },
        { type: 'payment.declined', late, times },
      ],
    };
  if (card.outcome === 'decline')
    return {
      state: 'declined',
      detail: `${card.label}, ${ending}`,
      notices: [{ type: 'payment.declined', late, times }],
    };
  return { state: 'approved', detail: ending, notices: [{ type: 'payment.approved', late, times }] };
}
