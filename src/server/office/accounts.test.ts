import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { eq } from 'drizzle-orm';
import { activity, session, signInAttempts, user } from '../../data/schema';
import { listActivity } from '../../services/people/activity';
import { newPasswordLink } from '../../services/people/new-password-link';
import * as people from '../../services/people/people';
import { endSessions, listSessions } from '../../services/people/sessions';
import { base32, totp } from '../../../e2e/support/totp';
import { makeWorld, type World } from '../../services/testing';
import { type Accounts, afterReset, makeAccounts } from './accounts';
import { makeAuth, type SignedIn } from './auth';

const PASSWORD = 'seven herons on a fence';
const OTHER = 'thirty owls under the stairs';
const marnie = { name: 'Marnie', email: 'marnie@kiln.example', password: PASSWORD };

let w: World;
let accounts: Accounts;
let resets: string[];
let address = 0;

beforeAll(async () => {
  w = await makeWorld();
});
afterAll(() => w.end());
beforeEach(async () => {
  for (const { id } of await w.ctx.store.db.select({ id: user.id }).from(user))
    await w.ctx.store.write((tx) => tx.delete(user).where(eq(user.id, id)));
  await w.ctx.store.write((tx) => tx.delete(session));
  await w.ctx.store.write((tx) => tx.delete(activity));
  await w.ctx.store.write((tx) => tx.delete(signInAttempts));
  resets = [];
  accounts = officeAt('http://office.test');
});

function officeAt(officeUrl: string): Accounts {
  const secret = 'a secret for tests that is long enough';
  const auth = makeAuth(w.ctx.store, {
    officeUrl,
    secret,
    sendReset: (_, token) => resets.push(token),
    wasReset: (person) => afterReset(w.ctx, person),
  });
  return makeAccounts(w.ctx, auth);
}

/** A browser: what it was given it sends back. Each has an address of its own unless one is said. */
function browser(from = `203.0.113.${++address % 250}`) {
  const jar = new Map<string, string>();
  const headers = () =>
    new Headers({
      'x-stall-client': from,
      'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Firefox/130.0',
      cookie: [...jar].map(([k, v]) => `${k}=${v}`).join('; '),
    });
  const keep = <T extends { readonly cookies: readonly string[] }>(done: T): T => {
    for (const cookie of done.cookies) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(cookie) ?? [];
      if (/max-age=0/i.test(cookie)) jar.delete(name);
      else jar.set(name, value);
    }
    return done;
  };
  const signIn = async (password = PASSWORD, email = marnie.email, office = accounts) =>
    keep(await office.signIn(headers(), { email, password })).value.next;
  const me = async (): Promise<SignedIn> => {
    const found = await accounts.personOf(headers());
    if (!found) throw new Error('nobody is signed in');
    return found;
  };
  return { headers, keep, signIn, me, jar, in: async () => Boolean(await accounts.personOf(headers())) };
}

