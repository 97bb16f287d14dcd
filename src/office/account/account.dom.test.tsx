import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { fakeOffice, inOffice } from '../testing';
import { browserName } from './browser-name';
import { Activity } from './activity';
import { PasswordForm } from './password-form';
import { People } from './people';
import { SecondFactor } from './second-factor';
import { Sessions } from './sessions';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const me = { id: 'a', name: 'Jo', email: 'jo@kiln.example', role: 'owner', secondFactor: false } as const;
const at = '2026-11-30T10:00:00.000Z';
const person = (id: string, name: string, role: 'owner' | 'helper') => ({
  ...{ id, name, role, email: `${name}@kiln.example`.toLowerCase() },
  ...{ secondFactor: false, since: at, lastSeen: null },
});

describe('a password', () => {
  it('that is refused is said at its field, which gets the focus; the other stays typed', async () => {
    const refused = { title: 'Too easily guessed.', status: 422, field: 'password' };
    const sent = fakeOffice({ 'PUT password': () => Response.json(refused, { status: 422 }) });
    inOffice(<PasswordForm email={me.email} />);
    await userEvent.type(screen.getByLabelText('Your password today'), 'the old one');
    const next = screen.getByLabelText('New password');
    await userEvent.type(next, 'password1234{Enter}');
    await waitFor(() => expect(document.activeElement).toBe(next));
    expect(sent.at(-1)?.body).toEqual({ current: 'the old one', password: 'password1234' });
    expect(next.getAttribute('aria-invalid')).toBe('true');
    const wrong = document.getElementById(next.getAttribute('aria-describedby') ?? '');
    expect(wrong?.textContent).toBe('Too easily guessed.');
    expect(screen.getByLabelText<HTMLInputElement>('Your password today').value).toBe('the old one');
  });
});

describe('a second factor', () => {
  const begun = { uri: 'otpauth://x', secret: 'ABCDEFGH', picture: 'data:,', spare: ['one', 'two'] };

  it('is on with the first code that fits, and said to be off until then', async () => {
    let fits = false;
    fakeOffice({
      'POST second-factor': () => begun,
      'PUT second-factor': () =>
        fits ? { done: true } : Response.json({ title: 'No.', status: 403 }, { status: 403 }),
    });
    inOffice(<SecondFactor isOn={false} />);
    await userEvent.type(screen.getByLabelText('Your password'), 'x{Enter}');
    expect(await screen.findByText('ABCD EFGH')).toBeTruthy();
    const code = screen.getByLabelText('The code it shows now');
    await userEvent.type(code, '000000{Enter}');
    expect((await screen.findByRole('alert')).textContent).toBe('No.');
    expect(screen.getByRole('heading', { level: 2 }).textContent).toMatch(/off$/);
    fits = true;
    await userEvent.type(code, '{Enter}');
    await waitFor(() => expect(screen.getByRole('heading', { level: 2 }).textContent).toMatch(/on$/));
    expect(screen.getByRole('button', { name: 'Turn it off' })).toBeTruthy();
  });
});

