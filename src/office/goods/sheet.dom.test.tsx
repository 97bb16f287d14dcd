import { act, cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { type Product, productInput } from '../../core/goods/product';
import type { ProductInput } from '../../core/goods/product';
import { fakeOffice, inOffice, type Sent } from '../testing';
import { Sheet } from './sheet';
import { whileUploading } from './use-upload';

beforeEach(() => localStorage.clear());
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

/** A product as the server keeps it. */
const kept = (body: unknown): Product => ({
  ...productInput.parse(body as ProductInput),
  id: 'p1',
  slug: 'jug',
  variants: [],
  plain: '',
  addedAt: 0,
  order: 1,
  rating: null,
});
const office = () => fakeOffice({ 'POST goods': ({ body }) => kept(body) });
const posted = (sent: readonly Sent[]) => sent.filter((s) => s.route === 'POST goods');

async function typeJug(price = '24') {
  await userEvent.type(screen.getByRole('textbox', { name: 'Name' }), 'Jug');
  await userEvent.type(screen.getByRole('textbox', { name: 'Price' }), price);
}
const newSheet = (onSaved = vi.fn()) => {
  inOffice(
    <Sheet product={undefined} goods={[]} onSaved={onSaved} onRemoved={() => {}} onDraft={() => {}} />,
  );
  return onSaved;
};

it('saves what was typed, once, by the button or by Ctrl+S', async () => {
  const sent = office();
  const saved = newSheet();
  await typeJug();
  await userEvent.keyboard('{Control>}s{/Control}');
  await waitFor(() => expect(saved).toHaveBeenCalledOnce());
  expect(posted(sent)).toHaveLength(1);
  expect(posted(sent)[0]?.body).toMatchObject({ name: 'Jug', price: 2400, kind: 'ships' });
});

it('pressed while a file is on its way, waits for it, and is saved then by itself', async () => {
  const sent = office();
  newSheet();
  await typeJug();
  let arrive = () => {};
  const file = new Promise<void>((done) => {
    arrive = done;
  });
  act(() => void whileUploading(file));
  await userEvent.click(screen.getByRole('button', { name: 'Add to the goods' }));
  expect(screen.getByText(/A file is on its way/)).toBeTruthy();
  expect(posted(sent)).toHaveLength(0);
  await act(async () => arrive());
  await waitFor(() => expect(posted(sent)).toHaveLength(1));
});

it('is saved with the picture that was on its way when it was pressed', async () => {
  let arrive = (_: Response) => {};
  const answer = new Promise<Response>((done) => {
    arrive = done;
  });
  const sent = office();
  const usual = fetch;
  vi.stubGlobal('fetch', (address: string, init?: RequestInit) =>
    address.endsWith('/pictures') ? answer : usual(address, init),
  );
  newSheet();
  await typeJug();
  await userEvent.upload(
    screen.getByLabelText(/picture/i),
    new File(['jug'], 'jug.png', { type: 'image/png' }),
  );
  await userEvent.click(screen.getByRole('button', { name: 'Add to the goods' }));
  expect(posted(sent)).toHaveLength(0);
  await act(async () => arrive(Response.json({ hash: 'a'.repeat(64) })));
  await waitFor(() => expect(posted(sent)).toHaveLength(1));
  expect(posted(sent)[0]?.body).toMatchObject({ pictures: [{ hash: 'a'.repeat(64) }] });
});

it('says what is wrong where it is, and sends nothing', async () => {
  const sent = office();
  newSheet();
  await typeJug('twelve');
  await userEvent.click(screen.getByRole('button', { name: 'Add to the goods' }));
  expect(screen.getByRole('textbox', { name: 'Price' }).getAttribute('aria-invalid')).toBe('true');
  expect(posted(sent)).toHaveLength(0);
  expect(screen.getByText(/another look/)).toBeTruthy();
});

it('keeps what was typed when the page is left, and not what was saved', async () => {
  office();
  newSheet();
  await typeJug();
  cleanup();
  newSheet();
  expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Name' }).value).toBe('Jug');
  await userEvent.keyboard('{Control>}s{/Control}');
  await userEvent.click(screen.getByRole('button', { name: 'Add to the goods' }));
  await waitFor(() => expect(localStorage.length).toBe(0));
});
