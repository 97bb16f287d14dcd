import { createHmac, randomBytes } from 'node:crypto';
import { parseCookie, stringifySetCookie } from 'cookie';
import { eq } from 'drizzle-orm';
import { toDataURL } from 'qrcode';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { user } from '../../data/schema';
import type { Ctx } from '../../services/context';
import { conflict, invalid, Refusal } from '../../services/errors';
import { isSecret } from '../../services/ids';
import { recordActivity } from '../../services/people/activity';
import { isPasswordLink } from '../../services/people/new-password-link';
import { lockLetter, sendToOffice } from '../../services/people/office-letters';
import * as people from '../../services/people/people';
import { beginAttempt, isFirstUse, attemptSucceeded, attemptKey } from '../../services/people/attempts';
import { refuseWeak } from '../../services/people/weak-password';
import { networkOf } from '../client-address';
import { type Auth, answerOf, type AuthAnswer, type SignedIn } from './auth';

/**
 * Tries a minute from one network, right or wrong, of everything that stands open before sign-in. Chosen by
 * hand.
 */
const FROM_ONE_NETWORK = 20;
/** A browser that somebody signed in with is known for a year. */
const KNOWN_S = 365 * 24 * 60 * 60;

/** What came of it, and the cookies that belong to it. */
export interface Done<T> {
  readonly value: T;
  readonly cookies: readonly string[];
}
type Next = { readonly next: 'in' | 'code' };

const done = <T>(value: T, cookies: readonly string[] = []): Done<T> => ({ value, cookies });
const wrongCode = () =>
  new Refusal(
    'denied',
    'This code does not fit. Codes change every half minute: take the one that is shown now.',
  );

const usedLink = () =>
  new Refusal('denied', 'This link was used already, or is older than an hour. Ask for another one.');

/**
 * All that people do with their own way in. Wrong tries are counted for the account as strangers try it, and
 * apart from them for each browser that somebody has signed in with: whoever locks an account from elsewhere
 * does not lock its owner out (OWASP's "device cookies").
 */
