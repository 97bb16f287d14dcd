import { accountFragment, type AccountView } from '../../core/storefront/account';
import { stepWordsIn, wordsIn } from '../../core/languages/languages';
import { closeSession, linkIsFor, openSession, sendLink, sessionEmail } from '../../services/account/account';
import { dataLinkIsFor } from '../../services/account/data-link';
import { dropPassword, setPassword, signInByPassword } from '../../services/account/password';
import { dataOf, erase } from '../../services/account/privacy';
import type { Ctx } from '../../services/context';
import { isRefusal, Refusal } from '../../services/errors';
import type { Site } from '../../services/sites/site';
import { linkSent, ordersView } from '../../services/storefront/account';
import { stopSubscription } from '../../services/till/subscriptions';
import { json, problem, readFields, send } from '../http';
import { cors, strings } from './cart';
import { go } from './ordinary-page';
import { type Call, route } from './router';
import { plainBase, type Shop, siteOf } from './shop';

/**
 * A shopper's own orders. Widgets keep the session in the site's own storage and send it in the body of each request: never
 * in an address, never in a cookie. Without script it stands in the address of the plain page, and holds an hour.
 */
export const accountRoutes = [
  route('GET', '/:shop/my-data/:link', ownData),
  route('POST', '/v1/:shop/account', inWidget),
  route('POST', '/v1/:shop/account/session', session),
  route('GET', '/:shop/account', plainQuestion),
  route('POST', '/:shop/account', plainAsk),
  route('GET', '/:shop/account/link/:link', plainLink),
  route('POST', '/:shop/account/link/:link', plainOpen),
  route('GET', '/:shop/account/:session', plainOrders),
  route('POST', '/:shop/account/:session', plainSent),
];

const BUYER = 'the buyer';

type Fields = Readonly<Record<string, string>>;
type Shown = { readonly view: AccountView; readonly status: number };

const plainAddress = (shop: Shop, c: Call<'shop'>): string => `${plainBase(shop, c)}/account`;
const widgetAddress = ({ ctx }: Shop, c: Call<'shop'>): string =>
  `${ctx.addresses.shop}/v1/${c.params.shop}/account`;
const fieldsOf = async (c: Call): Promise<Fields> => strings(await readFields(c.req));
const draw = (s: Site, view: AccountView) =>
  accountFragment(view, wordsIn(s.row.locale), stepWordsIn(s.row.locale));

const question = (action: string, email = '', why?: string): AccountView => ({
  shows: 'question',
  action,
  email,
  ...(why && { problem: why }),
});

const fragment = (c: Call, s: Site, { view, status }: Shown): void =>
  send(c.res, { status, type: 'text/html; charset=utf-8', body: draw(s, view).text, headers: cors });

const show = ({ page }: Shop, c: Call, s: Site, { view, status }: Shown): Promise<void> =>
  page(c, s, stepWordsIn(s.row.locale).yourOrders, draw(s, view), { status });

/** The question again, with what went wrong; anything but a refusal is a failure. */
function again(error: unknown, action: string, email = ''): Shown {
  if (!isRefusal(error)) throw error;
  const { status, body } = problem(error);
  return { view: question(action, email, String(body.title)), status };
}

async function ask(ctx: Ctx, s: Site, action: string, { email = '', page = '' }: Fields): Promise<Shown> {
  try {
    return { view: linkSent(action, (await sendLink(ctx, s, email, page)).email), status: 200 };
  } catch (error) {
    return again(error, action, email);
  }
}

/** What somebody who is signed in asks for, beside seeing their orders. */
async function signedIn(ctx: Ctx, s: Site, action: string, email: string, sent: Fields): Promise<Shown> {
  if (sent.erase === 'yes') {
    await erase(ctx, s, email);
    return { view: { shows: 'erased', action }, status: 200 };
  }
  try {
    if (sent['new-password'] !== undefined) await setPassword(ctx, s, email, sent['new-password']);
    if (sent['drop-password']) await dropPassword(ctx, s, email);
    const notice = sent['new-password'] !== undefined ? stepWordsIn(s.row.locale).passwordSet : '';
    const more = { erasing: sent.erase === 'ask', ...(notice && { notice }) };
    return { view: await ordersView(ctx, s, email, action, more), status: 200 };
  } catch (error) {
    if (!isRefusal(error)) throw error;
    return { view: await ordersView(ctx, s, email, action, { problem: error.message }), status: 422 };
  }
}

/** A password is tried so often for one address; then an hour passes. */
async function byPassword(
  { ctx, guesses }: Shop,
  s: Site,
  { email = '', password = '' }: Fields,
  way: 'site' | 'ordinary',
): Promise<string> {
  await guesses.password.consume(`${s.row.id} ${email.toLowerCase()}`).catch(() => {
    throw new Refusal('denied', stepWordsIn(s.row.locale).tooManyGuesses);
  });
  return signInByPassword(ctx, s, email, password, way);
}

