import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import * as schema from '../../data/schema';
import type { Store } from '../../data/database';

export interface Owner {
  readonly id: string;
  readonly name: string;
  readonly email: string;
}

/** Shortest password; the length OWASP's guidance starts at for passwords without a second factor (from memory). */
export const MIN_PASSWORD = 10;

/**
 * Sign-in for owners. Cookies are HttpOnly, SameSite=Lax and of the office's host alone: no page of a site, whose
 * origins are other hosts, can read or send them. Accounts are made by {@link createOwner} only.
 */
export function makeAuth(store: Store, officeUrl: string, secret: string) {
  const options = (disableSignUp: boolean) => ({
    database: drizzleAdapter(store.gated, { provider: 'sqlite' as const, schema }),
    secret,
    baseURL: officeUrl,
    basePath: '/api/auth',
    trustedOrigins: [officeUrl],
    emailAndPassword: { enabled: true, disableSignUp, minPasswordLength: MIN_PASSWORD, autoSignIn: false },
    session: { expiresIn: 60 * 60 * 24 * 14, updateAge: 60 * 60 * 24 },
    advanced: {
      cookiePrefix: 'stall',
      useSecureCookies: officeUrl.startsWith('https:'),
      ipAddress: { ipAddressHeaders: ['x-stall-client'] },
    },
    rateLimit: {
      enabled: true,
      window: 60,
      max: 300,
      customRules: { '/sign-in/email': { window: 60, max: 20 } },
    },
    telemetry: { enabled: false },
    logger: { level: 'error' as const },
  });
  const open = betterAuth(options(true));
  const founding = betterAuth(options(false));
  return {
    handler: (request: Request) => open.handler(request),
    async ownerOf(headers: Headers): Promise<Owner | undefined> {
      const found = await open.api.getSession({ headers }).catch(() => null);
      return found ? { id: found.user.id, name: found.user.name, email: found.user.email } : undefined;
    },
    async createOwner(owner: { name: string; email: string; password: string }): Promise<void> {
      await founding.api.signUpEmail({ body: owner });
    },
    async hasOwner(): Promise<boolean> {
      return (await store.db.$count(schema.user)) > 0;
    },
  };
}
export type Auth = ReturnType<typeof makeAuth>;
