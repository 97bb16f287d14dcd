import { describe, expect, it } from 'vitest';
import { testCards, withCheckDigit } from './cards';
import { confirmPage, payPage } from './pay-page';

describe('test cards', () => {
  it('have the check digit of ISO/IEC 7812-1', () => {
    // The standard's worked example, as handbooks give it: 7992739871 has the check digit 3.
    expect(withCheckDigit('7992739871')).toBe('79927398713');
    const luhn = (number: string) =>
      [...number].reverse().reduce((sum, digit, i) => {
        const n = Number(digit) * (i % 2 ? 2 : 1);
        return sum + Math.floor(n / 10) + (n % 10);
      }, 0) % 10;
    for (const card of testCards) expect(luhn(card.number)).toBe(0);
  });

  it('are in the range that ISO/IEC 7812 leaves to national bodies: no issuer has them', () => {
    expect(testCards.every((c) => c.number.startsWith('9'))).toBe(true);
    expect(new Set(testCards.map((c) => c.number)).size).toBe(testCards.length);
  });
});

it('the pay page says who is paid how much, and runs nothing that a shop sends', () => {
  const payment = {
    id: 'p',
    reference: 'r',
    amount: 6800,
    currency: 'GBP',
    payee: '<b>Weavers</b>',
    description: '1 x "Trug" <script>',
    approvedUrl: '',
    declinedUrl: '',
    noticeUrl: '',
    state: 'open' as const,
    detail: '',
  };
  const html = payPage(payment, 'Not <that> one');
  expect(html).toContain('£68.00');
  expect(html).toContain('no money moves');
  expect(html).not.toMatch(/<script|<b>|<that>/);
  expect(confirmPage(payment, '9"><script>')).not.toMatch(/<script/);
  expect(payPage({ ...payment, currency: 'JPY', amount: 500 })).toContain('¥500');
});
