import type { Ctx } from '../../services/context';
import type * as services from '../../services';
import type { Accounts } from './accounts';
import type { Welcome } from './welcome';

/** What the server hands to the framework's pages and endpoints, as `Astro.locals.app`. */
export interface App {
  readonly ctx: Ctx;
  readonly accounts: Accounts;
  readonly welcome: Welcome;
  readonly services: typeof services;
  /** The demo says so on the sign-in page, with the owner it made. */
  readonly demoOwner: { readonly email: string; readonly password: string } | undefined;
}
