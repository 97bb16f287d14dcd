/** Letters as numbers, A is 10 to Z is 35; ISO 7064 MOD 97-10 as ISO 11649 and ISO 13616 use it. */
const remainder = (text: string): number =>
  [...text].reduce((n, c) => {
    const value = Number.parseInt(c, 36);
    return (n * (value > 9 ? 100 : 10) + value) % 97;
  }, 0);

/**
 * The reference a transfer carries so that it is found again: ISO 11649, "RF", two check digits, up to 21 letters and digits.
 * @throws RangeError when there is nothing to make one of, or too much.
 */
export function creditorReference(own: string): string {
  const bare = own.toUpperCase().replace(/[^A-Z0-9]/g, '');
  if (!bare || bare.length > 21) throw new RangeError('a creditor reference has 1 to 21 letters and digits');
  return `RF${String(98 - remainder(`${bare}RF00`)).padStart(2, '0')}${bare}`;
}

export const isCreditorReference = (text: string): boolean =>
  /^RF\d{2}[A-Z0-9]{1,21}$/.test(text) && remainder(text.slice(4) + text.slice(0, 4)) === 1;

/** For people: groups of four. */
export const inFours = (text: string): string => text.replace(/(.{4})(?=.)/g, '$1 ');
