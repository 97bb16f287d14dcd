import { accountFragment, type AccountView } from '../../core/storefront/account';
import { stepWordsIn, wordsIn } from '../../core/storefront/words';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { dataLinkIsFor } from '../../services/account/data-link';
import { dropPassword, setPassword, signInByPassword } from '../../services/account/password';
import { dataOf, erase } from '../../services/account/privacy';
import { closeSession, linkIsFor, openSession, sendLink, sessionEmail } from '../../services/account/account';
import type { Ctx } from '../../services/context';
import { isRefusal, Refusal } from '../../services/errors';
import { loadSite, type Site } from '../../services/sites/site';
import { linkSent, ordersView } from '../../services/storefront/account';
import { stopSubscription } from '../../services/till/subscriptions';
import { json, problem, readFields, send } from '../http';
import { type Call, route } from '../router';
import { cors, strings } from './cart';
import { go, ordinaryPage } from './ordinary-page';

const BUYER = 'the buyer';
/** Tries of a password for one address in an hour. */
const GUESSES = 10;

/**
 * A shopper's own orders. Widgets keep the session in the site's own storage and send it in the body of each request: never
 * in an address, never in a cookie. Without script it stands in the address of the plain page, and holds an hour.
 */
export function accountRoutes(ctx: Ctx) {
  const site = (c: Call) => loadSite(ctx, { slug: c.params.shop ?? '' });
  const guesses = new RateLimiterMemory({ points: GUESSES, duration: 3600 });
  const plain = (c: Call) => `${ctx.addresses.shop}/${c.params.shop}/account`;
  const own = (c: Call) => `${ctx.addresses.shop}/v1/${c.params.shop}/account`;
  const draw = (s: Site, view: AccountView) =>
    accountFragment(view, wordsIn(s.row.locale), stepWordsIn(s.row.locale));
  const fields = async (c: Call) => strings(await readFields(c.req));
  const question = (action: string, email = '', why?: string): AccountView => ({
    shows: 'question',
    action,
    email,
    ...(why && { problem: why }),
  });
  const fragment = (c: Call, s: Site, view: AccountView, status = 200) =>
    send(c.res, { status, type: 'text/html; charset=utf-8', body: draw(s, view).text, headers: cors });

  /** The question again, with what went wrong; anything but a refusal is a failure. */
  const again = (error: unknown, action: string, email = ''): { view: AccountView; status: number } => {
    if (!isRefusal(error)) throw error;
    const { status, body } = problem(error);
    return { view: question(action, email, String(body.title)), status };
  };
  const ask = async (
    s: Site,
    action: string,
    { email = '', page = '' }: Record<string, string>,
  ): Promise<{ view: AccountView; status: number }> => {
    try {
      return { view: linkSent(action, (await sendLink(ctx, s, email, page)).email), status: 200 };
    } catch (error) {
      return again(error, action, email);
    }
  };

  /** What somebody who is signed in asks for, beside seeing their orders. */
  const signedIn = async (
    s: Site,
    action: string,
    email: string,
    sent: Record<string, string>,
  ): Promise<{ view: AccountView; status: number }> => {
    if (sent.erase === 'yes') {
      await erase(ctx, s, email);
      return { view: { shows: 'erased', action }, status: 200 };
    }
    const w = stepWordsIn(s.row.locale);
    try {
      if (sent['new-password'] !== undefined) await setPassword(ctx, s, email, sent['new-password']);
      if (sent['drop-password']) await dropPassword(ctx, s, email);
      const said = sent['new-password'] !== undefined ? w.passwordSet : '';
      return {
        view: await ordersView(ctx, s, email, action, {
          erasing: sent.erase === 'ask',
          ...(said && { said }),
        }),
        status: 200,
      };
    } catch (error) {
      if (!isRefusal(error)) throw error;
      return { view: await ordersView(ctx, s, email, action, { problem: error.message }), status: 422 };
    }
  };
  /** A password is tried so often for one address; then an hour passes. */
  const byPassword = async (
    s: Site,
    { email = '', password = '' }: Record<string, string>,
    way: 'site' | 'ordinary',
  ): Promise<string> => {
    const w = stepWordsIn(s.row.locale);
    await guesses.consume(`${s.row.id} ${email.toLowerCase()}`).catch(() => {
      throw new Refusal('denied', w.tooManyGuesses);
    });
    return signInByPassword(ctx, s, email, password, way);
  };

  const inWidget = async (c: Call) => {
    const s = await site(c);
    const sent = await fields(c);
    if (sent.leave) await closeSession(ctx, sent.session ?? '');
    const email = sent.session && !sent.leave ? await sessionEmail(ctx, s, sent.session) : undefined;
    if (email) {
      if (sent.stop) await stopSubscription(ctx, s, sent.stop, BUYER, email);
      const { view, status } = await signedIn(s, own(c), email, sent);
      return fragment(c, s, view, status);
    }
    if (sent.email === undefined) return fragment(c, s, question(own(c)), sent.session ? 401 : 200);
    const { view, status } = await ask(s, own(c), sent);
    fragment(c, s, view, status);
  };
  const session = async (c: Call) => {
    const s = await site(c);
    const sent = await fields(c);
    try {
      const opened = sent.password
        ? await byPassword(s, sent, 'site')
        : await openSession(ctx, s, sent.link ?? '', 'site');
      send(c.res, json({ session: opened }, cors));
    } catch (error) {
      const { view, status } = again(error, own(c), sent.email);
      fragment(c, s, view, status);
    }
  };

  const page = ordinaryPage(ctx);
  const show = (c: Call, s: Site, view: AccountView, status = 200) =>
    page(c, s, stepWordsIn(s.row.locale).yourOrders, draw(s, view), { status });
  const plainQuestion = async (c: Call) => show(c, await site(c), question(plain(c)));
  const plainAsk = async (c: Call) => {
    const s = await site(c);
    const { email = '', password } = await fields(c);
    if (!password) {
      const { view, status } = await ask(s, plain(c), { email });
      return show(c, s, view, status);
    }
    try {
      go(c, `${plain(c)}/${await byPassword(s, { email, password }, 'ordinary')}`);
    } catch (error) {
      const { view, status } = again(error, plain(c), email);
      await show(c, s, view, status);
    }
  };
  // Programs that look at letters follow links: only the press of a button uses this one up.
  const plainLink = async (c: Call) => {
    const s = await site(c);
    try {
      await show(c, s, {
        shows: 'link',
        email: await linkIsFor(ctx, s, c.params.link ?? ''),
        action: `${plain(c)}/link/${c.params.link}`,
      });
    } catch (error) {
      const { view, status } = again(error, plain(c));
      await show(c, s, view, status);
    }
  };
  const plainOpen = async (c: Call) => {
    const s = await site(c);
    try {
      go(c, `${plain(c)}/${await openSession(ctx, s, c.params.link ?? '', 'ordinary')}`);
    } catch (error) {
      const { view, status } = again(error, plain(c));
      await show(c, s, view, status);
    }
  };
  const plainOrders = async (c: Call) => {
    const s = await site(c);
    const email = await sessionEmail(ctx, s, c.params.session ?? '');
    if (!email) return go(c, plain(c));
    await show(c, s, await ordersView(ctx, s, email, `${plain(c)}/${c.params.session}`));
  };
  const plainLeave = async (c: Call) => {
    const s = await site(c);
    const sent = await fields(c);
    const email = sent.leave ? undefined : await sessionEmail(ctx, s, c.params.session ?? '');
    const here = `${plain(c)}/${c.params.session}`;
    if (sent.stop && email) {
      await stopSubscription(ctx, s, sent.stop, BUYER, email);
      return go(c, here);
    }
    if (email) {
      const { view, status } = await signedIn(s, here, email, sent);
      return show(c, s, view, status);
    }
    await closeSession(ctx, c.params.session ?? '');
    go(c, plain(c));
  };

  /** All that is kept about an address, for whoever was signed in with it a moment ago. */
  const ownData = async (c: Call) => {
    const s = await site(c);
    const email = dataLinkIsFor(ctx, s, c.params.link ?? '');
    if (!email) return go(c, plain(c));
    send(c.res, {
      status: 200,
      type: 'application/json',
      body: JSON.stringify(await dataOf(ctx, s, email), null, 2),
      headers: {
        'cache-control': 'no-store',
        'content-disposition': `attachment; filename="${s.row.slug}-my-data.json"`,
      },
    });
  };

  return [
    route('GET', '/:shop/my-data/:link', ownData),
    route('POST', '/v1/:shop/account', inWidget),
    route('POST', '/v1/:shop/account/session', session),
    route('GET', '/:shop/account', plainQuestion),
    route('POST', '/:shop/account', plainAsk),
    route('GET', '/:shop/account/link/:link', plainLink),
    route('POST', '/:shop/account/link/:link', plainOpen),
    route('GET', '/:shop/account/:session', plainOrders),
    route('POST', '/:shop/account/:session', plainLeave),
  ];
}
