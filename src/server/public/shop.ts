import { RateLimiterMemory } from 'rate-limiter-flexible';
import type { Ctx } from '../../services/context';
import { ordinaryPage, type ShowPage, type ShowShared, sharedPage } from './ordinary-page';
import type { PreparedAnswers } from './prepared';
import { type ClientOf, networkOf } from '../client-address';
import type { Call } from './router';
import { loadSite, type Site, siteForReading } from '../../services/sites/site';

/** Guesses in an hour: at a password for one address, at the mail address of one order. */
const GUESSES = 10;

/** What handlers of the public server work with. */
export interface Shop {
  readonly ctx: Ctx;
  readonly answers: PreparedAnswers;
  /** Answers with a plain page in the site's own chrome. */
  readonly page: ShowPage;
  /** The same for what everybody gets alike: prepared once. */
  readonly shared: ShowShared;
  /** What limits by visitor count by. */
  readonly visitorOf: (call: Pick<Call, 'req'>) => string;
  readonly guesses: { readonly password: RateLimiterMemory; readonly orderEmail: RateLimiterMemory };
}

export const publicShop = (ctx: Ctx, answers: PreparedAnswers, clientOf: ClientOf): Shop => ({
  ctx,
  answers,
  page: ordinaryPage(ctx),
  shared: sharedPage(ctx, answers),
  visitorOf: ({ req }) => networkOf(clientOf(req)),
  guesses: {
    password: new RateLimiterMemory({ points: GUESSES, duration: 3600 }),
    orderEmail: new RateLimiterMemory({ points: GUESSES, duration: 3600 }),
  },
});

/** The site whose shop is asked; as it is now, for what writes or charges. */
export const siteOf = ({ ctx }: Shop, c: Call<'shop'>): Promise<Site> =>
  loadSite(ctx, { slug: c.params.shop });
/** The same as it was read a moment ago, for what is only shown. */
export const siteToShow = ({ ctx }: Shop, c: Call<'shop'>): Promise<Site> =>
  siteForReading(ctx, c.params.shop);
/** Where the shop's plain pages are. */
export const plainBase = ({ ctx }: Shop, c: Call<'shop'>): string => `${ctx.addresses.shop}/${c.params.shop}`;
