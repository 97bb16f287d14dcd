import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import type { OrderRow, OrderShelf } from '../../services/till/order-list';
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
const shelf = (rows: readonly OrderRow[], count = rows.length, next: string | null = null): OrderShelf => ({
  shelf: rows[0]?.shelf ?? 'done',
  count,
  rows,
  next,
});
const list = (...shelves: readonly OrderShelf[]) => ({ shelves, tests: 0 });

it('opens the first of those that need something, and groups by what is to be done', async () => {
  fakeOffice({
    'GET orders': () =>
      list(shelf([row(3, 'look-into')]), shelf([row(2, 'to-pack')], 1341), shelf([row(1, 'done')])),
  });
  const chosen = vi.fn();
  inOffice(<OrderList current={null} onChoose={chosen} onTakings={() => {}} refetchMs={60_000} />);
  await waitFor(() => expect(chosen).toHaveBeenCalledWith('3'));
  const heads = screen.getAllByRole('heading', { level: 2 }).map((h) => h.textContent);
  expect(heads).toHaveLength(3);
  expect(heads[1]).toMatch(/1341$/);
  expect(screen.getByRole('link', { name: /packing slip/i }).getAttribute('href')).toBe(
    '/api/kiln/papers/slips?shelf=to-pack',
  );
});

it('asks for what is written, and takes the same along as CSV', async () => {
  const sent = fakeOffice({ 'GET orders': () => list() });
  inOffice(<OrderList current={null} onChoose={() => {}} onTakings={() => {}} refetchMs={60_000} />);
  await userEvent.type(await screen.findByRole('searchbox', { name: 'Find an order' }), 'Ash');
  await waitFor(() => expect(sent.at(-1)?.query.get('find')).toBe('Ash'));
  const csv = screen.getByRole('link', { name: /csv/i, hidden: true });
  expect(csv.getAttribute('href')).toBe('/api/kiln/orders/csv?find=Ash');
});

it('reaches every order of a shelf: what comes after is asked for, and the focus goes on there', async () => {
  const sent = fakeOffice({
    'GET orders': ({ query }) =>
      query.has('after')
        ? list(shelf([row(2, 'done'), row(1, 'done')], 3))
        : list(shelf([row(3, 'done')], 3, '1764583200000.3')),
  });
  inOffice(<OrderList current="3" onChoose={() => {}} onTakings={() => {}} refetchMs={60_000} />);
  await userEvent.click(await screen.findByRole('button', { name: 'Show the other 2' }));
  await waitFor(() => expect(screen.getAllByRole('listitem')).toHaveLength(3));
  expect(Object.fromEntries(sent.at(-1)?.query ?? [])).toMatchObject({
    shelf: 'done',
    after: '1764583200000.3',
    take: '200',
  });
  expect(screen.queryByRole('button', { name: /show/i })).toBeNull();
  expect(document.activeElement?.textContent).toContain('Buyer 2');
  expect(screen.getByRole('status').textContent).toBe('3 of 3 are shown.');
});
