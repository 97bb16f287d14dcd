import { accountFragment, type AccountView } from '../../core/storefront/account';
import { stepWordsIn, wordsIn } from '../../core/storefront/words';
import { closeSession, linkIsFor, openSession, sendLink, sessionEmail } from '../../services/account/account';
import type { Ctx } from '../../services/context';
import { isRefusal } from '../../services/errors';
import { loadSite, type Site } from '../../services/sites/site';
import { linkSent, ordersView } from '../../services/storefront/account';
import { stopSubscription } from '../../services/till/subscriptions';
import { json, problem, readFields, send } from '../http';
import { type Call, route } from '../router';
import { cors, strings } from './cart';
import { go, ordinaryPage } from './ordinary-page';

const BUYER = 'the buyer';

/**
 * A shopper's own orders. Widgets keep the session in the site's own storage and send it in the body of each request: never
 * in an address, never in a cookie. Without script it stands in the address of the plain page, and holds an hour.
 */
export function accountRoutes(ctx: Ctx) {
  const site = (c: Call) => loadSite(ctx, { slug: c.params.shop ?? '' });
  const plain = (c: Call) => `${ctx.addresses.shop}/${c.params.shop}/account`;
  const own = (c: Call) => `${ctx.addresses.shop}/v1/${c.params.shop}/account`;
  const draw = (s: Site, view: AccountView) => accountFragment(view, wordsIn(s.row.locale), stepWordsIn(s.row.locale));
  const fields = async (c: Call) => strings(await readFields(c.req));
  const question = (action: string, email = '', why?: string): AccountView => ({ shows: 'question', action, email, ...(why && { problem: why }) });
  const fragment = (c: Call, s: Site, view: AccountView, status = 200) => send(c.res, { status, type: 'text/html; charset=utf-8', body: draw(s, view).text, headers: cors });

  /** The question again, with what went wrong; anything but a refusal is a failure. */
  const again = (error: unknown, action: string, email = ''): { view: AccountView; status: number } => {
    if (!isRefusal(error)) throw error;
    const { status, body } = problem(error);
    return { view: question(action, email, String(body.title)), status };
  };
  const ask = async (s: Site, action: string, { email = '', page = '' }: Record<string, string>): Promise<{ view: AccountView; status: number }> => {
    try {
      return { view: linkSent(action, (await sendLink(ctx, s, email, page)).email), status: 200 };
    } catch (error) {
      return again(error, action, email);
    }
  };

  const inWidget = async (c: Call) => {
    const s = await site(c);
    const sent = await fields(c);
    if (sent.leave) await closeSession(ctx, sent.session ?? '');
    const email = sent.session && !sent.leave ? await sessionEmail(ctx, s, sent.session) : undefined;
    if (email && sent.stop) await stopSubscription(ctx, s, sent.stop, BUYER, email);
    if (email) return fragment(c, s, await ordersView(ctx, s, email, own(c)));
    if (sent.email === undefined) return fragment(c, s, question(own(c)), sent.session ? 401 : 200);
    const { view, status } = await ask(s, own(c), sent);
    fragment(c, s, view, status);
  };
  const session = async (c: Call) => {
    const s = await site(c);
    try {
      send(c.res, json({ session: await openSession(ctx, s, (await fields(c)).link ?? '', 'site') }, cors));
    } catch (error) {
      const { view, status } = again(error, own(c));
      fragment(c, s, view, status);
    }
  };

  const page = ordinaryPage(ctx);
  const show = (c: Call, s: Site, view: AccountView, status = 200) => page(c, s, stepWordsIn(s.row.locale).yourOrders, draw(s, view), { status });
  const plainQuestion = async (c: Call) => show(c, await site(c), question(plain(c)));
  const plainAsk = async (c: Call) => {
    const s = await site(c);
    const { email = '' } = await fields(c);
    const { view, status } = await ask(s, plain(c), { email });
    await show(c, s, view, status);
  };
  // Programs that look at letters follow links: only the press of a button uses this one up.
  const plainLink = async (c: Call) => {
    const s = await site(c);
    try {
      await show(c, s, { shows: 'link', email: await linkIsFor(ctx, s, c.params.link ?? ''), action: `${plain(c)}/link/${c.params.link}` });
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
    const { stop } = await fields(c);
    const email = stop ? await sessionEmail(ctx, s, c.params.session ?? '') : undefined;
    if (stop && email) {
      await stopSubscription(ctx, s, stop, BUYER, email);
      return go(c, `${plain(c)}/${c.params.session}`);
    }
    await closeSession(ctx, c.params.session ?? '');
    go(c, plain(c));
  };

  return [
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
