import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import type { OrderRow } from '../../services/till/orders';
import { fakeOffice, inOffice } from '../testing';
import { OrderList } from './order-list';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const row = (id: number, shelf: OrderRow['shelf']): OrderRow => ({
  id: String(id),
  number: id,
  name: `Buyer ${id}`,
  total: 1000,
  currency: 'GBP',
  shelf,
  state: 'paid',
  test: false,
  pieces: 1,
  goes: 'post',
  pictures: [],
  createdAt: `2026-11-0${id}T10:00:00.000Z`,
  doneAt: null,
});
const list = (rows: OrderRow[], more = false, tests = 0) => ({ rows, more, tests });

it('opens the first of those that need something, and groups by what is to be done', async () => {
  fakeOffice({ 'GET orders': () => list([row(1, 'done'), row(2, 'to-pack'), row(3, 'look-into')]) });
  const chosen = vi.fn();
  inOffice(<OrderList current={null} onChoose={chosen} onTakings={() => {}} refetchMs={60_000} />);
  await waitFor(() => expect(chosen).toHaveBeenCalledWith('3'));
  const heads = screen.getAllByRole('heading', { level: 2 }).map((h) => h.textContent);
  expect(heads).toHaveLength(3);
  expect(screen.getByRole('link', { name: /packing slip/i }).getAttribute('href')).toBe(
    '/api/kiln/papers/slips?ids=2',
  );
});

it('asks for what is written, and takes the same along as CSV', async () => {
  const sent = fakeOffice({ 'GET orders': () => list([]) });
  inOffice(<OrderList current={null} onChoose={() => {}} onTakings={() => {}} refetchMs={60_000} />);
  await userEvent.type(await screen.findByRole('searchbox', { name: 'Find an order' }), 'Ash');
  await waitFor(() => expect(sent.at(-1)?.query.get('find')).toBe('Ash'));
  const csv = screen.getByRole('link', { name: /csv/i, hidden: true });
  expect(csv.getAttribute('href')).toBe('/api/kiln/orders/csv?find=Ash');
});

it('fetches older ones from where the list ends, until there are none', async () => {
  const sent = fakeOffice({
    'GET orders': ({ query }) =>
      query.has('before') ? list([row(1, 'done')]) : list([row(3, 'done'), row(2, 'done')], true),
  });
  inOffice(<OrderList current="3" onChoose={() => {}} onTakings={() => {}} refetchMs={60_000} />);
  await userEvent.click(await screen.findByRole('button', { name: /older/i }));
  await waitFor(() => expect(screen.getAllByRole('listitem')).toHaveLength(3));
  expect(sent.at(-1)?.query.get('before')).toBe('2026-11-02T10:00:00.000Z');
  expect(screen.queryByRole('button', { name: /older/i })).toBeNull();
});
