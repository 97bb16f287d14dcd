import currencyCodes from 'currency-codes';
import { describe, expect, it } from 'vitest';
import { countryList, guessedCountries, localeIn, guessPlace, setUp, shopAddress } from './set-up';

describe('where a business is', () => {
  it('is read from the address, a telephone number, prices, the language tag: what weighs more wins', () => {
    expect(guessPlace('de-AT', 'x.example', ['nothing'])).toMatchObject({ country: 'AT', currency: 'EUR' });
    expect(guessPlace('en', 'weavers.co.uk', ['+1 212'])).toMatchObject({ country: 'GB', currency: 'GBP' });
    // ITU-T E.164: 353 is Ireland.
    expect(guessPlace('en', 'x.example', ['Ring +353 1 555'])).toMatchObject({ country: 'IE' });
    expect(guessPlace('en', '', ['only $ 4'])).toMatchObject({ currency: 'USD' });
    expect(guessPlace('', '', ['nothing'])).toMatchObject({ why: 'nothing on the pages says where' });
  });

  it('a language tag that came with a template does not change the prices that stand on the pages', () => {
    expect(guessPlace('en-US', '', ['Creels from £38, trugs £24.50'])).toEqual({
      country: 'GB',
      currency: 'GBP',
      why: 'prices in GBP stand on the pages',
      isSure: true,
    });
    expect(guessPlace('en', '', ['nothing']).isSure).toBe(false);
    expect(guessPlace('en-US', '', ['nothing']).isSure).toBe(false);
    expect(guessPlace('de-AT', '', ['nothing']).isSure).toBe(true);
    expect(guessPlace('en-US', 'pots.co.uk', ['nothing'])).toMatchObject({ country: 'GB', isSure: true });
    expect(guessPlace('en-IE', '', ['Prints 38 €'])).toMatchObject({
      country: 'IE',
      why: 'the pages say lang="en-IE"',
    });
    expect(guessPlace('en-US', '', ['Körbe 38 €'])).toMatchObject({ country: 'IE', currency: 'EUR' });
    expect(guessPlace('de-CH', '', ['Körbe 38 €'])).toMatchObject({ currency: 'EUR' });
    expect(guessPlace('de', 'korb.ch', ['Körbe 38 €, zwei 70 €, einer CHF 40'])).toMatchObject({
      country: 'CH',
      currency: 'EUR',
    });
    expect(guessPlace('en-US', '', ['$12 and $14'])).toMatchObject({ country: 'US', currency: 'USD' });
    expect(guessPlace('en', 'baskets.com.au', ['$12 and $14'])).toMatchObject({
      country: 'AU',
      currency: 'AUD',
    });
    expect(guessPlace('en-CA', '', ['from $12'])).toMatchObject({
      country: 'CA',
      currency: 'CAD',
      why: 'the pages say lang="en-CA"',
    });
    expect(guessPlace('sv', '', ['En korg kostar 450 kr'])).toMatchObject({ country: 'SE', currency: 'SEK' });
    expect(guessPlace('pl', '', ['Kosz 120 zł'])).toMatchObject({ country: 'PL', currency: 'PLN' });
  });

  it('is guessed with the currency that the list of all countries has for it', () => {
    const listed = new Map(countryList.map((c) => [c.code, c.currency]));
    for (const { code, currency } of guessedCountries)
      expect([code, listed.get(code)]).toEqual([code, currency]);
    expect(countryList.length).toBeGreaterThan(240);
  });

  it('decides how money and dates are written, where the pages do not say', () => {
    expect(localeIn('en', 'US')).toBe('en-US');
    expect(localeIn('en-GB', 'US')).toBe('en-GB');
    expect(localeIn('de', 'CH')).toBe('de-CH');
    expect(localeIn('', 'NZ')).toBe('en-NZ');
    expect(localeIn('not a tag', 'NZ')).toBe('en');
    const day = new Date('2026-12-03T12:00:00Z');
    const of = (country: string) => new Intl.DateTimeFormat(localeIn('en', country)).format(day);
    expect([of('US'), of('GB')]).toEqual(['12/3/2026', '03/12/2026']);
  });

  it('goes with a currency that ISO 4217 lists for that country', () => {
    const names = new Intl.DisplayNames(['en'], { type: 'region' });
    for (const { code, currency } of guessedCountries) {
      const listed = (currencyCodes.code(currency)?.countries ?? []).map((c) => c.toLowerCase());
      const name = (names.of(code) ?? '')
        .toLowerCase()
        .replace('czechia', 'czech')
        .split(' ')
        .slice(0, 2)
        .join(' ');
      expect(
        listed.some((c) => c.includes(name.split(' ')[0] ?? '')),
        `${code} ${currency}: ${listed.join(', ')}`,
      ).toBe(true);
    }
  });
});

describe('answers', () => {
  it('have usual values, and are refused in words', () => {
    expect(setUp.parse({ country: 'GB', currency: 'GBP' })).toMatchObject({
      sells: ['ships'],
      taxIncluded: true,
      takesMoney: ['card'],
    });
    expect(
      setUp.safeParse({ country: 'GB', currency: 'GBP', sells: [] }).error?.issues[0]?.message,
    ).toContain('at least one thing');
    expect(shopAddress.safeParse({ slug: 'a shop' }).error?.issues[0]?.message).toContain('small letters');
    expect(shopAddress.parse({ slug: 'Prints ' }).slug).toBe('prints');
  });
});