export function makeAccounts(ctx: Ctx, { api, founding, secure }: Auth) {
  const network = new RateLimiterMemory({ points: FROM_ONE_NETWORK, duration: 60 });
  const fewEnough = (headers: Headers): Promise<unknown> =>
    network.consume(networkOf(headers.get('x-stall-client') ?? '')).catch(() => {
      throw new Refusal('locked', 'That was too many tries. Wait a minute and try again.');
    });
  const device = deviceCookies(ctx, secure);

  async function personOf(headers: Headers): Promise<SignedIn | undefined> {
    const found = await api.getSession({ headers }).catch(() => null);
    if (!found) return undefined;
    const { id, name, email } = found.user;
    const [row] = await ctx.store.db
      .select({ role: user.role, secondFactor: user.twoFactorEnabled })
      .from(user)
      .where(eq(user.id, id));
    return row && { id, name, email, ...row, sessionId: found.session.id };
  }

  /** @throws Refusal for a name or password that the library refuses. */
  async function makePerson(of: { name: string; email: string; password: string }): Promise<void> {
    refuseWeak(of.password, [of.name, of.email]);
    const made = await answerOf(founding.signUpEmail({ body: of, asResponse: true }));
    if (!made.ok) throw conflict('There is an account with this e-mail address already.', { field: 'email' });
  }

  async function signIn(
    headers: Headers,
    given: { readonly email: string; readonly password: string },
  ): Promise<Done<Next>> {
    await fewEnough(headers);
    const email = given.email.trim().toLowerCase();
    const browser = device.known(headers, email);
    const key = browser ? attemptKey(ctx, 'browser', browser) : attemptKey(ctx, 'account', email);
    const { lockedUntil, tell } = await beginAttempt(ctx, key);
    if (lockedUntil) throw locked(ctx, lockedUntil);
    const body = { email, password: given.password };
    const answer = await answerOf(api.signInEmail({ body, headers, asResponse: true }));
    if (!answer.ok) {
      await wrongTry(email, headers, tell);
      throw new Refusal('signed-out', 'E-mail and password do not fit together.');
    }
    await attemptSucceeded(ctx, key);
    if (answer.value.twoFactorRedirect) return done({ next: 'code' }, answer.cookies);
    return entered(answer, email, browser);
  }

  /** The person is in: that is written down, and the browser is known from now on. */
  async function entered(answer: AuthAnswer, email: string, browser?: string): Promise<Done<Next>> {
    const person = await byEmail(ctx, email);
    await recordActivity(ctx, { person, what: 'POST sign-in' });
    return done({ next: 'in' }, [...answer.cookies, device.cookie(email, browser)]);
  }

  async function wrongTry(email: string, headers: Headers, tell: boolean): Promise<void> {
    const person = await byEmail(ctx, email);
    if (!person) return;
    await recordActivity(ctx, { person: undefined, what: 'wrong password', subject: person.name });
    if (!tell) return;
    const from = headers.get('x-stall-client') || 'an address that is not known';
    void sendToOffice(ctx, email, lockLetter(from, ctx.addresses.office));
  }

  async function signInCode(headers: Headers, given: string): Promise<Done<Next>> {
    await fewEnough(headers);
    const code = given.replace(/\s/g, '');
    const ask = /^\d{6}$/.test(code)
      ? api.verifyTOTP({ body: { code }, headers, asResponse: true })
      : api.verifyBackupCode({ body: { code: given.trim() }, headers, asResponse: true });
    const answer = await answerOf(ask);
    if (answer.status === 429)
      throw new Refusal(
        'locked',
        'That was too many wrong codes. Wait a quarter of an hour and sign in again.',
      );
    if (!answer.ok && /COOKIE|TOO_MANY/.test(String(answer.value.code)))
      throw new Refusal(
        'signed-out',
        'That took too long, or was tried too often. Begin with your password again.',
      );
    if (!answer.ok) throw wrongCode();
    const email = String((answer.value.user as { email?: unknown } | undefined)?.email ?? '');
    // Whoever looked over a shoulder has half a minute to use the same code: it is taken once (RFC 6238,
    // 5.2).
    if (!(await isFirstUse(ctx, attemptKey(ctx, 'code', email, code)))) {
      await signOut(new Headers({ cookie: answer.cookies.map((c) => c.split(';')[0]).join('; ') }));
      throw wrongCode();
    }
    return entered(answer, email);
  }

  async function signOut(headers: Headers): Promise<Done<void>> {
    const { cookies } = await answerOf(api.signOut({ headers, asResponse: true }));
    return done(undefined, cookies);
  }

  /** The answer is the same whether there is such an account or not. */
  async function forgotten(headers: Headers, email: string): Promise<Done<{ sends: boolean }>> {
    await fewEnough(headers);
    if (ctx.mail)
      await answerOf(
        api.requestPasswordReset({ body: { email: email.trim().toLowerCase() }, asResponse: true }),
      );
    return done({ sends: ctx.mail !== undefined });
  }

  async function resetPassword(
    headers: Headers,
    given: { readonly token: string; readonly password: string },
  ): Promise<Done<void>> {
    await fewEnough(headers);
    if (!(await isPasswordLink(ctx.store, given.token, ctx.now()))) throw usedLink();
    refuseWeak(given.password, []);
    const body = { token: given.token, newPassword: given.password };
    const answer = await answerOf(api.resetPassword({ body, asResponse: true }));
    // Used by somebody else in this very moment.
    if (!answer.ok) throw usedLink();
    return done(undefined);
  }

  async function changePassword(
    headers: Headers,
    me: SignedIn,
    given: { readonly current: string; readonly password: string },
  ): Promise<Done<void>> {
    await fewEnough(headers);
    refuseWeak(given.password, [me.name, me.email]);
    const body = {
      currentPassword: given.current,
      newPassword: given.password,
      // A password is changed because somebody else may know it: they do not stay.
      revokeOtherSessions: true,
    };
    const answer = await answerOf(api.changePassword({ body, headers, asResponse: true }));
    if (!answer.ok) throw invalid('This is not your password of today.', { field: 'current' });
    await recordActivity(ctx, { person: me, what: 'PUT password' });
    return done(undefined, answer.cookies);
  }

  /** Begins a second factor: it counts from the first code on. */
  async function beginSecondFactor(
    headers: Headers,
    password: string,
  ): Promise<Done<{ uri: string; secret: string; picture: string; spare: readonly string[] }>> {
    await fewEnough(headers);
    const answer = await answerOf(api.enableTwoFactor({ body: { password }, headers, asResponse: true }));
    if (!answer.ok) throw notThePassword(answer);
    const uri = String(answer.value.totpURI);
    return done(
      {
        uri,
        secret: new URL(uri).searchParams.get('secret') ?? '',
        picture: await toDataURL(uri, { margin: 1, width: 208 }),
        spare: (answer.value.backupCodes as readonly string[] | undefined) ?? [],
      },
      answer.cookies,
    );
  }

  async function confirmSecondFactor(headers: Headers, me: SignedIn, code: string): Promise<Done<void>> {
    await fewEnough(headers);
    const body = { code: code.replace(/\s/g, '') };
    const answer = await answerOf(api.verifyTOTP({ body, headers, asResponse: true }));
    if (!answer.ok) throw wrongCode();
    await recordActivity(ctx, { person: me, what: 'PUT second-factor' });
    return done(undefined, answer.cookies);
  }

  async function endSecondFactor(headers: Headers, me: SignedIn, password: string): Promise<Done<void>> {
    await fewEnough(headers);
    const answer = await answerOf(api.disableTwoFactor({ body: { password }, headers, asResponse: true }));
    if (!answer.ok) throw notThePassword(answer);
    await recordActivity(ctx, { person: me, what: 'DELETE second-factor' });
    return done(undefined, answer.cookies);
  }

  /** @throws Refusal when there is an owner already: it works once. */
  async function found(of: { name: string; email: string; password: string }): Promise<void> {
    await makePerson(of);
    if (!(await people.becomeFirstOwner(ctx, of.email.toLowerCase())))
      throw new Refusal('denied', 'There is an owner already. Sign in, or ask them to invite you.');
  }

  /** Comes in by an invitation, which works once. */
  async function join(
    headers: Headers,
    given: { readonly key: string; readonly name: string; readonly password: string },
  ): Promise<Done<{ email: string }>> {
    await fewEnough(headers);
    const invited = await people.takeInvitation(ctx, given.key);
    if (!invited)
      throw new Refusal('denied', 'This invitation was used, taken back, or is over. Ask for another one.');
    const { email, role } = invited;
    try {
      await makePerson({ name: given.name, email, password: given.password });
    } catch (error) {
      await people.giveInvitationBack(ctx, invited.id);
      throw error;
    }
    await people.grantRole(ctx, email, role);
    await recordActivity(ctx, { person: await byEmail(ctx, email), what: 'POST join' });
    return done({ email });
  }

  return {
    ...{ personOf, signIn, signInCode, signOut, forgotten, resetPassword, changePassword },
    ...{ beginSecondFactor, confirmSecondFactor, endSecondFactor, found, join },
  };
}
export type Accounts = ReturnType<typeof makeAccounts>;

