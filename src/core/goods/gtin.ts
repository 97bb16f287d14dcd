/**
 * Check digit of a GTIN: from the right, digits before it count three and one in turns; it brings the sum to a multiple of
 * ten. Source: GS1 General Specifications, section 7.9.1, standard check digit calculations for GS1 data structures.
 * @param body the digits without the check digit.
 */
export function gtinCheckDigit(body: string): number {
  let sum = 0;
  for (let i = 0; i < body.length; i++) sum += Number(body[body.length - 1 - i]) * (i % 2 === 0 ? 3 : 1);
  return (10 - (sum % 10)) % 10;
}

/** Lengths a GTIN has: GTIN-8, GTIN-12, GTIN-13 (books too, as ISBN-13), GTIN-14. */
const lengths: readonly number[] = [8, 12, 13, 14];

/** Why a text is no GTIN, in words; nothing when it is one. Spaces and hyphens between the digits are let be. */
export function gtinFault(text: string): string | undefined {
  const digits = text.replace(/[\s-]/g, '');
  if (!/^\d+$/.test(digits)) return 'A GTIN is digits only.';
  if (!lengths.includes(digits.length))
    return `A GTIN has 8, 12, 13 or 14 digits; this has ${digits.length}.`;
  const wanted = gtinCheckDigit(digits.slice(0, -1));
  return wanted === Number(digits.at(-1))
    ? undefined
    : `The last digit checks the others and should be ${wanted}. Look at the digits again.`;
}