async function inWidget(shop: Shop, c: Call<'shop'>): Promise<void> {
  const { ctx } = shop;
  const s = await siteOf(shop, c);
  const sent = await fieldsOf(c);
  const action = widgetAddress(shop, c);
  if (sent.leave) await closeSession(ctx, sent.session ?? '');
  const email = sent.session && !sent.leave ? await sessionEmail(ctx, s, sent.session) : undefined;
  if (email) {
    if (sent.stop) await stopSubscription(ctx, s, sent.stop, BUYER, email);
    return fragment(c, s, await signedIn(ctx, s, action, email, sent));
  }
  if (sent.email !== undefined) return fragment(c, s, await ask(ctx, s, action, sent));
  fragment(c, s, { view: question(action), status: sent.session ? 401 : 200 });
}

async function session(shop: Shop, c: Call<'shop'>): Promise<void> {
  const s = await siteOf(shop, c);
  const sent = await fieldsOf(c);
  try {
    const opened = sent.password
      ? await byPassword(shop, s, sent, 'site')
      : await openSession(shop.ctx, s, sent.link ?? '', 'site');
    send(c.res, json({ session: opened }, cors));
  } catch (error) {
    fragment(c, s, again(error, widgetAddress(shop, c), sent.email));
  }
}

async function plainQuestion(shop: Shop, c: Call<'shop'>): Promise<void> {
  const view = question(plainAddress(shop, c));
  await show(shop, c, await siteOf(shop, c), { view, status: 200 });
}

async function plainAsk(shop: Shop, c: Call<'shop'>): Promise<void> {
  const s = await siteOf(shop, c);
  const action = plainAddress(shop, c);
  const { email = '', password } = await fieldsOf(c);
  if (!password) return show(shop, c, s, await ask(shop.ctx, s, action, { email }));
  try {
    go(c, `${action}/${await byPassword(shop, s, { email, password }, 'ordinary')}`);
  } catch (error) {
    await show(shop, c, s, again(error, action, email));
  }
}

/** Programs that look at letters follow links: only the press of a button uses this one up. */
async function plainLink(shop: Shop, c: Call<'shop' | 'link'>): Promise<void> {
  const s = await siteOf(shop, c);
  const action = plainAddress(shop, c);
  try {
    const email = await linkIsFor(shop.ctx, s, c.params.link);
    const view: AccountView = { shows: 'link', email, action: `${action}/link/${c.params.link}` };
    await show(shop, c, s, { view, status: 200 });
  } catch (error) {
    await show(shop, c, s, again(error, action));
  }
}

async function plainOpen(shop: Shop, c: Call<'shop' | 'link'>): Promise<void> {
  const s = await siteOf(shop, c);
  const action = plainAddress(shop, c);
  try {
    go(c, `${action}/${await openSession(shop.ctx, s, c.params.link, 'ordinary')}`);
  } catch (error) {
    await show(shop, c, s, again(error, action));
  }
}

async function plainOrders(shop: Shop, c: Call<'shop' | 'session'>): Promise<void> {
  const s = await siteOf(shop, c);
  const action = plainAddress(shop, c);
  const email = await sessionEmail(shop.ctx, s, c.params.session);
  if (!email) return go(c, action);
  const view = await ordersView(shop.ctx, s, email, `${action}/${c.params.session}`);
  await show(shop, c, s, { view, status: 200 });
}

/** What is pressed on the page of orders: leaving, ending a subscription, a password, erasing. */
async function plainSent(shop: Shop, c: Call<'shop' | 'session'>): Promise<void> {
  const { ctx } = shop;
  const s = await siteOf(shop, c);
  const sent = await fieldsOf(c);
  const here = `${plainAddress(shop, c)}/${c.params.session}`;
  const email = sent.leave ? undefined : await sessionEmail(ctx, s, c.params.session);
  if (sent.stop && email) {
    await stopSubscription(ctx, s, sent.stop, BUYER, email);
    return go(c, here);
  }
  if (email) return show(shop, c, s, await signedIn(ctx, s, here, email, sent));
  await closeSession(ctx, c.params.session);
  go(c, plainAddress(shop, c));
}

/** All that is kept about an address, for whoever was signed in with it a moment ago. */
async function ownData(shop: Shop, c: Call<'shop' | 'link'>): Promise<void> {
  const s = await siteOf(shop, c);
  const email = dataLinkIsFor(shop.ctx, s, c.params.link);
  if (!email) return go(c, plainAddress(shop, c));
  send(c.res, {
    status: 200,
    type: 'application/json',
    body: JSON.stringify(await dataOf(shop.ctx, s, email), null, 2),
    headers: {
      'cache-control': 'no-store',
      'content-disposition': `attachment; filename="${s.row.slug}-my-data.json"`,
    },
  });
}
