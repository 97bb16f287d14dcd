import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeWorld, zipFrom } from '../testing';
import { bringIn, siteSlug } from './bring-in';
import { loadSite } from './site';

describe('the name of a site in addresses', () => {
  it.each([
    ['Körbe vom Hof', 'korbe'],
    ['Ørsted & sønn', 'orsted'],
    ['Straßenkunst', 'strassenkunst'],
    ['Église du Marais', 'eglise'],
    ['Łódź Kosze', 'lodz'],
    ['Işık Sepet', 'isik'],
    ['籠屋', 'site'],
    ['', 'site'],
  ])('of %s is %s', (name, slug) => expect(siteSlug(name, new Set())).toBe(slug));

  it('may stand in a host name, whatever the site is called, and is nobody else’s (RFC 1123, 2.1)', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 60 }), (name) => {
        const first = siteSlug(name, new Set());
        expect(first).toMatch(/^[a-z0-9]{1,24}$/);
        const second = siteSlug(name, new Set([first]));
        expect(second).toMatch(/^[a-z0-9]{1,26}$/);
        expect(second).not.toBe(first);
      }),
    );
  });
});

describe('the currency of a site', () => {
  const currencyOf = async (text: string, currency: string, usualCurrency?: string): Promise<string> => {
    const w = await makeWorld();
    try {
      const files = { 'index.html': `<html lang="de"><title>Hof</title><main><p>${text}</p></main>` };
      const { id } = await bringIn(
        w.ctx,
        { how: 'zip', fileName: 'x.zip', bytes: zipFrom(files) },
        { currency, liveUrl: 'https://hof.example/', ...(usualCurrency && { usualCurrency }) },
      );
      return (await loadSite(w.ctx, { id })).row.currency;
    } finally {
      await w.end();
    }
  };

  it('is what its pages say before anything is asked: the first product may be typed in at once', async () => {
    expect(await currencyOf('Ein Korb kostet 38 €.', '', 'USD')).toBe('EUR');
    expect(await currencyOf('Ein Korb kostet CHF 38.', '', 'USD')).toBe('CHF');
  });

  it('is what the owner chose, and what is usual where nothing is said', async () => {
    expect(await currencyOf('Ein Korb kostet 38 €.', 'GBP', 'USD')).toBe('GBP');
    expect(await currencyOf('Ein Korb.', '', 'USD')).toBe('USD');
    expect(await currencyOf('Ein Korb.', '')).toBe('GBP');
  });
});
