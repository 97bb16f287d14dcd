import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { startingRates } from '../../core/till/rates';
import { type TillRules, tillRules } from '../../core/till/rules';
import type { TillView } from '../../services/till/try-cart';
import { fakeOffice, inOffice } from '../testing';
import { DiscountsEditor } from './discounts-editor';
import { ShippingEditor } from './shipping-editor';
import { TaxEditor } from './tax-editor';
import { usePart } from './use-till';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const rulesOf = (rules: object): TillRules => tillRules.parse(rules);
const viewOf = (rules: TillRules): TillView => ({
  rules,
  countries: [
    { code: 'DE', name: 'Germany' },
    { code: 'GB', name: 'United Kingdom' },
    { code: 'US', name: 'United States' },
  ],
  states: { US: [{ code: 'GA', name: 'Georgia' }] },
  basics: { name: 'Kiln', currency: 'GBP', sells: ['ships'] } as unknown as TillView['basics'],
  start: startingRates(),
  connected: ['card'],
  former: {},
  pages: [],
});

/** Saves what was written, and gives back the part that was sent. */
async function saved<P extends keyof TillRules>(
  sent: ReturnType<typeof fakeOffice>,
  part: P,
): Promise<TillRules[P]> {
  await userEvent.click(screen.getByRole('button', { name: /^Save/ }));
  await waitFor(() => expect(sent.filter((s) => s.route === 'PUT till')).toHaveLength(1));
  const body = sent.find((s) => s.route === 'PUT till')?.body as { part: string; value: TillRules[P] };
  expect(body.part).toBe(part);
  return body.value;
}
const till = (rules: TillRules) => fakeOffice({ 'PUT till': ({ body }) => ({ ...rules, ...part(body) }) });
const part = (body: unknown) => {
  const { part: name, value } = body as { part: string; value: unknown };
  return { [name]: value };
};

describe('tax', () => {
  function Tax({ rules }: { rules: TillRules }) {
    return <TaxEditor part={usePart('tax', rules.tax)} view={viewOf(rules)} />;
  }

  it('begins with the rates of the country the business is in, to be looked over', async () => {
    const rules = rulesOf({ tax: { charged: true, home: { country: 'DE' } } });
    const sent = till(rules);
    inOffice(<Tax rules={rules} />);
    await userEvent.click(screen.getByRole('button', { name: 'Add the rates of Germany' }));
    const tax = await saved(sent, 'tax');
    expect(tax.rates.map((r) => [r.country, r.class, r.percent])).toContainEqual(['DE', 'standard', 19]);
    expect(tax.confirmed).toBeNull();
  });

  it('says so where no rates of a country are known, and offers none', () => {
    const rules = rulesOf({ tax: { charged: true, home: { country: 'US' } } });
    till(rules);
    inOffice(<Tax rules={rules} />);
    expect(screen.queryByRole('button', { name: /^Add the rates of/ })).toBeNull();
    expect(screen.getByText(/No rates of United States are known here/)).toBeTruthy();
  });

  it('chooses a state from those of the country, by its code', async () => {
    const rules = rulesOf({ tax: { charged: true, rates: [{ country: 'US', percent: 4 }] } });
    const sent = till(rules);
    inOffice(<Tax rules={rules} />);
    await userEvent.selectOptions(screen.getByRole('combobox', { name: /State of rate 1/i }), 'Georgia');
    expect((await saved(sent, 'tax')).rates).toMatchObject([{ country: 'US', state: 'GA', percent: 4 }]);
  });

  it('asks what invoices say where none is charged', () => {
    const rules = rulesOf({ tax: { charged: false } });
    till(rules);
    inOffice(<Tax rules={rules} />);
    expect(screen.getByRole('textbox', { name: /invoices say/i })).toBeTruthy();
    expect(screen.queryByRole('heading', { name: /rates/i })).toBeNull();
  });
});

describe('shipping', () => {
  function Shipping({ rules }: { rules: TillRules }) {
    return (
      <ShippingEditor
        part={usePart('shipping', rules.shipping)}
        view={viewOf(rules)}
        cart={undefined}
        goods={[]}
      />
    );
  }

  it('begins at home, and adds the rest of the world as the second region', async () => {
    const rules = rulesOf({ tax: { home: { country: 'GB' } } });
    const sent = till(rules);
    inOffice(<Shipping rules={rules} />);
    await userEvent.click(screen.getByRole('button', { name: 'Add a region' }));
    await userEvent.click(screen.getByRole('button', { name: 'Add a region' }));
    const { regions } = await saved(sent, 'shipping');
    expect(regions.map((r) => r.areas.map((a) => a.country))).toEqual([['GB'], ['*']]);
  });

  it('takes bands by weight, each beginning where the one before ends', async () => {
    const rules = rulesOf({ tax: { home: { country: 'GB' } } });
    const sent = till(rules);
    inOffice(<Shipping rules={rules} />);
    await userEvent.click(screen.getByRole('button', { name: 'Add a region' }));
    await userEvent.selectOptions(screen.getByRole('combobox', { name: /^Price of/ }), 'by weight');
    for (let n = 0; n < 2; n++) await userEvent.click(screen.getByRole('button', { name: /band$/i }));
    const [region] = (await saved(sent, 'shipping')).regions;
    const bands = region?.ways[0]?.bands.map((b) => b.upTo) ?? [];
    expect(bands).toEqual([2000, 4000]);
  });

  it('takes lists that are typed key by key: days, and states with their commas', async () => {
    const rules = rulesOf({ tax: { home: { country: 'US' } } });
    const sent = till(rules);
    inOffice(<Shipping rules={rules} />);
    await userEvent.click(screen.getByRole('button', { name: 'Add a region' }));
    await userEvent.type(screen.getByLabelText('Closed on these days'), '2026-12-25, 2026-12-26');
    await userEvent.type(screen.getByLabelText(/^Only these states/), 'ca, ny');
    const { regions, closedDays } = await saved(sent, 'shipping');
    expect(closedDays).toEqual(['2026-12-25', '2026-12-26']);
    expect(regions[0]?.areas[0]?.states).toEqual(['CA', 'NY']);
  });
});

describe('discounts', () => {
  function Discounts({ rules }: { rules: TillRules }) {
    return <DiscountsEditor part={usePart('discounts', rules.discounts)} goods={[]} former={{}} />;
  }

  it('adds a code with capitals and figures alone, whatever is typed', async () => {
    const rules = rulesOf({});
    const sent = till(rules);
    inOffice(<Discounts rules={rules} />);
    await userEvent.click(screen.getByRole('button', { name: /Add a code/ }));
    const code = screen.getByRole('textbox', { name: 'Code' });
    await userEvent.clear(code);
    await userEvent.type(code, 'spring 25!');
    expect((await saved(sent, 'discounts')).map((d) => d.code)).toEqual(['SPRING25']);
  });

  it('asks what each kind needs', async () => {
    inOffice(<Discounts rules={rulesOf({})} />);
    await userEvent.click(screen.getByRole('button', { name: /for everybody/ }));
    const kind = screen.getByRole('combobox', { name: 'Type' });
    await userEvent.selectOptions(kind, screen.getByRole('option', { name: /buy/i }));
    const box = within(screen.getByRole('region', { name: 'Discounts' }));
    expect(box.getByRole('textbox', { name: 'Buy' })).toBeTruthy();
    expect(box.getByRole('textbox', { name: 'get' })).toBeTruthy();
    await userEvent.selectOptions(kind, screen.getByRole('option', { name: /free shipping/i }));
    expect(box.queryByRole('textbox', { name: 'Buy' })).toBeNull();
  });
});
