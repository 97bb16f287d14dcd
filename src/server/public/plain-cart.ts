import { parse, serialize } from 'cookie';
import type { Ctx } from '../../services/context';
import type { Site } from '../../services/sites/site';
import { piecesIn } from '../../services/till/cart';
import { joinCarts } from '../../services/till/cart-changes';
import type { Call } from './router';

/**
 * The one cart of a browser along the plain pages. It is known by a cookie of this shop's pages alone, HttpOnly, and set only in the
 * answer to a form that made the cart: no address that somebody is sent can put another's cart in its place.
 *
 * A form on the owner's own site comes from another site, and browsers send no cookie with it. What it puts in goes into a cart of
 * its own, in a second cookie, and joins the first on the next page.
 */
const CART = 'stall-cart';
const ADDED = 'stall-added';
/** A month for the cart; for what was just added, as long as somebody takes to follow a redirect. */
const KEPT_S = 30 * 86_400;
const ADDED_S = 600;

export interface PlainCart {
  readonly token: string;
  readonly pieces: number;
}

const cookieIn = (c: Call, name: string): string => {
  const value = parse(c.req.headers.cookie ?? '')[name] ?? '';
  return /^[\w-]{16,40}$/.test(value) ? value : '';
};

function setCookie(ctx: Ctx, c: Call, site: Site, name: string, token: string): void {
  const kept = name === CART ? KEPT_S : ADDED_S;
  const cookie = serialize(name, token, {
    path: `/${site.row.slug}`,
    httpOnly: true,
    sameSite: 'lax',
    maxAge: token === '' ? 0 : kept,
    secure: ctx.addresses.shop.startsWith('https:'),
  });
  const set = c.res.getHeader('set-cookie');
  c.res.setHeader('set-cookie', [...[set ?? []].flat().map(String), cookie]);
}

/** Whether a browser says that it has a cart here: pages that are the same for all are then told apart. */
export const hasCart = (c: Call): boolean => cookieIn(c, CART) !== '' || cookieIn(c, ADDED) !== '';

/** Whether a form came from another site: then the browser has kept its cookies to itself. */
const fromElsewhere = (c: Call): boolean => c.req.headers['sec-fetch-site'] === 'cross-site';

/** The cart that a form of this browser adds to; null where there is none yet, or none can be told. */
export async function cartToAddTo(ctx: Ctx, c: Call, site: Site): Promise<string | null> {
  const token = cookieIn(c, CART);
  return (await piecesIn(ctx, site, token)) === undefined ? null : token;
}

/** Remembers a cart that a form has just put something into. */
export function rememberCart(ctx: Ctx, c: Call, site: Site, token: string): void {
  if (cookieIn(c, CART) !== token) setCookie(ctx, c, site, fromElsewhere(c) ? ADDED : CART, token);
}

/** The cart of this browser, with what was added from elsewhere in it; undefined where there is none. */
export async function plainCart(ctx: Ctx, c: Call, site: Site): Promise<PlainCart | undefined> {
  const [own, added] = [cookieIn(c, CART), cookieIn(c, ADDED)];
  const ownPieces = await piecesIn(ctx, site, own);
  if (added) {
    setCookie(ctx, c, site, ADDED, '');
    const addedPieces = await piecesIn(ctx, site, added);
    if (addedPieces !== undefined && ownPieces === undefined) {
      setCookie(ctx, c, site, CART, added);
      return { token: added, pieces: addedPieces };
    }
    if (addedPieces) {
      await joinCarts(ctx, site, added, own);
      return { token: own, pieces: (await piecesIn(ctx, site, own)) ?? 0 };
    }
  }
  return ownPieces === undefined ? undefined : { token: own, pieces: ownPieces };
}
