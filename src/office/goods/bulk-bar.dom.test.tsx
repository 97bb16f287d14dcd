import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import type { BulkEdit } from '../../core/goods/bulk';
import { fakeOffice, inOffice, type Sent } from '../testing';
import { BulkBar } from './bulk-bar';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const ids = ['a', 'b', 'c'];
const office = () =>
  fakeOffice({
    'POST goods/bulk/preview': () => ({
      changes: 2,
      same: 1,
      lines: [{ id: 'a', name: 'Jug', from: '10.00', to: '11.00' }],
    }),
    'POST goods/bulk': () => ({ changed: 2 }),
  });
const editOf = (sent: readonly Sent[]): BulkEdit | undefined =>
  (sent.filter((s) => s.route === 'POST goods/bulk').at(-1)?.body as { edit: BulkEdit } | undefined)?.edit;
const choose = (what: string) =>
  userEvent.selectOptions(screen.getByRole('combobox', { name: 'What to change' }), what);

it('shows what a change would do before it is made, and makes just that', async () => {
  const sent = office();
  const done = vi.fn();
  inOffice(<BulkBar ids={ids} onDone={done} />);
  expect(await screen.findByText('Jug')).toBeTruthy();
  expect(screen.getByText('2 would change, 1 stay as they are.')).toBeTruthy();
  expect(sent.every((s) => s.route === 'POST goods/bulk/preview')).toBe(true);
  await userEvent.click(screen.getByRole('button', { name: 'Change 2' }));
  await waitFor(() => expect(done).toHaveBeenCalledOnce());
  expect(editOf(sent)).toEqual({ do: 'price', by: 'percent', value: 10, ends: '' });
});

it('asks each act for what it needs, by its name, and for nothing else', async () => {
  office();
  inOffice(<BulkBar ids={ids} onDone={() => {}} />);
  const fields = () => screen.queryAllByRole('textbox').map((f) => f.getAttribute('aria-label'));
  const asked: Record<string, (string | null)[]> = {};
  for (const what of ['Put on offer', 'Add to a category', 'Add a tag', 'Badge', 'Tax class', 'Remove']) {
    await choose(what);
    asked[what] = fields();
  }
  expect(asked).toEqual({
    'Put on offer': ['How much'],
    'Add to a category': ['Category'],
    'Add a tag': ['Tag'],
    Badge: ['Badge'],
    'Tax class': [],
    Remove: [],
  });
});

it('sends nothing while an act is not whole', async () => {
  const sent = office();
  inOffice(<BulkBar ids={ids} onDone={() => {}} />);
  await screen.findByText('Jug');
  await choose('Add to a category');
  sent.length = 0;
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Change/ }).disabled).toBe(true);
  await userEvent.type(screen.getByRole('textbox', { name: 'Category' }), 'Jars');
  await userEvent.click(await screen.findByRole('button', { name: 'Change 2' }));
  await waitFor(() => expect(editOf(sent)).toEqual({ do: 'category', how: 'in', path: 'Jars' }));
});

it('says what the server refuses, and stays open', async () => {
  fakeOffice({
    'POST goods/bulk/preview': () =>
      Response.json({ title: 'Choose at least one product.' }, { status: 422 }),
  });
  const done = vi.fn();
  inOffice(<BulkBar ids={[]} onDone={done} />);
  expect((await screen.findByRole('alert', {}, { timeout: 5000 })).textContent).toBe(
    'Choose at least one product.',
  );
  expect(done).not.toHaveBeenCalled();
});
