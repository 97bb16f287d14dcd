/** What becomes of a payment with a card; the numbers are made up, in a range no issuer uses (ISO/IEC 7812: 9 is for national use), with a right check digit. */
export interface TestCard {
  readonly number: string;
  readonly outcome: 'approve' | 'decline';
  readonly says: string;
  /** Seconds until the notice goes out, and how often it does. */
  readonly late: number;
  readonly times: number;
  /** Declined when it is charged again. */
  readonly onceOnly?: boolean;
}

export const testCards: readonly TestCard[] = [
  { number: withCheckDigit('900000000000001'), outcome: 'approve', says: 'Approved', late: 0, times: 1 },
  { number: withCheckDigit('900000000000002'), outcome: 'decline', says: 'Declined by the bank', late: 0, times: 1 },
  { number: withCheckDigit('900000000000003'), outcome: 'approve', says: 'Approved, the notice comes twice', late: 0, times: 2 },
  { number: withCheckDigit('900000000000004'), outcome: 'approve', says: 'Approved, the notice comes 8 seconds late', late: 8, times: 1 },
  { number: withCheckDigit('900000000000005'), outcome: 'approve', says: 'Approved once, declined when charged again', late: 0, times: 1, onceOnly: true },
];

/** Luhn check digit (ISO/IEC 7812-1, annex B). */
export function withCheckDigit(digits: string): string {
  const sum = [...digits].reverse().reduce((s, d, i) => {
    const n = Number(d) * (i % 2 === 0 ? 2 : 1);
    return s + (n > 9 ? n - 9 : n);
  }, 0);
  return digits + String((10 - (sum % 10)) % 10);
}
