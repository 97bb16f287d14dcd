import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tillRules } from '../../core/till/rules';
import { addressForm, addressLines, isPostcodeOf } from '../rules/address';
import { parseCheckout } from './checkout-form';
import { countriesIn } from '../rules/countries';

const buyer = {
  email: 'a@b.example',
  name: 'Ada Penhallow',
  street: '4 Weir Lane',
  town: 'Osierham',
  postcode: 'WB4 2TR',
  country: 'GB',
  total: '4200',
};
const faults = (more: object, rules = tillRules.parse({})) => {
  try {
    parseCheckout({ ...buyer, ...more }, { rules });
    return {};
  } catch (e) {
    return (e as { detail: { fields: Record<string, string> } }).detail.fields;
  }
};

describe('addresses by country', () => {
  it('have the parts their country writes, in its order (address data as browsers fill forms with it)', () => {
    expect(addressForm('GB').parts).toEqual(['town', 'postcode']);
    expect(addressForm('DE').parts).toEqual(['postcode', 'town']);
    expect(addressForm('US').parts).toEqual(['town', 'state', 'postcode']);
    expect(addressForm('HK').parts).toEqual(['town', 'state']);
    expect(addressForm('US').states).toContainEqual({ code: 'CA', name: 'California' });
    for (const { code } of countriesIn('en'))
      expect(
        addressForm(code).needs.every((n) => addressForm(code).parts.includes(n)),
        code,
      ).toBe(true);
  });

  it('are written as their post has them, with the country below where it goes abroad', () => {
    const of = (country: string, more: object = {}) => ({
      email: '',
      name: 'Ada',
      street: '4 Weir Lane',
      town: 'Town',
      postcode: '12345',
      country,
      ...more,
    });
    expect(addressLines(of('US', { state: 'CA' }), 'GB', 'en')).toEqual([
      'Ada',
      '4 Weir Lane',
      'Town, CA 12345',
      'United States',
    ]);
    expect(addressLines(of('DE'), 'DE', 'de')).toEqual(['Ada', '4 Weir Lane', '12345 Town']);
    expect(addressLines(of('GB', { company: 'Weavers Ltd' }), 'GB', 'en')).toEqual([
      'Ada',
      'Weavers Ltd',
      '4 Weir Lane',
      'Town',
      '12345',
    ]);
  });

  it('postcodes of the wrong form are told with one that fits, and where nobody knows the form all are taken', () => {
    expect(faults({ postcode: '12345' }).postcode).toBe(
      'This does not look like a postcode of United Kingdom. One looks like AB1 2CD.',
    );
    expect(faults({ country: 'DE', postcode: '1234' }).postcode).toContain('Germany');
    expect(faults({ country: 'DE', postcode: '12345' })).toEqual({});
    expect(faults({ country: 'us', postcode: '90001' }).state).toBe('Choose the state or region.');
    expect(faults({ country: 'US', postcode: '90001', state: 'CA' })).toEqual({});
    expect(faults({ country: 'US', postcode: '90001', state: 'ZZ' }).state).toBeTruthy();
    expect(faults({ country: 'HK', postcode: '', state: '' })).toEqual({});
    fc.assert(fc.property(fc.string({ maxLength: 12 }), (code) => isPostcodeOf('VU', code)));
  });

  it('all that is wrong is told at once, whatever comes', () => {
    expect(Object.keys(faults({ email: 'x', name: '', town: '', postcode: '' })).sort()).toEqual([
      'email',
      'name',
      'postcode',
      'town',
    ]);
    expect(faults({}, tillRules.parse({ checkout: { phone: 'must' } })).phone).toBe(
      'Enter a telephone number.',
    );
    fc.assert(
      fc.property(
        fc.dictionary(
          fc.constantFrom('email', 'name', 'street', 'town', 'postcode', 'country', 'state', 'total', 'note'),
          fc.oneof(fc.string(), fc.integer(), fc.constant(null)),
          { noNullPrototype: true },
        ),
        (form) => {
          try {
            parseCheckout(form);
          } catch (e) {
            expect((e as Error).name).toBe('Refusal');
          }
        },
      ),
    );
  });
});
