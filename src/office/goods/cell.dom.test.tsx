import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import { Cell } from './cell';

afterEach(cleanup);

const two = (onSave: (text: string) => string | undefined) =>
  render(
    <table>
      <tbody>
        {[0, 1].map((n) => (
          <tr key={n}>
            <td>
              <Cell n={n} column="stock" label={`row ${n}`} value="9" onSave={onSave} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>,
  );
const cell = (n: number) => screen.getByRole<HTMLInputElement>('textbox', { name: `row ${n}` });

it('saves what was typed once, though Enter leaves the cell as well, and goes on to the next', async () => {
  const save = vi.fn(() => undefined);
  two(save);
  await userEvent.clear(cell(0));
  await userEvent.type(cell(0), '12{Enter}');
  expect(save.mock.calls).toEqual([['12']]);
  expect(document.activeElement).toBe(cell(1));
  await userEvent.tab();
  expect(save).toHaveBeenCalledOnce();
});

it('keeps what is refused, saves nothing that is the same, and takes back by Escape', async () => {
  const save = vi.fn((text: string) => (text === 'x' ? 'No number.' : undefined));
  two(save);
  await userEvent.clear(cell(0));
  await userEvent.type(cell(0), 'x');
  await userEvent.tab();
  expect(screen.getByRole('alert').textContent).toBe('No number.');
  expect(cell(0).value).toBe('x');
  await userEvent.type(cell(0), '{Escape}');
  expect(cell(0).value).toBe('9');
  await userEvent.clear(cell(1));
  await userEvent.type(cell(1), '9');
  await userEvent.tab();
  expect(save.mock.calls).toEqual([['x']]);
});
