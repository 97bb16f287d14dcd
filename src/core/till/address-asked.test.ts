import { describe, expect, it } from 'vitest';
import { addressAsked, servedCountries, wholeAddress } from './address-asked';
import { tillRules } from './rules';

const rules = (more: object) => tillRules.parse(more);
const download = [{ digital: true }];

describe('what a checkout asks of where the buyer is', () => {
  it('is the whole address as soon as one thing is sent', () => {
    expect(addressAsked(rules({}), [{ digital: true }, { ships: true }], 'GB')).toEqual(wholeAddress);
  });

  it('is nothing where no tax and no way to pay depends on it', () => {
    const nothing = { whole: false, country: false, state: false, postcode: false };
    expect(addressAsked(rules({ tax: { charged: false } }), download, '')).toEqual(nothing);
    // A course is taxed at its seller's; only what goes over the wire at its buyer's.
    expect(addressAsked(rules({ tax: { goodsBy: 'seller' } }), [{}], '')).toEqual(nothing);
  });

  it('is the country where tax goes by the buyer, and the state where its rates do', () => {
    const tax = {
      digitalBy: 'buyer',
      rates: [
        { country: 'US', state: 'GA', percent: 4 },
        { country: 'DE', percent: 19 },
      ],
    };
    expect(addressAsked(rules({ tax }), download, '')).toMatchObject({ country: true, state: false });
    expect(addressAsked(rules({ tax }), download, 'US')).toMatchObject({ country: true, state: true });
    expect(addressAsked(rules({ tax }), download, 'DE')).toMatchObject({ country: true, state: false });
  });

  it('is the country where a way to pay is for some countries alone', () => {
    const pay = { ways: [{ id: 'bank', kind: 'transfer', countries: ['DE'] }] };
    expect(addressAsked(rules({ tax: { charged: false }, pay }), download, '').country).toBe(true);
  });
});

describe('countries that something is sent to', () => {
  it('are those of regions that have a shipping method', () => {
    const region = (id: string, country: string, ways: object[]) => ({
      id,
      name: id,
      areas: [{ country }],
      ways,
    });
    const post = { id: 'post', name: 'Post' };
    const served = servedCountries(
      rules({ shipping: { regions: [region('home', 'GB', [post]), region('none', 'FR', [])] } }),
    );
    expect([served.all, [...served.codes]]).toEqual([false, ['GB']]);
    expect(servedCountries(rules({ shipping: { regions: [region('all', '*', [post])] } })).all).toBe(true);
  });
});
