import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { ChecksView, FindingView } from '../../services/checks/checks';
import { fakeOffice, inOffice } from '../testing';
import { ChecksPlace } from './checks';
import { ChecksLine } from './checks-count';

beforeEach(() => {
  vi.stubGlobal(
    'IntersectionObserver',
    class {
      observe() {}
      disconnect() {}
    },
  );
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      disconnect() {}
    },
  );
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const finding = (key: string, more: Partial<FindingView> = {}): FindingView => ({
  key,
  rule: key,
  about: key,
  state: 's',
  weight: 'two',
  place: { on: 'till', name: 'Shipping' },
  title: `${key} title`,
  meets: `How ${key} is met.`,
  mends: [{ do: 'take-away', label: `Mend ${key}`, placement: 'p' }],
  isNew: false,
  back: 0,
  since: '2026-11-27T00:00:00.000Z',
  left: null,
  ...more,
});
const view = (more: Partial<ChecksView> = {}): ChecksView => ({
  running: null,
  isFirst: false,
  isStopped: false,
  findings: [],
  left: [],
  ways: [],
  runs: [],
  mendedSince: 0,
  pages: 3,
  tookMs: 5,
  toSee: [],
  ...more,
});

it('tells each with its weight and how it is met, and mends just what was pressed', async () => {
  const office = fakeOffice({
    'GET checks': () =>
      view({
        findings: [
          finding('prices'),
          finding('shipping', {
            weight: 'away',
            mends: [
              {
                do: 'go',
                label: 'Open shipping',
                step: 'Add a region.',
                to: { place: 'till', query: { rule: 'shipping' } },
              },
            ],
          }),
        ],
      }),
    'POST checks/mend': () => ({ done: ['Prices'], refused: [] }),
  });
  inOffice(<ChecksPlace />);
  const row = (await screen.findByText(/prices title/)).closest('article') as HTMLElement;
  expect(within(row).getByText('Says two things.')).toBeTruthy();
  expect(within(row).getByText('How prices is met.')).toBeTruthy();
  expect(screen.getByText('Add a region.')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Open shipping' }).getAttribute('href')).toBe(
    '/kiln/till?shipping',
  );
  await userEvent.click(within(row).getByRole('button', { name: 'Mend prices' }));
  await waitFor(() =>
    expect(office.find((s) => s.route === 'POST checks/mend')?.body).toEqual({
      mends: [{ key: 'prices', n: 0, label: 'Mend prices' }],
    }),
  );
});

it('shows what "Mend all" will do before it is done', async () => {
  const office = fakeOffice({
    'GET checks': () => view({ findings: [finding('prices'), finding('carts')] }),
    'POST checks/mend': () => ({ done: ['Prices', 'Carts'], refused: [] }),
  });
  inOffice(<ChecksPlace />);
  await userEvent.click(await screen.findByRole('button', { name: 'Mend all 2' }));
  expect(screen.getByText('Shipping: Mend carts')).toBeTruthy();
  expect(office.some((s) => s.route === 'POST checks/mend')).toBe(false);
  await userEvent.click(screen.getByRole('button', { name: 'Mend them' }));
  await waitFor(() => expect(office.filter((s) => s.route === 'POST checks/mend')).toHaveLength(1));
});

it('leaves something so with a word', async () => {
  const office = fakeOffice({
    'GET checks': () => view({ findings: [finding('prices')] }),
    'POST checks/leave': () => undefined,
  });
  inOffice(<ChecksPlace />);
  await userEvent.click(await screen.findByRole('button', { name: 'Leave it so' }));
  await userEvent.type(screen.getByLabelText(/A word for later/), 'until spring');
  await userEvent.click(screen.getByRole('button', { name: 'Leave it so' }));
  await waitFor(() =>
    expect(office.find((s) => s.route === 'POST checks/leave')?.body).toEqual({
      keys: ['prices'],
      word: 'until spring',
    }),
  );
});

it('shows each press of a way, the longest first, and what it was before', async () => {
  fakeOffice({
    'GET checks': () =>
      view({
        ways: [
          {
            path: 'a.html',
            name: 'Home',
            product: 1,
            cart: 1,
            paid: 4,
            built: false,
            was: { product: 2, cart: undefined, paid: undefined },
          },
          {
            path: 'b.html',
            name: 'Visit',
            product: 2,
            cart: undefined,
            paid: undefined,
            built: false,
            was: null,
          },
        ],
      }),
    'GET checks/way': () => [
      { press: 'Our baskets', to: 'Our baskets' },
      { press: 'Pay', to: 'Paid' },
    ],
  });
  inOffice(<ChecksPlace />);
  const rows = (await screen.findAllByRole('row')).map((r) => r.textContent);
  expect(rows[1]).toContain('Visit');
  expect(screen.getByText('From one page there is no way to paid.')).toBeTruthy();
  await userEvent.click(
    screen.getByRole('button', { name: /Home, paid for: show each press \(4 presses\)/ }),
  );
  expect(await screen.findByText('Pay')).toBeTruthy();
});

it('tells how far a long run is, and stops it', async () => {
  const office = fakeOffice({
    'GET checks': () => view({ running: { done: 40, all: 3000 }, isFirst: true }),
    'DELETE checks': () => undefined,
  });
  inOffice(<ChecksPlace />);
  expect(await screen.findByText('Checking: 40 of 3000 pages')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'Stop' }));
  await waitFor(() => expect(office.some((s) => s.route === 'DELETE checks')).toBe(true));
});

it('says on the slip what loses the sale', async () => {
  fakeOffice({
    'GET checks/count': () => ({ toMend: 3, losesSale: 1, canWait: 2, running: false, isKnown: true }),
  });
  inOffice(<ChecksLine />);
  expect((await screen.findByRole('link', { name: '1 loses the sale' })).getAttribute('href')).toBe(
    '/kiln/checks',
  );
});

it('does not call well what nobody has looked at', async () => {
  fakeOffice({
    'GET checks': () => view({ isFirst: true, isStopped: true }),
    'GET checks/count': () => ({ toMend: 0, losesSale: 0, canWait: 0, running: false, isKnown: false }),
  });
  inOffice(
    <>
      <ChecksPlace />
      <ChecksLine />
    </>,
  );
  expect(await screen.findByText(/before they were through: nothing is known yet/)).toBeTruthy();
  expect(await screen.findByText('not checked yet')).toBeTruthy();
  expect(screen.queryByText('Nothing found')).toBeNull();
});
