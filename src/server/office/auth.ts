import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { twoFactor } from 'better-auth/plugins';
import * as schema from '../../data/schema';
import type { Store } from '../../data/database';
import type { Role } from '../../core/people/roles';
import { LONGEST, SHORTEST } from '../../services/people/weak-password';

/** Somebody who is signed in, with what the session stands on. */
export interface SignedIn {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly secondFactor: boolean;
  readonly sessionId: string;
}

/** A session lasts this long, in seconds; browsers forget it then, too. */
const SESSION_S = 60 * 60 * 24 * 14;
/** How exact "last seen" is, in seconds: a session that is used is written down anew so often. */
const SEEN_S = 10 * 60;
/** The link for a new password, in seconds. */
const RESET_S = 60 * 60;

export interface AuthOptions {
  readonly officeUrl: string;
  readonly secret: string;
  /** Sends the way to a new password; nothing is waited for. */
  readonly sendReset: (to: { readonly email: string; readonly name: string }, token: string) => void;
  /** Somebody has set a new password by such a letter. */
  readonly wasReset: (person: {
    readonly id: string;
    readonly email: string;
    readonly name: string;
  }) => Promise<void>;
}

/**
 * The sign-in library, set up. Cookies are HttpOnly, SameSite=Lax and of the office's host alone (behind TLS
 * the prefix __Host- has browsers hold that): no page of a site, whose origins are other hosts, can read,
 * send or set them. Its own endpoints are not served: accounts.ts asks it, so that no token of a session ever
 * stands in a body.
 */
export function makeAuth(store: Store, { officeUrl, secret, sendReset, wasReset }: AuthOptions) {
  const secure = officeUrl.startsWith('https:');
  const options = (disableSignUp: boolean) => ({
    database: drizzleAdapter(store.gated, { provider: 'sqlite' as const, schema }),
    secret,
    baseURL: officeUrl,
    basePath: '/api/auth',
    trustedOrigins: [officeUrl],
    emailAndPassword: {
      enabled: true,
      disableSignUp,
      minPasswordLength: SHORTEST,
      maxPasswordLength: LONGEST,
      autoSignIn: false,
      resetPasswordTokenExpiresIn: RESET_S,
      revokeSessionsOnPasswordReset: true,
      sendResetPassword: async ({ user, token }: { user: { email: string; name: string }; token: string }) =>
        sendReset(user, token),
      onPasswordReset: ({ user }: { user: { id: string; email: string; name: string } }) => wasReset(user),
    },
    verification: { storeIdentifier: 'hashed' as const },
    session: { expiresIn: SESSION_S, updateAge: SEEN_S },
    user: {
      additionalFields: {
        // Whoever comes in may do the least, until somebody says otherwise.
        role: { type: 'string' as const, required: false, defaultValue: 'bookkeeper', input: false },
      },
    },
    plugins: [twoFactor({ issuer: 'Green Stall' })],
    advanced: {
      cookiePrefix: secure ? '__Host-stall' : 'stall',
      useSecureCookies: false,
      defaultCookieAttributes: { secure, httpOnly: true, sameSite: 'lax' as const, path: '/' },
      ipAddress: { ipAddressHeaders: ['x-stall-client'] },
    },
    // Limits are ours (accounts.ts): by account as well as by address.
    rateLimit: { enabled: false },
    telemetry: { enabled: false },
    logger: { level: 'error' as const },
  });
  return { secure, api: betterAuth(options(true)).api, founding: betterAuth(options(false)).api };
}
export type Auth = ReturnType<typeof makeAuth>;

/** What the library answered, and the cookies that belong to it. */
export interface AuthAnswer {
  readonly ok: boolean;
  readonly status: number;
  readonly value: Readonly<Record<string, unknown>>;
  readonly cookies: readonly string[];
}

/** Reads an answer of the library's. */
export async function answerOf(asked: Promise<Response>): Promise<AuthAnswer> {
  const response = await asked;
  const value: unknown = await response.json().catch(() => ({}));
  return {
    ok: response.ok,
    status: response.status,
    value: value && typeof value === 'object' ? (value as AuthAnswer['value']) : {},
    cookies: response.headers.getSetCookie(),
  };
}