describe('people', () => {
  const view = { people: [person('a', 'Jo', 'owner'), person('b', 'Tam', 'helper')], invitations: [] };

  it('are removed after a question, and nobody removes or changes themselves', async () => {
    const sent = fakeOffice({ 'GET people': () => view, 'DELETE people/:id': () => ({ done: true }) });
    inOffice(<People me={me} sendsLetters />);
    const own = await screen.findByRole('combobox', { name: 'What Jo may do' });
    expect(own).toHaveProperty('disabled', true);
    expect(screen.queryByRole('button', { name: 'Remove Jo' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Remove Tam' }));
    expect(sent.some((s) => s.route === 'DELETE people/:id')).toBe(false);
    const asks = screen.getByRole('group', { name: 'Remove Tam' });
    expect(document.activeElement).toBe(within(asks).getByRole('button', { name: 'Remove' }));
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(sent.some((s) => s.route === 'DELETE people/:id')).toBe(true));
    expect(sent.find((s) => s.route === 'DELETE people/:id')?.params).toEqual(['b']);
  });

  it.each([
    [true, /on its way to/],
    [false, /^Give this link to/],
  ])('are told where the link is (letters are sent: %s)', async (sends, words) => {
    const sent = fakeOffice({
      'GET people': () => view,
      'POST people': () => ({
        ...{ link: 'http://office.test/join?key=k', sent: sends },
        ...{ email: 'ines@kiln.example', role: 'bookkeeper' },
      }),
    });
    inOffice(<People me={me} sendsLetters={sends} />);
    await userEvent.type(await screen.findByLabelText('E-mail'), 'ines@kiln.example');
    await userEvent.click(screen.getByRole('radio', { name: /^bookkeeper/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Make the invitation' }));
    expect(await screen.findByText(words)).toBeTruthy();
    expect(sent.find((s) => s.route === 'POST people')?.body).toEqual({
      email: 'ines@kiln.example',
      role: 'bookkeeper',
    });
    expect(screen.getByLabelText<HTMLInputElement>('Link of the invitation').value).toContain('key=k');
  });
});

it('says who did what in words, also where the person or a word is no longer known', async () => {
  const line = (id: number, what: string, name = 'Tam') => ({
    ...{ id, at, name, what, subject: '1007', site: null },
  });
  fakeOffice({
    'GET activity': ({ query }) =>
      query.has('before')
        ? { lines: [line(1, 'POST of an older release')], more: false }
        : { lines: [line(3, 'pack'), line(2, 'wrong password', '')], more: true },
  });
  inOffice(<Activity />);
  const lines = () => screen.getAllByRole('listitem').map((li) => li.querySelector('p')?.textContent?.trim());
  expect(await screen.findByText('Tam')).toBeTruthy();
  expect(lines()).toEqual(['Tam packed order 1007', 'Somebody outside tried a wrong password as 1007']);
  await userEvent.click(screen.getByRole('button', { name: 'Show earlier ones' }));
  await waitFor(() => expect(lines()).toHaveLength(3));
  expect(lines().at(-1)).toBe('Tam POST of an older release 1007');
});

it('signs out one browser or all others, and never offers the one that is looked with', async () => {
  const session = (id: string, current: boolean) => ({
    ...{ id, current, since: at, lastSeen: at, address: '203.0.113.7' },
    browser: 'Mozilla/5.0 (X11; Linux x86_64; rv:130.0) Gecko/20100101 Firefox/130.0',
  });
  const sent = fakeOffice({
    'GET me': () => ({ sessions: [session('a', true), session('b', false)] }),
    'DELETE sessions': () => ({ ended: 1 }),
  });
  inOffice(<Sessions />);
  const out = await screen.findAllByRole('button', { name: 'Sign out of Firefox on Linux' });
  expect(out).toHaveLength(1);
  await userEvent.click(out[0] as HTMLElement);
  await waitFor(() => expect(sent.at(-1)?.route).toBe('GET me'));
  await userEvent.click(screen.getByRole('button', { name: 'Sign out everywhere else' }));
  await waitFor(() =>
    expect(sent.filter((s) => s.route === 'DELETE sessions').map((s) => s.body)).toEqual([
      { id: 'b' },
      'others',
    ]),
  );
});

// As browsers write it, by the "User-Agent" page of MDN (from memory).
it.each([
  ['Mozilla/5.0 (X11; Linux x86_64; rv:42.0) Gecko/20100101 Firefox/42.0', 'Firefox on Linux'],
  [
    'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/51.0.2704.103 Safari/537.36',
    'Chrome on Linux',
  ],
  [
    'Mozilla/5.0 (iPhone; CPU iPhone OS 13_5_1 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/13.1.1 Mobile/15E148 Safari/604.1',
    'Safari on iOS',
  ],
  [
    'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/91.0.4472.124 Safari/537.36 Edg/91.0.864.59',
    'Edge on Windows',
  ],
  ['curl/7.64.1', undefined],
  ['', undefined],
])('%s is %s', (userAgent, name) => {
  const known = browserName(userAgent);
  expect(known && `${known.browser} on ${known.system}`).toBe(name);
});