describe('the first owner', () => {
  it('is one, however many come at once, and the others are gone again', async () => {
    const five = await Promise.allSettled(
      [1, 2, 3, 4, 5].map((n) =>
        officeAt('http://office.test').found({ ...marnie, email: `m${n}@kiln.example` }),
      ),
    );
    expect(five.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
    const all = await w.ctx.store.db.select().from(user);
    expect(all.map((u) => u.role)).toEqual(['owner']);
  });

  it.each(['password1234', 'qwertyuiop', 'aaaaaaaaaaaa', 'marnie@kiln', 'Marnie12345', 'short'])(
    'is refused the password "%s", which is among the first that are guessed',
    async (password) => {
      await expect(accounts.found({ ...marnie, password })).rejects.toMatchObject({
        kind: 'invalid',
        detail: { field: 'password' },
      });
      expect(await people.hasOwner(w.ctx)).toBe(false);
    },
  );
});

describe('signing in', () => {
  beforeEach(() => accounts.found(marnie));

  it('gives cookies that no script reads, and no token in what is answered', async () => {
    const b = browser();
    const done = await accounts.signIn(b.headers(), marnie);
    expect(done.value).toEqual({ next: 'in' });
    expect(done.cookies).toHaveLength(2);
    for (const cookie of done.cookies) expect(cookie).toMatch(/; HttpOnly/i);
  });

  it('behind TLS its cookies have the prefix that binds them to this host (RFC 6265bis, 4.1.3.2)', async () => {
    const done = await officeAt('https://office.test').signIn(browser().headers(), marnie);
    for (const cookie of done.cookies) {
      expect(cookie).toMatch(/^__Host-/);
      expect(cookie).toMatch(/; Secure/i);
      expect(cookie).toMatch(/; Path=\/(;|$)/i);
      expect(cookie).not.toMatch(/domain=/i);
    }
  });

  it('locks an account after five wrong passwords, from however many addresses and however many at once', async () => {
    const tries = await Promise.allSettled(
      Array.from({ length: 40 }, () => browser().signIn('a wrong password it is')),
    );
    const kinds = tries.map((t) => (t as PromiseRejectedResult).reason.kind as string);
    expect(kinds.filter((kind) => kind === 'signed-out')).toHaveLength(5);
    expect(kinds.filter((kind) => kind === 'locked')).toHaveLength(35);
    await expect(browser().signIn()).rejects.toMatchObject({ kind: 'locked' });
    // A minute later one try is free again; wrong, it locks for twice as long.
    w.clock.ms += 61_000;
    await expect(browser().signIn('a wrong password it is')).rejects.toMatchObject({ kind: 'signed-out' });
    w.clock.ms += 61_000;
    await expect(browser().signIn()).rejects.toMatchObject({ kind: 'locked' });
    w.clock.ms += 61_000;
    expect(await browser().signIn()).toBe('in');
  });

  it('does not lock out a browser that the account was opened with before', async () => {
    const own = browser();
    await own.signIn();
    await accounts.signOut(own.headers());
    await Promise.allSettled(Array.from({ length: 12 }, () => browser().signIn('a wrong password it is')));
    await expect(browser().signIn()).rejects.toMatchObject({ kind: 'locked' });
    expect(await own.signIn()).toBe('in');
    // What makes it known fits no other account, and nobody can make one up.
    const thief = browser();
    for (const [name, value] of own.jar)
      if (name.endsWith('known'))
        thief.jar.set(
          name,
          value.replace(/.$/, (c) => (c === 'A' ? 'B' : 'A')),
        );
    await expect(thief.signIn()).rejects.toMatchObject({ kind: 'locked' });
  });

  it('tells of a lock by letter, once a day', async () => {
    const before = w.letters.length;
    for (let n = 0; n < 9; n++) {
      await browser()
        .signIn('a wrong password it is')
        .catch(() => {});
      w.clock.ms += 3_700_000;
    }
    const told = w.letters.slice(before);
    expect(told.map((l) => [l.to, l.subject])).toEqual([[marnie.email, 'Wrong passwords for your office']]);
    expect(told[0]?.text).toContain('203.0.113.');
  });

  it('has the same answer for an address that nobody has', async () => {
    const [known, unknown] = await Promise.all(
      [marnie.email, 'nobody@kiln.example'].map((email) =>
        browser()
          .signIn('a wrong password it is', email)
          .catch((e: Error) => e.message),
      ),
    );
    expect(known).toBe(unknown);
  });

  it('takes twenty tries a minute from one network, whatever account they are for', async () => {
    const tries = await Promise.allSettled(
      Array.from({ length: 30 }, (_, n) =>
        browser(`2001:db8:0:7::${n + 1}`).signIn('a wrong password it is', `p${n}@kiln.example`),
      ),
    );
    const kinds = tries.map((t) => (t as PromiseRejectedResult).reason.kind as string);
    expect(kinds.filter((kind) => kind === 'locked')).toHaveLength(10);
  });
});

describe('a password', () => {
  beforeEach(() => accounts.found(marnie));

  it('that is changed signs out every other browser, and the old one opens nothing', async () => {
    const [here, there] = [browser(), browser()];
    await here.signIn();
    await there.signIn();
    const me = await here.me();
    await expect(
      accounts.changePassword(here.headers(), me, { current: 'not this one', password: OTHER }),
    ).rejects.toMatchObject({ detail: { field: 'current' } });
    await expect(
      accounts.changePassword(here.headers(), me, { current: PASSWORD, password: 'password1234' }),
    ).rejects.toMatchObject({ detail: { field: 'password' } });
    here.keep(await accounts.changePassword(here.headers(), me, { current: PASSWORD, password: OTHER }));
    expect([await here.in(), await there.in()]).toEqual([true, false]);
    await expect(browser().signIn()).rejects.toMatchObject({ kind: 'signed-out' });
    expect(await browser().signIn(OTHER)).toBe('in');
  });

  it('that is forgotten is set anew by a letter: once, and everybody is signed out', async () => {
    const there = browser();
    await there.signIn();
    await Promise.allSettled(Array.from({ length: 9 }, () => browser().signIn('a wrong password it is')));
    const asked = [
      await accounts.forgotten(browser().headers(), marnie.email),
      await accounts.forgotten(browser().headers(), 'nobody@kiln.example'),
    ];
    expect(asked[0]).toEqual(asked[1]);
    expect(resets).toHaveLength(1);
    const given = { token: resets[0] ?? '', password: OTHER };
    await accounts.resetPassword(browser().headers(), given);
    expect(await there.in()).toBe(false);
    expect(await browser().signIn(OTHER)).toBe('in');
    await expect(accounts.resetPassword(browser().headers(), given)).rejects.toMatchObject({
      kind: 'denied',
    });
  });
});

describe('a link that the operator makes', () => {
  it('sets a new password, once', async () => {
    await accounts.found(marnie);
    const asked = { office: 'http://office.test', email: 'Marnie@kiln.example', now: new Date() };
    const token = new URL(await newPasswordLink(w.ctx.store, asked)).searchParams.get('token') ?? '';
    await accounts.resetPassword(browser().headers(), { token, password: OTHER });
    expect(await browser().signIn(OTHER)).toBe('in');
    await expect(
      accounts.resetPassword(browser().headers(), { token, password: PASSWORD }),
    ).rejects.toMatchObject({ kind: 'denied' });
  });
});

describe('a second factor', () => {
  it('works out codes as RFC 6238 does (appendix B, its first and last SHA-1 rows, to six digits)', () => {
    const secret = Buffer.from('12345678901234567890');
    expect(totp(secret, 59_000)).toBe('287082');
    expect(totp(secret, 20_000_000_000_000)).toBe('353130');
  });

  it('counts from the first code on; then a password alone opens nothing, and each spare code works once', async () => {
    await accounts.found(marnie);
    const here = browser();
    await here.signIn();
    await expect(accounts.beginSecondFactor(here.headers(), 'not this one')).rejects.toMatchObject({
      detail: { field: 'password' },
    });
    const { value } = here.keep(await accounts.beginSecondFactor(here.headers(), PASSWORD));
    expect(value.picture).toMatch(/^data:image\/png/);
    // Begun, not yet on.
    expect(await browser().signIn()).toBe('in');
    const code = () => totp(base32(value.secret), Date.now());
    await expect(accounts.confirmSecondFactor(here.headers(), await here.me(), '000000')).rejects.toThrow(
      'fit',
    );
    here.keep(await accounts.confirmSecondFactor(here.headers(), await here.me(), code()));
    expect((await here.me()).secondFactor).toBe(true);

    const next = browser();
    expect(await next.signIn()).toBe('code');
    expect(await next.in()).toBe(false);
    await expect(accounts.signInCode(next.headers(), '123456')).rejects.toMatchObject({ kind: 'denied' });
    const seen = code();
    next.keep(await accounts.signInCode(next.headers(), seen));
    expect(await next.in()).toBe(true);
    // Somebody who saw it, and knows the password, is as late as one who guesses; no session is left of it.
    const late = browser();
    await late.signIn();
    await expect(accounts.signInCode(late.headers(), seen)).rejects.toMatchObject({ kind: 'denied' });
    expect(await w.ctx.store.db.$count(session)).toBe(3);

    const spare = value.spare[0] ?? '';
    const lost = browser();
    await lost.signIn();
    lost.keep(await accounts.signInCode(lost.headers(), spare));
    expect(await lost.in()).toBe(true);
    const again = browser();
    await again.signIn();
    await expect(accounts.signInCode(again.headers(), spare)).rejects.toMatchObject({ kind: 'denied' });

    here.keep(await accounts.endSecondFactor(here.headers(), await here.me(), PASSWORD));
    expect(await browser().signIn()).toBe('in');
  });
});

describe('people', () => {
  beforeEach(() => accounts.found(marnie));
  const tam = { email: 'tam@kiln.example', role: 'helper' } as const;
  const keyOf = ({ link }: { link: string }) => new URL(link).searchParams.get('key') ?? '';
  const join = (key: string, name = 'Tam') =>
    accounts.join(browser().headers(), { key, name, password: OTHER });

  it('come in by an invitation, in the role it says, and it works once', async () => {
    const key = keyOf(await people.invite(w.ctx, 'Marnie', tam));
    expect(await people.invitationOf(w.ctx, key)).toEqual(tam);
    await expect(join(key, '').then(() => join(key))).rejects.toMatchObject({ kind: 'denied' });
    const b = browser();
    await b.signIn(OTHER, tam.email);
    expect((await b.me()).role).toBe('helper');
  });

  it('of five who use one invitation at once one comes in', async () => {
    const key = keyOf(await people.invite(w.ctx, 'Marnie', tam));
    const five = await Promise.allSettled([1, 2, 3, 4, 5].map((n) => join(key, `Tam ${n}`)));
    expect(five.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
    expect((await people.listPeople(w.ctx)).people).toHaveLength(2);
  });

  it('an invitation whose password is refused is still good; one that is over, taken back or made up is not', async () => {
    const key = keyOf(await people.invite(w.ctx, 'Marnie', tam));
    await expect(
      accounts.join(browser().headers(), { key, name: 'Tam', password: 'password1234' }),
    ).rejects.toMatchObject({ kind: 'invalid' });
    const second = keyOf(await people.invite(w.ctx, 'Marnie', tam));
    await expect(join(key)).rejects.toMatchObject({ kind: 'denied' });
    await expect(join('made up')).rejects.toMatchObject({ kind: 'denied' });
    w.clock.ms += 8 * 86_400_000;
    await expect(join(second)).rejects.toMatchObject({ kind: 'denied' });
    const third = await people.invite(w.ctx, 'Marnie', tam);
    const [open] = (await people.listPeople(w.ctx)).invitations;
    await people.withdrawInvitation(w.ctx, open?.id ?? '');
    await expect(join(keyOf(third))).rejects.toMatchObject({ kind: 'denied' });
  });

  it('who are removed are out at once, and what they did stays written down', async () => {
    await join(keyOf(await people.invite(w.ctx, 'Marnie', tam)));
    const b = browser();
    await b.signIn(OTHER, tam.email);
    const me = await b.me();
    expect(await people.changeRole(w.ctx, me.id, 'bookkeeper')).toMatchObject({ role: 'bookkeeper' });
    expect((await b.me()).role).toBe('bookkeeper');
    await people.removePerson(w.ctx, me.id);
    expect(await b.in()).toBe(false);
    await expect(browser().signIn(OTHER, tam.email)).rejects.toMatchObject({ kind: 'signed-out' });
    const { lines } = await listActivity(w.ctx, undefined);
    expect(lines.map((l) => `${l.name} ${l.what}`)).toEqual(['Tam POST sign-in', 'Tam POST join']);
  });

  it('never leave an office without an owner', async () => {
    const b = browser();
    await b.signIn();
    const { id } = await b.me();
    await expect(people.removePerson(w.ctx, id)).rejects.toMatchObject({ kind: 'conflict' });
    await expect(people.changeRole(w.ctx, id, 'helper')).rejects.toMatchObject({ kind: 'conflict' });
    await expect(people.changeRole(w.ctx, id, 'emperor')).rejects.toMatchObject({ kind: 'invalid' });
  });

  it('see where they are signed in, and sign out what is not theirs any more', async () => {
    const [here, there] = [browser('198.51.100.4'), browser()];
    await here.signIn();
    await there.signIn();
    const me = await here.me();
    const lines = await listSessions(w.ctx, me.id, me.sessionId);
    expect(lines.map((l) => l.current)).toEqual([true, false]);
    expect(lines[0]).toMatchObject({ address: '198.51.100.4', browser: expect.stringContaining('Firefox') });
    expect(JSON.stringify(lines)).not.toContain('token');
    // Nobody ends a session of another.
    await expect(endSessions(w.ctx, 'somebody else', { id: lines[1]?.id ?? '' })).rejects.toThrow('over');
    expect(await endSessions(w.ctx, me.id, { allBut: me.sessionId })).toBe(1);
    expect([await here.in(), await there.in()]).toEqual([true, false]);
  });
});
