import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { GoodsLine } from '../../services/goods/lines';
import { fakeOffice, inOffice } from '../testing';
import { StockList } from './stock-list';

beforeEach(() => {
  // Nothing is laid out here: the list asks how tall it is, and gets room for all of it.
  vi.spyOn(Element.prototype, 'clientHeight', 'get').mockReturnValue(800);
  vi.spyOn(Element.prototype, 'clientWidth', 'get').mockReturnValue(800);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

const line = (id: string, name: string, variants: GoodsLine['variants'], kind: GoodsLine['kind'] = 'ships') =>
  ({ id, slug: id, name, kind, shows: 'shop', picture: null, variants }) as unknown as GoodsLine;
const goods = [
  line('jug', 'Jug', [
    { id: 'jug-s', label: 'S', sku: 'J-S', stock: 4 },
    { id: 'jug-l', label: 'L', sku: 'J-L', stock: null },
  ]),
  line('set', 'Set of two', [{ id: 'set', label: '', sku: '', stock: null }], 'bundle'),
];

it('has a line for each variant that is counted, and none for what its parts count', async () => {
  fakeOffice({ 'GET goods': () => goods });
  inOffice(<StockList />, {}, 'helper');
  expect(await screen.findByRole('textbox', { name: 'Stock of Jug, S' })).toBeTruthy();
  expect(screen.getAllByRole('textbox').map((t) => (t as HTMLInputElement).value)).toEqual(['4', '']);
  await userEvent.type(screen.getByRole('searchbox'), 'j-l');
  expect(screen.getAllByRole('textbox')).toHaveLength(1);
  expect(screen.getByRole('textbox', { name: 'Stock of Jug, L' })).toBeTruthy();
});

it('saves a count by what was seen and written, and nothing else of the product', async () => {
  const sent = fakeOffice({ 'GET goods': () => goods, 'PUT goods/:id': () => ({}) as never });
  inOffice(<StockList />, {}, 'helper');
  const cell = await screen.findByRole('textbox', { name: 'Stock of Jug, S' });
  await userEvent.clear(cell);
  await userEvent.type(cell, '7{Enter}');
  await waitFor(() => expect(sent.filter((s) => s.route === 'PUT goods/:id')).toHaveLength(1));
  expect(sent.at(-1)).toMatchObject({
    params: ['jug'],
    body: { fields: {}, counts: [{ variantId: 'jug-s', from: 4, to: 7 }] },
  });
  await userEvent.clear(cell);
  await userEvent.type(cell, 'some{Enter}');
  expect(screen.getByRole('alert')).toBeTruthy();
  expect(sent.filter((s) => s.route === 'PUT goods/:id')).toHaveLength(1);
});