/** Whoever has the letter has proven to be the one: the lock that strangers brought about is open again. */
export async function afterReset(
  ctx: Ctx,
  person: { readonly id: string; readonly email: string; readonly name: string },
): Promise<void> {
  await attemptSucceeded(ctx, attemptKey(ctx, 'account', person.email));
  await recordActivity(ctx, { person, what: 'new password by letter' });
}

const notThePassword = ({ value }: AuthAnswer): Refusal =>
  value.code === 'INVALID_PASSWORD'
    ? invalid('This is not your password.', { field: 'password' })
    : conflict(
        'That cannot be done now. Look at your account again; it may have been changed in another window.',
      );

function locked(ctx: Ctx, until: Date): Refusal {
  const minutes = Math.max(1, Math.ceil((until.getTime() - ctx.now().getTime()) / 60_000));
  return new Refusal(
    'locked',
    `There were too many wrong passwords for this account. Try again in ${minutes} ${minutes === 1 ? 'minute' : 'minutes'}, or from a browser that you have used before.`,
  );
}

async function byEmail(ctx: Ctx, email: string): Promise<{ id: string; name: string } | undefined> {
  const [row] = await ctx.store.db
    .select({ id: user.id, name: user.name })
    .from(user)
    .where(eq(user.email, email));
  return row;
}

/** Cookies by which a browser is known that an account was opened with. They open nothing by themselves. */
function deviceCookies(ctx: Ctx, secure: boolean) {
  const name = secure ? '__Host-stall.known' : 'stall.known';
  const sign = (nonce: string, email: string) =>
    createHmac('sha256', ctx.signing).update(`known\n${nonce}\n${email}`).digest('base64url');
  return {
    /** What the browser is called, if it is known to be this account's. */
    known(headers: Headers, email: string): string | undefined {
      const [nonce = '', signed = ''] = (parseCookie(headers.get('cookie') ?? '')[name] ?? '').split('.');
      return nonce && isSecret(signed, sign(nonce, email)) ? nonce : undefined;
    },
    cookie(email: string, nonce = randomBytes(12).toString('base64url')): string {
      const value = `${nonce}.${sign(nonce, email)}`;
      return stringifySetCookie({
        ...{ name, value, httpOnly: true, sameSite: 'lax', secure, path: '/', maxAge: KNOWN_S },
      });
    },
  };
}
